import { ChangeDetectionStrategy, Component, input } from '@angular/core';
import { FormArray, type FormControl, ReactiveFormsModule } from '@angular/forms';
import { MatButtonModule } from '@angular/material/button';
import { DeckFigures } from '@tally-stone/contract';
import { Named } from '../parts/named';
import { text } from '../data/fields';
import { TextField } from '../parts/form/text-field';
import { BoltDrawing } from './bolt-drawing';

const PART = DeckFigures.shape.stack.element;
const MOST = 8;
/** What is usually on a blade bolt, added by a touch and named further as it is. */
const USUAL = [
  $localize`cup washer`,
  $localize`wave washer`,
  $localize`flat washer`,
  'spacer',
] as const;

export type BoltStack = FormArray<FormControl<string>>;
export const boltStack = (parts: readonly string[]): BoltStack =>
  new FormArray(parts.map((part) => text(part, PART)));

/** What lies on a blade bolt, from the spindle out to the blade and the bolt's head, each part by a touch. */
@Component({
  selector: 'ts-bolt-stack',
  imports: [Named, BoltDrawing, MatButtonModule, ReactiveFormsModule, TextField],
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    <fieldset>
      <legend i18n>On the bolt, from the spindle out</legend>
      <ts-bolt-drawing [names]="names()" />
      <ol>
        @for (part of parts().controls; track part; let i = $index) {
          <li>
            <ts-text [control]="part" label="Part {{ i + 1 }}" i18n-label />
            <button
              i18n
              mat-button
              type="button"
              class="big"
              tsName="Take away part {{ i + 1 }}"
              i18n-tsName
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
      min-width: 0;
      margin: 0;
      padding: 8px 16px 14px;
      border: 1px solid var(--rule);
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

  protected add(name: string): void {
    this.parts().push(text(name, PART));
  }
}
