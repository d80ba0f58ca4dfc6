import {
  ChangeDetectionStrategy,
  Component,
  computed,
  DestroyRef,
  inject,
  signal,
} from '@angular/core';
import { MatButtonModule } from '@angular/material/button';
import { MAT_DATE_LOCALE } from '@angular/material/core';
import { MatDatepickerIntl, MatDatepickerModule } from '@angular/material/datepicker';
import { MatFormFieldModule } from '@angular/material/form-field';
import { MatInputModule } from '@angular/material/input';
import { MatProgressBarModule } from '@angular/material/progress-bar';
import { MatSelectModule } from '@angular/material/select';
import {
  MAT_LUXON_DATE_ADAPTER_OPTIONS,
  provideLuxonDateAdapter,
} from '@angular/material-luxon-adapter';
import { MatButtonToggleModule } from '@angular/material/button-toggle';
import { RouterLink } from '@angular/router';
import { SEASON_REPORT_PATH, wholeBetween, type SeasonView } from '@tally-stone/contract';
import {
  BenchError,
  seasonCost,
  type RainModel,
  type Season,
  type SeasonDifference,
  type SeasonSummary,
  dateLocale,
} from '@tally-stone/core';
import { DateTime } from 'luxon';
import { type Subscription } from 'rxjs';
import { Fold } from '../parts/fold';
import { Named } from '../parts/named';
import { PageState } from '../parts/state';
import { Api } from '../data/api';
import { capital } from '../data/capital';
import { Days } from '../data/days';
import { Region } from '../data/region';
import { passes, QuantityControl } from '../data/fields';
import { troubleFrom } from '../data/problem';
import { HoursAssumed } from '../data/hours-assumed';
import { HoursChoice } from '../parts/hours-choice';
import { shown } from '../data/shown';
import { Units } from '../data/units';
import { QuantityField } from '../parts/form/quantity-field';
import { DatepickerWords } from './datepicker-words';
import {
  answerWords,
  asItStands,
  choiceWords,
  EVERY_MOWER,
  seasonUnder,
  whoseWords,
  withSpindles,
  type Choice,
  type Compared,
} from './choice';
import { ChoiceFigure } from './choice-figure';
import { Tally } from '../parts/tally';
import { SeasonLanes } from './lanes';
import { Simulator } from './simulator';
import { SeasonFigures, seasonRows } from './season-rows';
import { RAINED_OUT_MM, Weather } from './weather';

/** A season to be mowed through, days. */
const DAYS = wholeBetween(1, 1000);
/** So many seasons of each choice: the shares stand to half a per cent. */
const TIMES = 200;
const MOST_CHOICES = 4;

type Rain = 'none' | 'open' | 'own';

/** The season ahead by simulation: choices side by side, the answer in words first, one season drawn as lanes. */
@Component({
  selector: 'ts-season-page',
  imports: [
    Fold,
    Named,
    PageState,
    HoursChoice,
    MatButtonModule,
    MatButtonToggleModule,
    MatDatepickerModule,
    MatFormFieldModule,
    MatInputModule,
    MatProgressBarModule,
    MatSelectModule,
    ChoiceFigure,
    QuantityField,
    RouterLink,
    SeasonLanes,
    Tally,
  ],
  providers: [
    { provide: MAT_DATE_LOCALE, useFactory: () => dateLocale(inject(Region).written()) },
    provideLuxonDateAdapter(),
    { provide: MatDatepickerIntl, useClass: DatepickerWords },
    {
      provide: MAT_LUXON_DATE_ADAPTER_OPTIONS,
      useFactory: () => ({
        useUtc: false,
        // Sunday is 0 there.
        firstDayOfWeek: inject(Region).written().weekBegins % 7,
      }),
    },
  ],
  changeDetection: ChangeDetectionStrategy.OnPush,
  templateUrl: './season-page.html',
  styleUrl: './season-page.scss',
})
export class SeasonPage {
  private readonly api = inject(Api);
  private readonly region = inject(Region);
  protected readonly shopDays = inject(Days);
  private readonly simulator = inject(Simulator);
  private readonly weather = inject(Weather);
  protected readonly season = shown(() => this.api.season(), {
    about: 'nothing',
    then: (view) => {
      this.length.put(view.season.days);
      this.days.set(view.season.days);
      this.firstDay.set(view.season.firstDay);
      this.choices.set(firstChoices(view.season));
      void this.pickRain('open');
    },
  });
  protected readonly view = this.season.value;
  protected readonly wrong = signal('');
  protected readonly progress = signal<{ done: number; total: number } | undefined>(undefined);
  protected readonly compared = signal<readonly Compared[]>([]);
  protected readonly choices = signal<readonly Choice[]>([]);
  protected readonly rain = signal<Rain>('open');
  /** How long sets are taken to stay on. */
  protected readonly assumed = inject(HoursAssumed).now;
  protected readonly drawn = signal(0);
  protected readonly seed = signal(2027);
  private readonly units = inject(Units);
  /** What the bench did, as it was signed: nothing of it is simulated. */
  protected readonly lastSeason = computed(
    () => `${SEASON_REPORT_PATH}?units=${this.units.system()}`,
  );
  protected readonly rainedOut = computed(() => this.units.show(RAINED_OUT_MM, 'mm', 0));
  protected readonly length = new QuantityControl('days', DAYS, this.units);
  private readonly days = signal(NaN);
  protected readonly firstDay = signal('');
  protected readonly times = TIMES;
  protected readonly mostChoices = MOST_CHOICES;
  private readonly model = signal<RainModel | undefined>(undefined);
  private running: Subscription | undefined;

