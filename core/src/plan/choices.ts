import type { PlanInput, PlanZone } from './problem.js';
import { DEEP_NICK_MM } from './schools.js';
import { planSquareFirst } from './square-first.js';
import { grindsAfter, planGrind, type GrindPlan, type NoPlan } from './plan.js';
import { allowing, leastStepMm, leaving, nearestBalanceGmm, stepping } from './relief.js';

/** A way out of an impossible plan, already planned through so that its price is known. */
export interface Choice {
  readonly kind:
    | 'leave-nick'
    | 'leave-nicks'
    | 'grade'
    | 'nearest-balance'
    | 'allow-step'
    | 'finish-on'
    | 'square-first';
  /** The tool it is finished on. */
  readonly tool?: string | undefined;
  /** The nicks it leaves, also where that alone is not enough. */
  readonly nickIds: readonly string[];
  /** The grade it asks for. */
  readonly grade?: Grade | undefined;
  /** The step in the edge it asks for, mm. */
  readonly stepMm?: number | undefined;
  readonly metalG: number;
  readonly worstRecessionMm: number;
  readonly unbalanceAfterGmm?: number | undefined;
  /** Forecast grinds of life after it, where wear is known. */
  readonly grindsAfter?: number | undefined;
}

/** A balance grade the shop could use instead, with what it allows this blade. */
export interface Grade {
  readonly name: string;
  readonly gradeMmPerS: number;
  readonly permissibleGmm: number;
}

/** A tool that could finish the blade, and all zones passes may then go to. */
export interface FinishedOn {
  readonly tool: string;
  readonly zones: readonly PlanZone[];
}

interface Try {
  readonly kind: Choice['kind'];
  readonly nickIds: readonly string[];
  readonly tool?: string;
  readonly grade?: Grade;
  readonly stepMm?: number;
  readonly input: PlanInput;
}

/** Giving on the balance alone, on the edge's shape alone: each no further than it takes. */
function reliefs(input: PlanInput, nickIds: readonly string[], grades: readonly Grade[]): Try[] {
  const { balance } = input;
  const looser = grades
    .filter(({ permissibleGmm }) => balance && permissibleGmm > balance.permissibleGmm)
    .map((grade): Try => ({
      kind: 'grade',
      nickIds,
      grade,
      input: allowing(input, grade.permissibleGmm),
    }));
  const nearest = nearestBalanceGmm(input);
  const step = leastStepMm(input);
  return [
    ...looser,
    ...(nearest === undefined
      ? []
      : [{ kind: 'nearest-balance' as const, nickIds, input: allowing(input, nearest) }]),
    ...(step === undefined
      ? []
      : [{ kind: 'allow-step' as const, nickIds, stepMm: step, input: stepping(input, step) }]),
  ];
}

const finishing = (input: PlanInput, { tool, zones }: FinishedOn): Try => ({
  kind: 'finish-on',
  nickIds: [],
  tool,
  input: { ...input, zones },
});

/**
 * Every single thing to give on, nicks first: those that are in the way before the others. Where no single one helps, the
 * same with all nicks left; where that does not either, both balance and shape.
 */
function* tries(
  input: PlanInput,
  { obstacles }: NoPlan,
  grades: readonly Grade[],
  finished: readonly FinishedOn[],
): Generator<Try[]> {
  const asked = input.nicks.filter(({ recessMm }) => recessMm > 0).map(({ id }) => id);
  const blamed = new Set(obstacles.flatMap(({ nickId }) => (nickId ? [nickId] : [])));
  const singles = asked
    .map((id): Try => ({ kind: 'leave-nick', nickIds: [id], input: leaving(input, [id]) }))
    .sort(
      (a, b) => Number(blamed.has(b.nickIds[0] ?? '')) - Number(blamed.has(a.nickIds[0] ?? '')),
    );
  const clean = leaving(input, asked);
  const all: Try[] =
    asked.length > 1 ? [{ kind: 'leave-nicks', nickIds: asked, input: clean }] : [];
  const finer = finished.map((each) => finishing(input, each));
  yield [...finer, ...singles, ...all, ...reliefs(input, [], grades)];
  if (asked.length > 0) yield reliefs(clean, asked, grades);
  const bent = stepping(clean);
  yield reliefs(bent, asked, [])
    .filter(({ kind }) => kind === 'nearest-balance')
    .map((both) => ({ ...both, kind: 'allow-step' }));
}

