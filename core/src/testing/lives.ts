import { DAY_MS } from '../units/day.js';
import { chanceFrom, type BladeLife, type Chance, type LifeSpan } from '../index.js';
import { lifeSpans } from '../life/forecast.js';
import { guardFrom } from '../life/guard.js';
import { learnWear } from '../life/learn-wear.js';
import {
  futuresAfter,
  heldAgainst,
  pastForecasts,
  stratumOf,
  type HistoryStratum,
  type LifeClock,
  sinceFirstGrind,
} from '../life/past-forecasts.js';
import { quantile } from '../life/paths.js';

/**
 * Lives of invented blades from five generators that think unlike each other and unlike the life model. A
 * blade has six edge places and two wings. The first three are for building, the fourth was held back until
 * the model was frozen.
 */
export type Maker = 'even wear' | 'jumps and duty' | 'shocks of a mower' | 'operators';
export const MAKERS: readonly Maker[] = ['even wear', 'jumps and duty', 'shocks of a mower'];
export const HELD_OUT: Maker = 'operators';

export const ALLOWANCE_MM: Readonly<Record<string, number>> = {
  'width:A:tip': 10.5,
  'width:A:mid': 10.5,
  'width:A:inner': 10,
  'width:B:tip': 10.5,
  'width:B:mid': 10.5,
  'width:B:inner': 10,
  'wing:A': 2.6,
  'wing:B': 2.6,
};
const PLACES = { tip: 1.12, mid: 1, inner: 0.82 };
const U_MM = { width: 0.08, wing: 0.05 };

export interface MadeSpec {
  readonly specId: string;
  readonly heavy: boolean;
  readonly perGrindMm: number;
  readonly sandMmPerH: number;
  readonly hours: number;
}

export const madeSpecs = (chance: Chance, count: number): MadeSpec[] =>
  Array.from({ length: count }, (_, i) => {
    const heavy = i % 2 === 0;
    return {
      specId: `${heavy ? 'heavy' : 'light'}-${i}`,
      heavy,
      perGrindMm: (heavy ? 0.85 : 0.5) * Math.exp(0.2 * chance.normal()),
      sandMmPerH: (heavy ? 0.011 : 0.005) * Math.exp(0.3 * chance.normal()),
      hours: (heavy ? 8 : 18) * Math.exp(0.15 * chance.normal()),
    };
  });

/** One made blade: true losses to the end of its life, as read, and whether damage ended its record. */
export interface MadeLife {
  readonly bladeId: string;
  readonly spec: MadeSpec;
  readonly steps: readonly {
    readonly at: number;
    readonly hours: number;
    readonly lostMm: Readonly<Record<string, number>>;
    readonly trueMm: Readonly<Record<string, number>>;
  }[];
}

/** What a grind takes at each end, in the mean step of the spec, and the hours before it. */
type Step = (grind: number) => {
  readonly A: number;
  readonly B: number;
  readonly hours: number;
  readonly sand: number;
};

const DUTY_MEMORY = 0.7;

function stepper(maker: Maker, chance: Chance, shocks: (day: number) => number): Step {
  const mine = maker === 'even wear' ? chance.gamma(1, 0.3) : Math.exp(0.22 * chance.normal());
  const sandMine = Math.exp(0.15 * chance.normal());
  const lean = 0.05 * chance.normal();
  let duty = 0;
  let hard = chance.unit() < 0.5;
  let at = 0;
  return (grind) => {
    if (maker === 'even wear') {
      const both = mine * chance.gamma(1, 0.45);
      const a = 1 + 0.1 * chance.normal();
      return {
        A: both * a,
        B: both * (2 - a),
        hours: Math.max(0.3, 1 + 0.2 * chance.normal()),
        sand: sandMine * chance.gamma(1, 0.2),
      };
    }
    if (maker === 'jumps and duty') {
      if (chance.unit() < 0.12) hard = !hard;
      const hours = Math.max(0.3, (hard ? 0.8 : 1.2) + 0.25 * chance.normal());
      const base =
        mine * (hard ? 1.3 : 0.75) * (0.6 + 0.4 * hours) * Math.exp(0.2 * chance.normal());
      const jump = chance.unit() < 0.13 ? 0.8 + 1.6 * chance.unit() : 0;
      const struck = chance.unit() < 0.5;
      return {
        A: Math.max(base, struck ? jump : 0.6 * jump),
        B: Math.max(base * (1 + 0.1 * chance.normal()), struck ? 0.6 * jump : jump),
        hours,
        sand: sandMine * (hard ? 1.3 : 0.8),
      };
    }
    if (maker === 'shocks of a mower') {
      duty = DUTY_MEMORY * duty + 0.22 * chance.normal();
      const hours = Math.max(0.3, 1 + 0.25 * chance.normal());
      at += hours;
      const both =
        mine * Math.exp(duty - 0.05) * shocks(Math.floor(at)) * Math.exp(0.25 * chance.normal());
      return {
        A: both * (1 + lean),
        B: both * (1 - lean),
        hours,
        sand: sandMine * shocks(Math.floor(at)),
      };
    }
    // Operators: each grind by one of three, who take unlike amounts; blades wear faster as they get narrow.
    const who = chance.unit();
    const taken = who < 0.45 ? 0.75 : who < 0.8 ? 1.05 : 1.6;
    const hours = Math.max(0.25, chance.gamma(1, 0.35));
    const both = mine * taken * (0.85 + 0.018 * grind) * chance.gamma(1, 0.2) * (0.7 + 0.3 * hours);
    const a = chance.unit() < 0.5 ? 1.08 : 0.94;
    return { A: both * a, B: both * (2 - a), hours, sand: sandMine * chance.gamma(1, 0.3) };
  };
}