  protected readonly base = computed<Season | undefined>(() => {
    const view = this.view();
    const rain = this.model();
    if (!view) return undefined;
    return {
      ...view.season,
      days: this.days(),
      firstDay: this.firstDay(),
      ...(rain ? { rain } : {}),
      mowers: view.season.mowers.map((mower) => {
        const changedAfterH = view.changedAfterH[this.assumed()][mower.key];
        return changedAfterH === undefined ? mower : { ...mower, changedAfterH };
      }),
    };
  });

  protected readonly headline = computed(() => {
    const base = this.base();
    const compared = this.compared();
    if (!base || compared.length === 0) {
      return this.progress()
        ? $localize`Mowing through the season ahead …`
        : $localize`The season ahead`;
    }
    return answerWords(base, compared, this.figures);
  });

  /** Who a choice can be for: all, each size of deck, each mower. */
  protected readonly forWhich = computed(() => {
    const base = this.base();
    if (!base) return [];
    const sizes = [...new Set(base.mowers.map(({ spindles }) => spindles))].sort((a, b) => a - b);
    return [EVERY_MOWER, ...sizes.map(withSpindles), ...base.mowers.map(({ key }) => key)].map(
      (which) => ({ which, words: whoseWords(base, which) }),
    );
  });

  private readonly figures = new SeasonFigures(this.region, (amount) => this.money(amount));
  protected readonly rows = seasonRows(this.figures);

  constructor() {
    inject(DestroyRef).onDestroy(() => this.running?.unsubscribe());
  }

  protected money(amount: number, digits = 0): string {
    return this.region.money(amount, this.view()?.prices.currency ?? '', digits);
  }

  protected words(choice: Choice): string {
    const base = this.base();
    const words = base ? choiceWords(base, choice) : '';
    return words === '' ? $localize`As it stands` : capital(words);
  }

  protected readonly weekdayOn = (choice: Choice, day: number): boolean =>
    choice.benchWeekdays.includes(day);

  protected turnDay(choice: Choice, day: number): void {
    const now = choice.benchWeekdays;
    const next = now.includes(day) ? now.filter((each) => each !== day) : [...now, day];
    this.change(choice, { benchWeekdays: [...next].sort() });
  }

  protected change(choice: Choice, change: Partial<Choice>): void {
    this.choices.update((all) =>
      all.map((each) => (each.id === choice.id ? { ...each, ...change } : each)),
    );
    this.run();
  }

  protected add(): void {
    const base = this.base();
    if (!base || this.choices().length >= MOST_CHOICES) return;
    const id = Math.max(...this.choices().map((choice) => choice.id)) + 1;
    this.choices.update((all) => [...all, { ...asItStands(base, id), moreSets: 1 }]);
    this.run();
  }

  protected remove(choice: Choice): void {
    this.choices.update((all) => all.filter(({ id }) => id !== choice.id));
    this.drawn.set(0);
    this.run();
  }

  protected async pickRain(kind: Rain, file?: File): Promise<void> {
    this.rain.set(kind);
    this.wrong.set('');
    try {
      if (kind === 'none') this.model.set(undefined);
      else if (kind === 'open') this.model.set(await this.weather.openSeries());
      else if (file) this.model.set(await this.weather.ownFile(file));
      else return;
      this.run();
    } catch (error) {
      this.wrong.set(error instanceof BenchError ? error.message : troubleFrom(error).words);
    }
  }

