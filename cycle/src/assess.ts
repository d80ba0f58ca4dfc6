import type {
  BalanceView,
  CycleFacts,
  CycleState,
  ReadingSlot,
  StepKey,
} from '@tally-stone/contract';
import {
  ENDS,
  inWords,
  said,
  isAboutEdge,
  severityRank,
  type Finding,
  type Judgement,
} from '@tally-stone/core';
import { balanceViews } from './balance-views.js';
import { hasBurr, passesIn } from './fold.js';
import { slotsOf } from './slots.js';
import { judgeBefore, judgeNow } from './verdict.js';
import { witnesses, type Witnesses } from './witnesses.js';

export interface Block {
  readonly step: StepKey;
  readonly words: string;
}

/** Everything the steps, the sign-off and the screens are decided from. */
export interface Assessment {
  readonly slots: ReadingSlot[];
  readonly before: Judgement;
  readonly now: Judgement;
  readonly rounds: BalanceView[];
  readonly witnesses: Witnesses;
  readonly blocks: readonly Block[];
  /** The shop hangs its blades before the grind too, and this one was not. */
  readonly hangFirst: boolean;
}

export const plural = (n: number, one: string, many: string): string =>
  `${n} ${n === 1 ? one : many}`;

function inspectBlocks(state: CycleState, slots: Assessment['slots']): Block[] {
  const blocks: Block[] = [];
  if (!state.cleaned) blocks.push({ step: 'clean', words: $localize`The blade is not cleaned` });
  if (!state.crack)
    blocks.push({ step: 'inspect', words: $localize`Cracks have not been looked for` });
  const tips = slots.filter(({ quantity, taken }) => quantity === 'tip-height' && !taken);
  if (tips.length > 0)
    blocks.push({ step: 'inspect', words: $localize`Both tips are not read for bend` });
  return blocks;
}

export const openSlots = (
  slots: Assessment['slots'],
  phase: 'before' | 'after',
): Assessment['slots'] =>
  slots.filter(
    (slot) =>
      slot.phase === phase &&
      slot.needed &&
      slot.quantity !== 'tip-height' &&
      !slot.taken &&
      !slot.carried,
  );

function measureBlocks(slots: Assessment['slots']): Block[] {
  const missing = openSlots(slots, 'before');
  return missing.length === 0
    ? []
    : [
        {
          step: 'measure',
          words: $localize`${plural(missing.length, $localize`reading`, $localize`readings`)} before grinding missing: ${missing.map(({ label }) => label).join(', ')}`,
        },
      ];
}

function questionBlocks(slots: Assessment['slots']): Block[] {
  return slots.flatMap(({ question, label, phase }) =>
    question
      ? [{ step: phase === 'before' ? 'measure' : 'prove', words: `${label}: ${question}` }]
      : [],
  );
}

/** What is to be ground and was not hung before, in the shop that hangs its blades before and after. */
const beforeMissing = (state: CycleState, facts: CycleFacts, before: Judgement): boolean =>
  facts.shopRules.balanceWhen === 'before-and-after' &&
  before.verdict === 'grind' &&
  passesIn(state) === 0 &&
  !state.rounds.some(({ phase }) => phase === 'before');

/** Nobody hung it, and the shop does not ask for it: said, not hidden. */
const notHung = (state: CycleState, facts: CycleFacts): Finding[] =>
  facts.shopRules.balanceWhen === 'seldom' && !state.rounds.some(({ phase }) => phase === 'after')
    ? [
        {
          id: 'not-balanced',
          reason: 'not-balanced',
          severity: 'watch',
          source: { by: 'seldom-hung' },
        },
      ]
    : [];

/** What the hanging before and the passes since make one expect, where the newest does not fit it. */
export const unlikeWords = ({
  unbalanceGmm,
  expandedUncertaintyGmm,
}: NonNullable<BalanceView['expected']>): string =>
  $localize`By the hanging before and the passes since, end ${unbalanceGmm < 0 ? 'B' : 'A'} should be ${said(Math.abs(unbalanceGmm), 'g·mm', 0)} heavy, give or take ${said(expandedUncertaintyGmm, 'g·mm', 0)}`;