/** One blade from new until wear has met a limit, started on a day. */
function madeLife(
  maker: Maker,
  chance: Chance,
  spec: MadeSpec,
  bladeId: string,
  from: number,
  shocks: (day: number) => number,
): MadeLife {
  const step = stepper(maker, chance, shocks);
  const trueMm: Record<string, number> = Object.fromEntries(
    Object.keys(ALLOWANCE_MM).map((key) => [key, 0]),
  );
  const steps: MadeLife['steps'][number][] = [];
  let at = from;
  for (let grind = 1; grind < 400; grind++) {
    const { A, B, hours, sand } = step(grind);
    const taken = { A, B };
    const ran = hours * spec.hours;
    at += (ran / 3) * DAY_MS;
    for (const end of ['A', 'B'] as const) {
      for (const [place, factor] of Object.entries(PLACES)) {
        trueMm[`width:${end}:${place}`] =
          (trueMm[`width:${end}:${place}`] ?? 0) +
          Math.max(0.02, taken[end]) * factor * spec.perGrindMm;
      }
      trueMm[`wing:${end}`] = (trueMm[`wing:${end}`] ?? 0) + sand * spec.sandMmPerH * ran;
    }
    const lostMm = Object.fromEntries(
      Object.entries(trueMm).map(([key, mm]) => [
        key,
        mm + (key.startsWith('wing') ? U_MM.wing : U_MM.width) * chance.normal(),
      ]),
    );
    steps.push({ at, hours: ran, lostMm, trueMm: { ...trueMm } });
    if (Object.entries(ALLOWANCE_MM).some(([key, most]) => (trueMm[key] ?? 0) > most)) break;
  }
  return { bladeId, spec, steps };
}

/** Blades of a few specs, put to work one after the other over some years. */
export function madeLives(
  maker: Maker,
  seed: number,
  specs: number,
  bladesPerSpec: number,
): MadeLife[] {
  const chance = chanceFrom(seed);
  return madeSpecs(chance, specs).flatMap((spec) => {
    // What a mower meets, month after month, all its blades meet together.
    const months: number[] = [];
    let shock = 0;
    for (let i = 0; i < 600; i++) {
      shock = 0.6 * shock + 0.18 * chance.normal();
      months.push(Math.exp(shock));
    }
    return Array.from({ length: bladesPerSpec }, (_, i) => {
      const from = chance.unit() * 900 * DAY_MS;
      const offset = Math.floor(from / DAY_MS / (spec.hours / 3));
      return madeLife(
        maker,
        chance,
        spec,
        `${spec.specId}/${i}`,
        from,
        (step) => months[(offset + step) % 600] ?? 1,
      );
    });
  });
}

/** A made blade as a shop's record has it until a date. */
export const asLife = ({ bladeId, spec, steps }: MadeLife, until = Infinity): BladeLife => ({
  bladeId,
  specId: spec.specId,
  steps: steps
    .filter(({ at }) => at <= until)
    .map(({ at, hours, lostMm }) => ({ at, hours, lostMm })),
  allowanceMm: ALLOWANCE_MM,
  endedByWear: steps.every(({ at }) => at <= until),
});

