import type { SpecFigures } from '@tally-stone/contract';
import {
  parseQuantity,
  usualLimits,
  usualReadings,
  usualStations,
  type Limit,
  type Unit,
} from '@tally-stone/core';

/** Sizes a spec is typed with; the rest starts from usual practice and can be told apart by its source. */
export const SIZE_FIELDS = [
  { key: 'newLengthMm', words: 'Length', base: 'mm', start: '' },
  { key: 'newWidthMm', words: 'Width', base: 'mm', start: '' },
  { key: 'thicknessMm', words: 'Thickness', base: 'mm', start: '' },
  { key: 'holeMm', words: 'Hole', base: 'mm', start: '' },
  { key: 'edgeLengthMm', words: 'Cutting edge', base: 'mm', start: '' },
  { key: 'newMassG', words: 'Mass when new', base: 'g', start: '' },
  { key: 'bevelDeg', words: 'Bevel', base: 'deg', start: '30' },
  { key: 'bladeSpeedRpm', words: 'Blade speed', base: 'rpm', start: '3000' },
  { key: 'leastTipMm', words: 'Least width, tip', base: 'mm', start: '' },
  { key: 'leastMiddleMm', words: 'Least width, middle', base: 'mm', start: '' },
  { key: 'leastRootMm', words: 'Least width, root', base: 'mm', start: '' },
] as const;
export type SizeKey = (typeof SIZE_FIELDS)[number]['key'];

export interface TypedSpec {
  readonly name: string;
  readonly kind: SpecFigures['kind'];
  readonly hand: SpecFigures['hand'];
  readonly hole: SpecFigures['hole'];
  readonly source: Limit['source'];
  readonly sourceText: string;
  readonly sizes: Readonly<Record<SizeKey, string>>;
}

/** Everything a spec needs from what was typed. Errors: the field that is not a number, by its words. */
export function figuresFrom(typed: TypedSpec, lengthUnit: Unit): SpecFigures {
  const read = (key: SizeKey): number => {
    const field = SIZE_FIELDS.find((each) => each.key === key);
    const text = typed.sizes[key];
    if (field?.base === 'rpm') return Number(text);
    const unit = field?.base === 'g' ? 'g' : field?.base === 'deg' ? 'deg' : lengthUnit;
    return parseQuantity(text, unit, field?.words).value;
  };
  const newLengthMm = read('newLengthMm');
  const wingMm = read('thicknessMm');
  const stations = usualStations(newLengthMm);
  const least = [read('leastTipMm'), read('leastMiddleMm'), read('leastRootMm')];
  return {
    name: typed.name,
    kind: typed.kind,
    hand: typed.hand,
    hole: typed.hole,
    holeMm: read('holeMm'),
    newLengthMm,
    newWidthMm: read('newWidthMm'),
    thicknessMm: wingMm,
    wingMm,
    newMassG: read('newMassG'),
    bevelDeg: read('bevelDeg'),
    bevelToleranceDeg: 3,
    edgeLengthMm: read('edgeLengthMm'),
    bladeSpeedRpm: read('bladeSpeedRpm'),
    gradeMmPerS: 40,
    stations,
    readings: usualReadings(stations),
    limits: [
      ...stations.map(({ key }, i): Limit => ({
        kind: 'width',
        value: least[i] ?? 0,
        unit: 'mm',
        stationKey: key,
        source: typed.source,
        sourceText: typed.sourceText,
      })),
      ...usualLimits({ newLengthMm, wingMm }),
    ],
  };
}
