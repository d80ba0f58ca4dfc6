import type { CycleState, PlanView } from '@tally-stone/contract';
import {
  ENDS,
  fromTipMm,
  interpolateMm,
  learnRemoval,
  permissibleGmm,
  widthRoomMm,
  type End,
  type JudgedWidth,
  type LearnedRemoval,
  type PlanInput,
  type PlanNick,
  type PlanStation,
} from '@tally-stone/core';
import { QueryTypes } from 'sequelize';
import { cycleFacts, cycleState, type CycleFacts } from '../cycles/facts.js';
import { nowAt } from '../cycles/readings.js';
import { assess, signOffFrom } from '../cycles/sign-off.js';
import type { Database } from '../db/database.js';
import type { Planner } from './planner.js';

/** The working edge's flat, mm: the shop's default school of sharpness. Common practice, no source. */
const WORKING_LAND_MM = 0.15;
/** Edge straightness against new, mm per mm; λ of the wear share, g. Ours, no source. */
const STRAIGHTNESS = 0.02;
const WEAR_WEIGHT_G = 6;
const MOST_PASSES = 80;
const STATIONS_PER_EDGE = 11;
/** A nick's own length along the edge where nobody measured it, mm. */
const NICK_LENGTH_MM = 6;
const FEATHER_MM = 10;

/** Grams a pass, from every finished grind of the shop. */
export async function shopRemoval({ connection }: Database): Promise<LearnedRemoval> {
  const rows = await connection.sequelize.query<{ passes: number; removedG: number }>(
    `SELECT sum(pass.count) AS passes, json_extract(cycle.frozen, '$.removedG.value') AS removedG
     FROM cycle JOIN pass ON pass.cycleId = cycle.id
     WHERE cycle.signedAt IS NOT NULL AND json_extract(cycle.frozen, '$.removedG.value') > 0
     GROUP BY cycle.id ORDER BY cycle.signedAt DESC LIMIT 200`,
    { type: QueryTypes.SELECT },
  );
  return learnRemoval(rows.reverse());
}

/** The edge as it stands: a grid over the cutting edge, with a place at every nick. */
function stationsOf(
  state: CycleState,
  facts: CycleFacts,
  end: End,
  tipMm: number,
): PlanStation[] | undefined {
  const { spec } = facts;
  const widths = spec.stations.flatMap(({ key }): JudgedWidth[] => {
    const width = nowAt(state, facts, { quantity: 'width', end, stationKey: key });
    return width ? [{ ...width, end, stationKey: key }] : [];
  });
  const bevel = nowAt(state, facts, { quantity: 'bevel', end });
  const land = nowAt(state, facts, { quantity: 'land', end });
  if (widths.length < spec.stations.length || !bevel || !land) return undefined;
  const known = widths.flatMap((width) => {
    const station = spec.stations.find(({ key }) => key === width.stationKey);
    return station ? [{ radiusMm: station.radiusMm, valueMm: spec.newWidthMm - width.value }] : [];
  });
  const grid = Array.from(
    { length: STATIONS_PER_EDGE },
    (_, i) => tipMm - 2 - (i * (spec.edgeLengthMm - FEATHER_MM - 4)) / (STATIONS_PER_EDGE - 1),
  );
  const nicks = state.damage.filter((mark) => mark.end === end).map(({ radiusMm }) => radiusMm);
  return [...new Set([...grid, ...nicks])].map((radiusMm) => ({
    radiusMm,
    bevelDeg: bevel.value,
    // Hung again and not measured yet: the finish is taken to be what was aimed at.
    landMm: hungAgain(state) ? Math.min(land.value, WORKING_LAND_MM) : land.value,
    wornMm: interpolateMm(known, radiusMm),
    roomMm: widthRoomMm(spec, widths, end, radiusMm) ?? Infinity,
  }));
}

function nicksOf(state: CycleState, facts: CycleFacts): PlanNick[] {
  return state.damage
    .filter(({ kind }) => kind === 'nick' || kind === 'chip')
    .map((mark) => ({
      id: mark.damageId,
      end: mark.end,
      radiusMm: mark.radiusMm,
      lengthMm: NICK_LENGTH_MM,
      depthMm: mark.depthMm,
      recessMm: Math.max(0, mark.depthMm - facts.rules.leaveNicksToMm),
    }));
}

/** Was the blade hung again after passes were counted? Then the plan is for what is still to come. */
const hungAgain = (state: CycleState): boolean => (state.rounds.at(-1)?.passesBefore ?? 0) > 0;

/** Passes at each end that the newest balance reading already has behind it. */
function passesBehind(state: CycleState): Record<End, number> {
  const behind = { A: 0, B: 0 };
  let left = state.rounds.at(-1)?.passesBefore ?? 0;
  for (const { end, count } of state.passes) {
    if (left <= 0) break;
    behind[end] += count;
    left -= count;
  }
  return behind;
}

