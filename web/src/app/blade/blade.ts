import {
  ChangeDetectionStrategy,
  Component,
  computed,
  effect,
  inject,
  input,
  signal,
} from '@angular/core';
import { takeUntilDestroyed } from '@angular/core/rxjs-interop';
import { MatButtonModule } from '@angular/material/button';
import { Router, RouterLink } from '@angular/router';
import {
  PHOTOS_PATH,
  type BladeView,
  type CycleSummary,
  type MowerView,
} from '@tally-stone/contract';
import { ENDS, BLADE_STATES, RETIRE_REASONS } from '@tally-stone/core';
import { auditTime, filter, firstValueFrom } from 'rxjs';
import { Api } from '../data/api';
import { Changes } from '../data/changes';
import { Commands, newId } from '../data/commands';
import { COUNT_WORDS, counted } from '../data/count-words';
import { Days } from '../data/days';
import { troubleFrom, type Trouble } from '../data/problem';
import { Units } from '../data/units';
import { BladeDrawing } from '../parts/blade-drawing';
import { VerdictTag } from '../parts/verdict-tag';
import { Tally } from '../parts/tally';
import { dueWords } from '../mower/fleet-words';
import { NickMap } from './nick-map';
import { WidthChart } from './width-chart';

/** One blade and its life: its cycles in order, what is left above each limit, width against its limit. */
@Component({
  selector: 'ts-blade',
  imports: [MatButtonModule, RouterLink, BladeDrawing, NickMap, Tally, VerdictTag, WidthChart],
  changeDetection: ChangeDetectionStrategy.OnPush,
  templateUrl: './blade.html',
  styleUrl: './blade.scss',
})
export class Blade {
  private readonly api = inject(Api);
  private readonly commands = inject(Commands);
  private readonly router = inject(Router);
  protected readonly units = inject(Units);
  readonly bladeId = input.required<string>();

  protected readonly view = signal<BladeView | undefined>(undefined);
  protected readonly mowers = signal<readonly MowerView[]>([]);
  protected readonly trouble = signal<Trouble | undefined>(undefined);
  protected readonly refused = signal('');
  protected readonly spindleId = signal('');
  protected readonly hours = signal('');
  protected stateWords({ state, mowerName, position }: BladeView['blade']): string {
    return state === 'on-mower'
      ? `${BLADE_STATES[state].heading}, ${mowerName ?? ''} ${position ?? ''}`
      : BLADE_STATES[state].heading;
  }
  protected readonly ends = ENDS;
  protected readonly countWords = COUNT_WORDS;
  protected readonly counted = counted;
  protected readonly retireReasons = RETIRE_REASONS;
  protected readonly days = inject(Days);

  protected readonly photoPath = PHOTOS_PATH;
  protected readonly dueWords = dueWords;
  protected readonly happened = computed(() => [...(this.view()?.timeline ?? [])].reverse());
  protected readonly money = (amount: number): string =>
    `${this.view()?.cost.currency ?? ''}${amount.toFixed(2)}`;
  protected anHour({ perHour, hours }: BladeView['cost']): string {
    return perHour === undefined
      ? ', not mown with yet'
      : `, ${this.money(perHour)} an hour over ${hours.toFixed(0)} h`;
  }
  protected readonly newestFirst = computed(() => [...(this.view()?.cycles ?? [])].reverse());
  protected readonly freeSpindles = computed(() =>
    this.mowers().flatMap((mower) =>
      mower.spindles
        .filter(({ bladeId }) => bladeId === undefined)
        .map(({ spindleId, position }) => ({
          spindleId,
          words: `${mower.name}, ${position}`,
          hoursH: mower.hoursH,
        })),
    ),
  );

  constructor() {
    effect(() => {
      void this.load(this.bladeId());
    });
    inject(Changes)
      .all$.pipe(
        filter((event) => event === 'resumed' || event.subjectId === this.bladeId()),
        auditTime(200),
        takeUntilDestroyed(),
      )
      .subscribe(() => void this.load(this.bladeId()));
  }

  protected signed(value: number | undefined): string {
    if (value === undefined) return 'not read';
    if (value === 0) return 'level';
    return `${value > 0 ? 'A' : 'B'} ${Math.abs(value).toFixed(0)}`;
  }

  /** `9 (7 to 12)`. */
  protected span({ median, low, high }: { median: number; low: number; high: number }): string {
    return `${median.toFixed(0)} (${Math.floor(low)} to ${Math.ceil(high)})`;
  }

  protected amount(value: number | undefined, unit: string | undefined): string {
    if (value === undefined) return '';
    if (unit === 'mm') return this.units.show(value, 'mm');
    return `${value.toFixed(unit === 'grinds' ? 0 : 1)} ${unit ?? ''}`;
  }

  protected removed({ removedG, removedSignedG }: CycleSummary): string {
    if (!removedG) return 'not weighed';
    const signed = removedSignedG && removedSignedG.value !== removedG.value;
    const was = signed ? ` (signed ${removedSignedG.value.toFixed(1)})` : '';
    return `${removedG.value.toFixed(1)} g${was}`;
  }

  protected recession(value: number | undefined): string {
    return value === undefined ? 'not read' : this.units.show(value, 'mm');
  }

  protected async bringIn(): Promise<void> {
    const mower = this.view()?.blade.mowerName;
    await this.send({
      type: 'bring-in',
      bladeId: this.bladeId(),
      place: mower ? `Heap by ${mower}` : 'Waiting heap',
    });
  }

  protected async fit(): Promise<void> {
    const spindle = this.freeSpindles().find(({ spindleId }) => spindleId === this.spindleId());
    if (!spindle) {
      this.refused.set('Pick the spindle it goes on.');
      return;
    }
    const typed = this.hours().trim();
    await this.send({
      type: 'fit-blade',
      fitId: newId(),
      bladeId: this.bladeId(),
      spindleId: spindle.spindleId,
      hoursH: typed === '' ? spindle.hoursH : Number(typed),
    });
  }

  protected async takeUp(): Promise<void> {
    const view = this.view();
    if (!view) return;
    const cycleId = view.blade.cycleId ?? newId();
    if (!view.blade.cycleId) {
      const opened = await this.send({ type: 'open-cycle', cycleId, bladeId: view.blade.bladeId });
      if (!opened) return;
    }
    await this.router.navigate(['/run', cycleId]);
  }

  private async send(act: Parameters<Commands['shop']>[0]): Promise<boolean> {
    try {
      await firstValueFrom(this.commands.shop(act));
      this.refused.set('');
      await this.load(this.bladeId());
      return true;
    } catch (error) {
      this.refused.set(troubleFrom(error).words);
      return false;
    }
  }

  private async load(bladeId: string): Promise<void> {
    try {
      const [view, mowers] = await Promise.all([
        firstValueFrom(this.api.blade(bladeId)),
        firstValueFrom(this.api.mowers()),
      ]);
      this.view.set(view);
      this.mowers.set(mowers);
      this.trouble.set(undefined);
    } catch (error) {
      this.trouble.set(troubleFrom(error));
    }
  }
}
