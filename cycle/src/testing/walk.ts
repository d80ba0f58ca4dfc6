import type { CycleCommand, CycleFacts, CycleState } from '@tally-stone/contract';
import { decide, foldCycle, foldOn, standingOf, type CycleStanding } from '../index.js';
import { facts, opened } from './facts.js';

/** A command of an act, as the bench sends it. */
export const command = (act: object): CycleCommand =>
  ({
    id: 'c1',
    personId: 'p1',
    occurredAt: '2026-05-01T09:00:00Z',
    cycleId: 'cycle',
    expectedRevision: 0,
    ...act,
  }) as CycleCommand;

/** One blade through all of its steps, by the rules alone: what is done, what stands in the way, what comes next. */
export class Walk {
  private state: CycleState = foldCycle([opened]);
  constructor(private readonly known: CycleFacts = facts()) {}

  do(...acts: object[]): this {
    for (const act of acts)
      this.state = foldOn(this.state, decide(command(act), this.state, this.known));
    return this;
  }
  get stands(): CycleStanding {
    return standingOf(this.state, this.known);
  }
  /** Keys of the steps that are done. */
  get done(): string {
    return this.stands.steps.flatMap(({ key, state }) => (state === 'done' ? [key] : [])).join(' ');
  }
  get blocks(): string[] {
    return this.stands.signOff.blocks.map(({ step, words }) => `${step}: ${words}`);
  }
  wordsOf(key: string): string {
    return this.stands.steps.find((step) => step.key === key)?.words ?? '';
  }
  stateOf(key: string): string {
    return this.stands.steps.find((step) => step.key === key)?.state ?? '';
  }
}
