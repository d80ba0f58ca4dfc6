import { ENDS, type End } from '../blade/shape.js';
import { BenchError } from '../errors.js';
import { lifeLeft } from '../life/forecast.js';
import { areaOfPasses, simulatePasses, type Forward, type Passes } from './forward.js';
import { planRows, zoneRadiusMm, type PlanInput, type PlanNick, type Row } from './problem.js';
import { programText, straightnesses, type SolveProgram, type SolverAnswer } from './program.js';
import { searchPasses } from './search.js';

export interface GrindPlan {
  readonly kind: 'plan';
  /** Passes by end and zone, zones in the order they were given. */
  readonly passes: Passes;
  readonly forward: Forward;
  /** Light end first, only as far as sharp needs; the rest goes to the heavy end. */
  readonly order: readonly End[];
  /** The uncertainty held back is wider than the allowance: said, not failed. */
  readonly uncertaintyExceedsAllowance: boolean;
  /** No plan costs less by more than this, g: 0 where it is proven the cheapest. */
  readonly gapG: number;
}

/** One thing that is in the way of a plan. */
export interface Obstacle {
  readonly about: 'floor' | 'straightness' | 'balance';
  readonly end?: End | undefined;
  readonly radiusMm?: number | undefined;
  readonly nickId?: string | undefined;
  /** How much is missing: mm² of area, mm of slope, g·mm of unbalance. */
  readonly short: number;
  readonly words: string;
}

export interface NoPlan {
  readonly kind: 'no-plan';
  readonly obstacles: readonly Obstacle[];
  /** The lightest step is wider than the allowance: the tool is too coarse for this grade. */
  readonly toolTooCoarse: boolean;
}

/** Only these two are answers; a text the solver cannot parse comes back as "Empty", without a throw. */
function answerOf(solve: SolveProgram, text: string): SolverAnswer | undefined {
  const answer = solve(text);
  if (answer.status === 'Optimal') return answer;
  if (answer.status === 'Infeasible') return undefined;
  throw new BenchError('solver', `answered "${answer.status}", which is no answer`);
}

function explain(input: PlanInput, rows: readonly Row[], answer: SolverAnswer): Obstacle[] {
  const value = (name: string): number => answer.values[name] ?? 0;
  const floors = rows.flatMap((row, i): Obstacle[] => {
    const short = value(`f_${i}`);
    if (short < 1e-6) return [];
    const mm = short / input.thicknessMm;
    const inward = (input.tipRadiusMm - row.station.radiusMm).toFixed(0);
    return [
      {
        about: 'floor',
        end: row.end,
        radiusMm: row.station.radiusMm,
        nickId: row.nickId,
        short,
        words: `End ${row.end}, ${inward} mm from the tip: ${row.nickId ? 'the nick' : 'sharpening'} needs ${mm.toFixed(2)} mm more than the width limit and the edge's shape leave`,
      },
    ];
  });
  const slopes = straightnesses(input, rows).flatMap(
    ({ name, end, inner, oneSided }): Obstacle[] => {
      const short = value(name);
      const what = oneSided ? 'the tip would fall back' : 'the edge would step';
      return short < 1e-6
        ? []
        : [
            {
              about: 'straightness',
              end,
              radiusMm: rows[inner]?.station.radiusMm,
              short,
              words: `End ${end}: ${what} by ${short.toFixed(2)} mm more than it may`,
            },
          ];
    },
  );
  const unbalance = value('bal');
  return [
    ...floors,
    ...slopes,
    ...(unbalance > 1e-6
      ? [
          {
            about: 'balance' as const,
            short: unbalance,
            words: `${unbalance.toFixed(0)} g·mm stay above the permissible unbalance`,
          },
        ]
      : []),
  ];
}

