import { DAY_MS } from '../units/day.js';
/** What is looked at while a mower's blades are off, the one moment when somebody looks. */
export const UPKEEP = ['deck', 'belt', 'spindles', 'grease', 'air-filter'] as const;
export type Upkeep = (typeof UPKEEP)[number];

/** How often: at every change of the set, after days, or after hours on the meter. */
type Every = 'set' | { readonly days: number } | { readonly hours: number };

/** Common practice, no source; where the maker's manual says otherwise it comes first. */
const EVERY: Readonly<Record<Upkeep, Every>> = {
  deck: 'set',
  belt: 'set',
  spindles: 'set',
  grease: { hours: 25 },
  'air-filter': { days: 7 },
};

/** A moment in a mower's life. */
export interface MowerMoment {
  readonly at: Date;
  readonly hoursH: number;
}

/**
 * Whether something is due to be looked at again: never looked at, its days or hours gone by, or, what is looked at with
 * every set, not since this set went on.
 * @example upkeepDue('grease', { at: new Date(0), hoursH: 100 }, { at: new Date(0), hoursH: 124 }) // false
 */
export function upkeepDue(
  what: Upkeep,
  last: MowerMoment | undefined,
  now: MowerMoment,
  setOnSince?: Date,
): boolean {
  if (!last) return true;
  const every = EVERY[what];
  if (every === 'set') return setOnSince !== undefined && last.at < setOnSince;
  return 'days' in every
    ? now.at.getTime() - last.at.getTime() >= every.days * DAY_MS
    : now.hoursH - last.hoursH >= every.hours;
}

/**
 * What there is to look at on a mower: a battery one breathes through no filter.
 * @example upkeepOf('battery').length // 4
 */
export const upkeepOf = (energy: 'petrol' | 'diesel' | 'battery'): readonly Upkeep[] =>
  UPKEEP.filter((what) => what !== 'air-filter' || energy !== 'battery');