/** One forecast, and what came. */
export interface Judged {
  readonly maker: Maker;
  readonly clock: LifeClock;
  readonly stratum: HistoryStratum;
  readonly heavy: boolean;
  readonly truth: number;
  readonly span: LifeSpan;
  /**
   * Whether it came between the two levels the interval was read at. A count that falls on an end of the
   * interval is held by chance, in proportion (randomised PIT): whole grinds cannot be cut at just 10 %.
   */
  readonly within: boolean;
  /** What a shop would say of every such blade without the model: the spec's own finished lives less what is behind it. */
  readonly average: { readonly low: number; readonly high: number };
}

export interface Trial {
  readonly maker: Maker;
  readonly seed: number;
  readonly specs: number;
  readonly bladesPerSpec: number;
  readonly asked: number;
  readonly guarded: boolean;
  /** Each blade came to the shop after so many of its grinds at most, none to all of them alike. */
  readonly unseen?: number;
  /** Of ten places so many are read at a grind, now these, now those; all of them unless told. */
  readonly readOfTen?: number;
}

/** A life of which only so many places in ten were read at each grind. */
const partlyRead = (life: BladeLife, ofTen: number): BladeLife => ({
  ...life,
  steps: life.steps.map((step, i) => ({
    ...step,
    lostMm: Object.fromEntries(
      Object.entries(step.lostMm).filter(([, lostMm], place) => {
        const turn = 7 * i + 13 * place + Math.round(1e6 * lostMm);
        return Math.abs(turn) % 10 < ofTen;
      }),
    ),
  })),
});

/**
 * Learns a shop from its blades until a day, and forecasts others of the same specs, each at one moment of
 * its life; every pair of blade and grind has the same chance to be asked.
 */
export function tryForecasts({
  maker,
  seed,
  specs,
  bladesPerSpec,
  asked,
  guarded,
  unseen = 0,
  readOfTen = 10,
}: Trial): Judged[] {
  const seen = (life: MadeLife, day?: number): BladeLife => {
    const before = Number(life.bladeId.split('/')[1]) % (unseen + 1);
    const whole = partlyRead(asLife(life, day), readOfTen);
    return before === 0 ? whole : sinceFirstGrind({ ...whole, steps: whole.steps.slice(before) });
  };
  const all = madeLives(maker, seed, specs, bladesPerSpec * 2);
  const shop = all.filter((_, i) => i % 2 === 0);
  const others = all.filter((_, i) => i % 2 === 1);
  const until = 850 * DAY_MS;
  const known = shop.map((life) => seen(life, until)).filter(({ steps }) => steps.length > 0);
  const fleet = learnWear(known);
  const guard = guardFrom(guarded ? pastForecasts(known) : []);
  const chance = chanceFrom(seed + 1);
  const moments = others.flatMap((life) => {
    const record = seen(life);
    return record.steps.map((_, grinds) => ({ life, record, grinds }));
  });
  const finished = known.filter(({ endedByWear }) => endedByWear);
  return Array.from(
    { length: asked },
    () => moments[Math.floor(chance.unit() * moments.length)],
  ).flatMap((moment) => {
    if (!moment) return [];
    const { life, record, grinds } = moment;
    const futures = futuresAfter(fleet, record, grinds);
    const left = lifeSpans(futures, grinds, guard);
    const within = new Map(
      heldAgainst(record, grinds, futures, chance.unit()).map(
        ({ clock, chance: came, stratum }) => {
          const { low, high } = guard[clock][stratum];
          return [clock, came >= low && came <= high];
        },
      ),
    );
    const like = finished.filter(({ specId }) => specId === record.specId);
    const lives = (like.length > 1 ? like : finished).map(({ steps }) => steps);
    const total = (steps: BladeLife['steps']): number =>
      steps.reduce((sum, step) => sum + step.hours, 0);
    const behind = record.steps.slice(0, grinds);
    const of = { maker, stratum: stratumOf(grinds), heavy: life.spec.heavy };
    const averageOf = (whole: number[], used: number) => {
      const rest = whole.map((each) => Math.max(0, each - used)).sort((a, b) => a - b);
      return { low: quantile(rest, 0.1), high: quantile(rest, 0.9) };
    };
    return [
      {
        ...of,
        clock: 'grinds' as const,
        truth: record.steps.length - 1 - grinds,
        span: left.grinds,
        within: within.get('grinds') ?? false,
        average: averageOf(
          lives.map((steps) => steps.length - 1),
          grinds,
        ),
      },
      {
        ...of,
        clock: 'hours' as const,
        truth: total(record.steps.slice(grinds)),
        span: left.hours,
        within: within.get('hours') ?? false,
        average: averageOf(lives.map(total), total(behind)),
      },
    ];
  });
}
