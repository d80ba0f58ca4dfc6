import { type CycleState, type PlanView, type CycleFacts } from '@tally-stone/contract';
import {
  askPlan,
  ENDS,
  FINISH_LAND_MM,
  interpolateMm,
  soundEdge,
  tellsAmount,
  widthLimitMm,
  widthRoomMm,
  withLand,
  finishing,
  isFiner,
  type End,
  type JudgedReading,
  type JudgedWidth,
  type PlanSituation,
  type PlanStation,
  GROUND_OUT,
  predictRemoval,
} from '@tally-stone/core';
import { cycleAt } from '../cycle/facts.js';
import {
  toolOf,
  wheelOf,
  believedAt,
  nowAt,
  permissibleNow,
  type Place,
  schoolsOf,
  assess,
  signOffFrom,
} from '@tally-stone/cycle';
import type { Database } from '../database.js';
import {
  asFinishing,
  madeWith,
  passesBehind,
  thisShop,
  onTwoTables,
  specialOf,
  toolsOfPlan,
  type PlannedTools,
} from './plan-tools.js';

/** No more metal than this is planned for one zone of an end, g, nor more counted than a hand would. */
const MOST_G = 48;
const MOST_COUNTED = 500;
const STATIONS_PER_EDGE = 11;
/** Where a photo shows the whole edge: four millimetres apart, where the sound edge hardly bends. */
const STATIONS_BY_PHOTO = 23;
/** A nick's own length along the edge where nobody measured it, mm. */
const NICK_LENGTH_MM = 6;
const FEATHER_MM = 10;
/** Further than any edge goes: a place without a limit, in a number that JSON can carry. */
const NO_LIMIT_MM = 1000;

/** The edge as it stands: a grid over the cutting edge, with a place at every nick. */
function stationsOf(
  state: CycleState,
  facts: CycleFacts,
  end: End,
  tipMm: number,
): PlanStation[] | undefined {
  const { spec } = facts;
  const again = groundBefore(state, end);
  const standing = (place: Omit<Place, 'phase'>): JudgedReading | undefined =>
    (again ? believedAt(state, facts, { ...place, phase: 'after' }) : undefined) ??
    believedAt(state, facts, { ...place, phase: 'before' });
  const widths = spec.stations.flatMap(({ key }): JudgedWidth[] => {
    const width = standing({ quantity: 'width', end, stationKey: key });
    return width ? [{ ...width, end, stationKey: key }] : [];
  });
  const bevel = standing({ quantity: 'bevel', end });
  const land = standing({ quantity: 'land', end });
  if (widths.length < spec.stations.length || !bevel || !land) return undefined;
  const known = widths.flatMap((width) => {
    const station = spec.stations.find(({ key }) => key === width.stationKey);
    return station ? [{ radiusMm: station.radiusMm, valueMm: spec.newWidthMm - width.value }] : [];
  });
  const photo = again
    ? undefined
    : state.edges.find((edge) => edge.end === end && edge.phase === 'before');
  const sound = photo && soundEdge(photo, spec.edgeLengthMm);
  const count = sound ? STATIONS_BY_PHOTO : STATIONS_PER_EDGE;
  const grid = Array.from(
    { length: count },
    (_, i) => tipMm - 2 - (i * (spec.edgeLengthMm - FEATHER_MM - 4)) / (count - 1),
  );
  const byHand = (radiusMm: number): Pick<PlanStation, 'wornMm' | 'roomMm'> => ({
    wornMm: interpolateMm(known, radiusMm),
    roomMm: widthRoomMm(spec, widths, end, radiusMm) ?? NO_LIMIT_MM,
  });
  const byPhoto = (radiusMm: number, widthMm: number): ReturnType<typeof byHand> => {
    const limitMm = widthLimitMm(spec, radiusMm);
    return {
      wornMm: spec.newWidthMm - widthMm,
      roomMm: limitMm === undefined ? NO_LIMIT_MM : widthMm - limitMm,
    };
  };
  const nicks = state.damage.filter((mark) => mark.end === end).map(({ radiusMm }) => radiusMm);
  return [...new Set([...grid, ...nicks])].map((radiusMm) => ({
    radiusMm,
    bevelDeg: bevel.value,
    // Hung again and not measured yet: the finish is taken to be what was aimed at.
    landMm: again
      ? Math.min(land.value, FINISH_LAND_MM[schoolsOf(state, facts).finish])
      : land.value,
    ...(sound ? byPhoto(radiusMm, sound(tipMm - radiusMm)) : byHand(radiusMm)),
  }));
}

const nicksOf = (state: CycleState): PlanSituation['nicks'] =>
  state.damage
    .filter(({ kind }) => GROUND_OUT.includes(kind))
    .map((mark) => ({
      id: mark.damageId,
      end: mark.end,
      radiusMm: mark.radiusMm,
      lengthMm: mark.lengthMm ?? NICK_LENGTH_MM,
      depthMm: mark.depthMm,
    }));

/** Was an end ground before the blade was hung again? Then its plan is for what is still to come. */
const groundBefore = (state: CycleState, end: End): boolean =>
  Object.values(passesBehind(state)[end]).some((count) => count > 0);

/** Which end hung low last, measured or not. */
function heavyEndOf(state: CycleState): End | undefined {
  const heavy = state.rounds.at(-1)?.heavyEnd;
  return heavy === 'level' ? undefined : heavy;
}

