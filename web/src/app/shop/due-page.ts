import { named } from '@tally-stone/core';
import { ChangeDetectionStrategy, Component, computed, inject } from '@angular/core';
import { MatButtonModule } from '@angular/material/button';
import type { EdgesByGrass } from '@tally-stone/contract';
import { Api } from '../data/api';
import { shown } from '../data/shown';
import { Units } from '../data/units';
import { Source } from '../parts/source';
import { CalendarAddressPart } from './calendar-address';
import { Shop } from '../data/shop';
import { DueRules } from './due-rules';
import { keepRules } from './keep-rules';
import { ShopPart } from './shop-part';

/** When a set is due, and on which days the bench grinds. */
@Component({
  selector: 'ts-due-page',
  imports: [CalendarAddressPart, DueRules, MatButtonModule, ShopPart, Source],
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    <ts-shop-part of="due" [trouble]="rules.trouble()">
      @if (view(); as shop) {
        <section aria-label="Due and bench days" i18n-aria-label>
          <ts-due-rules [rules]="shop.rules" (chosen)="rules.keep($event)" />
        </section>
        @if (byGrass(); as words) {
          <section aria-label="What the grass says" i18n-aria-label>
            <h2 i18n>What the grass says</h2>
            @for (line of words; track line) {
              <p>{{ line }}</p>
            }
            @if (sureH(); as hours) {
              <p>
                <button i18n mat-stroked-button class="big" (click)="goBy(hours)">
                  Change sets after {{ hours }} h on soft turf and loam
                </button>
              </p>
            }
            <ts-source i18n
              >Tips looked at close, by mower and hours: the hours after which a third of them are
              torn, and the range they lie in nineteen times in twenty (a logistic curve, Fieller’s
              range).</ts-source
            >
          </section>
        }
        <ts-calendar-address />
      }
    </ts-shop-part>
  `,
  styleUrl: './part.scss',
})
export class DuePage {
  protected readonly view = inject(Shop).view;
  protected readonly rules = keepRules();
  private readonly units = inject(Units);
  private readonly api = inject(Api);
  private readonly grass = shown(() => this.api.edgesByGrass(), {
    about: ({ subjectKind }) => subjectKind === 'mower',
  });

  /** Whole hours after which an edge is surely still good by the grass, where the rule says others. */
  protected readonly sureH = computed(() => {
    const rule = this.view()?.rules.interval;
    const hours = Math.floor(this.grass.value()?.all?.low ?? 0);
    return rule?.kind === 'hours' && rule.hours === hours ? 0 : hours;
  });

  protected goBy(hours: number): Promise<boolean> {
    return this.rules.change((rules) => ({ ...rules, interval: { kind: 'hours', hours } }));
  }

  /** How long edges last by looks at the grass, beside the rule; nothing while nobody looks. */
  protected readonly byGrass = computed(() => {
    const found = this.grass.value();
    const rule = this.view()?.rules.interval;
    if (!found || found.looks === 0) return undefined;
    const hours = (h: number): string => this.units.number(h, 1);
    const span = ({ hours: at, low, high, looks }: NonNullable<EdgesByGrass['all']>): string =>
      $localize`a third of the tips are torn after ${hours(at)} h (${hours(low)} to ${hours(high)}; ${looks} looks)`;
    if (!found.all)
      return [
        $localize`${found.looks} ${found.looks === 1 ? $localize`look` : $localize`looks`} at the grass so far: not enough yet to say how long an edge lasts.`,
      ];
    const own =
      rule?.kind === 'hours' ? $localize` The rule above says ${hours(rule.hours)} h.` : '';
    return [
      $localize`On soft turf and loam ${span(found.all)}.${own}`,
      ...found.byGround.map(
        (each) =>
          $localize`On ${named(each.turf)} turf and ${each.soil === 'loam' ? named(each.soil) : $localize`${named(each.soil)} soil`}, as mown there: ${span(each)}.`,
      ),
    ];
  });
}
