import { computed, inject, Injectable } from '@angular/core';
import { Batch, bladesOf, heapOf, nextInBatch, type Member } from '../data/batch';
import { troubleFrom } from '../data/problem';
import { batchWords } from './batch-words';
import { RunStore } from './run-store';

/** The open batch, where the blade in hand is one of it. */
@Injectable()
export class InBatch {
  private readonly store = inject(RunStore);
  private readonly batch = inject(Batch);

  private readonly bladeId = computed(() => this.store.view()?.blade.bladeId);
  readonly open = computed(() => {
    const open = this.batch.open();
    const bladeId = this.bladeId();
    return open && bladesOf(open).some(({ blade }) => blade.bladeId === bladeId) ? open : undefined;
  });
  readonly words = computed(() => {
    const open = this.open();
    return open ? batchWords(open, this.batch.mode(), this.bladeId() ?? '', this.store.step()) : '';
  });
  readonly nextBlade = computed(() => {
    const open = this.open();
    const bladeId = this.bladeId();
    return open && bladeId
      ? nextInBatch(open, bladeId, this.batch.mode(), this.store.step())
      : undefined;
  });
  /** Step by step: the next blade, where this one's heap is done and the step to follow is of another heap. */
  readonly nextInHeap = computed(() => {
    const next = this.store.following();
    const heapDone =
      next !== undefined &&
      this.batch.mode() === 'step' &&
      heapOf(next) > heapOf(this.store.step()) &&
      this.store.stateOf(this.store.step()) === 'done';
    return heapDone ? this.nextBlade() : undefined;
  });

  /** The next blade of the batch; one that cannot be fetched just now is said, and this one stays in hand. */
  async takeUp(member: Member): Promise<void> {
    const view = this.store.view();
    if (view) {
      const { cycleId, blade, signedOff, nextStep } = view;
      this.batch.leave({ bladeId: blade.bladeId, cycleId, step: signedOff ? undefined : nextStep });
    }
    try {
      await this.batch.takeUp(member);
    } catch (error) {
      const { kind, words } = troubleFrom(error);
      void this.store.refused(
        kind === 'offline'
          ? $localize`The next blade is taken up once the server is back. This one can be worked on meanwhile.`
          : words,
      );
    }
  }
}
