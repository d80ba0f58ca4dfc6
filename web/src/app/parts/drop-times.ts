import { ChangeDetectionStrategy, Component, inject, input, output } from '@angular/core';
import { MatButtonModule } from '@angular/material/button';
import { Units } from '../data/units';
import { Named } from './named';

/** What drops took, in s; one that went wrong is struck out by a touch, told by its place. */
@Component({
  selector: 'ts-drop-times',
  imports: [Named, MatButtonModule],
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    <ol aria-label="Drops" i18n-aria-label>
      @for (time of times(); track $index) {
        <li>
          <button
            mat-button
            type="button"
            class="big"
            tsName="Strike out {{ units.number(time, 2) }} s"
            i18n-tsName
            (click)="struck.emit($index)"
          >
            {{ units.number(time, 2) }} s
          </button>
        </li>
      }
    </ol>
  `,
  styles: `
    ol {
      display: flex;
      flex-wrap: wrap;
      gap: 0 4px;
      margin: 0;
      padding: 0;
      list-style: none;
    }
  `,
})
export class DropTimes {
  protected readonly units = inject(Units);
  readonly times = input.required<readonly number[]>();
  readonly struck = output<number>();
}
