import { ChangeDetectionStrategy, Component, inject, type Injector } from '@angular/core';
import { MatButtonModule } from '@angular/material/button';
import { MatDialog, MatDialogModule, type MatDialogRef } from '@angular/material/dialog';
import { Keys } from '../data/keys';

/** All keys that work on the screen in front. */
@Component({
  selector: 'ts-keys-help',
  imports: [MatButtonModule, MatDialogModule],
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    <h2 i18n mat-dialog-title>Keys</h2>
    <mat-dialog-content>
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
    </mat-dialog-content>
    <mat-dialog-actions>
      <button i18n mat-stroked-button class="big" mat-dialog-close>Close</button>
    </mat-dialog-actions>
  `,
  styles: `
    dl {
      display: grid;
      grid-template-columns: auto 1fr;
      gap: 8px 16px;
      margin: 0;
      padding: 4px 0;
      color: var(--ink);
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
}

/** Shows them; Escape, Close or a touch beside them shuts them again. */
export const showKeys = (injector: Injector): MatDialogRef<KeysHelp> =>
  injector.get(MatDialog).open(KeysHelp, { maxWidth: '520px' });
