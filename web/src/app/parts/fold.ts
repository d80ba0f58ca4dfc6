import { ChangeDetectionStrategy, Component, input } from '@angular/core';
import { MatExpansionModule } from '@angular/material/expansion';

/** What is there for whoever asks: one line that opens. Its line is whatever carries `foldHead`. */
@Component({
  selector: 'ts-fold',
  imports: [MatExpansionModule],
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    <mat-expansion-panel class="mat-elevation-z0" hideToggle [expanded]="open()">
      <mat-expansion-panel-header>
        <span class="sign" aria-hidden="true"></span>
        <ng-content select="[foldHead]" />
      </mat-expansion-panel-header>
      <ng-content />
    </mat-expansion-panel>
  `,
  styles: `
    :host {
      display: block;
    }
    .mat-expansion-panel-header {
      width: fit-content;
      max-width: 100%;
      padding: 0 12px 0 0;
      font: inherit;
      letter-spacing: 0;
    }
    .sign {
      flex: none;
      width: 26px;
      font-size: 1.375rem;
      text-align: center;
    }
    .sign::before {
      content: '+';
    }
    [aria-expanded='true'] .sign::before {
      content: '−';
    }
  `,
})
export class Fold {
  readonly open = input(false);
}
