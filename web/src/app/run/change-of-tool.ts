import { ChangeDetectionStrategy, Component, computed, inject, signal } from '@angular/core';
import { MatButtonModule } from '@angular/material/button';
import { BladeMassG, type CycleAct } from '@tally-stone/contract';
import { lastValueFrom } from 'rxjs';
import { QuantityControl, passes, refuse } from '../data/fields';
import { Instruments } from '../data/instruments';
import { troubleFrom } from '../data/problem';
import { Units } from '../data/units';
import { QuantityField } from '../parts/form/quantity-field';
import { RunStore } from './run-store';

type Weighed = Pick<Extract<CycleAct, { type: 'set-up' }>, 'mass' | 'instrument'>;

/** Between two tools the blade may be weighed, so that each learns from what it took itself. */
@Component({
  selector: 'ts-change-of-tool',
  imports: [MatButtonModule, QuantityField],
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    <p i18n class="quiet">
      Weigh it before the change and each tool learns from what it took itself. Left out, what the
      one took is worked out from what the other usually takes.
    </p>
    <div class="weigh">
      <ts-quantity [control]="mass" label="Mass now" i18n-label />
      @if (scale(); as instrument) {
        <button i18n mat-button class="big" (click)="take()">
          @if (taking()) {
            …
          } @else {
            Take it with the {{ instrument.name.toLowerCase() }}
          }
        </button>
      }
    </div>
    @if (trouble()) {
      <p class="bad" role="alert">{{ trouble() }}</p>
    }
  `,
  styles: `
    .weigh {
      display: flex;
      align-items: center;
      gap: 12px;
    }
  `,
})
export class ChangeOfTool {
  private readonly store = inject(RunStore);
  private readonly instruments = inject(Instruments);
  private readonly units = inject(Units);
  protected readonly mass = new QuantityControl('g', BladeMassG, this.units, { optional: true });
  protected readonly taking = signal(false);
  protected readonly trouble = signal('');
  protected readonly scale = computed(() => this.instruments.speaking('mass'));
  /** What the field holds as the scale gave it. */
  private taken: { readonly text: string; readonly key: string } | undefined;

  /** What was weighed, to be sent with the set-up; nothing where it was left out, `false` where it is no mass. */
  weighed(): Weighed | false {
    if (!passes(this.mass)) return false;
    const { entered } = this.mass;
    if (!entered.text) return {};
    const byScale = this.taken?.text === entered.text ? this.taken.key : undefined;
    return { mass: entered, ...(byScale ? { instrument: byScale } : {}) };
  }

  refuse(words: string): void {
    refuse(this.mass, words);
  }

  protected async take(): Promise<void> {
    const instrument = this.scale();
    if (!instrument || this.taking()) return;
    this.taking.set(true);
    this.trouble.set('');
    try {
      const place = { phase: 'after', quantity: 'mass' } as const;
      const act = { act: 'put', cycleId: this.store.id(), place } as const;
      await this.store.settled();
      const { figures } = await lastValueFrom(this.instruments.take(instrument, act));
      this.mass.put(Number(figures));
      this.taken = { text: this.mass.entered.text, key: instrument.key };
    } catch (error) {
      this.trouble.set(error instanceof Error ? error.message : troubleFrom(error).words);
    } finally {
      this.taking.set(false);
    }
  }
}
