import { booleanAttribute, ChangeDetectionStrategy, Component, inject, input } from '@angular/core';
import { MatButtonModule } from '@angular/material/button';
import { Onward } from './onward';
import { RunStore } from './run-store';

/** After the grind, before anything is hung or read of it: the burr is taken off. Nothing where there is none. */
@Component({
  selector: 'ts-deburr',
  imports: [MatButtonModule],
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    @if (store.burr()) {
      <p>
        <button i18n mat-stroked-button class="big" [attr.data-todo]="true" (click)="deburred()">
          Deburred: flat passes on the underside, wiped
        </button>
        @if (store.view()?.overBurr) {
          <button i18n mat-button class="big" (click)="deburred(true)">
            It was off before I hung or read it
          </button>
        }
        <span i18n class="quiet"
          >A burr weighs, measures and hangs like metal. Never a bevel underneath.</span
        >
      </p>
    }
  `,
  styles: `
    p {
      display: flex;
      flex-wrap: wrap;
      align-items: center;
      gap: 8px 16px;
      margin: 0 0 12px;
    }
  `,
})
export class Deburr {
  protected readonly store = inject(RunStore);
  private readonly onward = inject(Onward);
  /** Nothing else is to be done here: once it is deburred the next step follows. */
  readonly last = input(false, { transform: booleanAttribute });

  protected async deburred(alreadyOff = false): Promise<void> {
    const act = { type: 'deburr', done: true, ...(alreadyOff ? { alreadyOff } : {}) } as const;
    if (await this.store.act(act)) return;
    if (this.last()) await this.onward.now();
    else this.store.focusNext$.next();
  }
}
