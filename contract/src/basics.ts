import {
  BLADE_STATE_KEYS,
  DAMAGE_KINDS,
  QUANTITY_KEYS,
  RETIRE_REASON_KEYS,
  SEVERITIES,
  UNIT_NAMES,
  ZONES,
  type ZoneKey,
} from '@tally-stone/core/basics';
import * as z from 'zod';
import './zod.js';

/** Ids are UUIDv7, made where the thing is made: by the client for a write, by the server for a blade. */
export const Id = z.uuid({ error: () => $localize`must be a UUID` });
export const Instant = z.iso.datetime({
  error: () => $localize`must be a UTC time like 2026-04-01T08:30:00Z`,
});
/** What a person proves themselves with: a PIN at the bench, or, over HTTPS, a password. */
export const Secret = z
  .string()
  .max(100, { error: () => $localize`is too long: a hundred characters at most` })
  .regex(/^(\d{4,8}|.{10,})$/, {
    error: () => $localize`must be four to eight digits, or a password of ten characters`,
  });
/** One typed to be compared with what is kept: whatever it is, it is right or wrong. */
export const TypedSecret = z
  .string()
  .max(100, { error: () => $localize`is too long: a hundred characters at most` });
export const isPassword = (secret: string): boolean => !/^\d{4,8}$/.test(secret);

export const End = z.enum(['A', 'B']);
export const Phase = z.enum(['before', 'after']);
export type Phase = z.infer<typeof Phase>;

export const Quantity = z.enum(QUANTITY_KEYS);
export type Quantity = z.infer<typeof Quantity>;

export const UnitName = z.enum(UNIT_NAMES);

/** A value as somebody typed it, kept as typed; the server reads it into SI with the core's parser. */
export const Entered = z.object({
  text: z.string().max(40, { error: () => $localize`is too long for a reading` }),
  unit: UnitName,
});
export type Entered = z.infer<typeof Entered>;

export const DamageKind = z.enum(DAMAGE_KINDS);
export type DamageKind = z.infer<typeof DamageKind>;
export const Zone = z.enum(ZONES) satisfies z.ZodType<ZoneKey>;
export const Severity = z.enum(SEVERITIES);
export const HeavyEnd = z.enum(['A', 'B', 'level']);
export const BalanceDevice = z.enum(['bearing-shaft', 'cone-point', 'straightedge', 'nail']);
export const BladeState = z.enum(BLADE_STATE_KEYS);
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

export const RetireReason = z.enum(RETIRE_REASON_KEYS);
export type RetireReason = z.infer<typeof RetireReason>;

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

/** A part of a list: so many from a place on. Without it the whole list comes. */
export const PageQuery = z.object({
  offset: z.coerce
    .number()
    .int()
    .min(0, { error: () => $localize`must not be negative` })
    .max(1_000_000)
    .default(0),
  limit: z.coerce
    .number()
    .int()
    .min(1, { error: () => $localize`must be at least 1` })
    .max(500, { error: () => $localize`is more than 500` })
    .optional(),
});
export type PageQuery = z.infer<typeof PageQuery>;

/** Things of a list that must not share a key or a name: said at the one that comes second. */
export const eachItsOwn =
  <Key extends string>(key: Key, message: () => string) =>
  (list: readonly Readonly<Record<Key, string>>[], context: z.RefinementCtx): void => {
    list.forEach((each, i) => {
      if (list.findIndex((other) => other[key] === each[key]) < i)
        context.addIssue({ code: 'custom', path: [i, key], message: message() });
    });
  };
