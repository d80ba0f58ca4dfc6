import type { DeckFigures, Energy } from '@tally-stone/contract';
import { SPECS, specNamed } from './specs.js';

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
