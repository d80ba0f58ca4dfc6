import type { GrinderFigures, ShopRules } from '@tally-stone/contract';

/** Invented for the demonstration: Pellwater Grounds Care, its people and machines; its specs and mowers stand beside. */
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
    runW: 1100,
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
    runW: 750,
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
  runW: 900,
  aim: 'mean',
  table: 'flat',
};

/** A small generator in the store room, and what runs on it besides. */
export const SUPPLY: ShopRules['supply'] = {
  ratedW: 2800,
  surgeW: 3500,
  beside: [
    { name: 'Lamp', runW: 60, startW: 60 },
    { name: 'Dust collector', runW: 750 },
  ],
};

export const BALANCERS = [
  { name: 'Window shaft', device: 'bearing-shaft' },
  { name: 'Door cone', device: 'cone-point' },
  { name: 'Slotted board', device: 'straightedge' },
] as const;
