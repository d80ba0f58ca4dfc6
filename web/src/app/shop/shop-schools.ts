import { ChangeDetectionStrategy, Component, input, output } from '@angular/core';
import type { ShopRules } from '@tally-stone/contract';
import { SchoolRow, type SchoolQuestion } from '../parts/school-row';

type AnyQuestion = SchoolQuestion<Pick<ShopRules, 'balanceWhen' | 'balanceDevice' | 'retireBy'>>;

/** The schools that are the shop's alone, with the reason for and against each; our own words. */
const QUESTIONS: readonly AnyQuestion[] = [
  {
    key: 'balanceWhen',
    name: 'When to balance',
    options: [
      {
        id: 'before-and-after',
        words: 'Before and after',
        value: 'before-and-after',
        why: 'the plan knows the heavy end and how much, so the grind itself balances; one more hanging a blade',
      },
      {
        id: 'after',
        words: 'After, before as you like',
        value: 'after',
        why: 'the default: no blade goes out unhung; five seconds on the balancer before the grind still pay',
      },
      {
        id: 'seldom',
        words: 'Hardly ever',
        value: 'seldom',
        why: 'quickest; the mower’s bearings and the operator’s hands find out, and every sign-off says so',
      },
    ],
  },
  {
    key: 'balanceDevice',
    name: 'Balance on',
    options: [
      {
        id: 'bearing-shaft',
        words: 'Shaft in bearings',
        value: 'bearing-shaft',
        why: 'gives grams from a timed drop; its friction hides the last of it, so calibrate it',
      },
      {
        id: 'cone-point',
        words: 'Cone on a point',
        value: 'cone-point',
        why: 'finds the centre of a round hole by itself and shows both directions; swings long',
      },
      {
        id: 'straightedge',
        words: 'Straightedge',
        value: 'straightedge',
        why: 'nothing to wear or buy; tells the end, and needs a test weight for the amount',
      },
      {
        id: 'nail',
        words: 'Nail in the wall',
        value: 'nail',
        why: 'always there; holds the blade off its centre, so its doubt is often larger than what is allowed, and is shown',
      },
    ],
  },
  {
    key: 'retireBy',
    name: 'Retire by',
    options: [
      {
        id: 'limits',
        words: 'Measured limits',
        value: { kind: 'limits' },
        why: 'the default: a blade goes when steel is gone, not sooner and not later',
      },
      {
        id: 'count',
        words: 'A count of grinds too',
        value: { kind: 'count', grinds: 4 },
        why: 'nobody has to measure to know; throws good blades away, and passes a bad one early in its life only because the limits still stand',
      },
      {
        id: 'wont-hold',
        words: 'Limits, and when it won’t hold an edge',
        value: { kind: 'wont-hold', share: 0.5 },
        why: 'catches steel that has lost its temper; hours on the edge also fall on stony ground, so it is a watch, and you decide',
      },
    ],
  },
];

/** The shop's own schools: when and on what it balances, and by what it retires. */
@Component({
  selector: 'ts-shop-schools',
  imports: [SchoolRow],
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
            <label class="figure"
              >Grinds at most, where a spec has no count of its own
              <input
                #count
                inputmode="numeric"
                autocomplete="off"
                [value]="figure()"
                (change)="setFigure(count.value)"
            /></label>
          }
          @case ('wont-hold') {
            <label class="figure"
              >Watch below this share of its spec's usual hours
              <input
                #share
                inputmode="decimal"
                autocomplete="off"
                [value]="figure()"
                (change)="setFigure(share.value)"
            /></label>
          }
        }
      }
    }
  `,
  styles: `
    .figure {
      display: flex;
      flex-wrap: wrap;
      align-items: center;
      gap: 8px;
      margin: 4px 0 10px 186px;
    }
    input {
      width: 84px;
      text-align: right;
    }
    @media (max-width: 900px) {
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
    const { retireBy, ...rules } = this.rules();
    return key === 'retireBy' ? retireBy.kind : rules[key];
  }

  protected choose(question: AnyQuestion, id: string): void {
    const option = question.options.find((each) => each.id === id);
    if (option) this.chosen.emit({ ...this.rules(), [question.key]: option.value });
  }

  protected figure(): number | undefined {
    const { retireBy } = this.rules();
    return retireBy.kind === 'count'
      ? retireBy.grinds
      : retireBy.kind === 'wont-hold'
        ? retireBy.share
        : undefined;
  }

  /** What cannot be is refused by the server at its name, and what was typed stays. */
  protected setFigure(typed: string): void {
    const value = Number(typed.replace(',', '.'));
    const { retireBy } = this.rules();
    if (retireBy.kind === 'count') {
      this.chosen.emit({ ...this.rules(), retireBy: { kind: 'count', grinds: value } });
    } else if (retireBy.kind === 'wont-hold') {
      this.chosen.emit({ ...this.rules(), retireBy: { kind: 'wont-hold', share: value } });
    }
  }
}
