import type { SpecFigures } from '@tally-stone/contract';
import { usualSpec, type Limit } from '@tally-stone/core';

interface SpecSketch {
  readonly name: string;
  readonly kind: SpecFigures['kind'];
  readonly hand: SpecFigures['hand'];
  readonly hole: SpecFigures['hole'];
  readonly holeMm: number;
  readonly newLengthMm: number;
  readonly newWidthMm: number;
  readonly thicknessMm: number;
  readonly newMassG: number;
  readonly bladeSpeedRpm: number;
  readonly bevelDeg: number;
  /** Least width at the outer, middle and inner station, mm. */
  readonly leastWidthMm: readonly [number, number, number];
  readonly widthSource: Pick<Limit, 'source' | 'sourceText'>;
  readonly more?: readonly Limit[];
}

const shopRule = (
  kind: Limit['kind'],
  value: number,
  unit: Limit['unit'],
  sourceText: string,
): Limit => ({
  kind,
  value,
  unit,
  source: 'shop',
  sourceText,
});

function figuresOf({ leastWidthMm, widthSource, more = [], ...plain }: SpecSketch): SpecFigures {
  const usual = usualSpec(
    { ...plain, edgeLengthMm: 100 },
    { widthsMm: leastWidthMm, ...widthSource },
  );
  return { ...usual, limits: [...usual.limits, ...more] };
}

const makersManual = (page: string): Pick<Limit, 'source' | 'sourceText'> => ({
  source: 'maker',
  sourceText: `mower manual, ${page}`,
});

export const SPECS: readonly SpecFigures[] = [
  figuresOf({
    name: 'Towpath high-lift 533',
    kind: 'high-lift',
    hand: 'right',
    hole: 'round',
    holeMm: 16,
    newLengthMm: 533,
    newWidthMm: 63.5,
    thicknessMm: 6.35,
    newMassG: 1602,
    bladeSpeedRpm: 3100,
    bevelDeg: 30,
    leastWidthMm: [51, 53, 56],
    widthSource: makersManual('wear table, row 3'),
  }),
  figuresOf({
    name: 'Churchyard medium-lift 457',
    kind: 'medium-lift',
    hand: 'right',
    hole: 'star',
    holeMm: 20,
    newLengthMm: 457,
    newWidthMm: 57,
    thicknessMm: 5,
    newMassG: 984,
    bladeSpeedRpm: 3300,
    bevelDeg: 30,
    leastWidthMm: [45, 47, 50],
    widthSource: { source: 'shop', sourceText: 'four fifths of the new width at the tip' },
  }),
  figuresOf({
    name: 'Glasshouse lawn mulching 420',
    kind: 'mulching',
    hand: 'left',
    hole: 'oval',
    holeMm: 18,
    newLengthMm: 420,
    newWidthMm: 60,
    thicknessMm: 4.5,
    newMassG: 861,
    bladeSpeedRpm: 3400,
    bevelDeg: 28,
    leastWidthMm: [49, 51, 53],
    widthSource: {
      source: 'shop',
      sourceText: 'maker gives none; four fifths of the new width at the tip, more at the root',
    },
    more: [shopRule('grinds', 8, 'grinds', 'wavy edge keeps its shape for eight grinds')],
  }),
  figuresOf({
    name: 'Pitch low-lift 610',
    kind: 'low-lift',
    hand: 'right',
    hole: 'square',
    holeMm: 22,
    newLengthMm: 610,
    newWidthMm: 76,
    thicknessMm: 6.35,
    newMassG: 2228,
    bladeSpeedRpm: 2800,
    bevelDeg: 35,
    leastWidthMm: [62, 64, 67],
    widthSource: makersManual('wear table, row 7'),
    more: [shopRule('mass-loss', 12, '%', 'an eighth of the new mass at most')],
  }),
  figuresOf({
    name: 'Bank high-lift 483',
    kind: 'high-lift',
    hand: 'right',
    hole: 'star',
    holeMm: 20,
    newLengthMm: 483,
    newWidthMm: 63.5,
    thicknessMm: 6,
    newMassG: 1368,
    bladeSpeedRpm: 3250,
    bevelDeg: 30,
    leastWidthMm: [53, 55, 58],
    widthSource: makersManual('blade care, table 2'),
  }),
  figuresOf({
    name: 'Close-lawn mulching 380',
    kind: 'mulching',
    hand: 'left',
    hole: 'round',
    holeMm: 12.7,
    newLengthMm: 380,
    newWidthMm: 52,
    thicknessMm: 3.5,
    newMassG: 492,
    bladeSpeedRpm: 3600,
    bevelDeg: 28,
    leastWidthMm: [43.5, 45, 47],
    widthSource: { source: 'shop', sourceText: 'maker gives none; five sixths of the new width' },
    more: [shopRule('grinds', 6, 'grinds', 'teeth are gone after six grinds')],
  }),
  figuresOf({
    name: 'Pitch wide low-lift 560',
    kind: 'low-lift',
    hand: 'right',
    hole: 'square',
    holeMm: 22,
    newLengthMm: 560,
    newWidthMm: 70,
    thicknessMm: 6.35,
    newMassG: 1890,
    bladeSpeedRpm: 2950,
    bevelDeg: 35,
    leastWidthMm: [58, 60, 63],
    widthSource: makersManual('wear table, row 5'),
  }),
];

export const specNamed = (name: string): number => SPECS.findIndex((spec) => spec.name === name);