function balanceBlocks(
  state: CycleState,
  facts: CycleFacts,
  rounds: readonly BalanceView[],
  before: Judgement,
): Block[] {
  if (beforeMissing(state, facts, before)) {
    return [
      {
        step: 'balance',
        words: $localize`Not hung before the grind: this shop hangs its blades before and after`,
      },
    ];
  }
  const index = state.rounds.findLastIndex(({ phase }) => phase === 'after');
  const round = state.rounds[index];
  const view = rounds[index];
  if (hasBurr(state)) {
    return [{ step: 'balance', words: $localize`Not deburred since the last grinding` }];
  }
  if (!round || !view) {
    return facts.shopRules.balanceWhen === 'seldom'
      ? []
      : [{ step: 'balance', words: $localize`The blade is not balanced` }];
  }
  if (round.passesBefore < passesIn(state)) {
    return [
      {
        step: 'balance',
        words: $localize`Passes were counted after the last balance reading: hang it again`,
      },
    ];
  }
  if (round.burr === 'gone') {
    return [
      { step: 'balance', words: $localize`Hung over the burr, which is off now: hang it again` },
    ];
  }
  if (view.endOnly) {
    return [
      {
        step: 'balance',
        words: $localize`End ${view.heavyEnd} hangs low, nobody knows by how much: take ${said(view.correctionG, 'g')} there and hang it again, or measure it`,
      },
    ];
  }
  if (view.expected) {
    return [
      { step: 'balance', words: $localize`${unlikeWords(view.expected)}:ph0:: hang it again` },
    ];
  }
  return view.within
    ? []
    : [
        {
          step: 'balance',
          words: $localize`End ${view.heavyEnd} is ${said(Math.abs(view.unbalanceGmm), 'g·mm', 0)} heavy, permissible ${said(view.permissibleGmm, 'g·mm', 0)}`,
        },
      ];
}

/** Ground square and no bevel cut since: it is blunt, whatever else was read of it. */
const squareBlocks = ({ passes }: CycleState): Block[] =>
  ENDS.flatMap((end) => {
    const last = passes.findLast((each) => each.end === end && each.zone !== 'back');
    return last?.zone === 'square'
      ? [{ step: 'grind', words: $localize`End ${end} was ground square: bring its bevel back` }]
      : [];
  });

function proveBlocks(state: CycleState, slots: Assessment['slots'], now: Judgement): Block[] {
  const blocks: Block[] = [];
  const missing = state.passes.length > 0 ? openSlots(slots, 'after') : [];
  if (missing.length > 0) {
    blocks.push({
      step: 'prove',
      words: $localize`${plural(missing.length, $localize`reading`, $localize`readings`)} after grinding missing: ${missing.map(({ label }) => label).join(', ')}`,
    });
  }
  for (const end of ENDS) {
    const line = state.lightTest[end];
    if (line === undefined)
      blocks.push({ step: 'prove', words: $localize`End ${end}:ph0:: no light test` });
    else if (line)
      blocks.push({ step: 'grind', words: $localize`End ${end} shows a bright line: still dull` });
  }
  const stillToGrind = now.findings.find(
    (finding) => finding.severity === 'grind' && isAboutEdge(finding),
  );
  if (stillToGrind && missing.length === 0) {
    blocks.push({ step: 'grind', words: inWords(stillToGrind).words });
  }
  return blocks;
}

/** Looks at a cycle once, for steps, sign-off and screens alike. */
export function assess(state: CycleState, facts: CycleFacts): Assessment {
  const slots = slotsOf(state, facts);
  const before = judgeBefore(state, facts);
  const judged = judgeNow(state, facts);
  const unhung = notHung(state, facts);
  const now: Judgement =
    unhung.length === 0
      ? judged
      : {
          verdict: judged.verdict === 'fine' ? 'watch' : judged.verdict,
          findings: [...judged.findings, ...unhung].sort(
            (a, b) => severityRank(a.severity) - severityRank(b.severity),
          ),
        };
  const rounds = balanceViews(state, facts);
  const held = now.findings.filter(({ severity }) => severity === 'hold');
  const blocks = [
    ...inspectBlocks(state, slots),
    ...measureBlocks(slots),
    ...questionBlocks(slots),
    ...held.map((finding): Block => ({ step: 'measure', words: inWords(finding).words })),
    ...squareBlocks(state),
    ...balanceBlocks(state, facts, rounds, before),
    ...proveBlocks(state, slots, now),
  ];
  return {
    slots,
    before,
    now,
    rounds,
    witnesses: witnesses(state, facts),
    blocks,
    hangFirst: beforeMissing(state, facts, before),
  };
}
