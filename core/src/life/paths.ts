import { ENDS, type End } from '../blade/shape.js';
import { notNegative } from '../errors.js';
import { specWear, type FleetWear } from './fleet-wear.js';
import { BladeFuture, LOSS_AT, LOSSES, PATHS, readingError, STEPS, type LossAt } from './future.js';
import { placeOf, rateAt, WEAR_KINDS, type BladeWear, type WearKind } from './wear.js';

/** Room left inside one limit, mm, with its standard uncertainty. */
export interface Room {
  /** As `wearPlace` reads it. */
  readonly key: string;
  readonly roomMm: number;
  readonly u: number;
  /** Grinds since it was so: what they took is gone besides, by the blade's own wear. */
  readonly grindsSince?: number | undefined;
}

/** What is asked of one blade. */
export interface LifeQuestion {
  readonly wear: BladeWear;
  readonly rooms: readonly Room[];
  /** What a limit on the number of grinds leaves. */
  readonly grindsAllowed?: number | undefined;
  /** Mean hours from grind to grind, where they are assumed; otherwise as the blade and its like have them. */
  readonly intervalH?: number | undefined;
}

/** The key of a limit on the number of grinds, where it comes first. */
export const COUNT_LIMIT = 'grinds';

/** A blade's futures: how many more grinds leave it inside every limit, and the hours until the grind that does not. */
export interface Futures {
  /** Both sorted. */
  readonly grinds: readonly number[];
  readonly hours: readonly number[];
  /** The key of the limit that comes first most often. */
  readonly first: string;
}

/** No blade is followed further than this. */
const MOST_GRINDS = 300;

/** Places that lose together, one channel an end and kind: in each path the least room of them, in grinds' worth. */
interface Channel {
  readonly at: LossAt;
  readonly least: Float64Array;
  readonly keys: readonly string[];
}

/** What so many grinds have taken in a path, in grinds' worth. */
type Taken = (at: LossAt, grinds: number, path: number) => number;

/** More than a path has steps are no blade's. */
const grindsBehind = (grindsSince: number): number =>
  Math.min(STEPS - 1, Math.floor(notNegative('grindsSince', grindsSince)));

/** By the last steps of each path, which hardly a future comes to. */
function takenSince(blade: BladeFuture, rooms: readonly Room[]): Taken {
  const most = Math.max(0, ...rooms.map(({ grindsSince = 0 }) => grindsBehind(grindsSince)));
  const sums = new Float64Array(PATHS * (most + 1) * LOSSES);
  const of = (path: number, grinds: number): number => (path * (most + 1) + grinds) * LOSSES;
  for (let path = 0; most > 0 && path < PATHS; path++) {
    blade.begin(path);
    for (let grind = 1; grind <= most; grind++) {
      blade.step(STEPS - grind);
      for (let at = 0; at < LOSSES; at++)
        sums[of(path, grind) + at] = (sums[of(path, grind - 1) + at] ?? 0) + (blade.lost[at] ?? 0);
    }
  }
  return (at, grinds, path) => sums[of(path, grinds) + at] ?? 0;
}

function channelOf(
  fleet: FleetWear,
  { wear, rooms }: LifeQuestion,
  kind: WearKind,
  end: End,
  taken: Taken,
): Channel | undefined {
  const { rates } = specWear(fleet, kind, wear.specId);
  const least = new Float64Array(PATHS).fill(Infinity);
  const keys: string[] = [];
  const at = LOSS_AT[kind][end];
  rooms.forEach(({ key, roomMm, u, grindsSince = 0 }, i) => {
    const place = placeOf(key);
    if (place.kind !== kind || place.end !== end) return;
    const rate = rateAt(rates, place.family);
    const error = readingError(i);
    notNegative('u', u);
    for (let path = 0; path < PATHS; path++) {
      const room =
        (roomMm + u * (error[path] ?? 0)) / rate - taken(at, grindsBehind(grindsSince), path);
      if (room >= (least[path] ?? 0)) continue;
      least[path] = room;
      keys[path] = key;
    }
  });
  return keys.length > 0 ? { at, least, keys } : undefined;
}

const ascending = (values: Float64Array): number[] => Array.from(values.sort());

