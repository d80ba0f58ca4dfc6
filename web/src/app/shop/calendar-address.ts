import { Clipboard } from '@angular/cdk/clipboard';
import { ChangeDetectionStrategy, Component, computed, inject, signal } from '@angular/core';
import { MatButtonModule } from '@angular/material/button';
import type { CalendarAddress, CalendarAddressAct } from '@tally-stone/contract';
import { firstValueFrom, type Observable } from 'rxjs';
import { Api } from '../data/api';
import { Days } from '../data/days';
import { troubleFrom } from '../data/problem';

/** Bench days and due days in whatever calendar people look at: an address it subscribes to. */
@Component({
  selector: 'ts-calendar-address',
  imports: [MatButtonModule],
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    <section aria-label="In your calendar" i18n-aria-label>
      <h2 i18n>In your calendar</h2>
      <p i18n>
        Bench days and due sets, kept up to date by your calendar program. Whoever has the address
        can read them, and nothing else.
      </p>
      @if (address(); as text) {
        <p>
          <ng-container i18n>Give it to your calendar now; it is not shown again:</ng-container
          >&ngsp;
          <output class="address">{{ text }}</output>
        </p>
        <button i18n mat-stroked-button class="big" (click)="copy(text)">
          @if (copied()) {
            Copied
          } @else {
            Copy it
          }
        </button>
      } @else if (now()?.since; as since) {
        <p i18n>There is an address since {{ days.full(since) }}.</p>
      }
      @if (now()) {
        <button i18n mat-stroked-button class="big" (click)="change('make')">
          @if (now()?.since) {
            Make a new one; the old one ends
          } @else {
            Make an address
          }
        </button>
        @if (now()?.since) {
          <button i18n mat-button class="big" (click)="change('end')">End it</button>
        }
      }
      @if (trouble()) {
        <p class="bad" role="alert">{{ trouble() }}</p>
      }
    </section>
  `,
  styleUrl: './part.scss',
  styles: `
    .address {
      display: block;
      margin: 4px 0;
      font-weight: 600;
      overflow-wrap: anywhere;
    }
  `,
})
export class CalendarAddressPart {
  private readonly api = inject(Api);
  private readonly clipboard = inject(Clipboard);
  protected readonly days = inject(Days);
  protected readonly now = signal<CalendarAddress | undefined>(undefined);
  protected readonly trouble = signal('');
  protected readonly copied = signal(false);
  protected readonly address = computed(() => {
    const path = this.now()?.path;
    return path && `${location.origin}${path}`;
  });

  constructor() {
    void this.show(this.api.calendarAddress());
  }

  protected change(act: CalendarAddressAct['act']): Promise<void> {
    this.copied.set(false);
    return this.show(this.api.changeCalendarAddress({ act }));
  }

  protected copy(text: string): void {
    this.copied.set(this.clipboard.copy(text));
  }

  private async show(asked: Observable<CalendarAddress>): Promise<void> {
    try {
      this.now.set(await firstValueFrom(asked));
      this.trouble.set('');
    } catch (error) {
      this.trouble.set(troubleFrom(error).words);
    }
  }
}