  protected setDays(): void {
    if (!passes(this.length)) return;
    this.days.set(this.length.quantity ?? NaN);
    this.run();
  }

  protected readonly firstDate = computed(() => DateTime.fromISO(this.firstDay()));
  protected setFirstDay(day: DateTime | null): void {
    const first = day?.toISODate();
    if (!first) return;
    this.firstDay.set(first);
    this.run();
  }

  /** Stopped before it was through: what stands there is of an earlier question, or nothing. */
  protected readonly stopped = signal(false);
  protected cancel(): void {
    this.running?.unsubscribe();
    this.stopped.set(this.progress() !== undefined);
    this.progress.set(undefined);
  }

  protected run(): void {
    this.cancel();
    const base = this.base();
    const view = this.view();
    if (!base || !view || base.mowers.length === 0) return;
    const choices = this.choices();
    const seasons = choices.map((choice) => seasonUnder(base, choice));
    this.wrong.set('');
    this.stopped.set(false);
    this.progress.set({ done: 0, total: TIMES * seasons.length });
    this.running = this.simulator
      .run({ seasons, times: TIMES, seed: this.seed(), prices: view.prices })
      .subscribe({
        next: ({ done, total, summaries, differences }) => {
          this.progress.set({ done, total });
          if (summaries && differences) this.finished(choices, summaries, differences, view);
        },
        error: (error: Error) => {
          this.progress.set(undefined);
          this.compared.set([]);
          this.wrong.set(`${error.message}.`);
        },
      });
  }

  private finished(
    choices: readonly Choice[],
    summaries: readonly SeasonSummary[],
    differences: readonly SeasonDifference[],
    { prices }: SeasonView,
  ): void {
    this.progress.set(undefined);
    this.compared.set(
      choices.flatMap((choice, i) => {
        const [summary, apart] = [summaries[i], differences[i]];
        return summary && apart
          ? [{ choice, summary, cost: seasonCost(summary, prices), apart }]
          : [];
      }),
    );
  }

  protected readonly comparedOf = (choice: Choice): Compared | undefined =>
    this.compared().find((each) => each.choice.id === choice.id);

  private readonly mostDull = computed(() =>
    Math.max(0.01, ...this.compared().map(({ summary }) => summary.dullShare.mean)),
  );
  protected readonly barWidth = (share: number): number => (100 * share) / this.mostDull();

  protected readonly lanes = computed(() => {
    const base = this.base();
    const choice = this.choices()[this.drawn()];
    // Only what the simulation could make sense of is drawn.
    if (!base || !choice || this.compared().length === 0) return undefined;
    return seasonUnder(base, choice);
  });

  protected another(): void {
    this.seed.update((seed) => seed + 1);
  }

  /** Blades bought by month under the choice that is drawn. */
  protected readonly months = computed(() => {
    const compared = this.compared()[this.drawn()];
    const all = compared?.summary.boughtByMonth ?? [];
    return all.map(({ month, blades }) => ({
      name: this.shopDays.month(month),
      mean: this.figures.one(blades.mean),
      enough: Math.round(blades.high),
    }));
  });
  /** The mowers that mow dull most under the choice that is drawn. */
  protected readonly worst = computed(() => {
    const compared = this.compared()[this.drawn()];
    const base = this.base();
    if (!compared || !base) return [];
    return base.mowers
      .map(({ key, name }) => ({ name, share: compared.summary.dullShareByMower[key] ?? 0 }))
      .filter(({ share }) => share >= 0.005)
      .sort((a, b) => b.share - a.share)
      .slice(0, 6)
      .map(({ name, share }) => `${name} ${this.figures.percent(share)}`);
  });
}

/** To start with: as it stands, a set more for the commonest deck of several spindles, and another bench day. */
function firstChoices(season: Season): Choice[] {
  const count = (spindles: number): number =>
    season.mowers.filter((mower) => mower.spindles === spindles).length;
  const sizes = [...new Set(season.mowers.map(({ spindles }) => spindles))];
  const commonest = sizes.reduce((a, b) => (b * count(b) > a * count(a) ? b : a), sizes[0] ?? 1);
  const free = [1, 2, 3, 4, 5].find((day) => !season.benchWeekdays.includes(day));
  return [
    asItStands(season),
    { ...asItStands(season, 1), moreSets: 1, forWhich: withSpindles(commonest) },
    ...(free
      ? [{ ...asItStands(season, 2), benchWeekdays: [...season.benchWeekdays, free].sort() }]
      : []),
  ];
}
