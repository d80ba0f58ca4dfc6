import { NgTemplateOutlet } from '@angular/common';
import {
  ChangeDetectionStrategy,
  Component,
  computed,
  ElementRef,
  inject,
  input,
  signal,
} from '@angular/core';
import { RouterLink } from '@angular/router';
import { NEXT_TO_GO_MONTHS, type AheadOutlook } from '@tally-stone/contract';
import { Named } from '../parts/named';
import { Days } from '../data/days';
import { Region } from '../data/region';
import {
  FIGURE_BELOW,
  firstOrder,
  grassOf,
  placeOf,
  railsOf,
  ropeEnd,
  type Hung,
  type Order,
} from './rails';

/** More that are used up now than this are told, not drawn. */
const MOST_IN_BUNCH = 8;

interface Card {
  readonly specId: string;
  readonly title: string;
  readonly words: string;
  /** Where the blade hangs, in per cent of the year. */
  readonly at: number;
}

/**
 * The year as a picture: on each spec's rail a blade hangs where it is as likely gone as not, with as much steel as it is
 * sure to go within the year; price tags say what to have by when, ropes how long the sets on the mowers hold.
 */
@Component({
  selector: 'ts-months',
  imports: [Named, NgTemplateOutlet, RouterLink],
  changeDetection: ChangeDetectionStrategy.OnPush,
  templateUrl: './months.html',
  styleUrl: './months.scss',
  host: { '(keydown)': 'press($event)' },
})
export class Months {
  protected readonly days = inject(Days);
  protected readonly region = inject(Region);
  private readonly host = inject<ElementRef<HTMLElement>>(ElementRef);
  readonly outlook = input.required<AheadOutlook>();
  /** Calendar months, this one first. */
  readonly allMonths = input.required<readonly string[]>();
  readonly currency = input.required<string>();
  readonly now = input(new Date());

  protected readonly monthWidth = 100 / NEXT_TO_GO_MONTHS;
  protected readonly mostInBunch = MOST_IN_BUNCH;
  protected readonly figureBelow = FIGURE_BELOW;
  protected readonly months = computed(() => this.allMonths().slice(0, NEXT_TO_GO_MONTHS));
  protected readonly today = computed(() => this.days.short(this.now().toISOString()));
  private readonly todayShare = computed(() => {
    const day = this.now().getUTCDate() - 1;
    const [year = 2000, month = 1] = (this.months()[0] ?? '').split('-').map(Number);
    return day / new Date(Date.UTC(year, month, 0)).getUTCDate();
  });
  protected readonly place = computed(() => placeOf(this.todayShare()));
  /** Late in the month the bunch of those used up hangs before today, else after. */
  protected readonly leftward = computed(() => this.todayShare() > 0.5);
  protected readonly grass = computed(() => grassOf(this.outlook()));
  protected readonly rails = computed(() => railsOf(this.outlook()));
  private readonly first = computed(() => firstOrder(this.rails())?.month);

  protected readonly ropes = computed(() =>
    this.outlook()
      .sets.flatMap((set) => {
        const end = ropeEnd(set);
        if (end === undefined) return [];
        const yearEnd = set.whole[NEXT_TO_GO_MONTHS - 1] ?? 0;
        const title =
          end < 1
            ? $localize`Likely to lose a blade this month`
            : $localize`Even chance in ${this.monthAt(end, 'long')}`;
        return [
          {
            set,
            end,
            title,
            words: $localize`${this.percent(yearEnd)} whole by ${this.lastMonth()}`,
          },
        ];
      })
      .sort((a, b) => a.end - b.end),
  );
  protected readonly lastMonth = computed(() => this.monthAt(NEXT_TO_GO_MONTHS - 0.01, 'long'));

  private readonly looked = signal<string | undefined>(undefined);
  protected readonly active = computed(
    () => this.looked() ?? this.rails().flatMap(({ now, later }) => [...now, ...later])[0]?.bladeId,
  );
  protected readonly shown = signal<Card | undefined>(undefined);

  /** The stalks of a month's grass in a box of 80 by 22. */
  protected readonly blades = (strokes: number): string =>
    Array.from({ length: strokes }, (_, i) => {
      const x = 5 + i * (74 / Math.max(strokes, 9));
      const lean = i % 2 === 0 ? 2 : -2;
      return `M${x} 22Q${x} ${10 - (i % 3)} ${x + lean} ${2 + ((i * 5) % 6)}`;
    }).join('');

  protected readonly percent = (chance: number): string => `${Math.round(100 * chance)} %`;

  protected isFirst({ month }: Order): boolean {
    return month === this.first();
  }

  protected byWhen(month: number): string {
    return month === 0 ? $localize`now` : $localize`by 1 ${this.monthAt(month, 'short')}`;
  }

  protected title({ nth, code }: Hung): string {
    return $localize`Number ${nth} to go, most likely ${code}`;
  }

  /** When it goes, in months: one chance in ten, even, nine in ten. */
  protected words({ tenthAt, evenAt, nineTenthsAt, chance }: Hung): string {
    if (nineTenthsAt === 0) return $localize`used up now`;
    const marks = [
      tenthAt === undefined ? '' : $localize`1 in 10 by ${this.monthAt(tenthAt, 'long')}`,
      evenAt === undefined ? '' : $localize`even by ${this.monthAt(evenAt, 'long')}`,
      nineTenthsAt === undefined
        ? $localize`${this.percent(chance)} by ${this.lastMonth()}`
        : $localize`9 in 10 by ${this.monthAt(nineTenthsAt, 'long')}`,
    ];
    return marks.filter(Boolean).join(', ');
  }

  protected look(each: Hung): void {
    const spec = this.rails().find(({ now, later }) => [...now, ...later].includes(each))?.spec;
    this.looked.set(each.bladeId);
    this.shown.set(
      spec && {
        specId: spec.specId,
        title: this.title(each),
        words: this.words(each),
        at: this.place()(each.at),
      },
    );
  }

  protected leave(): void {
    this.shown.set(undefined);
  }

  /** Arrows go from blade to blade, up and down from rail to rail. */
  protected press(event: KeyboardEvent): void {
    const step = { ArrowRight: 1, ArrowLeft: -1, ArrowDown: 1, ArrowUp: -1 }[event.key];
    const rails = [...this.host.nativeElement.querySelectorAll('.rail')].map((rail) => [
      ...rail.querySelectorAll<HTMLElement>('a.blade'),
    ]);
    const rail = rails.findIndex((links) => links.some((link) => link === event.target));
    if (step === undefined || rail < 0) return;
    event.preventDefault();
    const upDown = event.key === 'ArrowDown' || event.key === 'ArrowUp';
    const all = rails.flat();
    const to = upDown
      ? rails[rail + step]?.[0]
      : all[all.findIndex((link) => link === event.target) + step];
    to?.focus();
  }

  private monthAt(months: number, form: 'short' | 'long'): string {
    return this.days.month(
      this.months()[Math.min(Math.floor(months), NEXT_TO_GO_MONTHS - 1)] ?? '',
      {
        month: form,
      },
    );
  }
}
