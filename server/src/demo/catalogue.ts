import type { DeckFigures, Energy, GrinderFigures, SpecFigures } from '@tally-stone/contract';
import { usualLimits, usualReadings, usualStations, type Limit } from '@tally-stone/core';

/** Invented for the demonstration: Pellwater Grounds Care, its specs, mowers and people. */
export const SHOP_NAME = 'Pellwater Grounds Care';
export const SHOP_TIME_ZONE = 'Europe/London';

export const PEOPLE = [
  { name: 'Wren Oakhollow', role: 'technician' },
  { name: 'Tobin Marlsedge', role: 'technician' },
  { name: 'Isa Quillfern', role: 'manager' },
] as const;

export const GRINDERS: readonly GrinderFigures[] = [
  {
    name: 'Long belt',
    kind: 'belt',
    counts: 'pass',
    abrasive: 'Ceramic belt, grit 60',
    spindleRpm: 2850,
    aim: 'mean',
    table: 'flat',
  },
  {
    name: 'Bench wheel',
    kind: 'wheel',
    counts: 'pass',
    abrasive: 'White wheel, grit 46',
    wheelDiameterMm: 196,
    ratedRpm: 3600,
    spindleRpm: 2850,
    aim: 'mean',
    table: 'flat',
  },
];

/** Carried out to the mowers: only for what cannot come to the bench. */
export const FIELD_GRINDER: GrinderFigures = {
  name: 'Hand grinder',
  kind: 'flap-disc',
  counts: 'second',
  abrasive: 'Flap disc, grit 60',
  spindleRpm: 8500,
  ratedRpm: 12_000,
  aim: 'mean',
  table: 'flat',
};

export const BALANCERS = [
  { name: 'Window shaft', device: 'bearing-shaft' },
  { name: 'Door cone', device: 'cone-point' },
  { name: 'Slotted board', device: 'straightedge' },
] as const;

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

