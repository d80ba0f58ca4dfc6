import {
  afterNextRender,
  ChangeDetectionStrategy,
  Component,
  computed,
  ElementRef,
  inject,
  input,
  output,
  signal,
} from '@angular/core';
import { MatButtonModule } from '@angular/material/button';
import { MatRadioModule } from '@angular/material/radio';
import { Disposal, type CycleView, type RetireReason } from '@tally-stone/contract';
import { RETIRE_REASONS, SHOP_RETIRES_FOR } from '@tally-stone/core';
import { grindsWords } from '../data/grinds';
import { Units } from '../data/units';
import { DISPOSAL_WORDS } from './disposal-words';

export interface Retirement {
  readonly reason: RetireReason;
  readonly disposal: Disposal;
}

/** A blade that no reading retires: why the shop does it all the same, what is lost, and a second act. */
@Component({
  selector: 'ts-retire-anyway',
  imports: [MatButtonModule, MatRadioModule],
  changeDetection: ChangeDetectionStrategy.OnPush,
  templateUrl: './retire-anyway.html',
  styleUrl: './retire-anyway.scss',
})
export class RetireAnyway {
  protected readonly grindsWords = grindsWords;
  private readonly units = inject(Units);
  readonly view = input.required<CycleView>();
  readonly retire = output<Retirement>();
  readonly keepIt = output();

  protected readonly reasons = SHOP_RETIRES_FOR.map((key) => ({
    key,
    words: RETIRE_REASONS[key].words,
  }));
  protected readonly disposals = Disposal.options.map((key) => ({
    key,
    words: DISPOSAL_WORDS[key],
  }));
  protected readonly reason = signal<RetireReason | undefined>(undefined);
  protected readonly disposal = signal<Disposal | undefined>(undefined);
  protected readonly missing = signal('');

  /** The steel above its limits that goes with it, the scarcest first. */
  protected readonly lost = computed(() => {
    const { now } = this.view();
    const margins = now.findings.flatMap(({ margin, unit, limit, id }) =>
      margin !== undefined && margin > 0 && limit !== undefined && unit === 'mm'
        ? [{ id, margin, share: margin / limit }]
        : [],
    );
    const width = margins
      .filter(({ id }) => id.startsWith('width'))
      .sort((a, b) => a.share - b.share)[0];
    return width
      ? $localize`${this.units.show(width.margin, 'mm', 1)} of width above its limit`
      : '';
  });

  constructor() {
    // The button that opened this is gone: on with the first thing asked.
    const host = inject<ElementRef<HTMLElement>>(ElementRef).nativeElement;
    afterNextRender(() => host.querySelector<HTMLElement>('input[type=radio]')?.focus());
  }

  protected confirm(): void {
    const [reason, disposal] = [this.reason(), this.disposal()];
    if (!reason) this.missing.set($localize`Pick why the shop retires it.`);
    else if (!disposal) this.missing.set($localize`Say how it was made unusable.`);
    else this.retire.emit({ reason, disposal });
  }
}
