import { chanceFrom } from '../math/chance.js';
import type { FleetWear } from './fleet-wear.js';
import { learnWear } from './learn-wear.js';
import { bladeFutures, type Futures, type Room } from './paths.js';
import { WEAR_READING_U, placeOf, type BladeWear } from './wear.js';

/** A blade's history together with what ends it, so that a forecast made along the way can be held against it. */
export interface BladeLife extends BladeWear {
  /** What may be lost at each place with a limit, mm, by its key. */
  readonly allowanceMm: Readonly<Record<string, number>>;
  readonly mostGrinds?: number | undefined;
  /** Its last step ended it by a limit, though no reading may have been past it yet. */
  readonly endedByWear: boolean;
}

/**
 * The life of a blade that came worn, used or trimmed, counted from its first grind here: what it had lost until then
 * nobody saw go, and it is no grind's worth. What may still be lost is less by that; a place counts from its first
 * reading, and one that was never read does not count.
 *
 * @param life whose losses and allowances are since new, mm
 * @example sinceFirstGrind({ bladeId: 'b', specId: 's', steps: [{ at: 0, hours: 9, lostMm: { 'width:A:tip': 4 } }, { at: 1, hours: 10, lostMm: { 'width:A:tip': 4.5 } }], allowanceMm: { 'width:A:tip': 7 }, endedByWear: false }).steps // [{ at: 1, hours: 10, lostMm: { 'width:A:tip': 0.5 } }]
 */
export function sinceFirstGrind(life: BladeLife): BladeLife {
  const came = new Map<string, number>();
  const steps = life.steps.map((step) => ({
    ...step,
    lostMm: Object.fromEntries(
      Object.entries(step.lostMm).flatMap(([key, lostMm]): [string, number][] => {
        const before = came.get(key);
        if (before !== undefined) return [[key, lostMm - before]];
        came.set(key, lostMm);
        return [];
      }),
    ),
  }));
  return {
    ...life,
    steps: steps.slice(1),
    allowanceMm: Object.fromEntries(
      Object.entries(life.allowanceMm).flatMap(([key, allowedMm]): [string, number][] => {
        const before = came.get(key);
        return before === undefined ? [] : [[key, allowedMm - before]];
      }),
    ),
    ...(life.mostGrinds === undefined ? {} : { mostGrinds: Math.max(0, life.mostGrinds - 1) }),
  };
}

/** Life is counted on two clocks. */
export type LifeClock = 'grinds' | 'hours';
export const LIFE_CLOCKS: readonly LifeClock[] = ['grinds', 'hours'];

/** Blades are told apart by how much is known of them: so many grinds. */
export type HistoryStratum = '0-1' | '2-4' | '5+';
export const stratumOf = (grinds: number): HistoryStratum =>
  grinds <= 1 ? '0-1' : grinds <= 4 ? '2-4' : '5+';

/**
 * A forecast made once and what came of it: the chance it gave to less than what came. `open` where the blade
 * is not at its end yet: then it is the chance given to less than what it has done so far.
 */
export interface PastForecast {
  readonly clock: LifeClock;
  readonly stratum: HistoryStratum;
  readonly at: number;
  readonly specId: string;
  readonly bladeId: string;
  readonly chance: number;
  readonly open: boolean;
}

/** The step, from 0, at which a limit was met; nothing while none is. */
export function endOfLife({
  steps,
  allowanceMm,
  mostGrinds,
  endedByWear,
}: BladeLife): number | undefined {
  const met = steps.findIndex(
    ({ lostMm }, i) =>
      i >= (mostGrinds ?? Infinity) ||
      Object.entries(allowanceMm).some(([key, allowed]) => (lostMm[key] ?? -Infinity) > allowed),
  );
  if (met >= 0) return met;
  return endedByWear && steps.length > 0 ? steps.length - 1 : undefined;
}