/** The newest balance reading; nothing where it tells no more than the heavy end. */
function balanceOf(state: CycleState, facts: CycleFacts): PlanSituation['balance'] {
  const round = state.rounds.at(-1);
  if (!round || round.endOnly) return undefined;
  const { unbalanceGmm, u } = round;
  return tellsAmount({ value: unbalanceGmm, u }, permissibleNow(state, facts))
    ? { unbalanceGmm, uGmm: u }
    : undefined;
}

/** The blade as the plan sees it, or in words what is still to be read for it. */
export function situationOf(
  state: CycleState,
  facts: CycleFacts,
  { inHand, laidDown, then, finer }: PlannedTools,
): PlanSituation | string {
  const { spec, shopRules } = facts;
  const tipMm = (nowAt(state, facts, { quantity: 'length' })?.value ?? spec.newLengthMm) / 2;
  const stations = (end: End): PlanStation[] | undefined =>
    stationsOf(state, facts, end, tipMm)?.map((station) => {
      const left = groundBefore(state, end) ? undefined : facts.faces[end];
      return { ...station, section: left && withLand(left, station.landMm) };
    });
  const A = stations('A');
  const B = stations('B');
  if (!A || !B)
    return $localize`The plan needs a few more readings: see which are still asked for.`;
  const thicknessMm = nowAt(state, facts, { quantity: 'thickness' })?.value ?? spec.thicknessMm;
  // Each is possible by itself, and was read twice: together they are no blade.
  if ([...A, ...B].some(({ landMm }) => landMm >= thicknessMm))
    return $localize`The flat is read as wide as the blade is thick: read the flat and the thickness again.`;
  if (tipMm <= spec.edgeLengthMm)
    return $localize`The blade is read shorter than its cutting edges: read the length again.`;
  return {
    thicknessMm,
    tipRadiusMm: tipMm,
    edgeLengthMm: spec.edgeLengthMm,
    stations: { A, B },
    nicks: nicksOf(state).filter(({ end }) => !groundBefore(state, end)),
    zones: laidDown.some(({ zones }) => isFiner(inHand.zones, zones))
      ? finishing(inHand)
      : inHand.zones,
    trailing: { ...inHand.removal.trailing, tool: inHand.tool },
    ...(spec.kind === 'mulching' && inHand.hasTable ? { byTable: onTwoTables(inHand) } : {}),
    square: specialOf(inHand, 'square'),
    made: laidDown.flatMap((tool) => madeWith(state, tool)),
    ...(then ? { then: asFinishing(then) } : {}),
    finer: finer.map(asFinishing),
    specBevelDeg: spec.bevelDeg,
    measuredBevelsDeg: ENDS.flatMap((end) => {
      const bevel = nowAt(state, facts, { quantity: 'bevel', end });
      return bevel ? [bevel.value] : [];
    }),
    wheel: wheelOf(state, facts),
    massG: nowAt(state, facts, { quantity: 'mass' })?.value ?? spec.newMassG,
    speedRpm: facts.speedRpm,
    specGradeMmPerS: spec.gradeMmPerS,
    balance: balanceOf(state, facts),
    heavyEnd: heavyEndOf(state),
    shape: {
      straightness: shopRules.straightness,
      tip: { reachMm: shopRules.tipReachMm, mostMm: shopRules.tipMostMm },
      wearWeightG: shopRules.wearWeightG,
      mostPassesPerZone: Math.min(
        MOST_COUNTED,
        Math.ceil(MOST_G / (inHand.removal.learned.perZone['full']?.value ?? MOST_G)),
      ),
    },
    recessionPerGrindMm: facts.rules.recessionPerGrindMm,
  };
}

/** What to grind on the blade of a cycle. */
export async function planOfCycle(database: Database, cycleId: string): Promise<PlanView> {
  const { state, facts } = await cycleAt(database, cycleId);
  const { proposed, retireReasons } = signOffFrom(assess(state, facts));
  // Beyond saving under one nick policy is not beyond saving: the plan says what another would cost.
  const onlyNicks = retireReasons.every((reason) => reason === 'nick-beyond-saving');
  if (proposed === 'retired' && !onlyNicks) {
    return {
      kind: 'not-yet',
      words: $localize`This blade is not ground again: it must be retired.`,
    };
  }
  const tools = await toolsOfPlan(database, state, facts);
  const { removal } = tools.inHand;
  const tool = toolOf(state, facts);
  const situation = situationOf(state, facts, tools);
  if (typeof situation === 'string') return { kind: 'not-yet', words: situation };
  const schools = schoolsOf(state, facts);
  const answer = await database.heavy.plan(askPlan(situation, schools, state.nickChoices));
  const full = removal.learned.perZone['full'] ?? { value: 0, u: 0 };
  return {
    kind: 'asked',
    situation,
    answer,
    schools,
    nickChoices: { ...state.nickChoices },
    behind: passesBehind(state),
    gramsPerPass: {
      value: full.value,
      u: predictRemoval(removal.learned, { full: 1 }).u,
      grinds: removal.learned.grinds,
    },
    ...(removal.hand?.known
      ? { hand: { factor: removal.hand.factor.value, grinds: removal.hand.grinds } }
      : {}),
    tool: tool ? `${tool.figures.name}, ${tool.figures.abrasive}` : thisShop(),
    tools: Object.fromEntries(
      [tools.inHand, ...tools.laidDown, ...(tools.then ? [tools.then] : []), ...tools.finer].map(
        ({ tool: key, grinderId, name, counts }) => [
          key,
          { ...(grinderId ? { grinderId } : {}), name, counts },
        ],
      ),
    ),
  };
}
