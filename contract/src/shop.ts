import type {
  Counted as CoreCounted,
  GrinderKind as CoreGrinderKind,
  RetireSchool,
  Schools as CoreSchools,
  SeasonPrices,
} from '@tally-stone/core';
import * as z from 'zod';
import './zod.js';
import { Language } from './language.js';
import { BalanceDevice, End, Id, Instant } from './basics.js';
import {
  BevelDeg,
  BladeMassG,
  BladeWidthMm,
  DropSeconds,
  GradeMmPerS,
  between,
  wholeBetween,
} from './numbers.js';

const mm = (most: number) => between(0, most, 'mm');
const price = between(0, 100_000);

/** The schools of the trade a plan follows; a shop chooses them, a blade may differ. */
export const Schools = z.object({
  finish: z.enum(['razor', 'working', 'blunt']),
  bevel: z.enum(['spec', 'follow', 'fixed']),
  fixedBevelDeg: BevelDeg,
  nicks: z.discriminatedUnion('kind', [
    z.object({ kind: z.literal('clear-all') }),
    z.object({ kind: z.literal('leave-to'), depthMm: mm(10) }),
    z.object({ kind: z.literal('leave-all') }),
  ]),
  balancePlace: z.enum(['cutting', 'cutting-and-trailing']),
  gradeMmPerS: GradeMmPerS.optional(),
  /** A mulching edge on two tables; a deep nick dressed square first. Left out: neither. */
  secondTable: z.boolean().optional(),
  squareFirst: z.boolean().optional(),
  /** One blade's own: a step in its edge that is taken into the bargain where no plan fits without. */
  stepMm: mm(10).optional(),
}) satisfies z.ZodType<CoreSchools>;
export type Schools = z.infer<typeof Schools>;

/** The currencies there are, by ISO 4217. */
export const CURRENCIES: readonly string[] = Intl.supportedValuesOf('currency');

/** How a shop writes its figures and days, and the language of a device on which nobody has picked another. */
export const Region = z.object({
  dates: z.enum(['day-first', 'month-first', 'year-first']),
  decimal: z.enum(['point', 'comma']),
  /** First day of the week, Monday 1. */
  weekBegins: wholeBetween(1, 7),
  language: Language.optional(),
});
export type Region = z.infer<typeof Region>;

/** What can be simulated, for trying the app out: the instruments that speak in lines, and the stand for pictures. */
export const STAND_INS = [
  'scale',
  'caliper',
  'angle-gauge',
  'tip-gauge',
  'balancer',
  'scanner',
  'photo-stand',
] as const;
export const StandIn = z.enum(STAND_INS);
export type StandIn = z.infer<typeof StandIn>;

/** Power of something that is plugged in, or of what it is plugged into. */
const Watts = between(1, 50_000, 'W');
const Plugged = z.object({
  name: z
    .string()
    .trim()
    .min(1, { error: () => $localize`is empty: name what runs beside` })
    .max(40),
  runW: Watts,
  /** Asked for as it starts, where its plate or a meter says. */
  startW: Watts.optional(),
});
export type Plugged = z.infer<typeof Plugged>;

/** What a tool is paid off in, years. */
export const PaidOffYears = between(1, 40, 'years');

/** Everything a shop has decided for itself. Stored whole; a rule not there yet is its default. */
export const ShopRules = z.object({
  schools: Schools,
  /** The flat above which an edge counts as dull, mm. */
  dullLandMm: mm(2),
  /** What one ordinary grind takes from the width where a blade has no history, mm. */
  usualRecessionMm: between(0.01, 10, 'mm'),
  /** The edge's slope against new, mm per mm, and how far the tip may fall back over its outer reach, mm. */
  straightness: between(0.0001, 1, 'mm per mm'),
  tipReachMm: between(1, 200, 'mm'),
  tipMostMm: mm(20),
  /** What eating into the worst place's remaining wear is worth, g. */
  wearWeightG: between(0, 100, 'g'),
  /** A full look after so many cycles, or so many days. */
  fullLookCycles: wholeBetween(1, 100),
  /** The check blade's own figures: mass, width at its mark, and the weight at its hole that levels it. */
  checkMassG: BladeMassG,
  checkWidthMm: BladeWidthMm,
  checkLevelG: between(0.01, 50, 'g'),
  /** When a set is due: after hours on soft turf by duty, after days, or only when the cut shows it. */
  interval: z.discriminatedUnion('kind', [
    z.object({
      kind: z.literal('hours'),
      hours: between(0.5, 500, 'h'),
    }),
    z.object({
      kind: z.literal('days'),
      days: between(0.5, 400, 'days'),
    }),
    z.object({ kind: z.literal('when-shown') }),
  ]),
  /** Days of the week the bench grinds on, Monday 1, and how many blades it does in one. */
  benchWeekdays: z
    .array(wholeBetween(1, 7))
    .min(1, { error: () => $localize`is empty: pick at least one day` })
    .max(7),
  benchBlades: wholeBetween(1, 500),
  fullLookDays: wholeBetween(1, 2000),
  /** When a blade is hung: before and after the grind, after it, or hardly ever. */
  balanceWhen: z.enum(['before-and-after', 'after', 'seldom']),
  /** A new blade is hung at the bench before its first fit. */
  hangNew: z.boolean().optional(),
  /** What is simulated here; for everything else figures are typed, or come from a gauge. */
  standIns: z.array(StandIn).max(STAND_INS.length),
  /** What a blade is hung on first; the shop's other balancers stay at hand. */
  balanceDevice: BalanceDevice,
  /** By measured limits alone, by a count of grinds on top, or also when a blade no longer holds an edge. */
  retireBy: z.discriminatedUnion('kind', [
    z.object({ kind: z.literal('limits') }),
    z.object({
      kind: z.literal('count'),
      grinds: wholeBetween(1, 50),
    }),
    z.object({
      kind: z.literal('wont-hold'),
      /** Of the hours its spec usually holds. */
      share: between(0.1, 0.9),
    }),
  ]) satisfies z.ZodType<RetireSchool>,
  /** What the grinders are plugged into, and what runs beside them; nothing where nobody has said. */
  supply: z
    .object({
      ratedW: Watts,
      surgeW: Watts,
      beside: z.array(Plugged).max(6, { error: () => $localize`are more than six` }),
    })
    .refine(({ ratedW, surgeW }) => surgeW >= ratedW, {
      path: ['surgeW'],
      error: () => $localize`is less than its running power: read the plate again`,
    })
    .optional(),
  /** How figures and days are written here. */
  region: Region,
  /** What things cost here, in the shop's own money. */
  prices: z.object({
    /** ISO 4217. */
    currency: z
      .string()
      .trim()
      .refine((code) => CURRENCIES.includes(code), {
        error: () => $localize`is not a currency: pick one from the list`,
      }),
    /** What a blade usually costs, and those that cost something else, by spec. */
    blade: price,
    bladeOf: z.record(Id, price).optional(),
    minutesPerBlade: between(0, 600, 'minutes'),
    benchHour: price,
    abrasivePerGrind: price,
    dullHour: price,
    stoppedHour: price,
  }) satisfies z.ZodType<SeasonPrices>,
});
export type ShopRules = z.infer<typeof ShopRules>;

