import { said } from '../units/said.js';
import { ENDS, type End } from '../blade/shape.js';
import { simulatePasses } from './forward.js';
import { planRows, type PlanInput } from './problem.js';
import {
  allowing,
  isPossible,
  leastStepMm,
  leaving,
  nearestBalanceGmm,
  nickTooDeepMm,
  roomMissingMm,
  stepping,
} from './relief.js';
import { searchPasses } from './search.js';
import { straightnesses } from './straightness.js';

/** One thing that is in the way of a plan. */
export interface Obstacle {
  readonly about: 'floor' | 'straightness' | 'balance';
  readonly end?: End | undefined;
  readonly radiusMm?: number | undefined;
  readonly nickId?: string | undefined;
  /** How much is missing: mm of recession or of step, g·mm of unbalance. */
  readonly short: number;
  readonly words: string;
}

const asked = ({ nicks }: PlanInput): string[] =>
  nicks.filter(({ recessMm }) => recessMm > 0).map(({ id }) => id);

const inward = (input: PlanInput, radiusMm: number): string =>
  said(input.tipRadiusMm - radiusMm, 'mm', 0);

function nickObstacles(input: PlanInput): Obstacle[] {
  return asked(input).flatMap((id) => {
    const short = nickTooDeepMm(input, id);
    const nick = input.nicks.find((each) => each.id === id);
    if (short === undefined || !nick) return [];
    const { end, radiusMm } = nick;
    const words = $localize`End ${end}, ${inward(input, radiusMm)} from the tip: the nick needs ${said(short, 'mm', 2)} more than the width limit and the edge's shape leave`;
    return [{ about: 'floor' as const, end, radiusMm, nickId: id, short, words }];
  });
}

/** Nicks of which leaving any single one is not enough: left deepest first, until there is a plan. */
function nicksTogether(input: PlanInput): Obstacle[] {
  const deepestFirst = input.nicks
    .filter(({ recessMm }) => recessMm > 0)
    .sort((a, b) => b.recessMm - a.recessMm);
  const left: string[] = [];
  for (const { id } of deepestFirst) {
    left.push(id);
    if (isPossible(leaving(input, left)))
      // Each as it stands when the others are left: the last one by how much it is too deep, whatever the first are.
      return left.flatMap((one) =>
        nickObstacles(
          leaving(
            input,
            left.filter((other) => other !== one),
          ),
        ).filter(({ nickId }) => nickId === one),
      );
  }
  return [];
}

/** What sharpening alone needs past the width limit of each end, whatever the balance and the shape. */
function sharpeningObstacles(input: PlanInput): Obstacle[] {
  const free = stepping(allowing(leaving(input, asked(input)), Number.MAX_SAFE_INTEGER));
  return ENDS.flatMap((end) => {
    const short = roomMissingMm(free, end);
    if (short === undefined) return [];
    const tight = input.stations[end].reduce((a, b) => (b.roomMm < a.roomMm ? b : a));
    const words = $localize`End ${end}, ${inward(input, tight.radiusMm)} from the tip: sharpening needs ${said(short, 'mm', 2)} more than the width limit leaves`;
    return [{ about: 'floor' as const, end, radiusMm: tight.radiusMm, short, words }];
  });
}

function balanceObstacle(input: PlanInput): Obstacle[] {
  const nearest = nearestBalanceGmm(input);
  if (nearest === undefined || !input.balance) return [];
  const short = nearest - input.balance.permissibleGmm;
  const words = $localize`${said(short, 'g·mm', 0)} stay above the permissible unbalance`;
  return [{ about: 'balance', short, words }];
}

/** Where the edge bends more than it may in the plan that bends it least. */
function shapeObstacle(input: PlanInput): Obstacle[] {
  const short = leastStepMm(input);
  if (short === undefined) return [];
  const bent = stepping(input, short);
  const rows = planRows(bent);
  const { passes } = searchPasses(bent, rows);
  if (!passes) return [];
  const back = simulatePasses(bent, rows, passes).stations.map(
    ({ recessionMm }, i) => recessionMm + (rows[i]?.station.wornMm ?? 0),
  );
  const over = straightnesses(input, rows)
    .map((link) => {
      const step = (back[link.outer] ?? 0) - (back[link.inner] ?? 0);
      return { ...link, over: (link.oneSided ? step : Math.abs(step)) - link.mostMm };
    })
    .reduce((a, b) => (b.over > a.over ? b : a));
  const { end, inner, oneSided } = over;
  const what = oneSided ? $localize`the tip would fall back` : $localize`the edge would step`;
  const words = $localize`End ${end}:ph0:: ${what} by ${said(short, 'mm', 2)} more than it may`;
  return [{ about: 'straightness', end, radiusMm: rows[inner]?.station.radiusMm, short, words }];
}

const single = (input: PlanInput): Obstacle[] => [
  ...nickObstacles(input),
  ...balanceObstacle(input),
  ...shapeObstacle(input),
];

/**
 * What is in the way of a plan: each demand that, given on by itself, would let one through, and by how much. Where no
 * single one does, the nicks that are too deep together; where it is not nicks alone, what would once all nicks were left, and the nicks with it; where none does either, the balance of an
 * edge that may take any shape; what is left then is that sharpening itself passes the width limit.
 * @example obstaclesOf({ ...plan, stations: { A: stations.map((each) => ({ ...each, roomMm: 0 })), B: stations } })[0].about // 'floor'
 */
export function obstaclesOf(input: PlanInput): Obstacle[] {
  const alone = single(input);
  if (alone.length > 0) return alone;
  const together = nicksTogether(input);
  if (together.length > 0) return together;
  const nicks = asked(input);
  const clean = leaving(input, nicks);
  const besides = nicks.length > 0 ? single(clean) : [];
  if (besides.length > 0) {
    const free = stepping(allowing(input, Number.MAX_SAFE_INTEGER));
    return [...nickObstacles(free), ...besides];
  }
  const bent = balanceObstacle(stepping(clean));
  return bent.length > 0 ? bent : sharpeningObstacles(input);
}
