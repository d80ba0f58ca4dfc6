import { shown } from '../data/shown';
import {
  ChangeDetectionStrategy,
  Component,
  computed,
  DestroyRef,
  inject,
  signal,
} from '@angular/core';
import { MatButtonModule } from '@angular/material/button';
import { NEXT_TO_GO_MONTHS, type AheadOutlook } from '@tally-stone/contract';
import { counted, LEAST_JUDGED } from '@tally-stone/core';
import { scaleLinear } from 'd3-scale';
import { Api } from '../data/api';
import { Days } from '../data/days';
import { Keys } from '../data/keys';
import { Region } from '../data/region';
import { TakeAway } from '../parts/take-away';
import { HoursAssumed } from '../data/hours-assumed';
import { HoursChoice } from '../parts/hours-choice';
import { Months } from './months';
import { firstOrder, railsOf } from './rails';

type Need = AheadOutlook['total'][number];

const BAR_PX = 56;
const YEAR = 12;
/** So likely within the year a first blade of a size is told, though not drawn. */
const PERHAPS = 0.2;

/** The coming months: blades to buy before they run out, sets that will not stay whole. */
@Component({
  selector: 'ts-ahead',
  imports: [PageState, HoursChoice, MatButtonModule, Months, TakeAway],
  changeDetection: ChangeDetectionStrategy.OnPush,
  templateUrl: './ahead.html',
  styleUrl: './ahead.scss',
})
export class Ahead {
  private readonly api = inject(Api);
  private readonly days = inject(Days);
  protected readonly region = inject(Region);
  private readonly shownAhead = shown(() => this.api.ahead(), { quietMs: 2000 });
  protected readonly ahead = this.shownAhead.value;
  protected readonly trouble = this.shownAhead.words;
  /** How long sets are taken to stay on. */
  protected readonly assumed = inject(HoursAssumed).now;
  protected readonly outlook = computed(() => this.ahead()?.outlooks[this.assumed()]);
  protected readonly barPx = BAR_PX;

  /** A year of it: from the month before the first in which something is likely to be used up. */
  private readonly from = computed(() => {
    const ahead = this.ahead();
    const outlook = this.outlook();
    if (!ahead || !outlook) return 0;
    const first = outlook.total.findIndex(({ expected }) => expected >= 0.1);
    return Math.max(0, Math.min(first - 1, ahead.months.length - YEAR));
  });
  protected readonly year = <Each>(all: readonly Each[]): readonly Each[] =>
    all.slice(this.from(), this.from() + YEAR);

  private readonly most = computed(() =>
    Math.max(1, ...(this.outlook()?.specs ?? []).flatMap(({ need }) => need.map((n) => n.enough))),
  );
  private readonly width = computed(() =>
    scaleLinear().domain([0, this.most()]).range([0, BAR_PX]).clamp(true),
  );
  protected readonly px = (blades: number): number => this.width()(blades);

  /** Specs that lose blades soonest come first; those that lose none are told in one line. */
  protected readonly wearing = computed(() =>
    (this.outlook()?.specs ?? [])
      .filter(({ need }) => sumOf(need) >= 0.05)
      .sort((a, b) => sumOf(b.need) - sumOf(a.need)),
  );
  /** What is not drawn, in a line: sizes that lose none, sets that stay whole. */
  protected readonly lasting = computed(() => {
    const { specs = [], sets = [] } = this.outlook() ?? {};
    const drawn = new Set(this.rails().map(({ spec }) => spec.specId));
    const still = specs.filter(({ specId }) => !drawn.has(specId));
    const perhaps = still.filter(({ next }) => (next[0]?.chance ?? 0) >= PERHAPS);
    const names = still.filter((spec) => !perhaps.includes(spec)).map(({ name }) => name);
    const whole = sets.filter(({ breaksIn = 99 }) => breaksIn >= NEXT_TO_GO_MONTHS).length;
    const lastMonth = this.longMonth(NEXT_TO_GO_MONTHS - 1);
    return [
      perhaps.length > 0
        ? $localize`Perhaps one: ${perhaps.map(({ name, next }) => `${name} (${this.percent(next[0]?.chance ?? 0)})`).join(', ')}.`
        : '',
      names.length > 0 ? $localize`Likely none used up: ${names.join(', ')}.` : '',
      whole > 0
        ? $localize`${counted(whole, { one: $localize`set stays`, many: $localize`sets stay` })} whole past ${lastMonth}.`
        : '',
    ]
      .filter(Boolean)
      .join(' ');
  });
  protected readonly sets = computed(() =>
    [...(this.outlook()?.sets ?? [])].sort(
      (a, b) =>
        (a.breaksIn ?? 99) - (b.breaksIn ?? 99) || (a.whole.at(-1) ?? 0) - (b.whole.at(-1) ?? 0),
    ),
  );

  protected month(key: string): string {
    const withYear = key.endsWith('-01') || key === this.year(this.ahead()?.months ?? [])[0];
    return this.days.month(key, { month: 'short', ...(withYear ? { year: '2-digit' } : {}) });
  }

  private readonly rails = computed(() => {
    const outlook = this.outlook();
    return outlook ? railsOf(outlook) : [];
  });