/** The newest balance reading. */
function balanceOf(state: CycleState, facts: CycleFacts): PlanInput['balance'] {
  const round = state.rounds.at(-1);
  if (!round) return undefined;
  const massG = nowAt(state, facts, { quantity: 'mass' })?.value ?? facts.spec.newMassG;
  return {
    unbalanceGmm: round.unbalanceGmm,
    uGmm: round.u,
    permissibleGmm: permissibleGmm(massG, facts.speedRpm, facts.spec.gradeMmPerS),
  };
}

/** The problem of one blade in its cycle, or in words what is still to be read for it. */
export function planInputOf(
  state: CycleState,
  facts: CycleFacts,
  gramsPerPass: number,
): PlanInput | string {
  const { spec } = facts;
  const tipMm = (nowAt(state, facts, { quantity: 'length' })?.value ?? spec.newLengthMm) / 2;
  const A = stationsOf(state, facts, 'A', tipMm);
  const B = stationsOf(state, facts, 'B', tipMm);
  if (!A || !B) return 'The plan comes when widths, bevel and land are read at both ends.';
  return {
    thicknessMm: nowAt(state, facts, { quantity: 'thickness' })?.value ?? spec.thicknessMm,
    tipRadiusMm: tipMm,
    edgeLengthMm: spec.edgeLengthMm,
    stations: { A, B },
    nicks: hungAgain(state) ? [] : nicksOf(state, facts),
    zones: [{ key: 'full', reachMm: spec.edgeLengthMm, featherMm: FEATHER_MM, gramsPerPass }],
    rules: {
      newBevelDeg: spec.bevelDeg,
      finishLandMm: WORKING_LAND_MM,
      straightness: STRAIGHTNESS,
      wearWeightG: WEAR_WEIGHT_G,
      mostPassesPerZone: MOST_PASSES,
    },
    balance: balanceOf(state, facts),
  };
}

/** What to grind on the blade of a cycle. */
export async function planOfCycle(
  database: Database,
  planner: Planner,
  cycleId: string,
): Promise<PlanView> {
  const { tables } = database;
  const [state, facts, learned] = await Promise.all([
    cycleState(tables, cycleId, 'committed'),
    cycleFacts(tables, cycleId, 'committed'),
    shopRemoval(database),
  ]);
  if (signOffFrom(assess(state, facts)).proposed === 'retired') {
    return { kind: 'not-yet', words: 'This blade is not ground again: it must be retired.' };
  }
  const input = planInputOf(state, facts, learned.mean.value);
  if (typeof input === 'string') return { kind: 'not-yet', words: input };
  const turned = Object.fromEntries(
    input.nicks.map((nick) => [nick.id, nick.recessMm < nick.depthMm ? nick.depthMm : 0]),
  );
  const { plan, nicks } = await planner.plan({ input, turned });
  if (plan.kind === 'no-plan') {
    return {
      kind: 'no-plan',
      obstacles: plan.obstacles.map(({ words }) => words),
      toolTooCoarse: plan.toolTooCoarse,
    };
  }
  const { forward, passes } = plan;
  const [narrowest] = [...forward.stations].sort((a, b) => a.roomLeftMm - b.roomLeftMm);
  if (!narrowest) return { kind: 'not-yet', words: 'This blade has no stations to plan with.' };
  const count = (end: End): number => passes[end].reduce((sum, each) => sum + each, 0);
  return {
    kind: 'plan',
    passes: Object.fromEntries(ENDS.map((end) => [end, count(end)])) as Record<End, number>,
    behind: passesBehind(state),
    order: [...plan.order],
    metalG: forward.metalG,
    gramsPerPass: { value: learned.mean.value, u: learned.nextU, grinds: learned.grinds },
    ...(forward.unbalanceGmm === undefined ? {} : { unbalanceAfterGmm: forward.unbalanceGmm }),
    ...(input.balance ? { permissibleGmm: input.balance.permissibleGmm } : {}),
    uncertaintyExceedsAllowance: plan.uncertaintyExceedsAllowance,
    narrowest: {
      end: narrowest.end,
      fromTipMm: fromTipMm(2 * input.tipRadiusMm, narrowest.radiusMm),
      roomLeftMm: narrowest.roomLeftMm,
    },
    recession: forward.stations.map(({ end, radiusMm, recessionMm }) => ({
      end,
      radiusMm,
      recessionMm,
    })),
    nicks: nicks.map((nick) => ({
      damageId: nick.id,
      turned: (turned[nick.id] ?? 0) > 0 ? ('clear' as const) : ('leave' as const),
      metalG: nick.metalG,
      grinds: nick.recessionMm / facts.rules.recessionPerGrindMm,
      impossible: nick.impossible,
    })),
  };
}
