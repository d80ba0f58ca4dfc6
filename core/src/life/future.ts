import type { End } from '../blade/shape.js';
import { chanceFrom } from '../math/chance.js';
import {
  meanInterval,
  ownIntervals,
  ownWearIn,
  type FleetWear,
  type FutureTables,
  type LibraryStep,
  type WearFigures,
} from './fleet-wear.js';
import type { OwnWear, WearSpread } from './own-wear.js';
import { WEAR_KINDS, type BladeWear, type WearKind } from './wear.js';

/** So many futures of a blade are drawn, and after so many grinds the chances come round again. */
export const PATHS = 192;
export const STEPS = 64;

/** What varies from blade to blade and from month to month: both kinds of wear, and the hours from grind to grind. */
type Varying = WearKind | 'hours';
const VARYING: readonly Varying[] = [...WEAR_KINDS, 'hours'];
const [EDGE, WING, HOURS] = [0, 1, 2] as const;

/** Wear to come is not wear as it was: how far the future's mean may drift, in logarithm, as `VARYING`. */
const DRIFT = [0.06, 0.08, 0.03];
/** No grind and no interval is nothing, and no blade wears less than so much of its spec's. */
const LEAST = 0.02;
const LEAST_LEVEL = 0.15;

/** Where a step's loss stands in `BladeFuture.lost`, in grinds' worth; hours come last. */
export const LOSS_AT = { edge: { A: 0, B: 1 }, wing: { A: 2, B: 3 } } as const satisfies Record<
  WearKind,
  Record<End, number>
>;
export type LossAt = 0 | 1 | 2 | 3;
export const LOSSES = 4;
const HOURS_AT = 4;
const PER_STEP = 5;

/** The random numbers of all forecasts: the same for every blade, so that two blades differ by their wear alone. */
interface Draws {
  /** By what varies, then path: of the level, of the duty now, of the drift. */
  readonly level: readonly Float64Array[];
  readonly duty: readonly Float64Array[];
  readonly drift: readonly Float64Array[];
  /** By path and step: which of the library's steps, as a share, and the news of each duty. */
  readonly pick: Float64Array;
  readonly news: readonly Float64Array[];
  /** By place and path: the error of the last reading. */
  readonly reading: readonly Float64Array[];
}

const MOST_PLACES = 32;

function makeDraws(): Draws {
  const chance = chanceFrom(20261128);
  const normals = (count: number): Float64Array => {
    const raw = Float64Array.from({ length: count }, () => chance.normal());
    const mean = raw.reduce((sum, each) => sum + each, 0) / count;
    const sd = Math.sqrt(raw.reduce((sum, each) => sum + (each - mean) ** 2, 0) / count);
    return raw.map((each) => (each - mean) / sd);
  };
  const each = (count: number): Float64Array[] => VARYING.map(() => normals(count));
  return {
    level: each(PATHS),
    duty: each(PATHS),
    drift: each(PATHS).map((raw, i) => raw.map((z) => Math.exp((DRIFT[i] ?? 0) * z))),
    pick: Float64Array.from({ length: PATHS * STEPS }, () => chance.unit()),
    news: each(PATHS * STEPS),
    reading: Array.from({ length: MOST_PLACES }, () => normals(PATHS)),
  };
}
let made: Draws | undefined;
const draws = (): Draws => (made ??= makeDraws());

/** The error of the last reading of the nth place, by path, in standard deviations. */
export const readingError = (place: number): Float64Array =>
  draws().reading[place % MOST_PLACES] ?? new Float64Array(PATHS);

const spreadsOf = (fleet: WearFigures, what: number): readonly WearSpread[] =>
  what === HOURS ? fleet.intervals.spreads : fleet.kinds[what === EDGE ? 'edge' : 'wing'].spreads;

const spreadAt = (spreads: readonly WearSpread[], path: number): WearSpread => {
  const spread = spreads[path % spreads.length];
  if (!spread) throw new RangeError('a fleet without spreads');
  return spread;
};

const valuesOf = ({ edge, wing, hours }: LibraryStep): number[] => [
  edge.A,
  edge.B,
  wing.A,
  wing.B,
  hours,
];

