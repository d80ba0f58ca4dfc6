import { A11yModule } from '@angular/cdk/a11y';
import { ChangeDetectionStrategy, Component, inject, output } from '@angular/core';
import { MatButtonModule } from '@angular/material/button';
import { Keys } from '../data/keys';

/** All keys that work on the screen in front. */
@Component({
  selector: 'ts-keys-help',
  imports: [A11yModule, MatButtonModule],
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    <section
      role="dialog"
      aria-label="Keys"
      i18n-aria-label
      cdkTrapFocus
      [cdkTrapFocusAutoCapture]="true"
    >
      <h2 i18n>Keys</h2>
      <dl>
        <dt><kbd i18n>Enter</kbd></dt>
        <dd i18n>Keep what is typed and go on to the next thing</dd>
        <dt><kbd i18n>Tab</kbd></dt>
        <dd i18n>From field to field</dd>
        @for (binding of keys.bindings(); track binding) {
          <dt>
            <kbd>{{ keys.nameOf(binding.key) }}</kbd>
          </dt>
          <dd>{{ binding.does }}</dd>
        }
      </dl>
      <button i18n mat-stroked-button class="big" (click)="closed.emit()">Close</button>
    </section>
  `,
  styles: `
    section {
      position: fixed;
      right: 24px;
      bottom: 24px;
      z-index: 20;
      max-width: 460px;
      max-height: 80vh;
      overflow: auto;
      padding: 20px 24px;
      background: var(--slab);
      border: 3px solid var(--ink);
    }
    dl {
      display: grid;
      grid-template-columns: auto 1fr;
      gap: 8px 16px;
      margin: 12px 0 20px;
    }
    dd {
      margin: 0;
    }
    kbd {
      margin: 0;
      opacity: 1;
      padding: 2px 8px;
      border: 1px solid var(--steel);
      background: var(--chalk);
    }
  `,
})
export class KeysHelp {
  protected readonly keys = inject(Keys);
  readonly closed = output();
}
