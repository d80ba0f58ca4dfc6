import { ENDS, type End } from '../blade/shape.js';
import { positive } from '../errors.js';
import { areaOfPasses, simulatePasses, type Forward, type Passes } from './forward.js';
import {
  countsAllowed,
  planRows,
  zoneRadiusMm,
  type PlanInput,
  type PlanNick,
  type Row,
} from './problem.js';
import { obstaclesOf, type Obstacle } from './obstacles.js';
import { searchPasses } from './search.js';
import { straightnesses } from './straightness.js';

export interface GrindPlan {
  readonly kind: 'plan';
  /** Passes by end and zone, zones in the order they were given. */
  readonly passes: Passes;
  readonly forward: Forward;
  /** Light end first, only as far as sharp needs; the rest goes to the heavy end. */
  readonly order: readonly End[];
  /** The uncertainty held back is wider than the allowance: said, not failed. */
  readonly uncertaintyExceedsAllowance: boolean;
  /** Nicks that ask for something to come off where no zone reaches: the plan leaves them. */
  readonly outOfReach: readonly string[];
  /** No plan costs less by more than this, g: 0 where it is proven the cheapest. */
  readonly gapG: number;
}

export interface NoPlan {
  readonly kind: 'no-plan';
  readonly obstacles: readonly Obstacle[];
  /** The lightest step is wider than the allowance: the tool is too coarse for this grade. */
  readonly toolTooCoarse: boolean;
}

/** Is even the lightest step wider than the whole allowance? */
function tooCoarse(input: PlanInput): boolean {
  if (!input.balance) return false;
  const steps = input.zones
    .filter(({ made }) => !made)
    .map((zone) => zone.gramsPerPass * zoneRadiusMm(zone, input.tipRadiusMm));
  return Math.min(...steps) > 2 * input.balance.permissibleGmm;
}

/** What the exact shape misses of the straightness it should keep, by name, mm. */
function crooked(
  input: PlanInput,
  rows: readonly Row[],
  recessionMm: readonly number[],
): Record<string, number> {
  const back = (i: number): number => (rows[i]?.station.wornMm ?? 0) + (recessionMm[i] ?? 0);
  return Object.fromEntries(
    straightnesses(input, rows).flatMap(({ name, outer, inner, mostMm, oneSided }) => {
      const step = back(outer) - back(inner);
      const over = (oneSided ? step : Math.abs(step)) - mostMm;
      return over > CROOKED_MM ? [[name, over] as const] : [];
    }),
  );
}

/** Finer than any caliper, wider than the solver's tolerance. */
const CROOKED_MM = 1e-5;
/** Neither a plan nor the proof that there is none. */
const CUT_OFF: Obstacle = {
  about: 'floor',
  short: 0,
  get words() {
    return $localize`The search was cut off before it found a plan: there may be one. Try it with fewer zones`;
  },
};

/** Nicks at which no pass of any zone takes its metal. */
const outOfReach = ({ nicks }: PlanInput, rows: readonly Row[]): string[] =>
  nicks.flatMap(({ id, end, radiusMm, lengthMm, recessMm }) => {
    const isThere = ({ station }: Row): boolean =>
      Math.abs(station.radiusMm - radiusMm) <= lengthMm / 2 + 1e-9;
    const isMet = rows.some(
      (row) => row.end === end && isThere(row) && row.perPassMm2.some((each) => each > 0),
    );
    return recessMm > 0 && !isMet ? [id] : [];
  });

/**
 * The grind plan: whole passes by end and zone that sharpen, meet the nick policy and the balance inside
 * the width limits, with least metal + λ·(largest share of remaining wear used), then fewest passes and zone
 * changes: searched exactly ({@link searchPasses}). Where there is none, says what is in the way.
 *
 * Errors: the field of the input that is wrong.
 * @example planGrind(plan).passes // { A: [4], B: [4] }
 */
export function planGrind(input: PlanInput): GrindPlan | NoPlan {
  const rows = planRows(input);
  const { passes, gapG, proven } = searchPasses(input, rows);
  if (!passes) {
    return {
      kind: 'no-plan',
      obstacles: proven ? obstaclesOf(input) : [CUT_OFF],
      toolTooCoarse: tooCoarse(input),
    };
  }
  const heavyA = input.balance ? input.balance.unbalanceGmm > 0 : input.heavyEnd === 'A';
  return {
    kind: 'plan',
    passes,
    forward: simulatePasses(input, rows, passes),
    order: heavyA ? ['B', 'A'] : ['A', 'B'],
    gapG,
    outOfReach: outOfReach(input, rows),
    uncertaintyExceedsAllowance:
      input.balance !== undefined && 2 * input.balance.uGmm > input.balance.permissibleGmm,
  };
}

