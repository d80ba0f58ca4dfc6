import { shown } from '../data/shown';
import {
  ChangeDetectionStrategy,
  Component,
  computed,
  inject,
  signal,
  DestroyRef,
} from '@angular/core';
import { MatButtonModule } from '@angular/material/button';
import { MatCheckboxModule } from '@angular/material/checkbox';
import { MatButtonToggleModule } from '@angular/material/button-toggle';
import type { BatchView, BladeRow } from '@tally-stone/contract';
import { BLADE_STATES, listed } from '@tally-stone/core/basics';
import { RouterLink } from '@angular/router';
import { Api } from '../data/api';
import { Batch, bladesOf, firstInBatch } from '../data/batch';
import { troubleFrom } from '../data/problem';
import { Days } from '../data/days';
import { Undo } from '../data/undo';
import { Units } from '../data/units';
import { Source } from '../parts/source';
import { STEP_NAMES } from '../run/step-names';

type Open = NonNullable<BatchView['batch']>;
const WORDS = { lengthMm: 'length', widthMm: 'width', massG: 'mass' } as const;

/** A heap of blades worked through together: by set-up, change-overs between, sets kept together. */
@Component({
  selector: 'ts-batch-page',
  imports: [
    PlacePipe,
    NamedPipe,
    Named,
    PageState,
    MatCheckboxModule,
    MatButtonModule,
    MatButtonToggleModule,
    RouterLink,
    Source,
  ],
  changeDetection: ChangeDetectionStrategy.OnPush,
  templateUrl: './batch-page.html',
  styleUrl: './batch-page.scss',
})
export class BatchPage {
  private readonly api = inject(Api);
  protected readonly batch = inject(Batch);
  private readonly undo = inject(Undo);
  protected readonly units = inject(Units);
  protected readonly shownHeap = shown(() => this.api.shift(), {
    about: 'nothing',
    then: () => {
      this.pickShift();
    },
  });
  protected readonly refused = signal('');
  private readonly left = signal<ReadonlySet<string>>(new Set());
  protected readonly days = inject(Days);
  protected readonly shift = this.shownHeap.value;

  /** All that waits or is in hand, in the order a batch of it is worked. */
  protected readonly waiting = computed((): readonly BladeRow[] =>
    (this.shift()?.heap ?? []).flatMap(({ blades }) => blades),
  );
  protected readonly picked = computed(() =>
    this.waiting().filter(({ bladeId }) => !this.left().has(bladeId)),
  );
  protected readonly done = computed(() => {
    const open = this.batch.open();
    return open ? bladesOf(open).filter(({ step }) => !step).length : 0;
  });
  protected readonly all = computed(() => {
    const open = this.batch.open();
    return open ? bladesOf(open).length : 0;
  });
  protected readonly next = computed(() => {
    const open = this.batch.open();
    return open && firstInBatch(open, this.batch.mode());
  });

  constructor() {
    void this.batch.refresh();
    this.batch.follow(() => '', inject(DestroyRef));
  }

  /** The shift as proposed: what it has no room for is left out. */
  protected pickShift(): void {
    const taken = new Set(
      this.shift()?.runs.flatMap(({ blades }) => blades.map(({ bladeId }) => bladeId)),
    );
    this.left.set(
      new Set(this.waiting().flatMap(({ bladeId }) => (taken.has(bladeId) ? [] : bladeId))),
    );
  }
  protected pickAll(): void {
    this.left.set(new Set());
  }

  protected readonly shiftBlades = computed(() =>
    (this.shift()?.runs ?? []).reduce((sum, { blades }) => sum + blades.length, 0),
  );

  protected isPicked(bladeId: string): boolean {
    return !this.left().has(bladeId);
  }
  protected toggle(bladeId: string): void {
    this.left.update((left) => {
      const others = new Set(left);
      if (!others.delete(bladeId)) others.add(bladeId);
      return others;
    });
  }

  protected async make(): Promise<void> {
    await this.trying(() => this.batch.make(this.picked().map(({ bladeId }) => bladeId)));
  }
  protected async close(): Promise<void> {
    const open = this.batch.open();
    await this.trying(async () => {
      await this.batch.close();
      this.shownHeap.again();
      const ids = open
        ? bladesOf(open).flatMap(({ blade, step }) => (step ? [blade.bladeId] : []))
        : [];
      if (ids.length > 0)
        this.undo.offer(
          $localize`The batch is closed.`,
          () => void this.trying(() => this.batch.make(ids)),
        );
    });
  }
  protected async takeUp(member: Open['runs'][number]['blades'][number]): Promise<void> {
    await this.trying(() => this.batch.takeUp(member));
  }
  private async trying(act: () => Promise<void>): Promise<void> {
    try {
      await act();
      this.refused.set('');
    } catch (error) {
      const { words, fields } = troubleFrom(error);
      this.refused.set(fields['bladeIds'] ? $localize`The blades ${fields['bladeIds']}` : words);
    }
  }

  protected stepWords({ step, outcome }: Open['runs'][number]['blades'][number]): string {
    if (step) return $localize`next: ${STEP_NAMES[step].toLowerCase()}`;
    return outcome ? BLADE_STATES[outcome].words : '';
  }

  protected setWords({ ready, codes, spread, over, oddCode }: Open['sets'][number]): string {
    if (!spread) return $localize`${ready} of ${codes.length} ready`;
    const parts = (['lengthMm', 'widthMm', 'massG'] as const).map(
      (key) => `${WORDS[key]} ${this.units.show(spread[key], key === 'massG' ? 'g' : 'mm', 1)}`,
    );
    const apart = $localize`apart by ${parts.join(', ')}`;
    if (over.length === 0) return $localize`a match: ${apart}`;
    const odd = oddCode ? $localize` The odd one is ${oddCode}.` : '';
    return $localize`no match in ${listed(over.map((key) => WORDS[key]))}:ph0:: ${apart}.${odd}`;
  }
}
import { PageState } from '../parts/state';
import { Named } from '../parts/named';
import { NamedPipe, PlacePipe } from '../parts/named.pipe';
