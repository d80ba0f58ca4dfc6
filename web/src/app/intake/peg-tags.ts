import { ChangeDetectionStrategy, Component, input } from '@angular/core';

/** Tags for the pegs, each with the code in letters and as a square a scanner reads. Printed, they are the whole page. */
@Component({
  selector: 'ts-peg-tags',
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    <ol class="tags">
      @for (blade of blades(); track blade.bladeId) {
        <li>
          <img
            [src]="'/api/v1/codes/' + blade.code + '/tag.svg'"
            width="64"
            height="64"
            alt="Code {{ blade.code }} to scan"
            i18n-alt
          />
          <strong>{{ blade.code }}</strong>
          <span class="quiet">{{ what() }}</span>
        </li>
      }
    </ol>
  `,
  styles: `
    .tags {
      display: grid;
      grid-template-columns: repeat(auto-fill, minmax(13.125rem, 1fr));
      gap: 8px;
      max-height: 52vh;
      margin: 0;
      padding: 0;
      overflow: auto;
      list-style: none;
    }
    li {
      display: grid;
      grid-template-columns: 4.5rem 1fr;
      align-items: center;
      gap: 0 10px;
      padding: 8px 10px;
      background: var(--chalk);
      border: 1px dashed var(--steel);
      break-inside: avoid;
    }
    img {
      grid-row: span 2;
      background: #fff;
    }
    strong {
      font-size: 1.625rem;
      letter-spacing: 0.06em;
      line-height: 1.1;
    }
    span {
      font-size: 0.875rem;
      line-height: 1.15;
    }
    @media print {
      .tags {
        max-height: none;
        overflow: visible;
      }
    }
  `,
})
export class PegTags {
  readonly blades = input.required<readonly { bladeId: string; code: string }[]>();
  readonly what = input('');
}
