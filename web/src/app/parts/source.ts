import { ChangeDetectionStrategy, Component } from '@angular/core';
import { Fold } from './fold';

/** Where a figure comes from (a statute, a standard, a practice), for whoever asks: not in the line that is read. */
@Component({
  selector: 'ts-source',
  imports: [Fold],
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    <ts-fold>
      <span i18n foldHead>Where this comes from</span>
      <ng-content />
    </ts-fold>
  `,
  styles: `
    :host {
      display: block;
      font-size: 0.9375rem;
      line-height: 1.3;
      color: var(--steel);
    }
    [foldHead] {
      text-decoration: underline dotted;
    }
  `,
})
export class Source {}