/** Draws the steps and the news of every path from a fleet's library and spreads. */
export function futureTables(fleet: WearFigures, seen: readonly LibraryStep[]): FutureTables {
  const random = draws();
  const { withEdge } = fleet.intervals;
  const library = seen.map(valuesOf);
  const steps = new Float64Array(PATHS * STEPS * PER_STEP);
  const duty = VARYING.map(() => new Float64Array(PATHS * STEPS));
  for (let path = 0; path < PATHS; path++) {
    for (let step = 0; step < STEPS; step++) {
      const at = path * STEPS + step;
      const entry = library[Math.floor((random.pick[at] ?? 0) * library.length)];
      if (entry) steps.set(entry, at * PER_STEP);
      VARYING.forEach((_, what) => {
        const { memory, dutySd } = spreadAt(spreadsOf(fleet, what), path);
        const own = random.news[what]?.[at] ?? 0;
        const news =
          what === HOURS
            ? withEdge * (random.news[EDGE]?.[at] ?? 0) + Math.sqrt(1 - withEdge ** 2) * own
            : own;
        const before = step > 0 ? (duty[what]?.[at - 1] ?? 0) : 0;
        duty[what]?.fill(
          memory * before + dutySd * Math.sqrt(1 - memory * memory) * news,
          at,
          at + 1,
        );
      });
    }
  }
  return { steps, duty };
}

/** Factor of the doubt about level and duty (Cholesky), so that the two are drawn together. */
interface Start {
  readonly own: OwnWear;
  readonly memory: number;
  readonly l11: number;
  readonly l21: number;
  readonly l22: number;
}

function startOf(own: OwnWear, { memory }: WearSpread): Start {
  const l11 = Math.sqrt(own.levelVariance);
  const l21 = l11 > 0 ? own.covariance / l11 : 0;
  return { own, memory, l11, l21, l22: Math.sqrt(Math.max(0, own.dutyVariance - l21 * l21)) };
}

/** One blade, followed along one path after the other: `begin` a path, then `step` by `step`. */
export class BladeFuture {
  /** What the last step took: see `LOSS_AT`. */
  readonly lost = new Float64Array(LOSSES);
  /** Hours mown before the last step's grind. */
  hours = 0;

  private readonly tables: FutureTables;
  private readonly starts: readonly (readonly Start[])[];
  private readonly level = new Float64Array(3);
  private readonly duty = new Float64Array(3);
  private readonly memory = new Float64Array(3);
  private readonly drift = new Float64Array(3);
  private readonly meanHours: number;
  private readonly wingPerHour: number;
  private from = 0;

  /** `intervalH`: mean hours from grind to grind, where they are assumed. */
  constructor(
    fleet: FleetWear,
    wear: BladeWear,
    private readonly intervalH?: number,
  ) {
    this.tables = fleet.tables;
    this.meanHours = meanInterval(fleet, wear.specId).hours;
    this.wingPerHour = 1 / fleet.hoursPerGrind;
    this.starts = VARYING.map((what, i) =>
      spreadsOf(fleet, i).map((spread) =>
        startOf(
          what === 'hours'
            ? ownIntervals(fleet, wear, spread)
            : ownWearIn(fleet, what, wear, spread),
          spread,
        ),
      ),
    );
  }

  begin(path: number): void {
    const random = draws();
    for (let what = 0; what < 3; what++) {
      const starts = this.starts[what];
      const start = starts?.[path % starts.length];
      if (!start) continue;
      const { own, memory, l11, l21, l22 } = start;
      const z = random.level[what]?.[path] ?? 0;
      this.level[what] = Math.max(LEAST_LEVEL, own.level + l11 * z);
      this.duty[what] = own.duty + l21 * z + l22 * (random.duty[what]?.[path] ?? 0);
      this.memory[what] = memory;
      this.drift[what] = random.drift[what]?.[path] ?? 1;
    }
    this.from = path * STEPS;
  }

  /** The next grind of the path, counted from 0. */
  step(grind: number): void {
    const at = this.from + (grind % STEPS);
    const { steps } = this.tables;
    const entry = at * PER_STEP;
    const interval = this.intervalH ?? this.meanHours * this.now(HOURS, at);
    this.hours = interval * (steps[entry + HOURS_AT] as number);
    const edge = this.now(EDGE, at);
    const wing = this.now(WING, at) * this.hours * this.wingPerHour;
    this.lost[0] = edge * (steps[entry] as number);
    this.lost[1] = edge * (steps[entry + 1] as number);
    this.lost[2] = wing * (steps[entry + 2] as number);
    this.lost[3] = wing * (steps[entry + 3] as number);
  }

  private now(what: 0 | 1 | 2, at: number): number {
    const duty = (this.duty[what] as number) * (this.memory[what] as number);
    this.duty[what] = duty;
    const news = (this.tables.duty[what] as Float64Array)[at] as number;
    return (
      Math.max(LEAST, (this.level[what] as number) + duty + news) * (this.drift[what] as number)
    );
  }
}
