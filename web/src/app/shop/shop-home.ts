import { ChangeDetectionStrategy, Component, computed, DestroyRef, inject } from '@angular/core';
import { MatButtonModule } from '@angular/material/button';
import { Router, RouterLink } from '@angular/router';
import type { FleetView, RecordView, ShopView, SpecRevision } from '@tally-stone/contract';
import { listed } from '@tally-stone/core/basics';
import { catchError, forkJoin, of, type Observable } from 'rxjs';
import { Api } from '../data/api';
import { Region } from '../data/region';
import { Days } from '../data/days';
import { Instruments } from '../data/instruments';
import { Keys } from '../data/keys';
import { Shop } from '../data/shop';
import { shown } from '../data/shown';
import { Units } from '../data/units';
import { Who } from '../data/who';
import { SCHOOL_QUESTIONS } from '../run/schools-form';
import { PartDrawing } from './part-drawing';
import { SHOP_PARTS, type ShopPartPath } from './parts';

/** How a part stands: what it is set to, or what wants a hand there. */
interface Standing {
  readonly words: string;
  readonly wants?: boolean;
}
/** What wants a hand soonest comes first; a disk that is nearly full before all of it. */
const URGENCY: readonly ShopPartPath[] = ['people', 'specs', 'mowers', 'this-shop', 'balancers'];

const many = (count: number, one: string, more: string): string =>
  `${count} ${count === 1 ? one : more}`;

/** A part that does not answer leaves its state out; the part still opens. */
const orNothing = <T>(asked: Observable<T>): Observable<T | undefined> =>
  asked.pipe(catchError(() => of(undefined)));

const schoolWords = (rules: ShopView['rules'], key: 'finish' | 'nicks'): string => {
  const value = JSON.stringify(rules.schools[key]);
  const options = SCHOOL_QUESTIONS.find((each) => each.key === key)?.options ?? [];
  return options.find((each) => JSON.stringify(each.value) === value)?.words ?? '';
};

/** The shop: ten parts, each with its state, and which of them wants a hand. */
@Component({
  selector: 'ts-shop-home',
  imports: [MatButtonModule, PartDrawing, RouterLink],
  changeDetection: ChangeDetectionStrategy.OnPush,
  templateUrl: './shop-home.html',
  styleUrl: './shop-home.scss',
})
export class ShopHome {
  private readonly api = inject(Api);
  private readonly days = inject(Days);
  private readonly region = inject(Region);
  private readonly router = inject(Router);
  private readonly who = inject(Who);
  private readonly shop = inject(Shop);
  private readonly instruments = inject(Instruments);
  private readonly units = inject(Units);
  private readonly page = shown(
    () =>
      forkJoin({
        people: this.who.load(),
        specs: orNothing(this.api.specs()),
        fleet: orNothing(this.api.fleet()),
        record: orNothing(this.api.record()),
      }),
    { about: 'nothing' },
  );
  protected readonly rules = computed(() => this.shop.view()?.rules);
  protected readonly people = computed(() =>
    (this.who.people() ?? []).map(({ name }) => name.split(' ')[0] ?? name),
  );
  protected readonly specs = computed(() => this.page.value()?.specs ?? []);
  protected readonly name = computed(() => this.shop.view()?.name ?? '');

  private readonly standing = computed((): Partial<Record<ShopPartPath, Standing | undefined>> => ({
    ...this.standingOfPeople(),
    ...this.standingOfShop(this.shop.view()),
    ...this.standingOfRest(this.page.value() ?? {}),
  }));
  protected readonly parts = computed(() =>
    SHOP_PARTS.map((part, i) => ({
      ...part,
      key: String((i + 1) % 10),
      now: this.standing()[part.path],
    })),
  );
  /** The part that wants a hand first. */
  protected readonly first = computed(() => {
    // Not before all is known: what is pressed must not change under the finger.
    const known = this.page.value();
    if (!known) return undefined;
    const order = known.record?.room.low ? ['this-shop', ...URGENCY] : URGENCY;
    return order
      .map((path) => this.parts().find((part) => part.path === path))
      .find((part) => part?.now?.wants);
  });
  protected readonly loading = computed(() => !this.page.value() && !this.page.words());
  protected readonly wanting = computed(() => this.parts().filter(({ now }) => now?.wants).length);

  constructor() {
    void this.shop.refresh();
    void this.instruments.refresh().catch(() => undefined);
    const stop = inject(Keys).use(
      SHOP_PARTS.map(({ path, name }, i) => ({
        key: String((i + 1) % 10),
        does: $localize`Open ${name}`,
        run: () => void this.router.navigate(['/shop', path]),
      })),
    );
    inject(DestroyRef).onDestroy(stop);
  }

