import type { AskedPlan } from '@tally-stone/contract';
import type { Units } from '../data/units';
import { ENDS, said, type Choice, type End, type GrindPlan, type ZoneKey } from '@tally-stone/core';

export const ZONE_WORDS: Readonly<Record<ZoneKey, string>> = {
  full: 'whole edge',
  'outer-half': 'outer half',
  'outer-50': `outer ${said(50, 'mm', 0)}`,
  back: 'back edge at the tip',
};

/** The zones a plan was solved for, in its own order. */
export function zonesOf({ situation, schools }: AskedPlan): ZoneKey[] {
  const keys = situation.zones.map(({ key }) => key as ZoneKey);
  return schools.balancePlace === 'cutting' ? keys : [...keys, 'back'];
}

/** Passes of a plan at one end, zone by zone, without the zones that get none. */
export function passesOf(
  asked: AskedPlan,
  { passes }: GrindPlan,
  end: End,
): { zone: ZoneKey; count: number }[] {
  return zonesOf(asked)
    .map((zone, i) => ({ zone, count: passes[end][i] ?? 0 }))
    .filter(({ count }) => count > 0);
}

/** Passes the plan wants of a zone at an end, those before the last balance reading included. */
export function targetOf(asked: AskedPlan, plan: GrindPlan, end: End, zone: ZoneKey): number {
  const planned = passesOf(asked, plan, end).find((each) => each.zone === zone)?.count ?? 0;
  return planned + (asked.behind[end][zone] ?? 0);
}

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
  { kind, grade, nickIds }: Choice,
  nickName: (id: string) => string,
): string {
  const besides = nickIds.length > 0 ? `, and leave the nick${nickIds.length > 1 ? 's' : ''}` : '';
  switch (kind) {
    case 'leave-nick':
      return `Leave it: ${nickName(nickIds[0] ?? '')}`;
    case 'leave-nicks':
      return 'Leave all the nicks';
    case 'grade':
      return `Balance to ${grade?.name ?? 'a looser grade'}${besides}`;
    case 'nearest-balance':
      return `Grind it, balance as near as it goes${besides}`;
    case 'allow-step':
      return `Grind it with a step in the edge${besides}`;
  }
}

/** What a choice costs. */
export function choiceCost(
  { metalG, unbalanceAfterGmm, grindsAfter, stepMm }: Choice,
  units: Pick<Units, 'show' | 'number'>,
): string {
  const parts = [`takes ${units.show(metalG, 'g')}`];
  if (stepMm !== undefined)
    parts.push(`a step of ${units.show(stepMm, 'mm', 2)} more than it should have`);
  if (unbalanceAfterGmm !== undefined)
    parts.push(`${units.show(Math.abs(unbalanceAfterGmm), 'g·mm', 0)} heavy after`);
  if (grindsAfter !== undefined)
    parts.push(`about ${units.number(grindsAfter, 1)} grinds left after`);
  return parts.join(', ');
}
