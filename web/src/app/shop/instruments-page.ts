import { ChangeDetectionStrategy, Component, computed, inject, signal } from '@angular/core';
import { takeUntilDestroyed } from '@angular/core/rxjs-interop';
import { MatButtonModule } from '@angular/material/button';
import { MatButtonToggleModule } from '@angular/material/button-toggle';
import { MatCheckboxModule } from '@angular/material/checkbox';
import { MatTableModule } from '@angular/material/table';
import { decimalsOf } from '@tally-stone/core';
import {
  STAND_INS,
  type InstrumentActInput,
  type InstrumentView,
  type StandIn,
} from '@tally-stone/contract';
import { Named } from '../parts/named';
import { text } from '../data/fields';
import { figuresOf, Instruments } from '../data/instruments';
import { PhotoMats } from '../photo/photo-mats';
import { TextField } from '../parts/form/text-field';
import { troubleFrom } from '../data/problem';
import { Region } from '../data/region';
import { TypingGauge } from '../data/typing-gauge';
import { Units } from '../data/units';
import { Source } from '../parts/source';
import { Shop } from '../data/shop';
import { keepRules } from './keep-rules';
import { ShopPart } from './shop-part';

/** The bench instruments: which of them are simulated, and what each shows now. */
@Component({
  selector: 'ts-instruments-page',
  imports: [
    Named,
    MatButtonModule,
    MatButtonToggleModule,
    MatCheckboxModule,
    MatTableModule,
    PhotoMats,
    ShopPart,
    Source,
    TextField,
  ],
  changeDetection: ChangeDetectionStrategy.OnPush,
  templateUrl: './instruments-page.html',
  styleUrl: './part.scss',
})
export class InstrumentsPage {
  protected readonly instruments = inject(Instruments);
  protected readonly units = inject(Units);
  private readonly region = inject(Region);
  protected readonly typingGauge = inject(TypingGauge);
  protected stepsOf({ resolution, u, unit }: InstrumentView): string {
    const steps = this.units.show(resolution, unit, decimalsOf(resolution));
    return $localize`${steps} steps, ± ${this.units.show(2 * u, unit, 2)} (k = 2)`;
  }
  protected readonly columns = ['name', 'reads', 'shows', 'plug'];
  protected readonly tag = text();
  /** What each instrument with something on it shows now, as it says it. */
  protected readonly live = signal<Readonly<Record<string, string>>>({});

  private readonly shop = inject(Shop);
  protected readonly rules = keepRules({
    then: () => void this.instruments.refresh().catch(() => undefined),
  });
  protected readonly all = STAND_INS;
  protected readonly simulated = computed(() => this.shop.view()?.rules.standIns ?? []);
  protected readonly lead = computed(() =>
    this.simulated().length > 0
      ? $localize`What is simulated shows figures of an invented blade, never of yours: for trying things out only.`
      : $localize`Nothing is simulated: figures are typed, or come from a gauge on a cable.`,
  );

  protected async simulate(standIns: readonly StandIn[]): Promise<void> {
    await this.rules.change((rules) => ({ ...rules, standIns: [...standIns] }));
  }

  protected async simulateOne(key: string, on: boolean): Promise<void> {
    await this.simulate(
      STAND_INS.filter((each) => (each === key ? on : this.simulated().includes(each))),
    );
  }

  constructor() {
    void this.instruments.refresh().catch(() => undefined);
    this.instruments.samples$
      .pipe(takeUntilDestroyed())
      .subscribe(({ key, value, unit, resolution, state }) => {
        const shown =
          state === 'ok' ? `${this.region.signed(figuresOf(value, resolution))} ${unit}` : '';
        this.live.update((all) => ({ ...all, [key]: shown }));
      });
  }

  /** What an instrument answered that could not do it. */
  protected readonly refused = signal('');
  private async act(key: string, act: InstrumentActInput): Promise<void> {
    try {
      await this.instruments.act(key, act);
      this.refused.set('');
    } catch (error) {
      this.refused.set(troubleFrom(error).words);
    }
  }

  protected async plug(key: string, plugged: boolean): Promise<void> {
    await this.act(key, { act: plugged ? 'unplug' : 'plug' });
  }

  /** What of the check blade an instrument reads; nothing where it reads none of it. */
  protected checkOn({ by, reads, plugged }: InstrumentView): 'mass' | 'width' | undefined {
    return plugged && by !== 'hand'
      ? (['mass', 'width'] as const).find((each) => reads.includes(each))
      : undefined;
  }

  protected async putCheck(key: string, quantity: 'mass' | 'width'): Promise<void> {
    await this.act(key, { act: 'put-check', quantity });
  }

  protected async takeOff(key: string): Promise<void> {
    await this.act(key, { act: 'take-off' });
    this.live.update((all) => ({ ...all, [key]: '' }));
  }

  protected async scan(): Promise<void> {
    const code = this.tag.value.trim();
    if (code) await this.act('scanner', { act: 'scan', code });
  }
}