function figuresOf(sketch: SpecSketch): SpecFigures {
  const { leastWidthMm, widthSource, more, ...plain } = sketch;
  const stations = usualStations(sketch.newLengthMm);
  const wingMm = sketch.thicknessMm;
  return {
    ...plain,
    wingMm,
    bevelToleranceDeg: 3,
    edgeLengthMm: 100,
    gradeMmPerS: 40,
    stations,
    readings: usualReadings(stations),
    limits: [
      ...stations.map(({ key }, i): Limit => ({
        kind: 'width',
        value: leastWidthMm[i as 0 | 1 | 2],
        unit: 'mm',
        stationKey: key,
        ...widthSource,
      })),
      ...usualLimits({ newLengthMm: sketch.newLengthMm, wingMm }),
      ...(more ?? []),
    ],
  };
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
    widthSource: { source: 'shop', sourceText: 'maker gives none; four fifths of the new width' },
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

const specNamed = (name: string): number => SPECS.findIndex((spec) => spec.name === name);

export interface DemoMower {
  readonly name: string;
  readonly energy: Energy;
  readonly site: string;
  /** Its blades' place in the specs. */
  readonly spec: number;
  readonly positions: readonly string[];
  readonly blades: number;
  /** Every other spindle stands ahead of the ones beside it. */
  readonly deck: {
    readonly apart: { readonly acrossMm: number; readonly aheadMm: number };
    readonly boltTorque: NonNullable<DeckFigures['boltTorque']>;
    readonly stack: readonly string[];
    readonly raising: DeckFigures['raising'];
    readonly duty: DeckFigures['duty'];
  };
  /** Hours since the set on it now was fitted. */
  readonly mownSinceH: number;
}

/** The demo shop mows light: a set lasts it so many hours. */
export const DEMO_INTERVAL_H = 25;

/** Blades that cost more or less than the usual one, by the name of their spec. */
export const DEMO_PRICES: Readonly<Record<string, number>> = {
  'Pitch low-lift 610': 23,
  'Glasshouse lawn mulching 420': 27,
  'Close-lawn mulching 380': 16,
};

export const MOWERS = [
  {
    name: 'Heron',
    energy: 'diesel',
    site: 'Canal towpaths, north reach',
    spec: 0,
    positions: ['left', 'centre', 'right'],
    blades: 9,
    deck: {
      apart: { acrossMm: 510, aheadMm: 190 },
      boltTorque: { text: '75', unit: 'lbf·ft' },
      stack: ['cup washer', 'spacer 4 mm'],
      raising: 'deck-off',
      duty: { turf: 'mixed', soil: 'loam' },
    },
    mownSinceH: 11,
  },
  {
    name: 'Yew',
    energy: 'petrol',
    site: 'Cemeteries',
    spec: 1,
    positions: ['left', 'right'],
    blades: 6,
    deck: {
      apart: { acrossMm: 440, aheadMm: 160 },
      boltTorque: { text: '55', unit: 'N·m' },
      stack: ['wave washer'],
      raising: 'left-up',
      duty: { turf: 'soft', soil: 'stony' },
    },
    mownSinceH: 8,
  },
  {
    name: 'Lark',
    energy: 'diesel',
    site: 'School pitches',
    spec: 3,
    positions: ['left', 'centre', 'right'],
    blades: 6,
    deck: {
      apart: { acrossMm: 585, aheadMm: 212 },
      boltTorque: { text: '12', unit: 'kgf·m' },
      stack: ['cup washer', 'spacer 6 mm', 'shield'],
      raising: 'deck-off',
      duty: { turf: 'soft', soil: 'sandy' },
    },
    mownSinceH: 14,
  },
] as const satisfies readonly DemoMower[];

/** Spindles of a deck for blades of this spec: a cut overlap of 20 mm, and 9 mm between neighbours' circles. */
function apartFor(spec: number): { acrossMm: number; aheadMm: number } {
  const { newLengthMm = 0, newWidthMm = 0 } = SPECS[spec] ?? {};
  const acrossMm = newLengthMm - 20;
  const between = Math.hypot(newLengthMm, newWidthMm) + 9;
  return { acrossMm, aheadMm: Math.ceil(Math.sqrt(between ** 2 - acrossMm ** 2)) };
}

const POSITIONS: Readonly<Record<number, readonly string[]>> = {
  1: ['centre'],
  2: ['left', 'right'],
  3: ['left', 'centre', 'right'],
  4: ['far left', 'left', 'right', 'far right'],
  5: ['far left', 'left', 'centre', 'right', 'far right'],
};

interface Sketch {
  readonly name: string;
  readonly energy: Energy;
  readonly site: string;
  readonly spec: string;
  readonly spindles: number;
  readonly sets: number;
  readonly torqueNm: number;
  readonly raising: DeckFigures['raising'];
  readonly duty: DeckFigures['duty'];
  readonly mownSinceH: number;
}

function longServing(sketch: Sketch): DemoMower {
  const { name, energy, site, spindles, sets, torqueNm, raising, duty, mownSinceH } = sketch;
  const spec = specNamed(sketch.spec);
  return {
    name,
    energy,
    site,
    spec,
    positions: POSITIONS[spindles] ?? [],
    blades: spindles * sets,
    deck: {
      apart: apartFor(spec),
      boltTorque: { text: String(torqueNm), unit: 'N·m' },
      stack: ['cup washer', 'spacer 5 mm'],
      raising,
      duty,
    },
    mownSinceH,
  };
}

/** Mowers that were there last season already, their blades with two seasons behind them. */
export const OLDER_MOWERS: readonly DemoMower[] = (
  [
    [
      'Kestrel',
      'diesel',
      'Canal towpaths, south reach',
      'Towpath high-lift 533',
      3,
      3,
      102,
      'deck-off',
      'mixed',
      'sandy',
      17,
    ],
    ['Otter', 'diesel', 'Lock banks', 'Bank high-lift 483', 3, 3, 95, 'ramp', 'coarse', 'stony', 9],
    [
      'Teal',
      'diesel',
      'Winding holes and wharves',
      'Bank high-lift 483',
      3,
      3,
      95,
      'deck-off',
      'mixed',
      'stony',
      7,
    ],
    [
      'Rowan',
      'petrol',
      'Cemeteries, east',
      'Churchyard medium-lift 457',
      2,
      3,
      55,
      'left-up',
      'soft',
      'loam',
      13,
    ],
    [
      'Hazel',
      'petrol',
      'Churchyard corners',
      'Churchyard medium-lift 457',
      1,
      4,
      55,
      'front-up',
      'soft',
      'stony',
      9,
    ],
    [
      'Fern',
      'battery',
      'Botanic garden, glasshouse lawns',
      'Close-lawn mulching 380',
      1,
      4,
      42,
      'left-up',
      'soft',
      'loam',
      24,
    ],
    [
      'Moss',
      'battery',
      'Botanic garden, arboretum',
      'Close-lawn mulching 380',
      2,
      3,
      42,
      'rear-up',
      'soft',
      'loam',
      13,
    ],
    [
      'Sorrel',
      'petrol',
      'Botanic garden, great lawn',
      'Close-lawn mulching 380',
      3,
      3,
      42,
      'deck-off',
      'soft',
      'loam',
      27,
    ],
    [
      'Swift',
      'diesel',
      'School pitches, north',
      'Pitch wide low-lift 560',
      5,
      3,
      120,
      'ramp',
      'soft',
      'sandy',
      19,
    ],
    [
      'Curlew',
      'diesel',
      'School pitches, south',
      'Pitch wide low-lift 560',
      5,
      3,
      120,
      'ramp',
      'soft',
      'sandy',
      11,
    ],
    [
      'Dunlin',
      'diesel',
      'Playing fields',
      'Pitch low-lift 610',
      4,
      3,
      118,
      'deck-off',
      'mixed',
      'loam',
      18,
    ],
  ] as const
).map(([name, energy, site, spec, spindles, sets, torqueNm, raising, turf, soil, mownSinceH]) =>
  longServing({
    name,
    energy,
    site,
    spec,
    spindles,
    sets,
    torqueNm,
    raising,
    duty: { turf, soil },
    mownSinceH,
  }),
);

/** New blades of a spec that no mower uses yet: the botanic garden's mower comes in spring. */
export const SHELF = { spec: 2, blades: 3 } as const;
