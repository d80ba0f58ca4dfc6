import {
  passesIn,
  type BalanceView,
  type CycleState,
  type Outcome,
  type SignOffView,
  type StepKey,
  type StepView,
  type TakenRound,
} from '@tally-stone/contract';
import {
  BALANCE_GRADES,
  COVERAGE_K,
  ENDS,
  inWords,
  isAboutEdge,
  judgeBalance,
  nextSearchStepGmm,
  outer50RadiusMm,
  permissibleGmm,
  retireReasonOf,
  severityRank,
  SHOP_RETIRES_FOR,
  worstInWords,
  USUAL_REMOVAL,
  zoneRadiusMm,
  type End,
  type Finding,
  type Judgement,
} from '@tally-stone/core';
import type { CycleFacts } from './facts.js';
import { judgeBefore, judgeNow, witnesses, type Witnesses } from './judge.js';
import { nowAt, slotsOf } from './readings.js';
import { schoolsOf } from './schools.js';

/** What one round's passes took from the end that was heavy before it, less what they took from the other. */
function takenSince(
  state: CycleState,
  facts: CycleFacts,
  heavyEnd: End,
  from: number,
  to: number,
): number {
  let counted = 0;
  let moved = 0;
  for (const { end, zone, count } of state.passes) {
    const within = Math.max(0, Math.min(counted + count, to) - Math.max(counted, from));
    const found = facts.removal?.zones.find(({ key }) => key === zone);
    const grams = found?.gramsPerPass ?? USUAL_REMOVAL.gramsPerPass;
    const radius = found
      ? zoneRadiusMm(found, facts.spec.newLengthMm / 2)
      : outer50RadiusMm(facts.spec.newLengthMm / 2);
    moved += (end === heavyEnd ? 1 : -1) * within * grams * radius;
    counted += count;
  }
  return Math.max(0, moved);
}

/** How far a step of the search may miss what it was meant to take. Common practice, no source. */
const STEP_ERROR = 0.25;

/** Where only the heavy end is known: what to take next, by the bracketing search over the rounds so far. */
function searchStep(
  state: CycleState,
  facts: CycleFacts,
  index: number,
): Pick<BalanceView, 'correctionG' | 'correctionUG' | 'within'> {
  const { spec } = facts;
  const gradeMmPerS = schoolsOf(state, facts).gradeMmPerS ?? spec.gradeMmPerS;
  const massG = nowAt(state, facts, { quantity: 'mass' })?.value ?? spec.newMassG;
  const earlier = state.rounds.slice(0, index).flatMap((round, i) => {
    const next = state.rounds[i + 1];
    if (!next || round.heavyEnd === 'level') return [];
    const takenGmm = takenSince(
      state,
      facts,
      round.heavyEnd,
      round.passesBefore,
      next.passesBefore,
    );
    return takenGmm > 0 ? [{ heavyEnd: round.heavyEnd, takenGmm }] : [];
  });
  const stepGmm = nextSearchStepGmm(state.rounds[index]?.heavyEnd ?? 'level', earlier, {
    toleranceGmm: permissibleGmm(massG, facts.speedRpm, gradeMmPerS),
    stepRelativeError: STEP_ERROR,
  });
  const correctionG = stepGmm / outer50RadiusMm(spec.newLengthMm / 2);
  return { correctionG, correctionUG: STEP_ERROR * correctionG, within: false };
}

/** On what a round was read, and what stands beside its figure. */
function balancerWords(
  { balancerId, byTilt, halfTurn, leastVisibleGmm, unbalanceGmm, endOnly }: TakenRound,
  { balancers }: CycleFacts,
): Pick<BalanceView, 'balancer' | 'byTilt' | 'halfTurn' | 'belowSightGmm'> {
  const balancer = balancers.find((each) => each.balancerId === balancerId);
  const unseen = !endOnly && leastVisibleGmm && Math.abs(unbalanceGmm) < leastVisibleGmm;
  return {
    ...(balancer ? { balancer: balancer.name } : {}),
    ...(byTilt ? { byTilt } : {}),
    ...(halfTurn
      ? {
          halfTurn: {
            firstGmm: halfTurn.firstGmm,
            turnedGmm: halfTurn.turnedGmm,
            offsetGmm: halfTurn.offsetGmm,
          },
        }
      : {}),
    ...(unseen ? { belowSightGmm: leastVisibleGmm } : {}),
  };
}