/**
 * Does a plan's own simulation keep every promise? The names of those it breaks.
 * @example brokenPromises(plan, planGrind(plan).passes) // []
 */
export function brokenPromises(input: PlanInput, passes: Passes): string[] {
  const rows = planRows(input);
  const forward = simulatePasses(input, rows, passes);
  const broken = rows.flatMap((row) => {
    const area = areaOfPasses(row, passes[row.end]);
    return [
      ...(area < row.floorMm2 - 1e-6 ? [`floor ${row.end} ${row.station.radiusMm}`] : []),
      ...(area > row.ceilingMm2 + 1e-6 ? [`ceiling ${row.end} ${row.station.radiusMm}`] : []),
    ];
  });
  const miscounted = input.zones.flatMap((zone, z) =>
    ENDS.flatMap((end) => {
      const { least, most } = countsAllowed(input, zone, end);
      const count = passes[end][z] ?? 0;
      return count < least || count > most ? [`passes ${end} ${zone.tool ?? ''} ${zone.key}`] : [];
    }),
  );
  const bent = crooked(
    input,
    rows,
    forward.stations.map(({ recessionMm }) => recessionMm),
  );
  const { balance } = input;
  const left = Math.hypot(forward.unbalanceGmm ?? 0, forward.acrossGmm ?? 0);
  return [
    ...broken,
    ...miscounted,
    ...Object.keys(bent).map((name) => `straightness ${name}`),
    ...(balance && left > balance.permissibleGmm + 1e-6 ? ['balance'] : []),
  ];
}

/**
 * How many more grinds the edge has after a plan, at what this blade loses per grind; nothing where that is not known.
 * @example grindsAfter(plan, simulatePasses(plan, planRows(plan), { A: [4], B: [4] })) // undefined
 */
export function grindsAfter(
  { recessionPerGrindMm }: Pick<PlanInput, 'recessionPerGrindMm'>,
  forward: Forward,
): number | undefined {
  if (recessionPerGrindMm === undefined) return undefined;
  const least = Math.min(...forward.stations.map(({ roomLeftMm }) => roomLeftMm));
  return Math.max(0, least) / positive('recessionPerGrindMm', recessionPerGrindMm);
}

export interface NickCost {
  readonly id: string;
  /** Grams more (or less) than the current plan with this nick's switch turned, the others as they are. */
  readonly metalG: number;
  /** Same in mm at the worst station. */
  readonly recessionMm: number;
  /** Grinds of life it costs (negative: gives), at what the blade loses per grind; where that is known. */
  readonly grinds?: number | undefined;
  /** No plan with the switch turned. */
  readonly impossible: boolean;
}

/**
 * What turning one nick's switch costs against the plan as it is; costs do not add up.
 * @example nickCost({ ...plan, nicks: [{ id: 'n', end: 'A', radiusMm: 235, lengthMm: 6, depthMm: 1, recessMm: 0 }] }, planGrind(plan), { id: 'n', end: 'A', radiusMm: 235, lengthMm: 6, depthMm: 1, recessMm: 0 }, 1).metalG > 2 // true
 */
export function nickCost(
  input: PlanInput,
  plan: GrindPlan,
  nick: PlanNick,
  turnedRecessMm: number,
): NickCost {
  const turned = planGrind({
    ...input,
    nicks: input.nicks.map((each) =>
      each.id === nick.id ? { ...each, recessMm: turnedRecessMm } : each,
    ),
  });
  if (turned.kind === 'no-plan')
    return { id: nick.id, metalG: 0, recessionMm: 0, impossible: true };
  const worst = (forward: Forward): number =>
    Math.max(...forward.stations.map(({ recessionMm }) => recessionMm));
  const now = grindsAfter(input, plan.forward);
  const then = grindsAfter(input, turned.forward);
  return {
    id: nick.id,
    metalG: turned.forward.metalG - plan.forward.metalG,
    recessionMm: worst(turned.forward) - worst(plan.forward),
    grinds: now === undefined || then === undefined ? undefined : now - then,
    impossible: false,
  };
}
