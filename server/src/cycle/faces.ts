import {
  ENDS,
  flatSection,
  fromItsFoot,
  hollowFace,
  resultingSection,
  setbackAtMm,
  type End,
  type Section,
  type Wheel,
} from '@tally-stone/core';
import type { SpecFigures } from '@tally-stone/contract';
import type { CycleRow } from './cycle.model.js';
import type { ReadingRow } from './reading.model.js';

type Place = Pick<ReadingRow, 'cycleId' | 'phase' | 'quantity' | 'end' | 'value'>;
type Ground = Pick<CycleRow, 'id' | 'frozen'>;

const mean = (values: readonly number[]): number | undefined =>
  values.length === 0 ? undefined : values.reduce((sum, each) => sum + each, 0) / values.length;

/** Heights a remembered face is kept at: enough for its shape, few enough after many grinds. */
const KEPT = 32;

const thinned = (section: Section, thicknessMm: number): Section =>
  section.length <= KEPT
    ? section
    : Array.from({ length: KEPT + 1 }, (_, i) => {
        const yMm = (thicknessMm * i) / KEPT;
        return { yMm, sMm: setbackAtMm(section, yMm) };
      });

/** One grind on a face: the new plane or arc pushed in by what the widths lost, the greater setback stays. */
function ground(
  before: Section,
  thicknessMm: number,
  { recessionMm, ...after }: { bevelDeg: number; landMm: number; recessionMm: number },
  wheel: Wheel | undefined,
): Section {
  const face =
    wheel === undefined
      ? flatSection(thicknessMm, { ...after, recessionMm: 0 })
      : hollowFace(thicknessMm, { ...after, wheel });
  const moved = face.map(({ yMm, sMm }) => ({ yMm, sMm: sMm + recessionMm }));
  return fromItsFoot(resultingSection(before, moved));
}

/** Two faces differ by so many degrees before an upper one is worth remembering. */
const COMPOUND_DEG = 1;
const WORKING_LAND_MM = 0.15;

/**
 * The face each end was left with: all its grinds, one after the other, from a new blade at the spec's bevel.
 * Where the last ones were planes at one angle there is nothing to remember: bevel and land say it all.
 */
export function facesLeft(
  spec: SpecFigures,
  cycles: readonly Ground[],
  readings: readonly Place[],
): Partial<Record<End, Section>> {
  const faceOf = (end: End): Section | undefined => {
    let now = flatSection(spec.thicknessMm, { bevelDeg: spec.bevelDeg, landMm: 0, recessionMm: 0 });
    let steepened = false;
    let hollow = false;
    for (const { id, frozen } of cycles) {
      const of = (quantity: string, phase: 'before' | 'after'): number | undefined =>
        mean(
          readings
            .filter(
              (reading) =>
                reading.cycleId === id &&
                reading.end === end &&
                reading.quantity === quantity &&
                reading.phase === phase,
            )
            .map(({ value }) => value),
        );
      const bevelDeg = of('bevel', 'after');
      if (bevelDeg === undefined) continue;
      const was = of('bevel', 'before') ?? spec.bevelDeg;
      const wheel = frozen?.wheel;
      steepened = bevelDeg - was > COMPOUND_DEG || (steepened && bevelDeg >= was - COMPOUND_DEG);
      hollow = wheel !== undefined;
      const after = {
        bevelDeg,
        landMm: Math.min(of('land', 'after') ?? WORKING_LAND_MM, spec.thicknessMm / 2),
        recessionMm: Math.max(0, (of('width', 'before') ?? 0) - (of('width', 'after') ?? 0)),
      };
      now = thinned(ground(now, spec.thicknessMm, after, wheel), spec.thicknessMm);
    }
    return steepened || hollow ? now : undefined;
  };
  return Object.fromEntries(
    ENDS.flatMap((end) => {
      const face = faceOf(end);
      return face ? [[end, face]] : [];
    }),
  );
}