/** What each balance round means for this blade. */
export function balanceViews(state: CycleState, facts: CycleFacts): BalanceView[] {
  const { spec } = facts;
  const gradeMmPerS = schoolsOf(state, facts).gradeMmPerS ?? spec.gradeMmPerS;
  const lengthMm = nowAt(state, facts, { quantity: 'length' })?.value ?? spec.newLengthMm;
  const massG = nowAt(state, facts, { quantity: 'mass' })?.value ?? spec.newMassG;
  return state.rounds.map((round, index) => {
    const result = judgeBalance({
      unbalance: { value: round.unbalanceGmm, u: round.u },
      bladeMassG: massG,
      speedRpm: facts.speedRpm,
      gradeMmPerS,
      correctionRadiusMm: outer50RadiusMm(lengthMm / 2),
    });
    return {
      roundId: round.roundId,
      phase: round.phase,
      device: round.device,
      heavyEnd: round.endOnly ? round.heavyEnd : result.heavyEnd,
      unbalanceGmm: result.unbalance.value,
      expandedUncertaintyGmm: COVERAGE_K * result.unbalance.u,
      permissibleGmm: result.permissibleGmm,
      gradeMmPerS: result.gradeMmPerS,
      gradeSource:
        BALANCE_GRADES[gradeMmPerS as keyof typeof BALANCE_GRADES] ??
        `G ${gradeMmPerS}: the blade spec's grade`,
      correctionRadiusMm: result.correctionRadiusMm,
      correctionG: result.correctionG,
      correctionUG: result.correctionUG,
      forceN: result.forceN,
      speedRpm: facts.speedRpm,
      within: result.within,
      tooCoarse: result.tooCoarse,
      passesBefore: round.passesBefore,
      ...(round.endOnly ? { ...searchStep(state, facts, index), endOnly: true } : {}),
      ...balancerWords(round, facts),
      ...(round.dropsS ? { dropsS: [...round.dropsS] } : {}),
      ...(round.outliersS ? { outliersS: [...round.outliersS] } : {}),
    };
  });
}

interface Block {
  readonly step: StepKey;
  readonly words: string;
}

/** Everything the steps, the sign-off and the screens are decided from. */
export interface Assessment {
  readonly slots: ReturnType<typeof slotsOf>;
  readonly before: Judgement;
  readonly now: Judgement;
  readonly rounds: BalanceView[];
  readonly witnesses: Witnesses;
  readonly blocks: readonly Block[];
  /** The shop hangs its blades before the grind too, and this one was not. */
  readonly hangFirst: boolean;
}

const plural = (n: number, one: string, many: string): string => `${n} ${n === 1 ? one : many}`;

function inspectBlocks(state: CycleState, slots: Assessment['slots']): Block[] {
  const blocks: Block[] = [];
  if (!state.cleaned) blocks.push({ step: 'clean', words: 'The blade is not cleaned' });
  if (!state.crack) blocks.push({ step: 'inspect', words: 'Cracks have not been looked for' });
  const tips = slots.filter(({ quantity, taken }) => quantity === 'tip-height' && !taken);
  if (tips.length > 0) blocks.push({ step: 'inspect', words: 'Both tips are not read for bend' });
  return blocks;
}

const open = (slots: Assessment['slots'], phase: 'before' | 'after'): Assessment['slots'] =>
  slots.filter(
    (slot) =>
      slot.phase === phase &&
      slot.needed &&
      slot.quantity !== 'tip-height' &&
      !slot.taken &&
      !slot.carried,
  );

function measureBlocks(slots: Assessment['slots']): Block[] {
  const missing = open(slots, 'before');
  return missing.length === 0
    ? []
    : [
        {
          step: 'measure',
          words: `${plural(missing.length, 'reading', 'readings')} before grinding missing: ${missing.map(({ label }) => label).join(', ')}`,
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
        words: 'Not hung before the grind: this shop hangs its blades before and after',
      },
    ];
  }
  const index = state.rounds.findLastIndex(({ phase }) => phase === 'after');
  const round = state.rounds[index];
  const view = rounds[index];
  if (passesIn(state) > 0 && state.deburredAfter !== passesIn(state)) {
    return [{ step: 'balance', words: 'Not deburred since the last grinding' }];
  }
  if (!round || !view) {
    return facts.shopRules.balanceWhen === 'seldom'
      ? []
      : [{ step: 'balance', words: 'The blade is not balanced' }];
  }
  if (round.passesBefore < passesIn(state)) {
    return [
      {
        step: 'balance',
        words: 'Passes were counted after the last balance reading: hang it again',
      },
    ];
  }
  if (view.endOnly) {
    return [
      {
        step: 'balance',
        words: `End ${view.heavyEnd} hangs low, nobody knows by how much: take ${view.correctionG.toFixed(1)} g there and hang it again, or measure it`,
      },
    ];
  }
  return view.within
    ? []
    : [
        {
          step: 'balance',
          words: `End ${view.heavyEnd} is ${Math.abs(view.unbalanceGmm).toFixed(0)} g·mm heavy, permissible ${view.permissibleGmm.toFixed(0)}`,
        },
      ];
}