/** What was left at each place with a limit after so many grinds, by the last reading of each and the grinds since. */
export function roomsAfter({ steps, allowanceMm }: BladeLife, grinds: number): Room[] {
  const before = steps.slice(0, grinds);
  return Object.entries(allowanceMm).map(([key, allowed]) => {
    const u = WEAR_READING_U[placeOf(key).kind];
    const read = before.findLastIndex(({ lostMm }) => lostMm[key] !== undefined);
    return {
      key,
      roomMm: allowed - (before[read]?.lostMm[key] ?? 0),
      u: read < 0 ? u.fresh : u.read,
      grindsSince: before.length - 1 - read,
    };
  });
}

/** The blade's history as it was after so many grinds. */
export const asOf = (life: BladeLife, grinds: number): BladeLife => ({
  ...life,
  steps: life.steps.slice(0, grinds),
});

/** Chance of less than x, and of exactly x. */
function below(sorted: readonly number[], x: number): { less: number; same: number } {
  let less = 0;
  let same = 0;
  for (const each of sorted) {
    if (each < x - 1e-9) less += 1;
    else if (each <= x + 1e-9) same += 1;
  }
  return { less: less / sorted.length, same: same / sorted.length };
}

/** One forecast held against what came. `unit` breaks ties of counts at random (randomised PIT). */
export function heldAgainst(
  life: BladeLife,
  grinds: number,
  futures: Futures,
  unit: number,
): readonly PastForecast[] {
  const end = endOfLife(life);
  const open = end === undefined;
  const last = open ? life.steps.length : end;
  const ran = life.steps.slice(grinds, open ? last : last + 1);
  const hours = ran.reduce((sum, step) => sum + step.hours, 0);
  const of = { stratum: stratumOf(grinds), specId: life.specId, bladeId: life.bladeId, open };
  const at = life.steps[grinds - 1]?.at ?? 0;
  const counted = below(futures.grinds, last - grinds);
  const mown = below(futures.hours, hours);
  return [
    { ...of, at, clock: 'grinds', chance: counted.less + (open ? 0 : unit * counted.same) },
    { ...of, at, clock: 'hours', chance: mown.less + (open ? 0 : unit * mown.same) },
  ];
}

/** The shop is learned anew at so many dates of its past, each from what was known then. */
const DATES = 6;

/**
 * Forecasts of a shop's past, each made from nothing but what was signed off before it, by the model of today.
 * At each of a few dates every blade in use is forecast, and held against what came. A record is never
 * changed, so a forecast can be made again as it would have been, and a better model is judged by its own.
 */
export function pastForecasts(lives: readonly BladeLife[]): PastForecast[] {
  const times = lives.flatMap(({ steps }) => steps.map(({ at }) => at)).sort((a, b) => a - b);
  const chance = chanceFrom(29);
  return Array.from(
    { length: DATES },
    (_, k) => times[Math.floor((times.length * (k + 1)) / (DATES + 2))],
  )
    .filter((date) => date !== undefined)
    .flatMap((date) => {
      const then = lives
        .map((life) => ({ life, grinds: life.steps.filter(({ at }) => at <= date).length }))
        .filter(({ life, grinds }) => grinds > 0 && grinds < life.steps.length);
      const known = lives.map((life) =>
        asOf(life, life.steps.filter(({ at }) => at <= date).length),
      );
      const fleet = learnWear(known.filter(({ steps }) => steps.length > 0));
      return then
        .filter(({ life, grinds }) => (endOfLife(life) ?? Infinity) >= grinds)
        .flatMap(({ life, grinds }) =>
          heldAgainst(life, grinds, futuresAfter(fleet, life, grinds), chance.unit()),
        );
    });
}

/** What would be forecast of a blade after so many of its grinds. */
export const futuresAfter = (fleet: FleetWear, life: BladeLife, grinds: number): Futures =>
  bladeFutures(fleet, {
    wear: asOf(life, grinds),
    rooms: roomsAfter(life, grinds),
    grindsAllowed: life.mostGrinds === undefined ? undefined : life.mostGrinds - grinds,
  });