  /** The answer before the picture: what to buy first, by when, for how much. */
  protected readonly headline = computed(() => {
    const ahead = this.ahead();
    const outlook = this.outlook();
    if (!ahead || !outlook) return '';
    if (outlook.specs.every(({ blades }) => blades === 0))
      return $localize`No blade to look ahead for yet: the first are registered at the bench`;
    const first = firstOrder(this.rails());
    if (!first) return $localize`Nothing to buy before ${this.longMonth(NEXT_TO_GO_MONTHS)}`;
    const what = first.orders.map(({ count, name }) => `${count} × ${name}`).join(', ');
    const money = first.orders.reduce((sum, each) => sum + each.money, 0);
    const when =
      first.month === 0 ? $localize`now` : $localize`by 1 ${this.longMonth(first.month)}`;
    return $localize`Buy ${what} ${when}:ph1:: ${this.region.money(money, ahead.currency, 0)}`;
  });

  /** What follows the first order, within the year or after it. */
  protected readonly further = computed(() => {
    const outlook = this.outlook();
    if (!outlook || outlook.specs.every(({ blades }) => blades === 0)) return '';
    const lastMonth = this.longMonth(NEXT_TO_GO_MONTHS - 1);
    const first = firstOrder(this.rails());
    if (!first) {
      const month = outlook.total.findIndex(({ enough }) => enough > 0);
      return month < 0
        ? $localize`No blade is used up before the end of ${this.longMonth(outlook.total.length - 1)}.`
        : $localize`The first is likely used up in ${this.longMonth(month)}.`;
    }
    const bought = first.orders.reduce((sum, { count }) => sum + count, 0);
    const more = this.rails().reduce((sum, { likely }) => sum + likely, 0) - bought;
    return $localize`${more > 0 ? $localize`Likely ${more} more by ${lastMonth}. ` : ''}The more steel is drawn, the surer that blade is used up by then.`;
  });

  /** The same as a table, on demand. */
  protected readonly figures = signal(false);

  constructor() {
    const stop = inject(Keys).use([
      { key: 'f', does: $localize`Months ahead: the figures as a table`, run: () => this.flip() },
    ]);
    inject(DestroyRef).onDestroy(stop);
  }

  protected again(): void {
    void this.shownAhead.again();
  }

  protected flip(): void {
    this.figures.update((now) => !now);
  }

  /** What the other assumption would make of it, by how much and why. */
  protected readonly otherwise = computed(() => {
    const ahead = this.ahead();
    if (!ahead) return '';
    const { rule, 'last-year': lastYear } = ahead.outlooks;
    const [here, there] = this.assumed() === 'rule' ? [rule, lastYear] : [lastYear, rule];
    const inAYear = ({ total }: AheadOutlook): string =>
      this.region.number(sumOf(total.slice(0, YEAR)));
    const how = this.assumed() === 'rule' ? $localize`as last year` : $localize`by your rule`;
    const [after, now] = [there, here].map((of) => this.region.number(of.changedAfterH));
    if (inAYear(here) !== inAYear(there) && after === now)
      return $localize`Sets changed ${how} would use up ${inAYear(there)} blades in a year instead of ${inAYear(here)}.`;
    return inAYear(here) === inAYear(there)
      ? $localize`Sets changed ${how} would use up as many in a year, ${inAYear(there)}.`
      : $localize`Sets changed ${how}, after ${after} h instead of ${now}, would use up ${inAYear(there)} blades in a year instead of ${inAYear(here)}.`;
  });
  /** Where the hours to come are from. */
  protected readonly hoursFrom = computed(() => {
    const since = this.ahead()?.recordSince;
    if (since === null)
      return $localize`its mower’s hours of late, or the usual ones, until some are on record`;
    return since
      ? $localize`the mowing hours on record since ${this.days.short(since)}, months without a record like the others`
      : $localize`the mowing hours of the same month a year ago`;
  });
  /** How the shop's own past forecasts came out. */
  protected readonly believed = computed(() => {
    const { held = 0, sooner = 0, later = 0, running = 0 } = this.ahead()?.past ?? {};
    const decided = held + sooner + later;
    const number = (count: number): string => this.region.number(count);
    return decided < LEAST_JUDGED
      ? $localize`Too few blades came to their end to say how well such forecasts hold here.`
      : $localize`Of ${number(decided + running)} past forecasts of hours left, meant to hold four times in five, ${number(held)} held, ${number(sooner)} ended sooner, ${number(later)} later, and ${number(running)} still run.`;
  });

  private longMonth(index: number): string {
    return this.days.month(this.ahead()?.months[index] ?? '', { month: 'long', year: 'numeric' });
  }

  protected readonly damage = computed(() => {
    const per = this.ahead()?.damagePerThousandHours ?? 0;
    return per === 0
      ? $localize`no blade lost to damage so far`
      : $localize`${this.region.number(per, 1)} blades lost to damage per 1000 hours`;
  });

  protected setWords({ breaksIn }: AheadOutlook['sets'][number]): string {
    const months = this.ahead()?.months ?? [];
    return breaksIn === undefined
      ? $localize`likely whole beyond ${this.longMonth(months.length - 1)}`
      : $localize`likely to lose a blade by ${this.longMonth(breaksIn)}`;
  }

  protected readonly percent = (chance: number): string => `${Math.round(100 * chance)} %`;
}

const sumOf = (need: readonly Need[]): number =>
  need.reduce((sum, { expected }) => sum + expected, 0);
import { PageState } from '../parts/state';
