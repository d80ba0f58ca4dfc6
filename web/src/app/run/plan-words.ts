import type { AskedPlan } from '@tally-stone/contract';
import type { Units } from '../data/units';
import {
  askPlan,
  ENDS,
  said,
  type Choice,
  type End,
  type GrindPlan,
  type PlanInput,
  type PlanZone,
  type ZoneKey,
  COUNT_WORDS,
  type CountWords,
} from '@tally-stone/core';
import { passKey, toolKey } from '@tally-stone/cycle';

/** The key of what nobody set up. */
const NO_TOOL = toolKey({});

export const ZONE_WORDS: Readonly<Record<ZoneKey, string>> = {
  square: $localize`square, held upright`,
  full: $localize`whole edge`,
  'outer-half': $localize`outer half`,
  'outer-50': $localize`outer ${said(50, 'mm', 0)}`,
  inner: $localize`inner half`,
  back: $localize`back edge at the tip`,
};

/** Where passes of a plan go, with the table where the edge is ground on two. */
export function zoneWords({ schools, situation }: AskedPlan, zone: ZoneKey): string {
  const words = ZONE_WORDS[zone];
  if (!schools.secondTable || !situation.byTable?.some(({ key }) => key === zone)) return words;
  return $localize`${words}, ${zone === 'inner' ? $localize`rounded` : $localize`flat`} table`;
}

const inputs = new WeakMap<AskedPlan, PlanInput>();

/** What the search was asked: the same for all passes of a plan. */
export function inputOf(asked: AskedPlan): PlanInput {
  const known = inputs.get(asked);
  if (known) return known;
  const { input } = askPlan(asked.situation, asked.schools, asked.nickChoices);
  inputs.set(asked, input);
  return input;
}

/** The key of a zone's tool, and of the zone on it. */
export const toolOfZone = ({ tool }: PlanZone): string => tool ?? NO_TOOL;
export const keyOf = (zone: PlanZone): string => passKey(toolOfZone(zone), zone.key);

/** Passes of a zone on a tool. */
export interface ZonePasses {
  readonly zone: ZoneKey;
  readonly tool: string;
  readonly count: number;
  /** Made with a tool that is laid down. */
  readonly made: boolean;
}

/** Passes of a plan at one end, zone by zone, without the zones that get none. */
export const passesOf = (asked: AskedPlan, { passes }: GrindPlan, end: End): ZonePasses[] =>
  inputOf(asked)
    .zones.map((zone, i) => ({
      zone: zone.key as ZoneKey,
      tool: toolOfZone(zone),
      count: passes[end][i] ?? 0,
      made: zone.made !== undefined && zone.tool !== asked.situation.square?.tool,
    }))
    .filter(({ count }) => count > 0)
    // Upright passes come first, wherever the plan has them.
    .sort((a, b) => Number(b.zone === 'square') - Number(a.zone === 'square'));

/** Passes the plan wants of a zone on a tool at an end, those before the last balance reading included. */
export function targetOf(
  asked: AskedPlan,
  plan: GrindPlan,
  end: End,
  { zone, tool }: Pick<ZonePasses, 'zone' | 'tool'>,
): number {
  const planned = passesOf(asked, plan, end).find(
    (each) => each.zone === zone && each.tool === tool,
  );
  return (planned?.count ?? 0) + (asked.behind[end][passKey(tool, zone)] ?? 0);
}

/** A tool of a plan as it is spoken of, and what is counted on it. */
export const toolWords = (
  { tools }: AskedPlan,
  tool: string,
): { readonly name: string; readonly counts: CountWords } => {
  const known = tools[tool];
  return {
    name: (known?.name ?? $localize`other tool`).toLowerCase(),
    counts: COUNT_WORDS[known?.counts ?? 'pass'],
  };
};

export const passesInPlan = (plan: GrindPlan): number =>
  ENDS.reduce((sum, end) => sum + plan.passes[end].reduce((all, each) => all + each, 0), 0);

/** The place with the least room left after the plan. */
export function narrowest({
  forward,
}: GrindPlan): GrindPlan['forward']['stations'][number] | undefined {
  return [...forward.stations].sort((a, b) => a.roomLeftMm - b.roomLeftMm)[0];
}

/** What a choice does, in words for its button. */
export function choiceWords(
  { kind, grade, nickIds, tool }: Choice,
  nickName: (id: string) => string,
  toolName: (tool: string) => string,
): string {
  const besides =
    nickIds.length > 0 ? $localize`, and leave the nick${nickIds.length > 1 ? 's' : ''}` : '';
  switch (kind) {
    case 'finish-on':
      return $localize`Finish it on the ${toolName(tool ?? '')}`;
    case 'square-first':
      return $localize`Dress both edges square first`;
    case 'leave-nick':
      return $localize`Leave it: ${nickName(nickIds[0] ?? '')}`;
    case 'leave-nicks':
      return $localize`Leave all the nicks`;
    case 'grade':
      return $localize`Balance to ${grade?.name ?? $localize`a looser grade`}${besides}`;
    case 'nearest-balance':
      return $localize`Grind it, balance as near as it goes${besides}`;
    case 'allow-step':
      return $localize`Grind it with a step in the edge${besides}`;
  }
}

/** What a choice costs. */
export function choiceCost(
  { metalG, unbalanceAfterGmm, grindsAfter, stepMm }: Choice,
  units: Pick<Units, 'show' | 'number'>,
): string {
  const parts = [$localize`takes ${units.show(metalG, 'g')}`];
  if (stepMm !== undefined)
    parts.push($localize`a step of ${units.show(stepMm, 'mm', 2)} more than it should have`);
  if (unbalanceAfterGmm !== undefined)
    parts.push($localize`${units.show(Math.abs(unbalanceAfterGmm), 'g·mm', 0)} heavy after`);
  if (grindsAfter !== undefined)
    parts.push($localize`about ${units.number(grindsAfter, 1)} grinds left after`);
  return parts.join(', ');
}
