import { ChangeDetectionStrategy, Component, computed, inject } from '@angular/core';
import { MatButtonModule } from '@angular/material/button';
import { EXPORT_PATH } from '@tally-stone/contract';
import { Api } from '../data/api';
import { Days } from '../data/days';
import { shown } from '../data/shown';

/** How the record stands: the newest backup, and the head of the chain to write down. */
@Component({
  selector: 'ts-shop-record',
  imports: [MatButtonModule],
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    @if (record.value(); as seen) {
      <p [class.bad]="seen.old">{{ backup() }}</p>
      <p [class.bad]="seen.room.low">{{ room() }}</p>
      <p i18n class="quiet">
        The record ends at entry {{ seen.head.sequence }}. Write this down now and then, on paper:
        with it <code>npm run verify</code> shows whether anything before it was changed.
      </p>
      <p>
        <code>{{ seen.head.sequence }}:{{ seen.head.hash }}</code>
      </p>
      <p i18n>
        <a mat-stroked-button class="big" [href]="exportPath" download>Export the whole shop</a>
        Tables, record and photos as open files (CSV and JSON Lines in a ZIP), for a spreadsheet, an
        accountant or another server. PINs stay here.
      </p>
    } @else if (record.words()) {
      <p class="bad" role="alert">{{ record.words() }}</p>
    }
  `,
  styles: `
    code {
      overflow-wrap: anywhere;
    }
  `,
})
export class ShopRecord {
  protected readonly exportPath = EXPORT_PATH;
  private readonly api = inject(Api);
  private readonly days = inject(Days);
  protected readonly record = shown(() => this.api.record(), { about: 'nothing' });

  protected readonly room = computed(() => {
    const { freeMb = 0, low = false } = this.record.value()?.room ?? {};
    const left = freeMb >= 2000 ? `${Math.floor(freeMb / 1000)} GB` : `${freeMb} MB`;
    return low
      ? $localize`The server’s disk is nearly full, ${left} are left: make room before something cannot be stored.`
      : $localize`${left} are left on the server’s disk.`;
  });

  protected readonly backup = computed(() => {
    const seen = this.record.value();
    if (!seen?.folder) return $localize`No backups are made on this machine’s own.`;
    if (!seen.newest)
      return $localize`No backup yet: one is made every night into ${seen.folder}. Until then this machine is the only copy.`;
    const made = $localize`The last backup was made ${this.days.short(seen.newest.at)}, opened and found whole, in ${seen.folder}.`;
    return seen.old ? $localize`${made} That is older than two days: see why none is made.` : made;
  });
}
