import { ChangeDetectionStrategy, Component, effect, inject, input, output } from '@angular/core';
import { MatButtonModule } from '@angular/material/button';
import { ShopRules } from '@tally-stone/contract';
import { passes, QuantityControl } from '../data/fields';
import { Units } from '../data/units';
import { QuantityField } from '../parts/form/quantity-field';
import { SchoolRow, type SchoolQuestion } from '../parts/school-row';

type AnyQuestion = SchoolQuestion<
  Pick<ShopRules, 'balanceWhen' | 'balanceDevice' | 'hangNew' | 'retireBy'>
>;

/** The schools that are the shop's alone, with the reason for and against each; our own words. */
const QUESTIONS: readonly AnyQuestion[] = [
  {
    key: 'balanceWhen',
    name: $localize`When to balance`,
    options: [
      {
        id: 'before-and-after',
        words: $localize`Before and after`,
        value: 'before-and-after',
        why: $localize`the plan knows the heavy end and how much, so the grind itself balances; one more hanging a blade`,
      },
      {
        id: 'after',
        words: $localize`After, before as you like`,
        value: 'after',
        why: $localize`the default: no blade goes out unhung; five seconds on the balancer before the grind still pay`,
      },
      {
        id: 'seldom',
        words: $localize`Hardly ever`,
        value: 'seldom',
        why: $localize`quickest; the mower’s bearings and the operator’s hands find out, and every sign-off says so`,
      },
    ],
  },
  {
    key: 'hangNew',
    name: $localize`New blades`,
    usual: false,
    options: [
      {
        id: 'no',
        words: $localize`Fitted as they come`,
        value: false,
        why: $localize`the default: hardly anybody hangs a new blade; its maker has balanced it to a grade of its own`,
      },
      {
        id: 'yes',
        words: $localize`Hung before the first fit`,
        value: true,
        why: $localize`new blades wait for the bench; a heavy one is found before it shakes a mower, and goes back`,
      },
    ],
  },
  {
    key: 'balanceDevice',
    name: $localize`Balance on`,
    options: [
      {
        id: 'bearing-shaft',
        words: $localize`Shaft in bearings`,
        value: 'bearing-shaft',
        why: $localize`gives grams from a timed drop; its friction hides the last of it, so calibrate it`,
      },
      {
        id: 'cone-point',
        words: $localize`Cone on a point`,
        value: 'cone-point',
        why: $localize`finds the centre of a round hole by itself and shows both directions; swings long`,
      },
      {
        id: 'straightedge',
        words: $localize`Straightedge`,
        value: 'straightedge',
        why: $localize`nothing to wear or buy; tells the end, and needs a test weight for the amount`,
      },
      {
        id: 'nail',
        words: $localize`Nail in the wall`,
        value: 'nail',
        why: $localize`always there; holds the blade off its centre, so its doubt is often larger than what is allowed, and is shown`,
      },
    ],
  },
  {
    key: 'retireBy',
    name: $localize`Retire by`,
    options: [
      {
        id: 'limits',
        words: $localize`Measured limits`,
        value: { kind: 'limits' },
        why: $localize`the default: a blade goes when steel is gone, not sooner and not later`,
      },
      {
        id: 'count',
        words: $localize`A count of grinds too`,
        value: { kind: 'count', grinds: 4 },
        why: $localize`nobody has to measure to know; throws good blades away, and passes a bad one early in its life only because the limits still stand`,
      },
      {
        id: 'wont-hold',
        words: $localize`Limits, and when it won’t hold an edge`,
        value: { kind: 'wont-hold', share: 0.5 },
        why: $localize`catches steel that has lost its temper; hours on the edge also fall on stony ground, so it is a watch, and you decide`,
      },
    ],
  },
];

const [, COUNT, SHARE] = ShopRules.shape.retireBy.options;

/** The shop's own schools: when and on what it balances, and by what it retires. */
@Component({
  selector: 'ts-shop-schools',
  imports: [MatButtonModule, QuantityField, SchoolRow],
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    @for (question of questions; track question.key) {
      <ts-school-row
        [name]="question.name"
        [options]="question.options"
        [chosen]="chosenOf(question)"
        everyReason
        (pick)="choose(question, $event)"
      />
      @if (question.key === 'retireBy') {
        @switch (rules().retireBy.kind) {
          @case ('count') {
            <form class="figure" (submit)="keepFigure($event)">
              <ts-quantity
                [control]="grinds"
                label="Grinds at most"
                i18n-label
                after="grinds"
                hint="Where a spec has no count of its own"
                i18n-hint
              />
              <button i18n mat-stroked-button class="big" type="submit">Keep the count</button>
            </form>
          }
          @case ('wont-hold') {
            <form class="figure" (submit)="keepFigure($event)">
              <ts-quantity
                [control]="share"
                label="Watch below this share"
                i18n-label
                hint="Of the hours its spec usually holds, 0.1 to 0.9"
                i18n-hint
              />
              <button i18n mat-stroked-button class="big" type="submit">Keep the share</button>
            </form>
          }
        }
      }
    }
  `,
  styles: `
    .figure {
      display: flex;
      flex-wrap: wrap;
      align-items: flex-start;
      gap: 14px;
      margin: 6px 0 10px 186px;
      --field-width: 17.5rem;
    }
    @media (max-width: 56.25em) {
      .figure {
        margin-left: 0;
      }
    }
  `,
})
export class ShopSchools {
  readonly rules = input.required<ShopRules>();
  readonly chosen = output<ShopRules>();
  protected readonly questions = QUESTIONS;

  protected chosenOf({ key }: AnyQuestion): string {
    const { retireBy, hangNew, ...rules } = this.rules();
    if (key === 'hangNew') return hangNew ? 'yes' : 'no';
    return key === 'retireBy' ? retireBy.kind : rules[key];
  }

  protected choose(question: AnyQuestion, id: string): void {
    const option = question.options.find((each) => each.id === id);
    if (option) this.chosen.emit({ ...this.rules(), [question.key]: option.value });
  }

  protected readonly grinds = new QuantityControl('', COUNT.shape.grinds, inject(Units));
  protected readonly share = new QuantityControl('', SHARE.shape.share, inject(Units));

  constructor() {
    effect(() => {
      const { retireBy } = this.rules();
      if (retireBy.kind === 'count') this.grinds.put(retireBy.grinds);
      if (retireBy.kind === 'wont-hold') this.share.put(retireBy.share);
    });
  }

  protected keepFigure(event: Event): void {
    event.preventDefault();
    const { kind } = this.rules().retireBy;
    const control = kind === 'count' ? this.grinds : this.share;
    if (!passes(control) || control.quantity === undefined) return;
    this.chosen.emit({
      ...this.rules(),
      retireBy:
        kind === 'count'
          ? { kind, grinds: control.quantity }
          : { kind: 'wont-hold', share: control.quantity },
    });
  }
}
