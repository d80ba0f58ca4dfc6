import * as z from 'zod';
import './zod.js';
import { End, Id, Quantity } from './basics.js';
import { ReadingPlace } from './commands/base.js';
import { CheckQuantity } from './shop.js';
import { BladeLengthMm, BladeMassG, BladeWidthMm, TestRadiusMm, TestWeightG } from './numbers.js';

/** A bench instrument as the screens know it. Values in `unit`; u is its own standard uncertainty. */
export const InstrumentView = z.object({
  key: z.string(),
  name: z.string(),
  reads: z.array(Quantity),
  unit: z.enum(['mm', 'g', 'deg']),
  resolution: z.number(),
  u: z.number(),
  /** How still it must stand, and for how long, before a reading is taken. */
  tolerance: z.number(),
  windowS: z.number(),
  plugged: z.boolean(),
  /** Who speaks for it now: a gauge of its own, a simulated stand-in, or nobody, and what it shows is typed. */
  by: z.enum(['gauge', 'stand-in', 'hand']),
});
export type InstrumentView = z.infer<typeof InstrumentView>;

/**
 * What a hand does at a simulated instrument. A real one needs none of it: its samples come by themselves.
 * Nothing here is a write of the shop, so it is no command and leaves no journal.
 */
export const InstrumentAct = z.discriminatedUnion('act', [
  z.object({ act: z.literal('put'), cycleId: Id, place: ReadingPlace }),
  /** The caliper's probe or jaws at a mark of damage. */
  z.object({
    act: z.literal('put-mark'),
    cycleId: Id,
    damageId: Id,
    what: z.enum(['depth', 'length']),
  }),
  z.object({ act: z.literal('hang'), cycleId: Id, turned: z.boolean().default(false) }),
  z.object({
    act: z.literal('hang-check'),
    /** The check blade with a known weight at one end, for a calibration; g and mm. */
    massG: BladeMassG,
    lengthMm: BladeLengthMm,
    widthMm: BladeWidthMm,
    weightG: TestWeightG,
    radiusMm: TestRadiusMm,
    end: End,
    turned: z.boolean(),
  }),
  /** The check blade itself, on the scale or between the caliper's jaws. */
  z.object({ act: z.literal('put-check'), quantity: CheckQuantity }),
  z.object({ act: z.literal('release') }),
  z.object({ act: z.literal('take-off') }),
  z.object({ act: z.literal('unplug') }),
  z.object({ act: z.literal('plug') }),
  z.object({ act: z.literal('scan'), code: z.string().max(60) }),
]);
export type InstrumentAct = z.infer<typeof InstrumentAct>;
export type InstrumentActInput = z.input<typeof InstrumentAct>;
/** What a gauge says, as its bridge passes it on: lines of docs/instruments.md; none is a sign of life. */
export const GaugeLines = z.object({
  lines: z
    .array(z.string().max(120, { error: () => $localize`is too long for a line` }))
    .max(100, { error: () => $localize`are more than 100 lines` }),
});
export type GaugeLines = z.infer<typeof GaugeLines>;
export const InstrumentAnswer = z.object({ instruments: z.array(InstrumentView) });
export type InstrumentAnswer = z.infer<typeof InstrumentAnswer>;
