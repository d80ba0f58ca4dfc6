import type { ZoneKey } from '@tally-stone/core';
import { z } from './zod.js';

/** Ids are UUIDv7, made where the thing is made: by the client for a write, by the server for a blade. */
export const Id = z.uuid({ error: 'must be a UUID' });
export const Instant = z.iso.datetime({ error: 'must be a UTC time like 2026-04-01T08:30:00Z' });
export const End = z.enum(['A', 'B']);
export const Phase = z.enum(['before', 'after']);
export type Phase = z.infer<typeof Phase>;

export const Quantity = z.enum([
  'mass',
  'length',
  'thickness',
  'width',
  'bevel',
  'face',
  'land',
  'wing',
  'hole-wear',
  'tip-height',
  'straightedge-gap',
]);
export type Quantity = z.infer<typeof Quantity>;

export const UNIT_NAMES = [
  'mm',
  'in',
  'g',
  'kg',
  'oz',
  'lb',
  'deg',
  'N·m',
  'lbf·ft',
  'lbf·in',
  'kgf·m',
  'g·mm',
  'oz·in',
] as const;
export const UnitName = z.enum(UNIT_NAMES);

/** A value as somebody typed it, kept as typed; the server reads it into SI with the core's parser. */
export const Entered = z.object({
  text: z.string().max(40, 'is too long for a reading'),
  unit: UnitName,
});
export type Entered = z.infer<typeof Entered>;

export const DamageKind = z.enum([
  'nick',
  'chip',
  'roll',
  'crack',
  'rounded-tip',
  'thin-wing',
  'burnt',
  'worn-hole',
]);
export type DamageKind = z.infer<typeof DamageKind>;
export const Zone = z.enum(['full', 'outer-half', 'outer-50', 'back']) satisfies z.ZodType<ZoneKey>;
export const Severity = z.enum(['retire', 'hold', 'grind', 'watch', 'fine']);
export const HeavyEnd = z.enum(['A', 'B', 'level']);
export const BalanceDevice = z.enum(['bearing-shaft', 'cone-point', 'straightedge', 'nail']);
export const BladeState = z.enum([
  'new',
  'on-mower',
  'waiting',
  'at-bench',
  'ready',
  'hold',
  'retired',
]);
export type BladeState = z.infer<typeof BladeState>;
export const Outcome = z.enum(['ready', 'hold', 'retired']);
export type Outcome = z.infer<typeof Outcome>;

export const LeaveOutReason = z.enum([
  'not-changed-since-last',
  'instrument-missing',
  'cannot-reach',
  'crew-waiting',
]);
export type LeaveOutReason = z.infer<typeof LeaveOutReason>;

export const RetireReason = z.enum([
  'crack',
  'bend',
  'width-limit',
  'wing-limit',
  'length-limit',
  'tip-rounding',
  'hole-wear',
  'mass-loss',
  'grind-count',
  'nick-beyond-saving',
  'wont-hold-edge',
  'not-worth-grinding',
  'no-mower-for-it',
  'no-mate-in-a-set',
  'shop-decision',
]);
export type RetireReason = z.infer<typeof RetireReason>;
/** Why a shop retires a blade that no reading retires, in the order they are offered. */
export const SHOP_RETIRES_FOR = [
  'wont-hold-edge',
  'not-worth-grinding',
  'no-mower-for-it',
  'no-mate-in-a-set',
  'shop-decision',
] as const satisfies readonly RetireReason[];

/** How a retired blade was made unusable, so that nobody can fit it again. */
export const Disposal = z.enum(['cut', 'bent', 'scrapped']);
export type Disposal = z.infer<typeof Disposal>;

export const StepKey = z.enum([
  'clean',
  'inspect',
  'measure',
  'verdict',
  'set-up',
  'grind',
  'balance',
  'prove',
  'sign-off',
]);
export type StepKey = z.infer<typeof StepKey>;
