import { BalanceDevice, Entered, Id, Secret, TypedSecret } from '../basics.js';
import { Language } from '../language.js';
import { MatNumber } from '../photo.js';
import { CalibrationDrops, CheckQuantity, GrinderFigures, ShopRules } from '../shop.js';
import { LimitReason, LimitShape, SpecFigures } from '../specs.js';
import * as z from 'zod';
import '../zod.js';
import { envelope, name } from './base.js';

const knownZone = (zone: string): boolean => {
  try {
    new Intl.DateTimeFormat('en', { timeZone: zone });
    return true;
  } catch {
    return false;
  }
};

export const NameShop = z.object({
  ...envelope,
  type: z.literal('name-shop'),
  name,
  timeZone: z
    .string()
    .refine(knownZone, { error: () => $localize`is not a time zone: write it like Europe/London` }),
});

export const AddPerson = z.object({
  ...envelope,
  type: z.literal('add-person'),
  newPersonId: Id,
  name,
  role: z.enum(['technician', 'manager', 'crew']),
});

/**
 * A person's PIN, for acts that need a second person. One that stands already is changed with the old one, or
 * by a manager with theirs.
 */
export const SetPin = z.object({
  ...envelope,
  type: z.literal('set-pin'),
  ofPersonId: Id,
  pin: Secret,
  byPin: TypedSecret.optional(),
});

/** The language a person reads, on whatever device they work. */
export const PickLanguage = z.object({
  ...envelope,
  type: z.literal('pick-language'),
  language: Language,
});

export const AddSpec = z.object({
  ...envelope,
  type: z.literal('add-spec'),
  specId: Id,
  specRevisionId: Id,
  figures: SpecFigures,
});

/** Other limits of a spec, from now on, with the reason. */
export const ChangeLimits = z.object({
  ...envelope,
  type: z.literal('change-limits'),
  specId: Id,
  specRevisionId: Id,
  limits: z.array(LimitShape).max(40),
  reason: LimitReason,
});

/** Other sizes of a spec, from now on, with the reason; its limits come with it. */
export const ChangeSpec = z.object({
  ...envelope,
  type: z.literal('change-spec'),
  specId: Id,
  specRevisionId: Id,
  figures: SpecFigures,
  reason: LimitReason,
});

export const SetRules = z.object({ ...envelope, type: z.literal('set-rules'), rules: ShopRules });

export const AddGrinder = z.object({
  ...envelope,
  type: z.literal('add-grinder'),
  grinderId: Id,
  abrasiveId: Id,
  figures: GrinderFigures,
});

/** A new wheel or belt, a dressed or worn wheel's new diameter, another table: what is on the machine now. */
export const ChangeGrinder = z.object({
  ...envelope,
  type: z.literal('change-grinder'),
  grinderId: Id,
  /** The same id keeps what was learned of the abrasive; a new wheel or belt has a new one. */
  abrasiveId: Id,
  figures: GrinderFigures,
});

export const PRE_USE_CHECKS = [
  'guards',
  'gaps',
  'ring-test',
  'abrasive-whole',
  'speed',
  'clamped',
  'fuel-and-flame',
  'extinguisher',
  'protection',
] as const;

export const CheckGrinder = z.object({
  ...envelope,
  type: z.literal('check-grinder'),
  checkId: Id,
  grinderId: Id,
  checked: z.array(z.enum(PRE_USE_CHECKS)),
});

export const AddBalancer = z.object({
  ...envelope,
  type: z.literal('add-balancer'),
  balancerId: Id,
  name,
  device: BalanceDevice,
});

/** The check blade timed with a light and a heavy known weight at each end, and turned half way round. */
export const CalibrateBalancer = z.object({
  ...envelope,
  type: z.literal('calibrate-balancer'),
  calibrationId: Id,
  balancerId: Id,
  blade: z.object({ mass: Entered, length: Entered, width: Entered }),
  light: Entered,
  heavy: Entered,
  radius: Entered,
  drops: z
    .array(CalibrationDrops)
    .min(1, { error: () => $localize`are missing` })
    .max(8, { error: () => $localize`are more than eight groups` }),
});

/** The bars of a printed photo mat, measured with the caliper: its true size, for every picture taken on it. */
export const MeasureMat = z.object({
  ...envelope,
  type: z.literal('measure-mat'),
  measureId: Id,
  matNumber: MatNumber,
  across: Entered,
  down: Entered,
  /** What both bars were read with; nothing where they were typed. */
  instrument: z.string().max(40).optional(),
});

/** Blades to be worked through as one batch; a batch that was open is closed by it. */
export const MakeBatch = z.object({
  ...envelope,
  type: z.literal('make-batch'),
  batchId: Id,
  bladeIds: z
    .array(Id)
    .min(1, { error: () => $localize`is empty: pick at least one blade` })
    .max(60, { error: () => $localize`are more than sixty: make two batches` }),
});

export const CloseBatch = z.object({ ...envelope, type: z.literal('close-batch'), batchId: Id });

/** A morning's reading of the check blade on one instrument. */
export const ReadCheckBlade = z.object({
  ...envelope,
  type: z.literal('read-check-blade'),
  checkId: Id,
  quantity: CheckQuantity,
  entered: Entered,
  /** The instrument it came from; without one it was typed. */
  instrument: z.string().max(40).optional(),
});
