import type { AskedPlan, CycleFacts, CycleState, ToolRemoval } from '@tally-stone/contract';
import {
  hasTable,
  isFiner,
  type End,
  type FinishingTool,
  type PlanZone,
  type ZoneKey,
} from '@tally-stone/core';
import {
  onEachTool,
  passKey,
  splitAtRound,
  toolKey,
  toolOf,
  zonePassesAt,
  zonesOfTool,
} from '@tally-stone/cycle';
import type { Database } from '../database.js';
import { toolRemoval } from '../removal/removal.js';

type Behind = AskedPlan['behind'];

/** Passes of each end, tool and zone that the newest balance reading already has behind it. */
export function passesBehind(state: CycleState): Behind {
  const behind: Behind = { A: {}, B: {} };
  for (const passes of splitAtRound(state).behind) {
    const key = passKey(toolKey(passes), passes.zone);
    behind[passes.end][key] = (behind[passes.end][key] ?? 0) + passes.count;
  }
  return behind;
}

/** A tool of the plan: what it takes, and what it is called. */
export interface PlannedTool extends FinishingTool {
  readonly removal: ToolRemoval;
  readonly grinderId?: string | undefined;
  readonly name: string;
  readonly hasTable: boolean;
}

/** The tools of a plan: those laid down since the blade was hung, the one in hand, the one it is finished on. */
export interface PlannedTools {
  readonly inHand: PlannedTool;
  readonly laidDown: readonly PlannedTool[];
  readonly then?: PlannedTool | undefined;
  /** Finer ones that it could be finished on. */
  readonly finer: readonly PlannedTool[];
}

export const thisShop = (): string => $localize`this shop`;

/** What the tools of a cycle's plan take, in the hand of whoever took the blade up. */
export async function toolsOfPlan(
  database: Database,
  state: CycleState,
  facts: CycleFacts,
): Promise<PlannedTools> {
  const ofTool = async (
    used: { readonly grinderId?: string | undefined; readonly abrasiveId?: string | undefined },
    learnedOn = used,
  ): Promise<PlannedTool> => {
    const key = toolKey(used);
    const grinder = facts.grinders.find(({ grinderId }) => grinderId === learnedOn.grinderId);
    const { grinderId, abrasiveId } = learnedOn;
    const removal = await toolRemoval(
      database,
      facts.grinders,
      facts.spec.edgeLengthMm,
      grinderId && abrasiveId ? { grinderId, abrasiveId } : undefined,
      state.openedBy,
    );
    return {
      tool: key,
      grinderId,
      name: grinder ? grinder.figures.name : thisShop(),
      counts: grinder?.figures.counts ?? 'pass',
      hasTable: !grinder || hasTable(grinder.figures.kind),
      zones: removal.zones.map((zone) => ({ ...zone, tool: key })),
      removal,
    };
  };
  // Not set up yet: the shop's first tool is what it will take.
  const inHand = await ofTool(state.setUp ?? {}, state.setUp ?? toolOf(state, facts) ?? {});
  const others = onEachTool({ passes: splitAtRound(state).since }).filter(
    ({ key }) => key !== inHand.tool,
  );
  const laidDown = await Promise.all(others.map((used) => ofTool(used)));
  const then = state.finishOn && (await ofTool(state.finishOn));
  const free = facts.grinders.filter(({ grinderId }) => grinderId !== inHand.grinderId);
  const candidates =
    then || laidDown.length > 0 ? [] : await Promise.all(free.map((grinder) => ofTool(grinder)));
  return {
    inHand,
    laidDown,
    then,
    finer: candidates.filter(({ zones }) => isFiner(zones, inHand.zones)).slice(0, MOST_FINER),
  };
}

/** So many finer tools are tried for the finish. */
const MOST_FINER = 3;

/** What was made since the blade was hung with a tool that is laid down: just that, zone by zone. */
export function madeWith(state: CycleState, { tool, removal }: PlannedTool): PlanZone[] {
  const own = splitAtRound(state).since.filter((passes) => toolKey(passes) === tool);
  return zonesOfTool(removal).flatMap((zone) => {
    const at = (end: End): number => zonePassesAt({ passes: own }, end, zone.key as ZoneKey);
    const made = { A: at('A'), B: at('B') };
    return made.A + made.B > 0 ? [{ ...zone, tool, made }] : [];
  });
}

/** One of a tool's zones of its own kind. */
export function specialOf({ tool, removal }: PlannedTool, key: ZoneKey): PlanZone | undefined {
  const zone = removal.special?.find((each) => each.key === key);
  return zone && { ...zone, tool };
}

/** A curved edge on two tables: its straight outer part flat, the curve rounded, none over the whole. */
export function onTwoTables(tool: PlannedTool): PlanZone[] {
  const inner = specialOf(tool, 'inner');
  return [...tool.zones.filter(({ key }) => key !== 'full'), ...(inner ? [inner] : [])];
}

export const asFinishing = ({ tool, counts, zones }: PlannedTool): FinishingTool => ({
  tool,
  counts,
  zones,
});
