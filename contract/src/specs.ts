import type { Station } from '@tally-stone/core';
import {
  LIMIT_KINDS,
  limitFault,
  limitHolds,
  named,
  QUANTITIES,
  type Limit,
} from '@tally-stone/core/basics';
import * as z from 'zod';
import './zod.js';
import { BladeState, eachItsOwn, End, Id, Quantity } from './basics.js';
import {
  BevelDeg,
  BladeLengthMm,
  BladeMassG,
  BladeSpeedRpm,
  BladeWidthMm,
  GradeMmPerS,
  between,
  withUnit,
} from './numbers.js';

export const StationShape = z.object({
  key: z.string().min(1).max(20),
  name: z
    .string()
    .trim()
    .min(1, { error: () => $localize`is empty: name the station` })
    .max(30),
  radiusMm: between(1, 1000, 'mm'),
}) satisfies z.ZodType<Station>;

export const LimitShape = z.object({
  kind: z.enum(LIMIT_KINDS),
  value: between(0, 20_000),
  unit: z.enum(['mm', '%', 'grinds']),
  stationKey: z.string().max(20).optional(),
  source: z.enum(['maker', 'shop']),
  sourceText: z
    .string()
    .trim()
    .min(1, { error: () => $localize`is empty: say where the limit comes from` })
    .max(120),
}) satisfies z.ZodType<Limit>;

/** Why a limit is changed. */
export const LimitReason = z.enum([
  'maker-says',
  'wear-seen',
  'after-an-accident',
  'typed-wrongly',
]);
export type LimitReason = z.infer<typeof LimitReason>;

/** What a change of limits would do to the blades in use, by their last readings. */
export const LimitPreview = z.object({
  judged: z.int(),
  retires: z.array(
    z.object({
      bladeId: Id,
      code: z.string(),
      state: BladeState,
      place: z.string(),
      words: z.string(),
    }),
  ),
});
export type LimitPreview = z.infer<typeof LimitPreview>;

/** Which readings belong to every cycle and which only to a full look. */
export const PlannedReading = z.object({
  quantity: Quantity,
  end: End.optional(),
  stationKey: z.string().max(20).optional(),
  when: z.enum(['routine', 'full-look']),
});
export type PlannedReading = z.infer<typeof PlannedReading>;

/** Everything a blade spec says, in SI. A change makes a new revision; a cycle pins the one it was judged by. */
export const SpecFigures = z
  .object({
    name: z
      .string()
      .trim()
      .min(1, { error: () => $localize`is empty: give the spec a name` })
      .max(60),
    kind: z.enum(['low-lift', 'medium-lift', 'high-lift', 'mulching']),
    hand: z.enum(['right', 'left']),
    hole: z.enum(['round', 'star', 'oval', 'square']),
    holeMm: between(3, 60, 'mm'),
    newLengthMm: BladeLengthMm,
    newWidthMm: BladeWidthMm,
    thicknessMm: between(...QUANTITIES.thickness.possible, 'mm'),
    wingMm: between(0.5, 12, 'mm'),
    newMassG: BladeMassG,
    bevelDeg: BevelDeg,
    bevelToleranceDeg: between(0.05, 10, '°'),
    edgeLengthMm: between(5, 600, 'mm'),
    bladeSpeedRpm: BladeSpeedRpm,
    gradeMmPerS: GradeMmPerS,
    stations: z
      .array(StationShape)
      .min(1, { error: () => $localize`needs at least one station` })
      .max(12)
      .superRefine(
        eachItsOwn('key', () => $localize`is that of another station: give each its own`),
      ),
    limits: z.array(LimitShape).max(40),
    readings: z
      .array(PlannedReading)
      .min(1, { error: () => $localize`needs at least one reading` })
      .max(60),
    /** The maker lets its blades be trimmed, down to this length; without it nobody trims them. */
    trimming: z
      .object({
        leastLengthMm: BladeLengthMm,
        sourceText: z
          .string()
          .trim()
          .min(1, { error: () => $localize`is empty: say where the maker allows it` })
          .max(120),
      })
      .optional(),
    /** The spec its blades had before they were trimmed to this one's length. */
    trimmedFrom: Id.optional(),
  })
  .superRefine((spec, context) => {
    if (spec.edgeLengthMm >= spec.newLengthMm / 2) {
      context.addIssue({
        code: 'custom',
        path: ['edgeLengthMm'],
        message: $localize`is longer than half the blade`,
      });
    }
    if (spec.trimming && spec.trimming.leastLengthMm >= spec.newLengthMm && !spec.trimmedFrom) {
      context.addIssue({
        code: 'custom',
        path: ['trimming', 'leastLengthMm'],
        message: $localize`is not below the new blade's ${withUnit(spec.newLengthMm, 'mm')}`,
      });
    }
    spec.limits.forEach(({ kind, unit, value }, i) => {
      const { from, to, ofNewMm } = limitHolds(kind, spec);
      const fault = limitFault(kind, value, spec);
      const wrong = (message: string): void => {
        context.addIssue({ code: 'custom', path: ['limits', i, 'value'], message });
      };
      if (fault === 'not-below-new')
        wrong($localize`is not below the new blade's ${withUnit(ofNewMm ?? to, 'mm')}`);
      else if (fault === 'not-whole') wrong($localize`must be a whole number`);
      else if (fault) {
        const [least, most] = [from, to].map((each) =>
          withUnit(Number(each.toFixed(2)), named(unit)),
        );
        wrong(
          ofNewMm === undefined
            ? $localize`is outside ${least} to ${most}:most:: type it again`
            : $localize`is less than any blade may wear to, ${least}:least:: type it again`,
        );
      }
    });
  });
export type SpecFigures = z.infer<typeof SpecFigures>;

export const SpecRevision = z.object({
  specRevisionId: Id,
  specId: Id,
  revision: z.int(),
  figures: SpecFigures,
});
export type SpecRevision = z.infer<typeof SpecRevision>;
