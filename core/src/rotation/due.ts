import { notNegative, positive } from '../errors.js';

/**
 * When an edge is due at the bench. Hours on the edge count by duty: coarse, wiry turf and sandy ground dull an
 * edge far sooner than soft turf on loam. A strike or a complaint about the cut makes it due at once.
 */
export type Turf = 'soft' | 'mixed' | 'coarse';
export type Soil = 'loam' | 'sandy' | 'stony';
export interface Duty {
  readonly turf: Turf;
  readonly soil: Soil;
}

/** What counts where nobody has said what a deck mows. */
export const DUTY_UNSAID: Duty = { turf: 'soft', soil: 'loam' };

/** How much sooner an edge is dull, against soft turf on loam. Common practice, no source. */
const TURF_FACTOR: Readonly<Record<Turf, number>> = { soft: 1, mixed: 1.25, coarse: 1.6 };
const SOIL_FACTOR: Readonly<Record<Soil, number>> = { loam: 1, sandy: 1.5, stony: 1.8 };

/**
 * Edge hours used up by an hour of mowing. Common practice, no source.
 * @example dutyFactor({ turf: 'coarse', soil: 'sandy' }) // 2.4
 */
export const dutyFactor = ({ turf, soil }: Duty): number => TURF_FACTOR[turf] * SOIL_FACTOR[soil];

/** When a shop changes blades: after hours on soft turf, after days, or only when the cut shows it. */
export type IntervalSchool =
  | { readonly kind: 'hours'; readonly hours: number }
  | { readonly kind: 'days'; readonly days: number }
  | { readonly kind: 'when-shown' };

export interface EdgeOnDuty {
  readonly interval: IntervalSchool;
  readonly duty: Duty;
  /** Mowing hours and days since the set was fitted. */
  readonly hoursOnEdge: number;
  readonly daysOnEdge: number;
  /** Mowing hours a day lately; nothing known where zero. */
  readonly hoursPerDay: number;
  readonly struck: boolean;
  readonly complaints: number;
}

export interface Due {
  readonly state: 'now' | 'soon' | 'later' | 'unplanned';
  readonly because: 'strike' | 'complaint' | 'hours' | 'days' | 'nothing';
  /** Share of the interval used; absent where the school has none. */
  readonly used?: number;
  /** Mowing hours and days left; zero where due, absent where unknown. */
  readonly hoursLeft?: number;
  readonly daysLeft?: number;
}

/** From this share of its interval on, a set is due soon. Common practice, no source. */
const SOON = 0.75;

/**
 * Is a set due, why, and in how many hours and days at the pace of late.
 * Errors: `hoursOnEdge`, `daysOnEdge`, `hoursPerDay` negative; an interval of zero.
 * @example dueOf({ interval: { kind: 'hours', hours: 10 }, duty: { turf: 'soft', soil: 'loam' }, hoursOnEdge: 4, daysOnEdge: 2, hoursPerDay: 3, struck: false, complaints: 0 }).daysLeft // 2
 */
export function dueOf(edge: EdgeOnDuty): Due {
  const hours = notNegative('hoursOnEdge', edge.hoursOnEdge);
  const days = notNegative('daysOnEdge', edge.daysOnEdge);
  const pace = notNegative('hoursPerDay', edge.hoursPerDay);
  if (edge.struck) return { state: 'now', because: 'strike', hoursLeft: 0, daysLeft: 0 };
  if (edge.complaints > 0) return { state: 'now', because: 'complaint', hoursLeft: 0, daysLeft: 0 };
  if (edge.interval.kind === 'when-shown') return { state: 'unplanned', because: 'nothing' };
  const stateAt = (used: number): Due['state'] =>
    used >= 1 ? 'now' : used >= SOON ? 'soon' : 'later';
  if (edge.interval.kind === 'days') {
    const interval = positive('days', edge.interval.days);
    const used = days / interval;
    return { state: stateAt(used), because: 'days', used, daysLeft: Math.max(0, interval - days) };
  }
  const interval = positive('hours', edge.interval.hours);
  const factor = dutyFactor(edge.duty);
  const used = (hours * factor) / interval;
  const hoursLeft = Math.max(0, interval / factor - hours);
  return {
    state: stateAt(used),
    because: 'hours',
    used,
    hoursLeft,
    ...(pace > 0 || hoursLeft === 0 ? { daysLeft: hoursLeft === 0 ? 0 : hoursLeft / pace } : {}),
  };
}

/** Pace forgets with this time constant, days. Common practice, no source. */
const PACE_MEMORY_DAYS = 14;

/**
 * Mowing hours a day, smoothed: what was known fades as the days go by, what was mown since comes in.
 * Errors: negative hours or days.
 * @example paceAfter(0, 6, 1e6) // 0.000006
 */
export function paceAfter(hoursPerDay: number, hours: number, days: number): number {
  notNegative('hours', hours);
  if (notNegative('days', days) === 0) return hoursPerDay;
  const fresh = 1 - Math.exp(-days / PACE_MEMORY_DAYS);
  return hoursPerDay + fresh * (hours / days - notNegative('hoursPerDay', hoursPerDay));
}

