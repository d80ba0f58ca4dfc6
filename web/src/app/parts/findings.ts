import { ChangeDetectionStrategy, Component, computed, inject, input } from '@angular/core';
import type { FindingView } from '@tally-stone/contract';
import { Units } from '../data/units';
import { Fold } from './fold';
import { Tally } from './tally';
import { VerdictTag } from './verdict-tag';

/** So many that are fine are worth folding: fewer are read as quickly as the line that stands for them. */
const WORTH_FOLDING = 3;

/** Findings, what decides first; those that are fine are one line that opens. */
@Component({
  selector: 'ts-findings',
  imports: [Fold, Tally, VerdictTag],
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    <ul>
      @for (finding of first(); track finding.id) {
        <li>
          <ts-verdict-tag [severity]="finding.severity" />
          <span>{{ units.finding(finding) }}</span>
        </li>
      } @empty {
        @if (folded().length === 0) {
          <li i18n class="quiet">Nothing measured yet.</li>
        }
      }
    </ul>
    @if (folded().length > 0) {
      <ts-fold>
        <span i18n foldHead>
          <ts-tally [count]="folded().length" what="findings" i18n-what [heightPx]="18" />
          {{ folded().length }}
          @if (first().length > 0) {
            others are fine
          } @else {
            looked at, all fine
          }
        </span>
        <ul>
          @for (finding of folded(); track finding.id) {
            <li>
              <ts-verdict-tag [severity]="finding.severity" />
              <span>{{ units.finding(finding) }}</span>
            </li>
          }
        </ul>
      </ts-fold>
    }
  `,
  styles: `
    ul {
      list-style: none;
      margin: 0;
      padding: 0;
    }
    li {
      display: grid;
      grid-template-columns: 9.375rem 1fr;
      gap: 12px;
      padding: 7px 0;
      border-bottom: 1px solid var(--rule);
    }
    [foldHead] {
      display: flex;
      gap: 12px;
      align-items: center;
    }
  `,
})
export class Findings {
  protected readonly units = inject(Units);
  readonly findings = input.required<readonly FindingView[]>();
  private readonly fine = computed(() =>
    this.findings().filter(({ severity }) => severity === 'fine'),
  );
  protected readonly folded = computed(() =>
    this.fine().length >= WORTH_FOLDING ? this.fine() : [],
  );
  protected readonly first = computed(() =>
    this.findings().filter((finding) => !this.folded().includes(finding)),
  );
}
