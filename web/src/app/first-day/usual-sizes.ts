import type { SpecFigures } from '@tally-stone/contract';
import { usualLeastWidths, usualSpec } from '@tally-stone/core';

interface UsualSize extends Pick<
  SpecFigures,
  'kind' | 'hole' | 'holeMm' | 'newLengthMm' | 'newWidthMm' | 'thicknessMm' | 'bladeSpeedRpm'
> {
  /** Weighed new: a guess to start from, put right by the first new blade on the scale. */
  readonly newMassG: number;
}

/** Blades to start from, by their dimensions. Invented for a first day; common practice, no source. */
export const USUAL_SIZES: readonly UsualSize[] = [
  {
    kind: 'mulching',
    hole: 'round',
    holeMm: 12.7,
    newLengthMm: 380,
    newWidthMm: 57,
    thicknessMm: 4,
    newMassG: 610,
    bladeSpeedRpm: 3200,
  },
  {
    kind: 'medium-lift',
    hole: 'star',
    holeMm: 20,
    newLengthMm: 457,
    newWidthMm: 57.2,
    thicknessMm: 5,
    newMassG: 940,
    bladeSpeedRpm: 3100,
  },
  {
    kind: 'high-lift',
    hole: 'star',
    holeMm: 20,
    newLengthMm: 483,
    newWidthMm: 63.5,
    thicknessMm: 6,
    newMassG: 1330,
    bladeSpeedRpm: 3000,
  },
  {
    kind: 'high-lift',
    hole: 'round',
    holeMm: 16,
    newLengthMm: 533,
    newWidthMm: 63.5,
    thicknessMm: 6.35,
    newMassG: 1560,
    bladeSpeedRpm: 2900,
  },
  {
    kind: 'low-lift',
    hole: 'square',
    holeMm: 22,
    newLengthMm: 560,
    newWidthMm: 69,
    thicknessMm: 6.35,
    newMassG: 1800,
    bladeSpeedRpm: 2700,
  },
  {
    kind: 'low-lift',
    hole: 'square',
    holeMm: 22,
    newLengthMm: 610,
    newWidthMm: 69,
    thicknessMm: 6.35,
    newMassG: 1960,
    bladeSpeedRpm: 2600,
  },
];

/** `483 high-lift`. */
export const nameOf = ({ newLengthMm, kind }: UsualSize): string => `${newLengthMm} ${kind}`;

/** A spec to start from: every size and limit can be changed after. */
export const specOf = (size: UsualSize): SpecFigures =>
  usualSpec(
    { ...size, name: nameOf(size), hand: 'right', bevelDeg: 30, edgeLengthMm: 100 },
    usualLeastWidths(size.newWidthMm),
  );