/** A deck's blades that want a place on a bench day. */
export interface DueJob {
  readonly id: string;
  readonly blades: number;
  /** Days until it is due; Infinity where it has no date. */
  readonly dueInDays: number;
}
export interface BenchDay {
  /** Days from today. */
  readonly inDays: number;
  /** Blades that can be ground that day. */
  readonly capacity: number;
}
export interface PlannedJob extends DueJob {
  /** The bench day it goes to, days from today; absent where no day has room. */
  readonly inDays?: number;
  readonly late: boolean;
}

/** A bench day with the room that is still left on it. */
interface Room extends BenchDay {
  left: number;
}

/** A plan for the bench days, and whether none is later by less. */
export interface BenchPlan {
  readonly jobs: readonly PlannedJob[];
  /** No other way to put the sets on the days has a smaller worst lateness. */
  readonly best: boolean;
}

/** So many ways are looked through for a plan that is less late; more sets and days than that take are left as they fall. */
const MOST_WAYS = 50_000;

/** How late a plan is: sets without a day first, then days the latest is late, then sets that are late. */
type Lateness = readonly [homeless: number, worstDays: number, late: number];
const isLess = (a: Lateness, b: Lateness): boolean => {
  const at = a.findIndex((each, i) => each !== b[i]);
  return at >= 0 && (a[at] ?? 0) < (b[at] ?? 0);
};

function latenessWith([homeless, worst, late]: Lateness, job: DueJob, day?: BenchDay): Lateness {
  if (job.dueInDays === Infinity) return [homeless, worst, late];
  if (!day) return [homeless + 1, worst, late];
  const days = day.inDays - job.dueInDays;
  return [homeless, Math.max(worst, days), days > 0 ? late + 1 : late];
}

/**
 * Each set on the first day with room, in order of their dates: best where sets are alike (Jackson's rule). Whole sets
 * of unlike size may pack better, so where one is late all ways are looked through, those that are late already left out.
 */
function leastLate(
  jobs: readonly DueJob[],
  room: readonly Room[],
): { days: (Room | undefined)[]; best: boolean } {
  const days: (Room | undefined)[] = [];
  let least: Lateness = [0, 0, 0];
  for (const job of jobs) {
    const day = room.find(({ left }) => left >= job.blades);
    if (day) day.left -= job.blades;
    days.push(day);
    least = latenessWith(least, job, day);
  }
  if (!isLess([0, 0, 1], least)) return { days, best: true };
  for (const [i, job] of jobs.entries()) {
    const day = days[i];
    if (day) day.left += job.blades;
  }
  let found = days;
  let ways = 0;
  const trial: (Room | undefined)[] = [];
  const place = (i: number, so: Lateness): void => {
    if (!isLess(so, least) || ways > MOST_WAYS) return;
    const job = jobs[i];
    if (!job) {
      least = so;
      found = [...trial];
      return;
    }
    for (const day of [...room, undefined]) {
      ways += 1;
      if (day && day.left < job.blades) continue;
      if (day) day.left -= job.blades;
      trial[i] = day;
      place(i + 1, latenessWith(so, job, day));
      if (day) day.left += job.blades;
    }
  };
  place(0, [0, 0, 0]);
  for (const [i, job] of jobs.entries()) {
    const day = found[i];
    if (day) day.left -= job.blades;
  }
  return { days: found, best: ways <= MOST_WAYS };
}

/**
 * Sets onto bench days: soonest due first, each whole on the earliest day with room. Earliest due date first keeps
 * the worst lateness least on one machine (Jackson 1955, from memory), as long as no set is larger than a day. Then,
 * from the last one back, each that is early moves to the latest day with room that is not late: an edge with hours
 * left in it is not ground away.
 * Errors: `capacity` negative.
 * @example planBench([{ id: 'a', blades: 3, dueInDays: 5 }, { id: 'b', blades: 3, dueInDays: 1 }], [{ inDays: 0, capacity: 6 }, { inDays: 2, capacity: 3 }]).jobs.map(({ id, inDays }) => [id, inDays]) // [['b', 0], ['a', 2]]
 */
export function planBench(jobs: readonly DueJob[], days: readonly BenchDay[]): BenchPlan {
  const room = days.map((day) => ({ ...day, left: notNegative('capacity', day.capacity) }));
  const sorted = [...jobs].sort((a, b) => a.dueInDays - b.dueInDays);
  const { days: on, best } = leastLate(sorted, room);
  const placed = sorted.map((job, i) => ({ job, day: on[i] }));
  for (const each of [...placed].reverse()) {
    const { job, day } = each;
    if (!day) continue;
    const later = room.findLast(
      ({ inDays, left }) => inDays > day.inDays && inDays <= job.dueInDays && left >= job.blades,
    );
    if (!later || job.dueInDays === Infinity) continue;
    day.left += job.blades;
    later.left -= job.blades;
    each.day = later;
  }
  return {
    best,
    jobs: placed.map(({ job, day }) =>
      day
        ? { ...job, inDays: day.inDays, late: day.inDays > job.dueInDays }
        : { ...job, late: job.dueInDays < Infinity },
    ),
  };
}