/**
 * Futures of one blade. Nothing is left where a limit is met already.
 * Errors: `u` negative, `place` where a room's key names none.
 * @example bladeFutures(lives.fleet, { wear, rooms: [{ key: 'wing:A', roomMm: 0, u: 0 }] }).first // 'wing:A'
 */
export function bladeFutures(fleet: FleetWear, question: LifeQuestion): Futures {
  const allowed = Math.max(0, question.grindsAllowed ?? Infinity);
  const met = question.rooms.find(({ roomMm }) => roomMm <= 0);
  if (met || allowed === 0)
    return { grinds: zeros(), hours: zeros(), first: met?.key ?? COUNT_LIMIT };
  const blade = new BladeFuture(fleet, question.wear, question.intervalH);
  const taken = takenSince(blade, question.rooms);
  const channels = WEAR_KINDS.flatMap((kind) =>
    ENDS.flatMap((end) => channelOf(fleet, question, kind, end, taken) ?? []),
  );
  const grinds = new Float64Array(PATHS);
  const hours = new Float64Array(PATHS);
  const firsts = new Map<string, number>();
  const lost = new Float64Array(channels.length);
  for (let path = 0; path < PATHS; path++) {
    blade.begin(path);
    lost.fill(0);
    let run = 0;
    let grind = 0;
    let first: string | undefined;
    for (; grind < MOST_GRINDS; grind++) {
      blade.step(grind);
      run += blade.hours;
      // Of limits met at one grind, the one that is passed by most comes first.
      let most = 1;
      for (let c = 0; c < channels.length; c++) {
        const { at, least, keys } = channels[c] as Channel;
        const sum = (lost[c] as number) + (blade.lost[at] as number);
        lost[c] = sum;
        const room = least[path] as number;
        if (sum <= room) continue;
        const share = room > 0 ? sum / room : Infinity;
        if (share <= most) continue;
        most = share;
        first = keys[path];
      }
      if (grind >= allowed) first = COUNT_LIMIT;
      if (first !== undefined) break;
    }
    grinds[path] = grind;
    hours[path] = run;
    if (first !== undefined) firsts.set(first, (firsts.get(first) ?? 0) + 1);
  }
  const [first = COUNT_LIMIT] = [...firsts].sort((a, b) => b[1] - a[1])[0] ?? [];
  return { grinds: ascending(grinds), hours: ascending(hours), first };
}

const zeros = (): number[] => Array.from({ length: PATHS }, () => 0);

/**
 * Loss at each place over the next grinds, mm, not exceeded with each of these chances: for the fan of a chart.
 * @example lossAhead(lives.fleet, wear, ['wing:A'], 1, [0.5])['wing:A'][0] // [0]
 */
export function lossAhead(
  fleet: FleetWear,
  wear: BladeWear,
  keys: readonly string[],
  grindsAhead: number,
  chances: readonly number[],
): Readonly<Record<string, readonly (readonly number[])[]>> {
  const blade = new BladeFuture(fleet, wear);
  const places = keys.map((key) => {
    const { kind, end, family } = placeOf(key);
    return {
      key,
      at: LOSS_AT[kind][end],
      rate: rateAt(specWear(fleet, kind, wear.specId).rates, family),
      lost: Array.from({ length: grindsAhead + 1 }, () => new Float64Array(PATHS)),
    };
  });
  for (let path = 0; path < PATHS; path++) {
    blade.begin(path);
    for (let grind = 0; grind < grindsAhead; grind++) {
      blade.step(grind);
      for (const { at, rate, lost } of places) {
        const now = (lost[grind]?.[path] ?? 0) + rate * (blade.lost[at] ?? 0);
        lost[grind + 1]?.fill(now, path, path + 1);
      }
    }
  }
  return Object.fromEntries(
    places.map(({ key, lost }) => [
      key,
      lost.map((each) => {
        const sorted = ascending(each);
        return chances.map((chance) => quantile(sorted, chance));
      }),
    ]),
  );
}

/** The value that is not exceeded with a chance, of sorted values. */
export const quantile = (sorted: readonly number[], chance: number): number =>
  sorted[Math.min(sorted.length - 1, Math.max(0, Math.ceil(chance * sorted.length) - 1))] ?? 0;
