import { LimitShape, SpecFigures } from '@tally-stone/contract';
import { usualSpec, type Limit } from '@tally-stone/core';
import type { z } from 'zod';
import type { FieldUnit } from '../data/fields';

const SHAPE = SpecFigures.shape;

/** Sizes a spec is typed with, each with the schema that judges it; the rest starts from usual practice. */
export const SIZE_FIELDS = [
  { key: 'newLengthMm', words: $localize`Length`, unit: 'mm', schema: SHAPE.newLengthMm },
  { key: 'newWidthMm', words: $localize`Width`, unit: 'mm', schema: SHAPE.newWidthMm },
  { key: 'thicknessMm', words: $localize`Thickness`, unit: 'mm', schema: SHAPE.thicknessMm },
  { key: 'holeMm', words: $localize`Hole`, unit: 'mm', schema: SHAPE.holeMm },
  { key: 'edgeLengthMm', words: $localize`Cutting edge`, unit: 'mm', schema: SHAPE.edgeLengthMm },
  { key: 'newMassG', words: $localize`Mass when new`, unit: 'g', schema: SHAPE.newMassG },
  { key: 'bevelDeg', words: $localize`Bevel`, unit: 'deg', schema: SHAPE.bevelDeg, start: 30 },
  {
    key: 'bladeSpeedRpm',
    words: $localize`Blade speed`,
    unit: 'rpm',
    schema: SHAPE.bladeSpeedRpm,
    start: 3000,
  },
  { key: 'leastTipMm', words: $localize`Least, tip`, unit: 'mm', schema: SHAPE.newWidthMm },
  { key: 'leastMiddleMm', words: $localize`Least, middle`, unit: 'mm', schema: SHAPE.newWidthMm },
  { key: 'leastRootMm', words: $localize`Least, root`, unit: 'mm', schema: SHAPE.newWidthMm },
] as const satisfies readonly {
  readonly key: string;
  readonly words: string;
  readonly unit: FieldUnit;
  readonly schema: z.ZodType;
  readonly start?: number;
}[];
export type SizeKey = (typeof SIZE_FIELDS)[number]['key'];
export const SourceText = LimitShape.shape.sourceText;

export interface TypedSpec {
  readonly name: string;
  readonly kind: SpecFigures['kind'];
  readonly hand: SpecFigures['hand'];
  readonly hole: SpecFigures['hole'];
  readonly source: Limit['source'];
  readonly sourceText: string;
  readonly sizes: Readonly<Record<SizeKey, number>>;
}

/** Everything a spec needs from what was typed, in SI. Pure. */
export function figuresFrom({ sizes, source, sourceText, ...named }: TypedSpec): SpecFigures {
  const { leastTipMm, leastMiddleMm, leastRootMm, ...figures } = sizes;
  const widthsMm = [leastTipMm, leastMiddleMm, leastRootMm] as const;
  return usualSpec({ ...named, ...figures }, { widthsMm, source, sourceText });
}

/** A blade as it is drawn before anything is typed. Invented. */
export const USUAL: TypedSpec = {
  name: $localize`usual`,
  kind: 'high-lift',
  hand: 'right',
  hole: 'round',
  source: 'shop',
  sourceText: 'usual',
  sizes: {
    newLengthMm: 500,
    newWidthMm: 63,
    thicknessMm: 6,
    holeMm: 20,
    edgeLengthMm: 110,
    newMassG: 1200,
    bevelDeg: 30,
    bladeSpeedRpm: 3000,
    leastTipMm: 53,
    leastMiddleMm: 55,
    leastRootMm: 57,
  },
};

/** Sizes that can be drawn together: what was typed of one may be too much for what nobody has typed of another yet. */
export const fitting = (sizes: TypedSpec['sizes']): TypedSpec['sizes'] => {
  const width = (mm: number): number => Math.min(mm, 0.99 * sizes.newWidthMm);
  return {
    ...sizes,
    edgeLengthMm: Math.min(sizes.edgeLengthMm, 0.45 * sizes.newLengthMm),
    holeMm: Math.min(sizes.holeMm, 0.8 * sizes.newWidthMm),
    leastTipMm: width(sizes.leastTipMm),
    leastMiddleMm: width(sizes.leastMiddleMm),
    leastRootMm: width(sizes.leastRootMm),
  };
};