function proveBlocks(state: CycleState, slots: Assessment['slots'], now: Judgement): Block[] {
  const blocks: Block[] = [];
  const missing = state.passes.length > 0 ? open(slots, 'after') : [];
  if (missing.length > 0) {
    blocks.push({
      step: 'prove',
      words: `${plural(missing.length, 'reading', 'readings')} after grinding missing: ${missing.map(({ label }) => label).join(', ')}`,
    });
  }
  for (const end of ENDS) {
    const line = state.lightTest[end];
    if (line === undefined) blocks.push({ step: 'prove', words: `End ${end}: no light test` });
    else if (line)
      blocks.push({ step: 'grind', words: `End ${end} shows a bright line: still dull` });
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

const retiring = ({ before, now }: Assessment): Finding[] => {
  const byId = new Map(
    [...before.findings, ...now.findings]
      .filter(({ severity }) => severity === 'retire')
      .map((finding) => [finding.id, finding]),
  );
  return [...byId.values()];
};

/** How a cycle may be signed off: proposed, allowed, and what stands in the way. */
export function signOffFrom(assessment: Assessment): SignOffView {
  const reasons = retiring(assessment);
  if (reasons.length > 0) {
    return {
      proposed: 'retired',
      allowed: ['retired'],
      blocks: [],
      retireReasons: [...new Set(reasons.map(retireReasonOf))],
    };
  }
  const allowed: Outcome[] = ['hold', 'retired'];
  const ready = assessment.blocks.length === 0;
  return {
    proposed: ready ? 'ready' : assessment.now.verdict === 'hold' ? 'hold' : 'ready',
    allowed: ready ? ['ready', ...allowed] : allowed,
    blocks: [...assessment.blocks],
    retireReasons: [...SHOP_RETIRES_FOR],
  };
}

export const signOffOf = (state: CycleState, facts: CycleFacts): SignOffView =>
  signOffFrom(assess(state, facts));

/** The steps of the run, whether each is done, and in words what it says. */
export function stepsOf(state: CycleState, assessment: Assessment, facts: CycleFacts): StepView[] {
  const { before, blocks, slots } = assessment;
  const blocked = (step: StepKey): Block | undefined => blocks.find((block) => block.step === step);
  const mustRetire = retiring(assessment).length > 0;
  const plain = (key: StepKey, done: boolean, words: string): StepView => {
    const block = blocked(key);
    return { key, state: done && !block ? 'done' : 'todo', words: block?.words ?? words };
  };
  const attention = (step: StepView, when: boolean): StepView =>
    when ? { ...step, state: 'attention' } : step;
  const measured = open(slots, 'before').length === 0 && state.cleaned;
  const passes = passesIn(state);
  return [
    plain('clean', state.cleaned, 'Clean'),
    attention(
      plain('inspect', state.crack !== undefined, plural(state.damage.length, 'mark', 'marks')),
      before.findings.some(
        ({ severity, reason }) =>
          severity === 'retire' && (reason === 'crack' || reason === 'bend'),
      ),
    ),
    attention(
      plain('measure', measured, 'Measured'),
      slots.some(({ question, phase }) => question && phase === 'before'),
    ),
    attention(
      {
        key: 'verdict',
        state: measured && state.crack ? 'done' : 'todo',
        words: worstInWords(before),
      },
      mustRetire || before.verdict === 'hold',
    ),
    plain(
      'set-up',
      state.setUp !== undefined ||
        facts.grinders.length === 0 ||
        passes > 0 ||
        (measured && before.verdict !== 'grind'),
      facts.grinders.find(({ grinderId }) => grinderId === state.setUp?.grinderId)?.figures.name ??
        'No grinder set up',
    ),
    plain(
      'grind',
      passes > 0 || (measured && before.verdict !== 'grind'),
      plural(passes, 'pass', 'passes'),
    ),
    plain('balance', !blocked('balance'), 'Within its grade'),
    attention(
      plain('prove', !blocked('prove'), 'Proved'),
      slots.some(({ question, phase }) => question && phase === 'after'),
    ),
    {
      key: 'sign-off',
      state: state.signedOff ? 'done' : 'todo',
      words: state.signedOff?.outcome ?? '',
    },
  ];
}

/** The step to do next: straight to sign-off where the blade must be retired. */
export function nextStepOf(steps: readonly StepView[], assessment: Assessment): StepKey {
  if (retiring(assessment).length > 0) return 'sign-off';
  const next = steps.find(({ state }) => state !== 'done')?.key ?? 'sign-off';
  return assessment.hangFirst && (next === 'set-up' || next === 'grind') ? 'balance' : next;
}