  protected lowered(words = ''): string {
    return words.charAt(0).toLowerCase() + words.slice(1);
  }

  private standingOfPeople(): { people: Standing } {
    const people = this.who.people() ?? [];
    const without = people.filter(({ hasPin }) => !hasPin).length;
    if (people.length === 0) return { people: { words: $localize`Nobody yet`, wants: true } };
    return {
      people:
        without > 0
          ? { words: $localize`${without} of ${people.length} without a PIN`, wants: true }
          : { words: many(people.length, $localize`person`, $localize`people`) },
    };
  }

  private standingOfShop(
    shop: ShopView | undefined,
  ): Partial<Record<ShopPartPath, Standing | undefined>> {
    if (!shop) return {};
    const { rules, grinders, balancers } = shop;
    const { interval, benchWeekdays } = rules;
    const edge =
      interval.kind === 'hours'
        ? $localize`${interval.hours} h on the edge`
        : interval.kind === 'days'
          ? $localize`Every ${interval.days} days`
          : $localize`When the cut shows it`;
    const never = balancers.filter(
      ({ device, calibration }) => device === 'bearing-shaft' && !calibration,
    ).length;
    const learnt = grinders.filter(({ checkedToday }) => checkedToday).length;
    return {
      grinding: {
        words: this.units.resay(
          $localize`${schoolWords(rules, 'finish')}, nicks: ${schoolWords(rules, 'nicks').toLowerCase()}`,
        ),
      },
      due: {
        words: `${edge}, ${listed(
          this.days
            .weekdays()
            .filter(({ day }) => benchWeekdays.includes(day))
            .map(({ name }) => name),
        )}`,
      },
      costs: {
        words: $localize`${this.region.money(rules.prices.blade, rules.prices.currency, 0)} a blade`,
      },
      grinders: {
        words: $localize`${many(grinders.length, $localize`grinder`, $localize`grinders`)}, ${learnt} looked over today`,
      },
      balancers:
        never > 0
          ? {
              words: $localize`${many(never, $localize`shaft`, $localize`shafts`)} never calibrated`,
              wants: true,
            }
          : { words: many(balancers.length, $localize`balancer`, $localize`balancers`) },
    };
  }

  private standingOfRest({
    specs,
    fleet,
    record,
  }: {
    readonly specs?: readonly SpecRevision[] | undefined;
    readonly fleet?: FleetView | undefined;
    readonly record?: RecordView | undefined;
  }): Partial<Record<ShopPartPath, Standing | undefined>> {
    const limits = (specs ?? []).reduce((sum, { figures }) => sum + figures.limits.length, 0);
    const unmeasured = fleet?.mowers.filter(({ deck }) => !deck.figures).length ?? 0;
    const of = (by: string): number =>
      this.instruments.all().filter((each) => each.by === by).length;
    const [gauges, simulated] = [of('gauge'), of('stand-in')];
    return {
      'this-shop': record && this.standingOfRecord(record),
      instruments: {
        words:
          simulated > 0
            ? $localize`${simulated} simulated${gauges > 0 ? `, ${many(gauges, $localize`gauge`, $localize`gauges`)}` : ''}`
            : gauges > 0
              ? many(gauges, $localize`gauge`, $localize`gauges`)
              : $localize`figures are typed`,
      },
      specs:
        specs &&
        (specs.length === 0
          ? { words: $localize`None yet`, wants: true }
          : {
              words: `${many(specs.length, $localize`blade`, $localize`blades`)}, ${many(limits, $localize`limit`, $localize`limits`)}`,
            }),
      mowers:
        fleet &&
        (fleet.mowers.length === 0
          ? { words: $localize`None yet`, wants: true }
          : unmeasured > 0
            ? {
                words: $localize`${many(unmeasured, $localize`deck`, $localize`decks`)} not measured`,
                wants: true,
              }
            : {
                words: $localize`${many(fleet.mowers.length, $localize`mower`, $localize`mowers`)}, all measured`,
              }),
    };
  }

  private standingOfRecord({ newest, old, room }: RecordView): Standing {
    if (room.low) return { words: $localize`The disk is nearly full`, wants: true };
    if (!newest) return { words: $localize`No copy yet`, wants: true };
    const made = $localize`Last copy ${this.days.short(newest.at)}, ${this.days.time(newest.at)}`;
    return old ? { words: made, wants: true } : { words: made };
  }
}
