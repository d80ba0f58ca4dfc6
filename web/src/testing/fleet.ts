import type { DeckView, FleetView, KeptMower } from '@tally-stone/contract';

export const MOWER_ID = '018f0000-0000-7000-8000-0000000000d1';
export const DECK_ID = '018f0000-0000-7000-8000-0000000000d2';
export const SPINDLES = [
  '018f0000-0000-7000-8000-0000000000e1',
  '018f0000-0000-7000-8000-0000000000e2',
] as const;
const SPEC_ID = '018f0000-0000-7000-8000-0000000000f1';
const bladeId = (i: number): string => `018f0000-0000-7000-8000-0000000001${i}0`;

export const deckBlade = (
  i: number,
  code: string,
): NonNullable<DeckView['spindles'][number]['blade']> => ({
  bladeId: bladeId(i),
  code,
  specId: SPEC_ID,
  lengthMm: 457,
  widthMm: 57,
  grinds: 3,
});

/** A measured deck of two blades with its set on. */
export const deckView = (change: Partial<DeckView> = {}): DeckView => ({
  deckId: DECK_ID,
  bladeSpeedRpm: 3300,
  figures: {
    specId: SPEC_ID,
    spindles: SPINDLES.map((spindleId, i) => ({ spindleId, acrossMm: 440 * i, aheadMm: 160 * i })),
    leastClearanceMm: 6,
    leastOverlapMm: 10,
    timed: false,
    boltTorque: { text: '40', unit: 'lbf·ft' },
    stack: ['wave washer'],
    raising: 'left-up',
    duty: { turf: 'soft', soil: 'loam' },
  },
  torqueNm: 54.2327,
  specName: 'Churchyard',
  spindles: SPINDLES.map((spindleId, i) => ({
    spindleId,
    position: i === 0 ? 'left' : 'right',
    blade: deckBlade(i, `44A4${i}`),
  })),
  pairs: [{ left: 0, right: 1, neighbours: true, clearanceMm: 7.6, overlapMm: 17 }],
  faults: [],
  tipSpeedMPerS: 79.6,
  tooFast: false,
  fittedAt: '2026-05-01T08:00:00Z',
  held: [],
  hoursOnEdge: 6,
  due: {
    state: 'later',
    because: 'hours',
    used: 0.6,
    hoursLeft: 4,
    daysLeft: 2.5,
    dueOn: '2026-05-06',
    benchOn: '2026-05-05',
    late: false,
    complaints: 0,
  },
  readyBlades: 3,
  ...change,
});

export const fleetMower = (
  deck: Partial<DeckView> = {},
  change: Partial<KeptMower> = {},
): KeptMower => ({
  mowerId: MOWER_ID,
  name: 'Yew',
  energy: 'petrol',
  site: 'Cemeteries',
  hoursH: 106,
  upkeep: [
    { kind: 'deck', due: true },
    {
      kind: 'belt',
      due: false,
      last: {
        found: 'wants-work',
        note: 'frayed at one edge',
        at: '2026-05-01T08:00:00Z',
        by: 'Ash',
        hoursH: 98,
      },
    },
  ],
  deck: deckView(deck),
  ...change,
});

export const fleetView = (...mowers: KeptMower[]): FleetView => ({
  mowers,
  today: '2026-05-03',
  planIsBest: true,
  benchDays: [{ day: '2026-05-05', capacity: 12, blades: 2, mowers: ['Yew'] }],
});

/** No set on, as after it was pulled. */
export const BARE: Partial<DeckView> = {
  spindles: SPINDLES.map((spindleId, i) => ({ spindleId, position: i === 0 ? 'left' : 'right' })),
  fittedAt: undefined,
  due: undefined,
  hoursOnEdge: 0,
};
