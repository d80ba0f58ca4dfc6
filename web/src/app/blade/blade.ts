import { submit } from '../data/submit';
import { shown } from '../data/shown';
import { ChangeDetectionStrategy, Component, computed, inject, input, signal } from '@angular/core';
import { MatButtonModule } from '@angular/material/button';
import { Router, RouterLink } from '@angular/router';
import {
  MeterHours,
  PASSPORT_PATH,
  PHOTOS_PATH,
  type BladeView,
  type CycleSummary,
  type LifeSpanView,
} from '@tally-stone/contract';
import {
  ENDS,
  BLADE_STATES,
  LEAST_JUDGED,
  RETIRE_REASONS,
  COUNT_WORDS,
  counted,
  heapPlace,
  isTrimmedWhile,
  leavesRoomToTrim,
  PLACES,
  named,
} from '@tally-stone/core';
import * as z from 'zod';
import { Api } from '../data/api';
import { newId } from '../data/commands';
import { grindsWords } from '../data/grinds';
import { Region } from '../data/region';
import { Days } from '../data/days';
import { passes, QuantityControl, text } from '../data/fields';
import { Units } from '../data/units';
import { BladeDrawing } from '../parts/blade-drawing';
import { PickField, type Option } from '../parts/form/pick-field';
import { QuantityField } from '../parts/form/quantity-field';
import { VerdictTag } from '../parts/verdict-tag';
import { Tally } from '../parts/tally';
import { dueWords } from '../mower/fleet-words';
import { EdgeStory } from '../photo/edge-story';
import { NickMap } from './nick-map';
import { TrimForm } from './trim-blade';
import { WidthChart } from './width-chart';

const SPINDLE = z.string().min(1, $localize`is empty: pick the spindle it goes on`);

/** One blade and its life: its cycles in order, what is left above each limit, width against its limit. */
@Component({
  selector: 'ts-blade',
  imports: [
    PageState,
    BladeDrawing,
    EdgeStory,
    MatButtonModule,
    NickMap,
    PickField,
    QuantityField,
    RouterLink,
    Tally,
    TrimForm,
    VerdictTag,
    WidthChart,
  ],
  changeDetection: ChangeDetectionStrategy.OnPush,
  templateUrl: './blade.html',
  styleUrl: './blade.scss',
})
export class Blade {
  private readonly api = inject(Api);
  private readonly router = inject(Router);
  protected readonly units = inject(Units);
  readonly bladeId = input.required<string>();
  protected readonly passport = computed(
    () => `${PASSPORT_PATH.replace(':id', this.bladeId())}?units=${this.units.system()}`,
  );

  protected readonly life = shown(() => this.api.blade(this.bladeId()), {
    about: ({ subjectId }) => subjectId === this.bladeId(),
    quietMs: 200,
  });
  protected readonly view = this.life.value;
  protected readonly trouble = this.life.trouble;
  private readonly shownMowers = shown(() => this.api.mowers(), {
    about: ({ subjectKind }) => subjectKind === 'mower' || subjectKind === 'blade',
  });
  protected readonly mowers = computed(() => this.shownMowers.value() ?? []);
  protected readonly spindleId = text('', SPINDLE);
  protected readonly hours = new QuantityControl('h', MeterHours, this.units, { optional: true });
  private readonly shop = submit({
    at: (field) => ({ hoursH: this.hours, spindleId: this.spindleId })[field],
    kept: () => this.life.again(),
  });
  protected readonly refused = this.shop.words;
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
  private readonly region = inject(Region);

