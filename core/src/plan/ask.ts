import { permissibleGmm } from '../balance/unbalance.js';
import type { End } from '../blade/shape.js';
import { heightForEdgeBevelMm, heightForMeanBevelMm, type Wheel } from '../grinder/wheel.js';
import { finishingZones, type FinishingTool } from './two-tools.js';
import {
  dressedFirst,
  nearestChoices,
  worthFinishingOn,
  type Choice,
  type FinishedOn,
  type Grade,
} from './choices.js';
import { dressing, planSquareFirst } from './square-first.js';
import { nickCost, planGrind, type GrindPlan, type NickCost, type NoPlan } from './plan.js';
import type { PlanInput, PlanNick, PlanRules, PlanStation, PlanZone } from './problem.js';
import {
  bevelToGrindDeg,
  FINISH_LAND_MM,
  nickRecessMm,
  type BevelPolicy,
  type Finish,
  type NickPolicy,
} from './schools.js';

/** The schools a plan follows: the shop's, or this blade's own choice. */
export interface Schools {
  readonly finish: Finish;
  readonly bevel: BevelPolicy;
  readonly fixedBevelDeg: number;
  readonly nicks: NickPolicy;
  readonly balancePlace: 'cutting' | 'cutting-and-trailing';
  /** mm/s; nothing means the spec's own grade. */
  readonly gradeMmPerS?: number | undefined;
  /** A mulching edge is ground on two tables: the straight outer part on the flat one, the curve on the rounded. */
  readonly secondTable?: boolean | undefined;
  /** The edge is dressed square, as deep as the nicks ask, before the bevel is brought back. */
  readonly squareFirst?: boolean | undefined;
  /** A step this much larger than it may be is taken in this blade's edge, mm. */
  readonly stepMm?: number | undefined;
}

/** One nick told by itself what to do, against the policy. */
export type NickChoice = 'clear' | 'leave';

/** The blade as it lies on the bench, before any school is chosen. */
export interface PlanSituation {
  readonly thicknessMm: number;
  readonly tipRadiusMm: number;
  readonly edgeLengthMm: number;
  readonly stations: Readonly<Record<End, readonly PlanStation[]>>;
  readonly nicks: readonly Omit<PlanNick, 'recessMm'>[];
  readonly zones: readonly PlanZone[];
  readonly trailing: PlanZone;
  /** The zones of a curved edge by table, where the blade and the tool have them. */
  readonly byTable?: readonly PlanZone[] | undefined;
  /** The whole edge with the tool upright. */
  readonly square?: PlanZone | undefined;
  /** What was done since the blade was hung last with tools that are laid down. */
  readonly made?: readonly PlanZone[] | undefined;
  /** The tool it is finished on after the one in hand. */
  readonly then?: FinishingTool | undefined;
  /** Finer tools of the shop that it could be finished on instead. */
  readonly finer?: readonly FinishingTool[] | undefined;
  readonly specBevelDeg: number;
  readonly measuredBevelsDeg: readonly number[];
  /** The wheel as worn today, and what its height is set to aim at. */
  readonly wheel?: Wheel | undefined;
  readonly massG: number;
  readonly speedRpm: number;
  readonly specGradeMmPerS: number;
  /** Which end hangs low, where only that is known. */
  readonly heavyEnd?: End | undefined;
  readonly balance?:
    | {
        readonly unbalanceGmm: number;
        readonly uGmm: number;
        readonly acrossGmm?: number | undefined;
      }
    | undefined;
  readonly shape: Pick<PlanRules, 'straightness' | 'tip' | 'wearWeightG' | 'mostPassesPerZone'>;
  readonly recessionPerGrindMm?: PlanInput['recessionPerGrindMm'];
}

/** A question to plan: the plan, each nick with its switch turned, and looser grades to try. */
export interface PlanQuestion {
  readonly input: PlanInput;
  /** For each nick, what would come off there with its switch turned, mm. */
  readonly turned: Readonly<Record<string, number>>;
  readonly grades: readonly Grade[];
  /** Which of its zones is ground upright, and whether the edge is to be dressed with it first. */
  readonly upright?: { readonly zone: number; readonly first: boolean } | undefined;
  /** The zones there are with each finer tool to finish on. */
  readonly finished?: readonly FinishedOn[] | undefined;
}
export interface PlanAnswer {
  readonly plan: GrindPlan | NoPlan;
  readonly nicks: readonly NickCost[];
  /** Where there is no plan: the nearest choices, priced. */
  readonly choices: readonly Choice[];
  /** Where there is a plan: a finer tool that is worth changing to for the finish. */
  readonly finishOn?: Choice | undefined;
  /** The same blade dressed square first, where a nick is deep enough for that. */
  readonly squareFirst?: Choice | undefined;
}

/** The grades a shop may turn to, mm/s. */
export const GRADES_MM_PER_S = [16, 40] as const;

/**
 * Where the centre of a wheel stands for a bevel aimed at, by the edge or over the face; nothing for a plane.
 * @example wheelSet({ radiusMm: 101.6, aim: 'edge' }, 30, 6.35).centreHeightMm // 87.99
 */