/** What the check blade tells about: the scale, the caliper, the balancer. */
export const CheckQuantity = z.enum(['mass', 'width', 'level']);
export type CheckQuantity = z.infer<typeof CheckQuantity>;
/** What the mornings with the check blade say of one instrument. */
export const CheckView = z.object({
  quantity: CheckQuantity,
  reference: z.number(),
  unit: z.enum(['g', 'mm']),
  /** Read on this shop day. */
  today: z.boolean(),
  readings: z.int(),
  last: z.number().optional(),
  trueness: z.enum(['true', 'drifting', 'off']).optional(),
  deviation: z.number().optional(),
  expanded: z.number().optional(),
  smoothed: z.number().optional(),
});
export type CheckView = z.infer<typeof CheckView>;

export const GrinderKind = z.enum([
  'wheel',
  'belt',
  'flap-disc',
  'file',
  'drill-stone',
]) satisfies z.ZodType<CoreGrinderKind>;
export type GrinderKind = z.infer<typeof GrinderKind>;
/** What a tool's user counts on it. */
export const Counted = z.enum(['pass', 'stroke', 'second']) satisfies z.ZodType<CoreCounted>;
export type Counted = z.infer<typeof Counted>;

/** A grinder as it stands in the shop, with what is on it. Lengths mm, speeds rpm. */
export const GrinderFigures = z.object({
  name: z
    .string()
    .trim()
    .min(1, { error: () => $localize`is empty: give the grinder a name` })
    .max(60),
  kind: GrinderKind,
  counts: Counted,
  /** The wheel or belt on it now: its name, and its diameter as worn today where it is a wheel. */
  abrasive: z
    .string()
    .trim()
    .min(1, { error: () => $localize`is empty: name the wheel or belt` })
    .max(60),
  wheelDiameterMm: between(10, 600, 'mm').optional(),
  /** The wheel's marking, and the machine's own speed: the one must not exceed the other. */
  ratedRpm: between(50, 30_000, 'rpm').optional(),
  spindleRpm: between(50, 30_000, 'rpm').optional(),
  /** Running and starting power, where they are known. */
  runW: Watts.optional(),
  startW: Watts.optional(),
  aim: z.enum(['edge', 'mean']).default('mean'),
  table: z.enum(['flat', 'rounded']).default('flat'),
});
export type GrinderFigures = z.infer<typeof GrinderFigures>;

export const GrinderView = z.object({
  grinderId: Id,
  abrasiveId: Id,
  figures: GrinderFigures,
  /** The pre-use check of today, for what is on it now. */
  checkedToday: z.boolean(),
});
export type GrinderView = z.infer<typeof GrinderView>;

/** A balancer of the shop, with what its last calibration found. Without one the usual figures count. */
export const BalancerView = z.object({
  balancerId: Id,
  name: z.string(),
  device: BalanceDevice,
  calibration: z
    .object({
      madeAt: Instant,
      frictionGmm: z.number(),
      frictionU: z.number(),
      inertiaFactor: z.number(),
      centringMm: z.number().optional(),
      /** What the drops miss the fitted times by, over their doubt; above 2 something was noted wrongly. */
      misfit: z.number(),
    })
    .optional(),
});
export type BalancerView = z.infer<typeof BalancerView>;

/** Timed drops of the check blade with one known weight at one end. */
export const CalibrationDrops = z.object({
  weight: z.enum(['light', 'heavy']),
  end: End,
  turned: z.boolean(),
  timesS: z
    .array(DropSeconds)
    .min(1, { error: () => $localize`must hold at least one drop` })
    .max(12, { error: () => $localize`are more than twelve` }),
});
export type CalibrationDrops = z.infer<typeof CalibrationDrops>;
