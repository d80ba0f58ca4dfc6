import { ENDS, type End } from '../blade/shape.js';
import { BenchError } from '../errors.js';
import { areaOfPasses, simulatePasses, type Forward, type Passes } from './forward.js';
import { planRows, zoneRadiusMm, type PlanInput, type PlanNick, type Row } from './problem.js';
import { passesOf, programText, type SolveProgram, type SolverAnswer } from './program.js';

export interface GrindPlan {
  readonly kind: 'plan';
  /** Passes by end and zone, zones in the order they were given. */
  readonly passes: Passes;
  readonly forward: Forward;
  /** Light end first, only as far as sharp needs; the rest goes to the heavy end. */
  readonly order: readonly End[];
  /** The uncertainty held back is wider than the allowance: said, not failed. */
  readonly uncertaintyExceedsAllowance: boolean;
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

const TIE_G = 1e-6;

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
  const slopes = ENDS.flatMap((end) =>
    rows
      .filter((row) => row.end === end)
      .flatMap((row, i): Obstacle[] => {
        const short = value(`t_${end}_${i}`);
        return short < 1e-6
          ? []
          : [
              {
                about: 'straightness',
                end,
                radiusMm: row.station.radiusMm,
                short,
                words: `End ${end}: the edge would step by ${short.toFixed(2)} mm more than it may`,
              },
            ];
      }),
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

/**
 * The grind plan: whole passes by end and zone that sharpen, meet the nick policy and the balance inside
 * the width limits, with least metal + λ·(largest share of remaining wear used), then fewest passes and zone
 * changes (two solves, the second within the first's optimum). Where there is none, says what is in the way.
 *
 * `solve` is a mixed-integer solver for CPLEX LP text. Errors: `solver` when it answers neither Optimal nor
 * Infeasible; otherwise by the field of the input that is wrong.
 */
export function planGrind(input: PlanInput, solve: SolveProgram): GrindPlan | NoPlan {
  const rows = planRows(input);
  const least = answerOf(solve, programText(input, rows, 'metal'));
  if (!least) {
    const bent = answerOf(solve, programText(input, rows, 'explain'));
    return {
      kind: 'no-plan',
      obstacles: bent ? explain(input, rows, bent) : [],
      toolTooCoarse: tooCoarse(input),
    };
  }
  const tidy =
    answerOf(solve, programText(input, rows, 'passes', least.objective + TIE_G)) ?? least;
  const passes = passesOf(input, tidy);
  const heavyA = (input.balance?.unbalanceGmm ?? 0) > 0;
  return {
    kind: 'plan',
    passes,
    forward: simulatePasses(input, rows, passes),
    order: heavyA ? ['B', 'A'] : ['A', 'B'],
    uncertaintyExceedsAllowance:
      input.balance !== undefined && 2 * input.balance.uGmm > input.balance.permissibleGmm,
  };
}

/** Does a plan's own simulation keep every promise? The names of those it breaks. */
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
  const { balance } = input;
  const unbalance = forward.unbalanceGmm;
  return balance && unbalance !== undefined && Math.abs(unbalance) > balance.permissibleGmm + 1e-6
    ? [...broken, 'balance']
    : broken;
}

export interface NickCost {
  readonly id: string;
  /** Grams more (or less) than the current plan with this nick's switch turned, the others as they are. */
  readonly metalG: number;
  /** Same in mm at the worst station. */
  readonly recessionMm: number;
  /** No plan with the switch turned. */
  readonly impossible: boolean;
}

/** What turning one nick's switch costs against the plan as it is; costs do not add up. */
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
  return {
    id: nick.id,
    metalG: turned.forward.metalG - plan.forward.metalG,
    recessionMm: worst(turned.forward) - worst(plan.forward),
    impossible: false,
  };
}