export function wheelSet(
  wheel: Wheel | undefined,
  bevelDeg: number,
  thicknessMm: number,
): PlanRules['wheel'] {
  if (!wheel) return undefined;
  const { radiusMm, aim } = wheel;
  const centreHeightMm =
    aim === 'mean'
      ? heightForMeanBevelMm(radiusMm, bevelDeg, thicknessMm)
      : heightForEdgeBevelMm(radiusMm, bevelDeg);
  return { radiusMm, centreHeightMm };
}

/**
 * Puts the schools to the blade: what comes off at each nick, the bevel and land to grind, the zones that may
 * be used, the balance allowed. Pure; the screen asks again with another school without asking the server.
 * @example rounded(askPlan(situation, schools).input.nicks[0].recessMm) // 0.8
 */
export function askPlan(
  situation: PlanSituation,
  schools: Schools,
  chosen: Readonly<Record<string, NickChoice>> = {},
): PlanQuestion {
  const newBevelDeg = bevelToGrindDeg(schools.bevel, {
    specDeg: situation.specBevelDeg,
    fixedDeg: schools.fixedBevelDeg,
    measuredDeg: situation.measuredBevelsDeg,
  });
  const nicks = situation.nicks.map((nick): PlanNick => {
    const choice = chosen[nick.id];
    const policy: NickPolicy =
      choice === 'clear'
        ? { kind: 'clear-all' }
        : choice === 'leave'
          ? { kind: 'leave-all' }
          : schools.nicks;
    return { ...nick, recessMm: nickRecessMm(policy, nick.depthMm) };
  });
  const allowed = (grade: number): number =>
    permissibleGmm(situation.massG, situation.speedRpm, grade);
  const { balance } = situation;
  const { made = [], square, byTable } = situation;
  // Upright passes are planned before the others, or not at all: the search makes none of its own.
  const squareFirst =
    square && !made.some((zone) => zone.square) ? [{ ...square, made: { A: 0, B: 0 } }] : [];
  const zonesWith = (then: FinishingTool | undefined): PlanZone[] => [
    ...made,
    ...((schools.secondTable ? byTable : undefined) ?? situation.zones),
    ...(schools.balancePlace === 'cutting' ? [] : [situation.trailing]),
    ...(then ? finishingZones(then, situation.zones) : []),
    ...squareFirst,
  ];
  const input: PlanInput = {
    thicknessMm: situation.thicknessMm,
    tipRadiusMm: situation.tipRadiusMm,
    edgeLengthMm: situation.edgeLengthMm,
    stations: situation.stations,
    nicks,
    zones: zonesWith(situation.then),
    rules: {
      ...situation.shape,
      ...(schools.stepMm ? { stepMm: schools.stepMm } : {}),
      newBevelDeg,
      finishLandMm: FINISH_LAND_MM[schools.finish],
      wheel: wheelSet(situation.wheel, newBevelDeg, situation.thicknessMm),
    },
    balance: balance && {
      ...balance,
      permissibleGmm: allowed(schools.gradeMmPerS ?? situation.specGradeMmPerS),
    },
    heavyEnd: situation.heavyEnd,
    recessionPerGrindMm: situation.recessionPerGrindMm,
  };
  return {
    input,
    ...(squareFirst.length > 0
      ? { upright: { zone: input.zones.length - 1, first: schools.squareFirst ?? false } }
      : {}),
    finished: (situation.finer ?? []).map((each) => ({
      tool: each.tool,
      zones: zonesWith(each),
    })),
    turned: Object.fromEntries(
      nicks.map(({ id, recessMm, depthMm }) => [id, recessMm < depthMm ? depthMm : 0]),
    ),
    grades: GRADES_MM_PER_S.map((grade) => ({
      name: `G ${grade}`,
      gradeMmPerS: grade,
      permissibleGmm: allowed(grade),
    })),
  };
}

/**
 * Answers a question whole; the same function in the screen's worker and in the server's.
 * @example answerPlan(askPlan(situation, schools)).plan.kind // 'plan'
 */
export function answerPlan({ input, turned, grades, finished, upright }: PlanQuestion): PlanAnswer {
  const dressed = upright?.first ? planSquareFirst(input, upright.zone) : undefined;
  if (dressed) {
    const { plan } = dressed;
    const square = plan.passes.A[upright?.zone ?? -1] ?? 0;
    const dressedToo = (finished ?? []).map((each) => ({
      ...each,
      zones: dressing(each.zones, square),
    }));
    return {
      plan,
      nicks: pricedNicks(dressed.input, plan, turned),
      choices: [],
      finishOn: worthFinishingOn(dressed.input, plan, dressedToo),
    };
  }
  const plan = planGrind(input);
  if (plan.kind === 'no-plan') {
    return { plan, nicks: [], choices: nearestChoices(input, plan, grades, finished) };
  }
  return {
    plan,
    nicks: pricedNicks(input, plan, turned),
    choices: [],
    finishOn: worthFinishingOn(input, plan, finished ?? []),
    squareFirst: upright && !upright.first ? dressedFirst(input, upright.zone) : undefined,
  };
}

const pricedNicks = (
  input: PlanInput,
  plan: GrindPlan,
  turned: PlanQuestion['turned'],
): NickCost[] => input.nicks.map((nick) => nickCost(input, plan, nick, turned[nick.id] ?? 0));