  protected readonly photoPath = PHOTOS_PATH;
  protected readonly dueWords = dueWords;
  protected readonly happened = computed(() => [...(this.view()?.timeline ?? [])].reverse());
  protected readonly money = (amount: number): string =>
    this.region.money(amount, this.view()?.cost.currency ?? '');
  protected anHour({ perHour, hours }: BladeView['cost']): string {
    return perHour === undefined
      ? $localize`, not mown with yet`
      : $localize`, ${this.money(perHour)} an hour over ${hours.toFixed(0)} h`;
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

  protected readonly offered = computed((): readonly Option[] =>
    this.freeSpindles().map(({ spindleId, words }) => ({ value: spindleId, words })),
  );

  protected signed(value: number | undefined): string {
    if (value === undefined) return $localize`not read`;
    if (value === 0) return $localize`level`;
    return `${value > 0 ? 'A' : 'B'} ${this.units.figure(Math.abs(value), 'g·mm', 0)}`;
  }

  /** `9 (7 to 12)`. */
  protected span({ median, low, high }: LifeSpanView): string {
    return $localize`${median.toFixed(0)} (${Math.floor(low)} to ${Math.ceil(high)})`;
  }

  /** How far the range may be believed: what the shop's own past says of it. */
  protected believed({ guess, grinds }: NonNullable<BladeView['forecast']>): string {
    if (guess)
      return $localize`No blade of this spec has a history here: what shops usually see, not measured, and no promise.`;
    const { held, sooner, later, running } = grinds.past;
    const decided = held + sooner + later;
    if (decided < LEAST_JUDGED)
      return $localize`The middle, and the range meant to hold four times in five; too few of this shop’s blades came to their end to say how often it did.`;
    const number = (count: number): string => this.region.number(count);
    return $localize`The middle, and the range meant to hold four times in five. Of ${number(decided + running)} such forecasts of this shop’s past ${number(held)} held, ${number(sooner)} ended sooner, ${number(later)} later, and ${number(running)} still run.`;
  }

  protected readonly grindsWords = grindsWords;

  /** Reckoned, or at least so much: a used blade was ground before it came, nobody knows how often. */
  protected sureness({ carried, moreBefore }: BladeView['left'][number]): string {
    return moreBefore ? '≥ ' : carried ? '≈ ' : '';
  }

  protected amount(value: number | undefined, unit: string | undefined): string {
    if (value === undefined) return '';
    if (unit === 'mm' || unit === 'g') return this.units.show(value, unit);
    return `${this.units.number(value, unit === 'grinds' ? 0 : 1)} ${named(unit ?? '')}`;
  }

  protected removed({ removedG, removedSignedG }: CycleSummary): string {
    if (!removedG) return $localize`not weighed`;
    const signed = removedSignedG && removedSignedG.value !== removedG.value;
    const was = signed ? $localize` (signed ${this.units.figure(removedSignedG.value, 'g')})` : '';
    return `${this.units.show(removedG.value, 'g')}${was}`;
  }

  protected recession(value: number | undefined): string {
    return value === undefined ? $localize`not read` : this.units.show(value, 'mm');
  }

  /** The form for it is open. */
  protected readonly trimming = signal(false);
  protected mayTrim({ blade, spec, trimmed }: BladeView): boolean {
    return (
      leavesRoomToTrim(spec.figures) &&
      trimmed?.canTakeBack !== true &&
      blade.cycleId === undefined &&
      isTrimmedWhile(blade.state)
    );
  }
  protected takeBackTrim(trimId: string): Promise<unknown> {
    return this.shop.send({ type: 'take-back-trim', trimId });
  }

  protected async bringIn(): Promise<void> {
    const mower = this.view()?.blade.mowerName;
    await this.shop.send({
      type: 'bring-in',
      bladeId: this.bladeId(),
      place: mower ? heapPlace(mower) : PLACES.heap,
    });
  }

  protected async fit(): Promise<void> {
    const spindle = this.freeSpindles().find(({ spindleId }) => spindleId === this.spindleId.value);
    if (![passes(this.spindleId), passes(this.hours)].every(Boolean) || !spindle) {
      this.shop.showFirstWrong();
      return;
    }
    await this.shop.send({
      type: 'fit-blade',
      fitId: newId(),
      bladeId: this.bladeId(),
      spindleId: spindle.spindleId,
      hoursH: this.hours.quantity ?? spindle.hoursH,
    });
  }

  protected async takeUp(): Promise<void> {
    const view = this.view();
    if (!view) return;
    const cycleId = view.blade.cycleId ?? newId();
    if (!view.blade.cycleId) {
      const opened = await this.shop.send({
        type: 'open-cycle',
        cycleId,
        bladeId: view.blade.bladeId,
      });
      if (!opened) return;
    }
    await this.router.navigate(['/run', cycleId]);
  }
}
import { PageState } from '../parts/state';
