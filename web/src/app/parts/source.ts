import { ChangeDetectionStrategy, Component } from '@angular/core';

/** Where a figure comes from (a statute, a standard, a practice), for whoever asks: not in the line that is read. */
@Component({
  selector: 'ts-source',
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    <details>
      <summary i18n>Where this comes from</summary>
      <ng-content />
    </details>
  `,
  styles: `
    :host {
      display: block;
      font-size: 0.9375rem;
      line-height: 1.3;
      color: var(--steel);
    }
    summary {
      width: fit-content;
      min-height: 28px;
      line-height: 28px;
      text-decoration: underline dotted;
      cursor: pointer;
    }
  `,
})
export class Source {}
