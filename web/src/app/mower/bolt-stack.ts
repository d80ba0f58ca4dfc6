import { ChangeDetectionStrategy, Component, computed, input } from '@angular/core';
import { FormArray, type FormControl, ReactiveFormsModule } from '@angular/forms';
import { MatButtonModule } from '@angular/material/button';
import { DeckFigures } from '@tally-stone/contract';
import { text } from '../data/fields';
import { TextField } from '../parts/form/text-field';

const PART = DeckFigures.shape.stack.element;
const MOST = 8;
/** What is usually on a blade bolt, added by a touch and named further as it is. */
const USUAL = ['cup washer', 'wave washer', 'flat washer', 'spacer'] as const;

export type BoltStack = FormArray<FormControl<string>>;
export const boltStack = (parts: readonly string[]): BoltStack =>
  new FormArray(parts.map((part) => text(part, PART)));

/** How a part is drawn, by its name: how thick, how wide, and whether it is dished. */
interface Drawn {
  readonly thick: number;
  readonly wide: number;
  readonly dished: boolean;
}
const drawnAs = (name: string): Drawn => {
  const says = (word: string): boolean => name.toLowerCase().includes(word);
  if (says('spacer')) return { thick: 22, wide: 30, dished: false };
  if (says('cup') || says('wave') || says('spring')) return { thick: 8, wide: 46, dished: true };
  return { thick: 7, wide: 42, dished: false };
};

const SPINDLE = 46;
const BLADE = 12;
const HEAD = 20;
const GAP = 5;

/** What lies on a blade bolt, from the spindle out to the blade and the bolt's head, each part by a touch. */
@Component({
  selector: 'ts-bolt-stack',
  imports: [MatButtonModule, ReactiveFormsModule, TextField],
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    <fieldset>
      <legend>On the bolt, from the spindle out</legend>
      <svg
        [attr.viewBox]="'0 0 ' + plan().width + ' 60'"
        [style.width.px]="plan().width * 1.6"
        role="img"
        [attr.aria-label]="said()"
      >
        <rect class="spindle" x="0" y="8" [attr.width]="spindle" height="44" />
        <rect
          class="bolt"
          [attr.x]="spindle"
          y="24"
          [attr.width]="plan().width - spindle - 12"
          height="12"
        />
        @for (part of plan().parts; track $index) {
          @if (part.dished) {
            <path class="part" [attr.d]="dish(part)" />
          } @else {
            <rect
              class="part"
              [attr.x]="part.x"
              [attr.y]="30 - part.wide / 2"
              [attr.width]="part.thick"
              [attr.height]="part.wide"
            />
          }
        }
        <rect class="blade" [attr.x]="plan().bladeAt" y="0" [attr.width]="blade" height="60" />
        <path
          class="head"
          [attr.d]="'M' + (plan().bladeAt + blade + 3) + ' 12h14l6 8v20l-6 8h-14z'"
        />
      </svg>
      <ol>
        @for (part of parts().controls; track part; let i = $index) {
          <li>
            <ts-text [control]="part" [label]="'Part ' + (i + 1)" />
            <button
              mat-button
              type="button"
              class="big"
              [attr.aria-label]="'Take away part ' + (i + 1)"
              (click)="parts().removeAt(i)"
            >
              Take away
            </button>
          </li>
        }
      </ol>
      @if (parts().length < most) {
        <p>
          @for (name of usual; track name) {
            <button mat-stroked-button type="button" class="big" (click)="add(name)">
              + {{ name }}
            </button>
          }
        </p>
      }
    </fieldset>
  `,
  styles: `
    :host {
      display: block;
      width: 100%;
    }
    fieldset {
      margin: 0;
      padding: 8px 16px 14px;
      border: 1px solid var(--rule);
    }
    svg {
      display: block;
      max-width: 100%;
    }
    .spindle,
    .head {
      fill: var(--steel-dark);
    }
    .bolt {
      fill: var(--rule);
    }
    .part {
      fill: var(--steel-face);
      stroke: var(--steel);
    }
    .blade {
      fill: var(--steel-light);
      stroke: var(--steel);
    }
    ol,
    p {
      display: flex;
      flex-wrap: wrap;
      gap: 8px 16px;
      margin: 10px 0 0;
      padding: 0;
      list-style: none;
    }
    li {
      display: flex;
      gap: 4px;
      align-items: flex-start;
    }
  `,
})
export class BoltStackField {
  readonly parts = input.required<BoltStack>();
  /** The names as typed, so that the drawing follows. */
  readonly names = input.required<readonly string[]>();
  protected readonly usual = USUAL;
  protected readonly most = MOST;
  protected readonly spindle = SPINDLE;
  protected readonly blade = BLADE;

  protected readonly plan = computed(() => {
    let x = SPINDLE + GAP;
    const parts = this.names().map((name) => {
      const part = { ...drawnAs(name), x };
      x += part.thick + GAP;
      return part;
    });
    return { parts, bladeAt: x, width: x + BLADE + 3 + HEAD + 4 };
  });
  protected readonly said = computed(() =>
    ['Spindle', ...this.names(), 'blade', 'bolt'].filter(Boolean).join(', '),
  );

  protected readonly dish = ({ x, thick, wide }: Drawn & { readonly x: number }): string =>
    `M${x} ${30 - wide / 2}q${thick} ${wide / 2} 0 ${wide}h${thick / 2}q${thick} ${-wide / 2} 0 ${-wide}z`;

  protected add(name: string): void {
    this.parts().push(text(name, PART));
  }
}
