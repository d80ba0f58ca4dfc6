import { ChangeDetectionStrategy, Component, inject, input } from '@angular/core';
import type { FindingView } from '@tally-stone/contract';
import { Units } from '../data/units';
import { VerdictTag } from './verdict-tag';

/** Findings, worst first, the reason in words before anything else. */
@Component({
  selector: 'ts-findings',
  imports: [VerdictTag],
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    <ul>
      @for (finding of findings(); track finding.id) {
        <li>
          <ts-verdict-tag [severity]="finding.severity" />
          <span>{{ units.finding(finding) }}</span>
        </li>
      } @empty {
        <li class="quiet">Nothing measured yet.</li>
      }
    </ul>
  `,
  styles: `
    ul {
      list-style: none;
      margin: 0;
      padding: 0;
    }
    li {
      display: grid;
      grid-template-columns: 150px 1fr;
      gap: 12px;
      padding: 7px 0;
      border-bottom: 1px solid var(--rule);
    }
  `,
})
export class Findings {
  protected readonly units = inject(Units);
  readonly findings = input.required<readonly FindingView[]>();
}
