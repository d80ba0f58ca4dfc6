import type {
  CycleCommand,
  CycleEvent,
  CycleFacts,
  CycleState,
  GrinderView,
} from '@tally-stone/contract';
import {
  expanded,
  parseQuantity,
  QUANTITIES,
  rss,
  said,
  typedResolution,
  typedUncertainty,
  type Measured,
  type Unit,
} from '@tally-stone/core';
import { at, parsedReading } from './entered.js';
import { toolOf } from './facts.js';
import { passesIn } from './fold.js';
import { instrumentByKey } from './instruments.js';
import { wrongField } from './refusal.js';
import { valueAt } from './values.js';

type Of<Type extends CycleCommand['type']> = Extract<CycleCommand, { type: Type }>;

function grinderOf(grinderId: string, { grinders }: CycleFacts): GrinderView {
  const grinder = grinders.find((each) => each.grinderId === grinderId);
  if (!grinder) throw wrongField('grinderId', $localize`is not a grinder of this shop`);
  return grinder;
}

/** Weighed between two tools: passes lie behind it, and what was weighed before them. */
function weighedBetween(
  { mass, instrument }: Of<'set-up'>,
  state: CycleState,
  facts: CycleFacts,
): Measured | undefined {
  if (!mass) return undefined;
  const scale = instrument ? instrumentByKey(instrument) : undefined;
  if (instrument && !scale?.reads.includes('mass')) {
    throw wrongField('instrument', $localize`does not read this: take another, or type it`);
  }
  const value = parsedReading(mass, 'mass', 'mass.text');
  const unit = at('mass.text', () => parseQuantity(mass.text, mass.unit, 'mass.text').unit);
  const u = scale
    ? rss(scale.u, QUANTITIES.mass.handlingU)
    : typedUncertainty('mass', typedResolution(mass.text, unit as Unit, QUANTITIES.mass.unit));
  const before = valueAt(state, facts, { phase: 'before', quantity: 'mass' });
  if (passesIn(state) === 0 || !before || before.carried) {
    throw wrongField(
      'mass.text',
      $localize`tells nothing here: weigh it before the grind, then between two tools`,
    );
  }
  const lastG = state.weighings?.at(-1)?.value ?? before.value;
  if (value > lastG + expanded(rss(u, before.u))) {
    throw wrongField(
      'mass.text',
      $localize`is more than the ${said(lastG, 'g')} it had before these passes: weigh it again`,
    );
  }
  return { value, u };
}

/** The tool it is finished on: another than the one it is set up on. */
export function finishOn(
  { grinderId }: Of<'finish-on'>,
  state: CycleState,
  facts: CycleFacts,
): CycleEvent {
  if (grinderId === undefined) return { type: 'finish-chosen' };
  const { abrasiveId } = grinderOf(grinderId, facts);
  if (grinderId === toolOf(state, facts)?.grinderId) {
    throw wrongField(
      'grinderId',
      $localize`is the tool it is set up on: choose another to finish on`,
    );
  }
  return { type: 'finish-chosen', finishOn: { grinderId, abrasiveId } };
}

/** Which grinder the blade goes to; without the day's check only for a reason. */
export function setUp(command: Of<'set-up'>, state: CycleState, facts: CycleFacts): CycleEvent {
  const grinder = grinderOf(command.grinderId, facts);
  if (!grinder.checkedToday && !command.withoutCheck) {
    throw wrongField(
      'withoutCheck',
      $localize`is missing: ${grinder.figures.name} has not been checked today. Check it, or say why you go on`,
    );
  }
  return {
    type: 'set-up',
    setUp: {
      grinderId: grinder.grinderId,
      abrasiveId: grinder.abrasiveId,
      withoutCheck: grinder.checkedToday ? undefined : command.withoutCheck,
    },
    weighed: weighedBetween(command, state, facts),
  };
}
