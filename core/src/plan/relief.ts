import { ENDS, type End } from '../blade/shape.js';
import { planRows, type PlanInput } from './problem.js';
import { searchPasses } from './search.js';

/** What an impossible plan may give on, and by how little. Never on width or safety. */

/**
 * Is there a plan at all?
 * @example isPossible(plan) // true
 */
export const isPossible = (input: PlanInput): boolean =>
  searchPasses(input, planRows(input)).passes !== undefined;

/** The least of something that makes a plan possible, to `within`; nothing where it is anyway, or where `most` does not. */
function leastThat(
  possible: (value: number) => boolean,
  from: number,
  most: number,
  within: number,
): number | undefined {
  if (possible(from) || !possible(most)) return undefined;
  let [low, high] = [from, most];
  while (high - low > within) {
    const middle = (low + high) / 2;
    if (possible(middle)) high = middle;
    else low = middle;
  }
  return high;
}

/** More unbalance than any grind of a blade leaves, g·mm. */
const ANY_BALANCE_GMM = 100_000;
const BALANCE_WITHIN_GMM = 0.05;
/** A step in the edge of more than this is no edge any more, mm. */
const WIDEST_STEP_MM = 10;
const STEP_WITHIN_MM = 0.01;
const NICK_WITHIN_MM = 0.01;
const MOST_ROOM_MM = 20;
const ROOM_WITHIN_MM = 0.01;

/**
 * The plan's question with some nicks left as they are.
 * @example leaving({ ...plan, nicks: [{ id: 'n', end: 'A', radiusMm: 235, lengthMm: 6, depthMm: 1, recessMm: 1 }] }, ['n']).nicks[0].recessMm // 0
 */
export const leaving = (input: PlanInput, ids: readonly string[]): PlanInput => ({
  ...input,
  nicks: input.nicks.map((nick) => (ids.includes(nick.id) ? { ...nick, recessMm: 0 } : nick)),
});

/**
 * The plan's question with another unbalance allowed, g·mm; as it is where none was read.
 * @example allowing({ ...plan, balance: { unbalanceGmm: 1, uGmm: 1, permissibleGmm: 100 } }, 250).balance.permissibleGmm // 250
 */
export const allowing = (input: PlanInput, permissibleGmm: number): PlanInput => ({
  ...input,
  balance: input.balance && { ...input.balance, permissibleGmm },
});

/**
 * The plan's question with a step in the edge, so much larger than it may be, mm.
 * @example stepping(plan, 0.4).rules.stepMm // 0.4
 */
export const stepping = (input: PlanInput, extraMm: number = WIDEST_STEP_MM): PlanInput => ({
  ...input,
  rules: { ...input.rules, stepMm: (input.rules.stepMm ?? 0) + extraMm },
});

/**
 * The unbalance that has to be allowed for a plan, g·mm, all else as it is; nothing where that does not help.
 * @example nearestBalanceGmm(plan) // undefined
 */
export const nearestBalanceGmm = (input: PlanInput): number | undefined =>
  input.balance &&
  leastThat(
    (gmm) => isPossible(allowing(input, gmm)),
    input.balance.permissibleGmm,
    ANY_BALANCE_GMM,
    BALANCE_WITHIN_GMM,
  );

/**
 * The step in the edge that has to be taken into the bargain, mm; nothing where that does not help.
 * @example leastStepMm(plan) // undefined
 */
export const leastStepMm = (input: PlanInput): number | undefined =>
  leastThat((mm) => isPossible(stepping(input, mm)), 0, WIDEST_STEP_MM, STEP_WITHIN_MM);

/**
 * By how much too deep one nick is, mm, all else as it is; nothing where leaving it does not help.
 * @example nickTooDeepMm(plan, 'n') // undefined
 */
export function nickTooDeepMm(input: PlanInput, id: string): number | undefined {
  const asked = input.nicks.find((nick) => nick.id === id)?.recessMm ?? 0;
  return leastThat(
    (mm) =>
      isPossible({
        ...input,
        nicks: input.nicks.map((nick) =>
          nick.id === id ? { ...nick, recessMm: Math.max(0, asked - mm) } : nick,
        ),
      }),
    0,
    asked,
    NICK_WITHIN_MM,
  );
}

/**
 * How much more room one end would need for a plan, mm, however much the other has: said, never given. Nothing where its
 * own room is enough.
 * @example roomMissingMm(plan, 'A') // undefined
 */
export function roomMissingMm(input: PlanInput, end: End): number | undefined {
  const roomier = (mm: number): PlanInput => {
    const stations = Object.fromEntries(
      ENDS.map((each) => [
        each,
        input.stations[each].map((station) => ({
          ...station,
          roomMm: Math.max(0, station.roomMm) + (each === end ? mm : MOST_ROOM_MM),
        })),
      ]),
    ) as unknown as PlanInput['stations'];
    return { ...input, stations };
  };
  return leastThat((mm) => isPossible(roomier(mm)), 0, MOST_ROOM_MM, ROOM_WITHIN_MM);
}
