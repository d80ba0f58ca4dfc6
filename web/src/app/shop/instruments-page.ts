import { ChangeDetectionStrategy, Component, inject, signal } from '@angular/core';
import { takeUntilDestroyed } from '@angular/core/rxjs-interop';
import { MatButtonModule } from '@angular/material/button';
import { MatButtonToggleModule } from '@angular/material/button-toggle';
import { MatTableModule } from '@angular/material/table';
import type { InstrumentView } from '@tally-stone/contract';
import { text } from '../data/fields';
import { asShown, Instruments } from '../data/instruments';
import { PhotoMats } from '../photo/photo-mats';
import { TextField } from '../parts/form/text-field';
import { TypingGauge } from '../data/typing-gauge';
import { Units } from '../data/units';
import { Source } from '../parts/source';
import { ShopPart } from './shop-part';

/** The bench instruments, simulated stand-ins here, and what each shows now. */
@Component({
  selector: 'ts-instruments-page',
  imports: [
    MatButtonModule,
    MatButtonToggleModule,
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
  protected readonly typingGauge = inject(TypingGauge);
  protected readonly columns = ['name', 'reads', 'shows', 'plug'];
  protected readonly tag = text();
  /** What each instrument with something on it shows now, as it says it. */
  protected readonly live = signal<Readonly<Record<string, string>>>({});

  constructor() {
    void this.instruments.refresh().catch(() => undefined);
    this.instruments.samples$
      .pipe(takeUntilDestroyed())
      .subscribe(({ key, value, unit, resolution, state }) => {
        const shown = state === 'ok' ? `${asShown(value, resolution)} ${unit}` : '';
        this.live.update((all) => ({ ...all, [key]: shown }));
      });
  }

  protected async plug(key: string, plugged: boolean): Promise<void> {
    await this.instruments.act(key, { act: plugged ? 'unplug' : 'plug' });
  }

  /** What of the check blade an instrument reads; nothing where it reads none of it. */
  protected checkOn({ reads, plugged }: InstrumentView): 'mass' | 'width' | undefined {
    return plugged ? (['mass', 'width'] as const).find((each) => reads.includes(each)) : undefined;
  }

  protected async putCheck(key: string, quantity: 'mass' | 'width'): Promise<void> {
    await this.instruments.act(key, { act: 'put-check', quantity });
  }

  protected async takeOff(key: string): Promise<void> {
    await this.instruments.act(key, { act: 'take-off' });
    this.live.update((all) => ({ ...all, [key]: '' }));
  }

  protected async scan(): Promise<void> {
    const code = this.tag.value.trim();
    if (code) await this.instruments.act('scanner', { act: 'scan', code });
  }
}
