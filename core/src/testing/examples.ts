import { dropTimeS, learnLives } from '../index.js';
import type {
  CaliperEnd,
  DailyRain,
  JudgeInput,
  OutlineInput,
  PlanInput,
  PlanSituation,
  Season,
  Schools,
  KnownWeightDrops,
  SwingModel,
} from '../index.js';

/** Small things the doc examples speak of by name, so that each example stays one line. */
const END: CaliperEnd = {
  stations: [250, 180].map((radiusMm) => ({
    radiusMm,
    widthBeforeMm: { value: 60, u: 0.05 },
    widthAfterMm: { value: 59.5, u: 0.05 },
  })),
  bevelBeforeDeg: { value: 30, u: 0 },
  bevelAfterDeg: { value: 30, u: 0 },
  landBeforeMm: { value: 0, u: 0 },
  landAfterMm: { value: 0, u: 0 },
  edgeFromMm: 160,
  edgeToMm: 260,
};

const full = { key: 'full', reachMm: 100, featherMm: 10, gramsPerPass: 0.6 };
const station = (radiusMm: number) => ({
  radiusMm,
  bevelDeg: 30,
  landMm: 0.4,
  wornMm: 0,
  roomMm: 6,
});
const stations = [256, 235, 214, 193, 172].map(station);
const plan: PlanInput = {
  thicknessMm: 6,
  tipRadiusMm: 260,
  edgeLengthMm: 100,
  stations: { A: stations, B: stations },
  nicks: [],
  zones: [full],
  rules: {
    newBevelDeg: 30,
    finishLandMm: 0.15,
    straightness: 0.02,
    wearWeightG: 6,
    mostPassesPerZone: 60,
  },
};
export const situation: PlanSituation = {
  thicknessMm: 6,
  tipRadiusMm: 260,
  edgeLengthMm: 100,
  stations: { A: stations, B: stations },
  nicks: [{ id: 'n', end: 'A', radiusMm: 235, lengthMm: 6, depthMm: 1.6 }],
  zones: [full],
  trailing: { ...full, key: 'back', edge: 'trailing' },
  specBevelDeg: 30,
  measuredBevelsDeg: [30, 30],
  massG: 1600,
  speedRpm: 3000,
  specGradeMmPerS: 40,
  shape: { straightness: 0.02, wearWeightG: 6, mostPassesPerZone: 60 },
};
const schools: Schools = {
  finish: 'working',
  bevel: 'spec',
  fixedBevelDeg: 30,
  nicks: { kind: 'leave-to', depthMm: 0.8 },
  balancePlace: 'cutting',
};
const worn = [{ radiusMm: 250, widthMm: 58 }];
const outline: OutlineInput = {
  lengthMm: 520,
  newWidthMm: 60,
  edgeLengthMm: 110,
  hand: 'right',
  widths: { A: worn, B: worn },
};
/** A blade on a low-friction shaft. */
const onShaft: SwingModel = {
  inertiaGmm2: 4e7,
  unbalanceGmm: 400,
  massG: 1700,
  belowPivotMm: 0,
  frictionGmm: 0,
  dampingPerS: 0,
};
const drop = { inertiaGmm2: 4e7, markDeg: 90, frictionGmm: 0 };
/** Drops of a check blade of 4 × 10⁷ g·mm² and 60 g·mm of its own on a shaft of known friction. */
const dropsOn = (frictionGmm: number): KnownWeightDrops[] =>
  [2, 5].flatMap((weightG) =>
    (['A', 'B'] as const).map((end) => {
      const unbalance = weightG * 200 + (end === 'A' ? 60 : -60);
      const inertiaGmm2 = 4e7 + weightG * 200 ** 2;
      const time = dropTimeS(unbalance, { inertiaGmm2, markDeg: 90, frictionGmm });
      return { weightG, radiusMm: 200, end, turned: false, timesS: [time, time] };
    }),
  );
const usual: JudgeInput = {
  spec: {
    stations: [],
    limits: [],
    newMassG: 1600,
    newWidthMm: 60,
    newLengthMm: 520,
    bevelDeg: 30,
    bevelToleranceDeg: 2,
  } as unknown as JudgeInput['spec'],
  rules: { leaveNicksToMm: 0.8, dullLandMm: 0.25, recessionPerGrindMm: 0.6 },
  crack: { found: true },
  read: () => undefined,
  widths: [],
  damage: [],
  grinds: 3,
};

/** One mower, four hours every day, an edge of exactly ten hours, the bench every seventh day, nothing by chance. */
export const season: Season = {
  mowers: [{ key: 'heron', name: 'Heron', spindles: 3, sets: 1, hoursPerDay: 4, edgeLifeH: 10 }],
  firstDay: '2027-03-29',
  days: 210,
  mowingWeekdays: [1, 2, 3, 4, 5, 6, 7],
  benchWeekdays: [7],
  benchBlades: 60,
  edgeVariation: 0,
  strikesPer1000H: 0,
  damageShare: 0,
  stopShare: 0,
  grindsPerBlade: 100,
  grindsVariation: 0,
  startWorn: false,
};
const year: DailyRain[] = Array.from({ length: 365 }, (_, i) => ({
  day: new Date(Date.UTC(2027, 0, 1 + i)).toISOString().slice(0, 10),
  rainMm: i % 3,
}));

/** Everything an example may name besides the core itself. */
export const NAMES = {
  END,
  full,
  plan,
  stations,
  situation,
  schools,
  outline,
  onShaft,
  drop,
  dropsOn,
  usual,
  season,
  year,
  plane: (bevelDeg: number, landMm = 0, recessionMm = 0) => ({ bevelDeg, landMm, recessionMm }),
  lives: learnLives([]),
  wear: { bladeId: 'b', specId: 's', steps: [] },
  futures: { grinds: [2, 4], hours: [20, 40], first: 'wing:A' },
  rounded: (value: unknown): unknown =>
    JSON.parse(
      JSON.stringify(value, (_key, each: unknown) =>
        typeof each === 'number' ? Math.round(each * 1000) / 1000 : each,
      ),
    ),
};

/** One `@example` line: what is written, and what must come of it. */
export interface Example {
  readonly file: string;
  readonly of: string;
  readonly expression: string;
  readonly expected: string;
}

const DOC = /\/\*\*((?:(?!\*\/)[\s\S])*)\*\/\s*export (?:const|function) (\w+)/g;
const LINE = /@example (.+?) \/\/ (.+)/g;

/** The examples of one source file. */
export const examplesIn = (file: string, source: string): Example[] =>
  [...source.matchAll(DOC)].flatMap(([, doc = '', of = '']) =>
    [...doc.matchAll(LINE)].map(([, expression = '', expected = '']) => ({
      file,
      of,
      expression,
      expected: expected.replace(/\s*\*\/$/, '').trim(),
    })),
  );
