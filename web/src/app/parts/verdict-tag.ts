import { ChangeDetectionStrategy, Component, computed, input } from '@angular/core';
import { MatIconModule } from '@angular/material/icon';
import type { Severity } from '@tally-stone/core';

const WORDS: Readonly<Record<Severity, string>> = {
  retire: $localize`Retire`,
  hold: $localize`Measure again`,
  grind: $localize`Grind`,
  watch: $localize`Watch`,
  fine: $localize`Fine`,
};

/** A verdict in a word and a shape, never by colour alone. */
@Component({
  selector: 'ts-verdict-tag',
  imports: [MatIconModule],
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `<mat-icon [svgIcon]="severity()" aria-hidden="true" />{{ word() }}`,
  styles: `
    :host {
      display: inline-flex;
      align-items: center;
      gap: 6px;
      white-space: nowrap;
      font-weight: 600;
    }
    :host([data-severity='retire']) {
      color: var(--bad);
    }
    :host([data-severity='hold']),
    :host([data-severity='grind']) {
      color: var(--spark);
    }
    :host([data-severity='fine']) {
      color: var(--good);
    }
  `,
  host: { '[attr.data-severity]': 'severity()' },
})
export class VerdictTag {
  readonly severity = input.required<Severity>();
  protected readonly word = computed(() => WORDS[this.severity()]);
}
