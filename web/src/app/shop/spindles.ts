import { ChangeDetectionStrategy, Component, input } from '@angular/core';
import { FormArray, type FormControl, ReactiveFormsModule } from '@angular/forms';
import { MatButtonModule } from '@angular/material/button';
import { AddMower } from '@tally-stone/contract';
import { Named } from '../parts/named';
import { text } from '../data/fields';
import { TextField } from '../parts/form/text-field';

/** What spindles are usually called, by how many there are, from the left. */
const USUAL: readonly (readonly string[])[] = [
  [],
  ['single'],
  ['left', 'right'],
  ['left', 'centre', 'right'],
  [$localize`left outer`, $localize`left inner`, $localize`right inner`, $localize`right outer`],
  [
    $localize`left outer`,
    $localize`left inner`,
    'centre',
    $localize`right inner`,
    $localize`right outer`,
  ],
];
const MOST = 9;

const NAME = AddMower.shape.spindles.element.shape.position;
const named = (name: string): FormControl<string> => text(name, NAME);

export type Spindles = FormArray<FormControl<string>>;
export const spindles = (count: number): Spindles => new FormArray((USUAL[count] ?? []).map(named));

/** The spindles of a deck from above, from the left: one more by a touch, each with its name. */
@Component({
  selector: 'ts-spindles',
  imports: [Named, MatButtonModule, ReactiveFormsModule, TextField],
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    <fieldset>
      <legend i18n>Spindles, from the left as you sit on it</legend>
      <ol>
        @for (name of names().controls; track name; let i = $index) {
          <li>
            <svg viewBox="-40 -40 80 80" aria-hidden="true">
              <circle r="37" />
              <rect x="-36" y="-5" width="72" height="10" transform="rotate(-18)" />
              <circle class="hub" r="4" />
            </svg>
            <ts-text [control]="name" label="Spindle {{ i + 1 }}" i18n-label />
            @if (names().length > 1) {
              <button
                i18n
                mat-button
                type="button"
                class="big"
                tsName="Take away spindle {{ i + 1 }}"
                i18n-tsName
                (click)="remove(i)"
              >
                Take away
              </button>
            }
          </li>
        }
        @if (names().length < most) {
          <li>
            <button type="button" class="more" (click)="add()">
              <svg viewBox="-40 -40 80 80" aria-hidden="true">
                <circle class="free" r="37" />
                <path d="M-12 0H12M0 -12V12" />
              </svg>
              &ngsp;<ng-container i18n>One more spindle</ng-container>
            </button>
          </li>
        }
      </ol>
    </fieldset>
  `,
  styles: `
    fieldset {
      margin: 0;
      padding: 0;
      border: 0;
    }
    legend {
      margin-bottom: 8px;
      font-weight: 600;
    }
    ol {
      display: flex;
      flex-wrap: wrap;
      gap: 12px;
      margin: 0;
      padding: 0;
      list-style: none;
    }
    li {
      display: grid;
      justify-items: center;
      align-content: start;
      gap: 8px;
      width: 9.375rem;
      --field-width: 9.375rem;
    }
    svg {
      width: 5.75rem;
      height: 92px;
    }
    circle {
      fill: var(--chalk);
      stroke: var(--steel);
      stroke-width: 2;
    }
    .free {
      fill: none;
      stroke-dasharray: 6 5;
    }
    path {
      fill: none;
      stroke: var(--ink);
      stroke-width: 4;
    }
    rect {
      fill: var(--steel-dark);
    }
    .hub {
      fill: var(--ink);
      stroke: none;
    }
    .more {
      display: grid;
      justify-items: center;
      gap: 8px;
      width: 100%;
      padding: 0 0 10px;
      font: inherit;
      color: var(--ink);
      background: none;
      border: 0;
      cursor: pointer;
    }
    .more:hover .free {
      fill: var(--chalk);
    }
  `,
})
export class SpindlesField {
  readonly names = input.required<Spindles>();
  protected readonly most = MOST;

  protected add(): void {
    this.change((names) => [...names, $localize`spindle ${names.length + 1}`]);
  }

  protected remove(index: number): void {
    this.change((names) => names.filter((_, i) => i !== index));
  }

  /** Names nobody has touched go by how many there are. */
  private change(to: (names: readonly string[]) => readonly string[]): void {
    const before = this.names().getRawValue();
    const untouched = before.join() === USUAL[before.length]?.join();
    const after = to(before);
    this.names().clear();
    for (const name of (untouched ? USUAL[after.length] : undefined) ?? after)
      this.names().push(named(name));
  }
}
