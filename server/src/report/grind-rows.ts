import type { CycleSummary } from '@tally-stone/contract';
import { BLADE_STATES, RETIRE_REASONS } from '@tally-stone/core';
import type { Paper, PaperColumn } from './paper.js';

function outcomeOf(paper: Paper, { outcome, retireReason, verdictWords }: CycleSummary): string {
  const words = outcome ? BLADE_STATES[outcome].words : $localize`not signed`;
  if (retireReason) return `${words}: ${RETIRE_REASONS[retireReason].words.toLowerCase()}`;
  return outcome === 'hold' && verdictWords ? `${words}: ${paper.resay(verdictWords)}` : words;
}

/** The columns of a signed cycle on paper. */
export const grindColumns = (paper: Paper): PaperColumn[] => [
  { head: $localize`Signed`, share: 11 },
  { head: 'By', share: 13 },
  { head: $localize`Passes A / B`, share: 9, align: 'right' },
  { head: $localize`Metal, ${paper.unit('g')}`, share: 13, align: 'right' },
  { head: $localize`Edge back A / B, ${paper.unit('mm')}`, share: 12, align: 'right' },
  { head: $localize`Bevel A / B`, share: 11, align: 'right' },
  {
    head: $localize`Unbalance before, after, allowed, ${paper.unit('g·mm')}`,
    share: 17,
    align: 'right',
  },
  { head: $localize`Outcome`, share: 20 },
];

export function grindRow(paper: Paper, cycle: CycleSummary): string[] {
  const pair = (
    of: { readonly A?: number | undefined; readonly B?: number | undefined },
    base: 'mm' | 'deg',
    digits: number,
  ): string =>
    of.A === undefined && of.B === undefined
      ? ''
      : `${paper.figure(of.A, base, digits) || '–'} / ${paper.figure(of.B, base, digits) || '–'}`;
  return [
    paper.day(cycle.signedAt ?? cycle.openedAt),
    cycle.signedBy ?? '',
    cycle.tools.map(({ passes }) => `${passes.A} / ${passes.B}`).join($localize`, then `),
    cycle.removedG
      ? `${paper.figure(cycle.removedG.value, 'g')} ± ${paper.figure(2 * cycle.removedG.u, 'g')}`
      : '',
    pair(cycle.recessionMm, 'mm', 2),
    pair(cycle.bevelDeg, 'deg', 1),
    [cycle.unbalanceBeforeGmm, cycle.unbalanceAfterGmm, cycle.permissibleGmm]
      .map((value) => (value === undefined ? '–' : paper.figure(Math.abs(value), 'g·mm', 0)))
      .join(', '),
    outcomeOf(paper, cycle),
  ];
}
