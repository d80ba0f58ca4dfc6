import {
  booleanAttribute,
  ChangeDetectionStrategy,
  Component,
  computed,
  input,
  output,
} from '@angular/core';
import type { Schools } from '@tally-stone/contract';
import { said } from '@tally-stone/core';
import { SchoolRow, type SchoolQuestion } from '../parts/school-row';

type AnyQuestion = SchoolQuestion<Schools>;

/** The schools of the trade with the reason for each; our own words. */
export const SCHOOL_QUESTIONS: readonly AnyQuestion[] = [
  {
    key: 'finish',
    name: $localize`How sharp`,
    options: [
      {
        id: 'razor',
        words: $localize`Razor`,
        value: 'razor',
        why: $localize`cuts finest at first; thin steel nicks at once and takes more metal`,
      },
      {
        id: 'working',
        words: $localize`Working edge`,
        value: 'working',
        why: $localize`a flat of ${said(0.15, 'mm', 2)} lasts and takes least metal`,
      },
      {
        id: 'blunt',
        words: $localize`Blunt`,
        value: 'blunt',
        why: $localize`a flat of ${said(0.6, 'mm')} stands up to stones; tears fine grass`,
      },
    ],
  },
  {
    key: 'nicks',
    name: $localize`Nicks`,
    options: [
      {
        id: 'clear-all',
        words: $localize`Clear all`,
        value: { kind: 'clear-all' },
        why: $localize`a whole edge, at the price of grinds of life`,
      },
      {
        id: 'leave-0.8',
        words: $localize`Leave up to ${said(0.8, 'mm')}`,
        value: { kind: 'leave-to', depthMm: 0.8 },
        why: $localize`shallow ones wear out by themselves`,
      },
      {
        id: 'leave-all',
        words: $localize`Leave all`,
        value: { kind: 'leave-all' },
        why: $localize`longest life; a deep one stays a notch that can start a crack`,
      },
    ],
  },
  {
    key: 'bevel',
    name: $localize`Bevel`,
    options: [
      {
        id: 'spec',
        words: $localize`The maker's`,
        value: 'spec',
        why: $localize`what the blade was made for`,
      },
      {
        id: 'follow',
        words: $localize`Follow what is there`,
        value: 'follow',
        why: $localize`least metal now; an angle that has crept stays`,
      },
      {
        id: 'fixed',
        words: $localize`One for all`,
        value: 'fixed',
        why: $localize`no change of set-up between blades`,
      },
    ],
  },
  {
    key: 'balancePlace',
    name: $localize`Balance metal`,
    options: [
      {
        id: 'cutting',
        words: $localize`Cutting edge only`,
        value: 'cutting',
        why: $localize`one set-up; the edge pays for the balance`,
      },
      {
        id: 'cutting-and-trailing',
        words: $localize`Back edge too`,
        value: 'cutting-and-trailing',
        why: $localize`spares the edge and trues the lift; only where the maker allows it`,
      },
    ],
  },
  {
    key: 'squareFirst',
    usual: false,
    name: $localize`Deep nicks`,
    options: [
      {
        id: 'no',
        words: $localize`By the bevel alone`,
        value: false,
        why: $localize`one way of holding the tool`,
      },
      {
        id: 'yes',
        words: $localize`Square first`,
        value: true,
        why: $localize`both edges down to the nick with the tool upright, then the bevel back; blunt until it is`,
      },
    ],
  },
  {
    key: 'secondTable',
    usual: false,
    name: $localize`Mulching edge`,
    options: [
      {
        id: 'no',
        words: $localize`One table`,
        value: false,
        why: $localize`one set-up for the whole edge`,
      },
      {
        id: 'yes',
        words: $localize`Flat, then rounded`,
        value: true,
        why: $localize`the outer part flat for a square tip, the curve on the rounded table, a change between`,
      },
    ],
  },
  {
    key: 'gradeMmPerS',
    name: $localize`Balance grade`,
    options: [
      {
        id: '16',
        words: 'G 16',
        value: 16,
        why: $localize`where the standard lists agricultural machinery; slow to reach`,
      },
      { id: '40', words: 'G 40', value: 40, why: $localize`our default, common practice` },
    ],
  },
];

const idOf = (question: AnyQuestion, schools: Schools): string => {
  const value = JSON.stringify(schools[question.key] ?? question.usual);
  return question.options.find((option) => JSON.stringify(option.value) === value)?.id ?? '';
};

/** Each school as a row of choices with its reason; used for the shop and for one blade. */
@Component({
  selector: 'ts-schools-form',
  imports: [SchoolRow],
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    @for (question of questions(); track question.key) {
      <ts-school-row
        [name]="question.name"
        [options]="question.options"
        [chosen]="idOf(question, schools())"
        [otherwise]="otherwise(question)"
        [everyReason]="everyReason()"
        (pick)="choose(question, $event)"
      />
    }
  `,
})
export class SchoolsForm {
  readonly schools = input.required<Schools>();
  /** Show what speaks for and against each, not only the one chosen. */
  readonly everyReason = input(false, { transform: booleanAttribute });
  readonly chosen = output<Partial<Schools>>();
  /** Questions that do not arise for the blade in hand. */
  readonly without = input<readonly (keyof Schools)[]>([]);
  protected readonly questions = computed(() =>
    SCHOOL_QUESTIONS.filter(({ key }) => !this.without().includes(key)),
  );
  protected readonly idOf = idOf;

  protected choose(question: AnyQuestion, id: string): void {
    const option = question.options.find((each) => each.id === id);
    if (option) this.chosen.emit({ [question.key]: option.value });
  }

  protected otherwise({ key }: AnyQuestion): string {
    return key === 'gradeMmPerS'
      ? $localize`the spec's own grade`
      : $localize`as the shop has set it`;
  }
}