const priced = (
  { kind, nickIds, tool, grade, stepMm, input }: Try,
  { forward }: GrindPlan,
): Choice => ({
  kind,
  nickIds,
  ...(tool === undefined ? {} : { tool }),
  grade,
  ...(stepMm === undefined ? {} : { stepMm }),
  metalG: forward.metalG,
  worstRecessionMm: Math.max(...forward.stations.map(({ recessionMm }) => recessionMm)),
  unbalanceAfterGmm: forward.unbalanceGmm,
  grindsAfter: grindsAfter(input, forward),
});

/**
 * The nearest choices where there is no plan: a finer tool to finish on, leave one nick (or all), a looser grade, the
 * balance as near as it goes, the smallest step in the edge that does; where none of these is enough by itself, with all nicks left. Only
 * those that do lead to a plan, each with its price; never one that gives on width or safety. What is always left
 * besides: retire the blade.
 * @example nearestChoices(plan, { kind: 'no-plan', obstacles: [], toolTooCoarse: false }, []).map(({ kind }) => kind) // []
 */
export function nearestChoices(
  input: PlanInput,
  none: NoPlan,
  grades: readonly Grade[],
  finished: readonly FinishedOn[] = [],
): Choice[] {
  for (const some of tries(input, none, grades, finished)) {
    const found = some.flatMap((each) => {
      const plan = planGrind(each.input);
      return plan.kind === 'plan' ? [priced(each, plan)] : [];
    });
    const one = found.some(({ kind }) => kind === 'leave-nick');
    if (found.length > 0) return found.filter(({ kind }) => kind !== 'leave-nicks' || !one);
  }
  return [];
}

/** A second tool is carried to for no less than this, g. Common practice, no source. */
export const WORTH_CHANGING_G = 1;

/**
 * A finer tool that is worth changing to for the finish, though the plan does without: it saves metal, or it brings the
 * balance from where it is within the allowance but not surely so to where it is. The one that takes least.
 * @example worthFinishingOn(plan, planGrind(plan), []) // undefined
 */
export function worthFinishingOn(
  input: PlanInput,
  plan: GrindPlan,
  finished: readonly FinishedOn[],
): Choice | undefined {
  const { balance } = input;
  const sure = ({ unbalanceGmm }: GrindPlan['forward']): boolean =>
    !balance ||
    unbalanceGmm === undefined ||
    Math.abs(unbalanceGmm) <= balance.permissibleGmm - 2 * balance.uGmm;
  return finished
    .flatMap((each) => {
      const changed = finishing(input, each);
      const other = planGrind(changed.input);
      if (other.kind === 'no-plan') return [];
      const saves = plan.forward.metalG - other.forward.metalG >= WORTH_CHANGING_G;
      const steadies = sure(other.forward) && !sure(plan.forward);
      return saves || steadies ? [priced(changed, other)] : [];
    })
    .sort((a, b) => a.metalG - b.metalG)[0];
}

/**
 * The blade dressed square first, priced; nothing where no nick is so deep that it is dressed, or where that does not fit.
 * @example dressedFirst({ ...plan, zones: [{ ...full, square: true }, full] }, 0) // undefined
 */
export function dressedFirst(input: PlanInput, at: number): Choice | undefined {
  const isDeep = input.nicks.some(({ recessMm }) => recessMm >= DEEP_NICK_MM);
  const dressed = isDeep ? planSquareFirst(input, at) : undefined;
  return (
    dressed && priced({ kind: 'square-first', nickIds: [], input: dressed.input }, dressed.plan)
  );
}
