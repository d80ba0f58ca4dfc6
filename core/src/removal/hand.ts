import { notNegative, positive } from '../errors.js';
import type { Measured } from '../reading/uncertainty.js';
import {
  byHand,
  learnZones,
  USUAL_LEARNING,
  type LearnedZones,
  type ZoneGrind,
  type ZonePrior,
} from './zones.js';

/** A grind and whose hand it was, where that is known. */
export interface HandGrind extends ZoneGrind {
  readonly by?: string | undefined;
}

/** How hands differ, and how many grinds tell one. Common practice, no source. */
export const USUAL_HANDS = { spread: 0.15, enough: 8 } as const;

/** How one technician's pass compares with the tool's usual one. */
export interface Hand {
  /** Ratio to the tool's g/pass: 1.1 presses harder, or moves slower, than the rest. */
  readonly factor: Measured;
  readonly grinds: number;
  /** Enough grinds of this hand, and of others, to tell it from the tool. */
  readonly known: boolean;
}

/**
 * A technician's hand on a tool: the mean of ln(removed/foretold) over this hand's grinds, each foretold from
 * the grinds before it, drawn toward no difference by the usual spread of hands (normal prior and normal
 * scatter in the logarithm, standard). Too few grinds, or nobody else on the tool to differ from: factor 1.
 *
 * Shapes: `grinds` of one tool, oldest first; `by` the technician asked about. Errors: as {@link learnZones}.
 * Example: without grinds the factor is 1, as unsure as hands differ.
 * @example learnHand('ash', [], [{ key: 'full', gramsPerPass: 0.6 }]) // { factor: { value: 1, u: 0.15 }, grinds: 0, known: false }
 */
export function learnHand(
  by: string,
  grinds: readonly HandGrind[],
  priors: readonly ZonePrior[],
  hands: { readonly spread: number; readonly enough: number } = USUAL_HANDS,
): Hand {
  const spread = positive('spread', hands.spread);
  notNegative('enough', hands.enough);
  const { foretold } = learnZones(grinds, priors);
  let weight = 1 / spread ** 2;
  let sum = 0;
  let own = 0;
  let others = 0;
  grinds.forEach((grind, i) => {
    const predicted = foretold[i];
    if (!predicted || !(predicted.value > 0) || grind.by === undefined) return;
    if (grind.by !== by) {
      others += 1;
      return;
    }
    own += 1;
    const precision = 1 / Math.max(USUAL_LEARNING.scatter, predicted.u / predicted.value) ** 2;
    weight += precision;
    sum += precision * Math.log(grind.removedG / predicted.value);
  });
  const known = own >= hands.enough && others >= hands.enough;
  if (!known) return { factor: { value: 1, u: spread }, grinds: own, known };
  const value = Math.exp(sum / weight);
  return { factor: { value, u: value / Math.sqrt(weight) }, grinds: own, known };
}

/**
 * What the tool takes in this hand. An unknown hand changes nothing.
 * @example inHand(learnZones([], [full]), { factor: { value: 1.2, u: 0 }, grinds: 9, known: true }).perZone.full.value // 0.72
 */
export function inHand(learned: LearnedZones, { factor, known }: Hand): LearnedZones {
  if (!known) return learned;
  return {
    ...learned,
    perZone: Object.fromEntries(
      Object.entries(learned.perZone).map(([key, each]) => [key, byHand(each, factor)]),
    ),
    handFactor: factor,
  };
}