/** Is even the lightest step wider than the whole allowance? */
function tooCoarse(input: PlanInput): boolean {
  if (!input.balance) return false;
  const steps = input.zones.map(
    (zone) => zone.gramsPerPass * zoneRadiusMm(zone, input.tipRadiusMm),
  );
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
/**
 * The grind plan: whole passes by end and zone that sharpen, meet the nick policy and the balance inside
 * the width limits, with least metal + λ·(largest share of remaining wear used), then fewest passes and zone
 * changes: searched exactly ({@link searchPasses}). Where there is none, says what is in the way.
 *
 * `solve` is a mixed-integer solver for CPLEX LP text, asked for what is in the way alone. Errors: `solver` when it
 * answers neither Optimal nor Infeasible; otherwise by the field of the input that is wrong.
 * @example planGrind(plan, solve).passes // { A: [4], B: [4] }
 */
export function planGrind(input: PlanInput, solve: SolveProgram): GrindPlan | NoPlan {
  const rows = planRows(input);
  const { passes, gapG } = searchPasses(input, rows);
  if (!passes) {
    const bent = answerOf(solve, programText(input, rows, 'explain'));
    return {
      kind: 'no-plan',
      obstacles: bent ? explain(input, rows, bent) : [],
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
    uncertaintyExceedsAllowance:
      input.balance !== undefined && 2 * input.balance.uGmm > input.balance.permissibleGmm,
  };
}

/**
 * Does a plan's own simulation keep every promise? The names of those it breaks.
 * @example brokenPromises(plan, planGrind(plan, solve).passes) // []
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
  const bent = crooked(
    input,
    rows,
    forward.stations.map(({ recessionMm }) => recessionMm),
  );
  const { balance } = input;
  const left = Math.hypot(forward.unbalanceGmm ?? 0, forward.acrossGmm ?? 0);
  return [
    ...broken,
    ...Object.keys(bent).map((name) => `straightness ${name}`),
    ...(balance && left > balance.permissibleGmm + 1e-6 ? ['balance'] : []),
  ];
}

/**
 * How many more grinds the edge has after a plan (median), or nothing where no wear is known.
 * @example grindsAfter(plan, simulatePasses(plan, planRows(plan), { A: [4], B: [4] })) // undefined
 */
export function grindsAfter(
  input: Pick<PlanInput, 'stations' | 'wear'>,
  forward: Forward,
): number | undefined {
  const { wear } = input;
  if (!wear) return undefined;
  const worn = new Map(
    ENDS.flatMap((end) =>
      input.stations[end].map(({ radiusMm, wornMm }) => [`${end}:${radiusMm}`, wornMm] as const),
    ),
  );
  return lifeLeft({
    lag: 0,
    otherEndsPer: 0,
    limits: forward.stations
      .filter(({ roomLeftMm }) => Number.isFinite(roomLeftMm))
      .map(({ end, radiusMm, roomLeftMm }) => ({
        key: `${end}:${radiusMm}`,
        cause: 'grinding',
        end,
        room: Math.max(0, roomLeftMm),
        u: 0,
        record: { lost: worn.get(`${end}:${radiusMm}`) ?? 0, over: wear.grinds },
        prior: wear.prior,
      })),
  }).median;
}

export interface NickCost {
  readonly id: string;
  /** Grams more (or less) than the current plan with this nick's switch turned, the others as they are. */
  readonly metalG: number;
  /** Same in mm at the worst station. */
  readonly recessionMm: number;
  /** Forecast grinds of life it costs (negative: gives); where wear is known. */
  readonly grinds?: number | undefined;
  /** No plan with the switch turned. */
  readonly impossible: boolean;
}

/**
 * What turning one nick's switch costs against the plan as it is; costs do not add up.
 * @example nickCost({ ...plan, nicks: [{ id: 'n', end: 'A', radiusMm: 235, lengthMm: 6, depthMm: 1, recessMm: 0 }] }, planGrind(plan, solve), { id: 'n', end: 'A', radiusMm: 235, lengthMm: 6, depthMm: 1, recessMm: 0 }, 1, solve).metalG > 2 // true
 */
export function nickCost(
  input: PlanInput,
  plan: GrindPlan,
  nick: PlanNick,
  turnedRecessMm: number,
  solve: SolveProgram,
): NickCost {
  const turned = planGrind(
    {
      ...input,
      nicks: input.nicks.map((each) =>
        each.id === nick.id ? { ...each, recessMm: turnedRecessMm } : each,
      ),
    },
    solve,
  );
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
