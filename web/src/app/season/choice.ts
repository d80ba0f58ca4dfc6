import {
  listed,
  weekdayIn,
  type Season,
  type SeasonCost,
  type SeasonDifference,
  type SeasonSummary,
} from '@tally-stone/core';
import { capital } from '../data/capital';
import type { SeasonFigures } from './season-rows';

/** What one column of the comparison changes against the shop as it stands. */
export interface Choice {
  readonly id: number;
  /** More sets (or fewer) for the mowers it is for. */
  readonly moreSets: number;
  /** For which: every mower, those with so many spindles, or one by its key. */
  readonly forWhich: string;
  readonly benchWeekdays: readonly number[];
  readonly benchBlades: number;
  /** Against the shop's own figures, in per cent. */
  readonly edgeLifePercent: number;
  readonly strikesPercent: number;
}

export const EVERY_MOWER = 'all';
export const withSpindles = (count: number): string => `spindles ${count}`;

const isFor = (mower: Season['mowers'][number], which: string): boolean =>
  which === EVERY_MOWER || which === mower.key || which === withSpindles(mower.spindles);

/** The shop under a choice. Nobody has less than one set. */
export const seasonUnder = (base: Season, choice: Choice): Season => ({
  ...base,
  benchWeekdays: choice.benchWeekdays,
  benchBlades: choice.benchBlades,
  strikesPer1000H: (base.strikesPer1000H * choice.strikesPercent) / 100,
  mowers: base.mowers.map((mower) => ({
    ...mower,
    sets: isFor(mower, choice.forWhich) ? Math.max(1, mower.sets + choice.moreSets) : mower.sets,
    edgeLifeH: (mower.edgeLifeH * choice.edgeLifePercent) / 100,
    ...(mower.changedAfterH === undefined
      ? {}
      : { changedAfterH: (mower.changedAfterH * choice.edgeLifePercent) / 100 }),
  })),
});

export const asItStands = (base: Season, id = 0): Choice => ({
  id,
  moreSets: 0,
  forWhich: EVERY_MOWER,
  benchWeekdays: base.benchWeekdays,
  benchBlades: base.benchBlades,
  edgeLifePercent: 100,
  strikesPercent: 100,
});

const NEXT_SET = [
  $localize`a first`,
  $localize`a second`,
  $localize`a third`,
  $localize`a fourth`,
  $localize`a fifth`,
  $localize`a sixth`,
];
const DECKS: Readonly<Record<number, string>> = {
  1: $localize`single-spindle`,
  2: $localize`two-spindle`,
  3: $localize`three-spindle`,
  4: $localize`four-spindle`,
  5: $localize`five-spindle`,
};
/** For whom, in words: `the three-spindle decks`. */
export function whoseWords(base: Season, which: string): string {
  if (which === EVERY_MOWER) return $localize`every mower`;
  const mower = base.mowers.find(({ key }) => key === which);
  if (mower) return mower.name;
  const count = Number(which.replace('spindles ', ''));
  return $localize`the ${DECKS[count] ?? $localize`${count}-spindle`} decks`;
}

function setWords(base: Season, { moreSets, forWhich }: Choice): string {
  const mine = base.mowers.filter((mower) => isFor(mower, forWhich)).map(({ sets }) => sets);
  const alike = new Set(mine).size === 1;
  const whose = whoseWords(base, forWhich);
  if (moreSets < 0) {
    return $localize`${Math.abs(moreSets)} ${moreSets === -1 ? $localize`set` : $localize`sets`} fewer for ${whose}`;
  }
  const next = NEXT_SET[mine[0] ?? 0];
  return moreSets === 1 && alike && next
    ? $localize`${next} set for ${whose}`
    : $localize`${moreSets} more ${moreSets === 1 ? $localize`set` : $localize`sets`} for ${whose}`;
}

/** What a choice does, in words; nothing where it changes nothing. */
export function choiceWords(base: Season, choice: Choice): string {
  const days = choice.benchWeekdays.filter((day) => !base.benchWeekdays.includes(day));
  const gone = base.benchWeekdays.filter((day) => !choice.benchWeekdays.includes(day));
  const named = (list: readonly number[]): string => listed(list.map(weekdayIn));
  const percent = (value: number, what: string): string[] =>
    value === 100
      ? []
      : [`${Math.abs(value - 100)} % ${value > 100 ? $localize`more` : $localize`fewer`} ${what}`];
  return listed([
    ...(choice.moreSets === 0 ? [] : [setWords(base, choice)]),
    ...(days.length > 0 ? [$localize`the bench on ${named(days)} too`] : []),
    ...(gone.length > 0 ? [$localize`no bench on ${named(gone)}`] : []),
    ...(choice.benchBlades === base.benchBlades
      ? []
      : [$localize`${choice.benchBlades} blades a bench day instead of ${base.benchBlades}`]),
    ...percent(choice.edgeLifePercent, $localize`hours out of an edge`),
    ...percent(choice.strikesPercent, $localize`strikes`),
  ]);
}

export interface Compared {
  readonly choice: Choice;
  readonly summary: SeasonSummary;
  readonly cost: SeasonCost;
  /** Against the shop as it stands, season by season. */
  readonly apart: SeasonDifference;
}

/** Most sets are changed well after their edges are gone. */
const leftOn = ({ mowers }: Season): boolean =>
  mowers.filter(({ edgeLifeH, changedAfterH = edgeLifeH }) => changedAfterH > 1.1 * edgeLifeH)
    .length >
  mowers.length / 2;

/** The answer before the figures: what the best choice does to the hours mown dull, and to the money. */
export function answerWords(
  base: Season,
  compared: readonly Compared[],
  figures: Pick<SeasonFigures, 'money' | 'percent'>,
): string {
  const [now, ...others] = compared;
  if (!now) return '';
  const dull = figures.percent(now.summary.dullShare.mean);
  if (others.length === 0) {
    return $localize`As the shop stands, ${dull} of the hours are mown dull`;
  }
  const dullOf = ({ summary }: Compared): string => figures.percent(summary.dullShare.mean);
  const best = others.reduce((a, b) => {
    const alike = dullOf(a) === dullOf(b);
    const better = alike
      ? b.cost.total < a.cost.total
      : b.summary.dullShare.mean < a.summary.dullShare.mean;
    return better ? b : a;
  });
  const words = capital(choiceWords(base, best.choice) || $localize`the same again`);
  const saved = Math.round(now.cost.total - best.cost.total);
  const apart = figures.money(Math.abs(saved));
  if (dullOf(best) === dull) {
    // Nothing to choose by but the money.
    if (saved > 0)
      return $localize`${words} keeps dull hours at ${dull}, and a season costs ${apart} less`;
    const why = leftOn(base)
      ? $localize`Sets stay on longer than their edges last, so ${dull} of the hours are mown dull`
      : $localize`As it stands is best: ${dull} of the hours are mown dull`;
    return $localize`${why}; ${words.charAt(0).toLowerCase()}${words.slice(1)} changes nothing of that${saved < 0 ? $localize` and costs ${apart} more a season` : ''}`;
  }
  const less = best.summary.dullShare.mean < now.summary.dullShare.mean;
  const does = less
    ? $localize`takes dull hours from ${dull} to ${dullOf(best)}`
    : $localize`does not help: dull hours go from ${dull} to ${dullOf(best)}`;
  const often =
    less && best.apart.dullShare.high > 0 ? $localize`, though not in every season` : '';
  return `${words} ${does}${often}, ${
    saved >= 0 ? $localize`and a season costs ${apart} less` : $localize`for ${apart} more a season`
  }`;
}
