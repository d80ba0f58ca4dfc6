import { computed, inject, Injectable, signal, type DestroyRef } from '@angular/core';
import { takeUntilDestroyed } from '@angular/core/rxjs-interop';
import { Router } from '@angular/router';
import { StepKey, type BatchView } from '@tally-stone/contract';
import { auditTime, filter, firstValueFrom } from 'rxjs';
import { Api } from './api';
import { Changes } from './changes';
import { Commands, newId } from './commands';

type Open = NonNullable<BatchView['batch']>;
export type Member = Open['runs'][number]['blades'][number];

/** One blade after the other from end to end, or one step after the other over all blades. */
export type BatchMode = 'blade' | 'step';
const MODE = 'tally-stone.batch-mode';

/** Steps that are done in one go at one place. */
const HEAPS: readonly (readonly StepKey[])[] = [
  ['clean'],
  ['inspect'],
  ['measure', 'verdict'],
  ['set-up', 'grind'],
  ['balance'],
  ['prove', 'sign-off'],
];
export const heapOf = (step: StepKey): number => HEAPS.findIndex((heap) => heap.includes(step));

/** What a heap is called by: the first of its steps. */
export const workOf = (step: StepKey): StepKey => HEAPS[heapOf(step)]?.[0] ?? step;

export const bladesOf = (batch: Open): Member[] => batch.runs.flatMap(({ blades }) => blades);

/**
 * The blade to take up after one: in working order, round and round. By steps it is the next that has not done
 * the heap in hand; when all have, the one furthest behind.
 */
export function nextInBatch(
  batch: Open,
  bladeId: string,
  mode: BatchMode,
  step: StepKey,
): Member | undefined {
  const all = bladesOf(batch);
  const at = all.findIndex(({ blade }) => blade.bladeId === bladeId);
  const around = [...all.slice(at + 1), ...all.slice(0, Math.max(0, at))].filter(
    (member) => member.step !== undefined,
  );
  if (mode === 'blade') return around[0];
  const behind = around.find((member) => member.step && heapOf(member.step) <= heapOf(step));
  if (behind) return behind;
  return furthestBehind(
    all.filter((member) => member.step !== undefined && member.blade.bladeId !== bladeId),
  );
}

/** Of those not finished whoever has done the fewest heaps, the first of them in working order. */
const furthestBehind = (members: readonly Member[]): Member | undefined =>
  members.reduce<Member | undefined>(
    (first, member) =>
      !first || heapOf(member.step ?? 'clean') < heapOf(first.step ?? 'clean') ? member : first,
    undefined,
  );

/** By steps: whoever has not done the heap in hand yet, besides the blade that is. */
export const behindInBatch = (batch: Open, bladeId: string, step: StepKey): Member[] =>
  bladesOf(batch).filter(
    (member) =>
      member.blade.bladeId !== bladeId &&
      member.step !== undefined &&
      heapOf(member.step) <= heapOf(step),
  );

/** The blade to start or go on with: one in hand, or, by steps, the first that is furthest behind. */
export function firstInBatch(batch: Open, mode: BatchMode): Member | undefined {
  const left = bladesOf(batch).filter(({ step }) => step !== undefined);
  if (mode === 'blade') return left.find(({ blade }) => blade.cycleId) ?? left[0];
  return furthestBehind(left);
}

/** Where a blade was left at this bench, known before the server tells of it with the batch. */
export interface Left {
  readonly bladeId: string;
  readonly cycleId: string;
  /** The step it goes on with; undefined once it is signed off. */
  readonly step: StepKey | undefined;
}

const isBehind = ({ step }: Member, left: Left): boolean =>
  step !== undefined &&
  (left.step === undefined || StepKey.options.indexOf(step) < StepKey.options.indexOf(left.step));

/** The batch with blades as they were left at this bench, where its last word of them is older. */
export function withLeft(batch: Open, left: readonly Left[]): Open {
  const asLeft = (member: Member): Member => {
    const known = left.find(({ bladeId }) => bladeId === member.blade.bladeId);
    if (!known || !isBehind(member, known)) return member;
    const blade = { ...member.blade, cycleId: known.cycleId };
    const { setName } = member;
    return {
      blade,
      ...(setName === undefined ? {} : { setName }),
      ...(known.step ? { step: known.step } : {}),
    };
  };
  return {
    ...batch,
    runs: batch.runs.map((run) => ({ ...run, blades: run.blades.map(asLeft) })),
  };
}

/** The open batch, kept up to date, and how it is worked through on this device. */
@Injectable({ providedIn: 'root' })
export class Batch {
  private readonly api = inject(Api);
  private readonly commands = inject(Commands);
  private readonly router = inject(Router);
  private readonly said = signal<Open | undefined>(undefined);
  private readonly left = signal<readonly Left[]>([]);
  readonly open = computed(() => {
    const said = this.said();
    return said && withLeft(said, this.left());
  });
  readonly loaded = signal(false);
  readonly mode = signal<BatchMode>(localStorage.getItem(MODE) === 'step' ? 'step' : 'blade');

  private readonly changes = inject(Changes);

  /**
   * Keeps the batch up to date for as long as a screen shows it. What is done to the cycle that is in hand there does
   * not move the batch before its sign-off, which is told of its blade.
   */
  follow(inHand: () => string, until: DestroyRef): void {
    this.changes.all$
      .pipe(
        filter((event) => event === 'resumed' || event.subjectId !== inHand()),
        auditTime(400),
        takeUntilDestroyed(until),
      )
      .subscribe(() => void this.refresh());
  }

  private asked = 0;
  private answered = 0;
  async refresh(): Promise<void> {
    const turn = ++this.asked;
    // All that was done to these has been answered: the batch asked for now knows of it, or of what was undone since.
    const known = this.left().filter(
      ({ cycleId }) => this.commands.waitingOf(cycleId).length === 0,
    );
    try {
      const { batch } = await firstValueFrom(this.api.batch());
      if (turn < this.answered) return;
      this.answered = turn;
      this.said.set(batch);
      this.left.update((all) => all.filter((left) => !known.includes(left)));
      this.loaded.set(true);
    } catch {
      // The server is away: what is known of the batch stands.
    }
  }

  pick(mode: BatchMode): void {
    this.mode.set(mode);
    localStorage.setItem(MODE, mode);
  }

  async make(bladeIds: readonly string[]): Promise<void> {
    await firstValueFrom(
      this.commands.shop({ type: 'make-batch', batchId: newId(), bladeIds: [...bladeIds] }),
    );
    await this.refresh();
  }

  async close(): Promise<void> {
    const batch = this.open();
    if (!batch) return;
    await firstValueFrom(this.commands.shop({ type: 'close-batch', batchId: batch.batchId }));
    await this.refresh();
  }

  /** The blade in hand is left for another; until the server tells of it, it counts as it was left. */
  leave(left: Left): void {
    this.left.update((all) => [...all.filter(({ bladeId }) => bladeId !== left.bladeId), left]);
  }

  /** Takes a blade of the batch up: goes on with its cycle, or opens one. */
  async takeUp({ blade }: Member): Promise<void> {
    if (blade.cycleId) {
      await this.router.navigate(['/run', blade.cycleId]);
      return;
    }
    const cycleId = newId();
    await firstValueFrom(
      this.commands.shop({ type: 'open-cycle', cycleId, bladeId: blade.bladeId }),
    );
    await this.router.navigate(['/run', cycleId]);
  }
}
