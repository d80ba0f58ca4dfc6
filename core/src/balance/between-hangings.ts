import { rss, agreementEn, type Measured } from '../reading/uncertainty.js';

/** Moments of the metal taken from each end about the hole, g·mm, in the order it was taken. */
export interface TakenFromEnds {
  readonly A: readonly Measured[];
  readonly B: readonly Measured[];
}

const sum = (values: readonly number[]): number =>
  values.reduce((total, value) => total + value, 0);

/**
 * What a blade should be out by now, g·mm, heavy at A above zero: what it was before, less what was taken from A, more
 * what was taken from B. What is wrong with a tool's grams is wrong the same way at all places of an end, so one end's
 * doubts add up; the two ends' doubts and the hanging's own are taken as apart from each other.
 * @example expectedAfterTaking({ value: 500, u: 30 }, { A: [{ value: 400, u: 40 }], B: [] }) // { value: 100, u: 50 }
 */
export function expectedAfterTaking(before: Measured, taken: TakenFromEnds): Measured {
  const [a, b] = [taken.A, taken.B].map((moments) => ({
    value: sum(moments.map(({ value }) => value)),
    u: sum(moments.map(({ u }) => u)),
  })) as [Measured, Measured];
  return { value: before.value - a.value + b.value, u: rss(before.u, a.u, b.u) };
}

/**
 * Does a hanging fit the one before it and the metal taken between them (E_n ≤ 1, ISO 13528)? Where it does not, one of
 * the two is wrong or a pass was not counted; which, only a third hanging can tell. A clock stopped at hanging where
 * the mark was 30° below level makes a blade look three times better balanced than it is.
 * @example hangingsAgree({ value: 100, u: 40 }, { value: 130, u: 30 }) // true
 */
export const hangingsAgree = (expected: Measured, found: Measured): boolean =>
  rss(expected.u, found.u) === 0
    ? expected.value === found.value
    : agreementEn(expected, found) <= 1;
