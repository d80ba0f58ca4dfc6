import { ChangeDetectionStrategy, Component, computed, inject, signal } from '@angular/core';
import { MatButtonModule } from '@angular/material/button';
import { MatTableModule } from '@angular/material/table';
import type { DevicesView } from '@tally-stone/contract';
import { firstValueFrom } from 'rxjs';
import { Named } from '../parts/named';
import { Api } from '../data/api';
import { Days } from '../data/days';
import { troubleFrom } from '../data/problem';
import { shown } from '../data/shown';

type Device = DevicesView['devices'][number];

/** By what a browser says of itself, the first that fits: what its owner knows the machine by. */
const MACHINES: readonly (readonly [RegExp, string])[] = [
  [/iPhone/, 'iPhone'],
  [/iPad/, 'iPad'],
  [/Android.*Mobile/, $localize`Android phone`],
  [/Android/, $localize`Android tablet`],
  [/Windows/, 'Windows'],
  [/Macintosh/, 'Mac'],
  [/CrOS/, 'Chromebook'],
  [/Linux/, 'Linux'],
];

export const deviceWords = (userAgent: string): string =>
  MACHINES.find(([pattern]) => pattern.test(userAgent))?.[1] ?? $localize`Another device`;

/** Devices somebody is signed in on, each to be signed out from here: one's own, for a manager everybody's. */
@Component({
  selector: 'ts-devices',
  imports: [Named, MatButtonModule, MatTableModule],
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    <section aria-label="Devices" i18n-aria-label>
      <h2 i18n>Signed in</h2>
      @if (trouble()) {
        <p class="bad" role="alert">{{ trouble() }}</p>
      }
      <div class="scrolls">
        <table mat-table [dataSource]="devices()" [trackBy]="byId">
          <ng-container matColumnDef="name">
            <th i18n mat-header-cell *matHeaderCellDef>Who</th>
            <td mat-cell *matCellDef="let each">{{ each.name }}</td>
          </ng-container>
          <ng-container matColumnDef="device">
            <th i18n mat-header-cell *matHeaderCellDef>On</th>
            <td mat-cell *matCellDef="let each">{{ words(each) }}</td>
          </ng-container>
          <ng-container matColumnDef="since">
            <th i18n mat-header-cell *matHeaderCellDef>Since</th>
            <td mat-cell *matCellDef="let each">{{ days.short(each.since) }}</td>
          </ng-container>
          <ng-container matColumnDef="seen">
            <th i18n mat-header-cell *matHeaderCellDef>Last used</th>
            <td mat-cell *matCellDef="let each">
              {{ days.short(each.seenAt) }}, {{ days.time(each.seenAt) }}
            </td>
          </ng-container>
          <ng-container matColumnDef="end">
            <th mat-header-cell *matHeaderCellDef>
              <span i18n class="visually-hidden">End it</span>
            </th>
            <td mat-cell *matCellDef="let each">
              @if (!each.here) {
                <button
                  i18n
                  mat-button
                  class="big"
                  tsName="Sign out {{ each.name }} on {{ words(each) }}"
                  i18n-tsName
                  (click)="end(each)"
                >
                  Sign out
                </button>
              }
            </td>
          </ng-container>
          <tr mat-header-row *matHeaderRowDef="columns"></tr>
          <tr mat-row *matRowDef="let row; columns: columns"></tr>
        </table>
      </div>
    </section>
  `,
  styleUrl: './part.scss',
})
export class Devices {
  private readonly api = inject(Api);
  protected readonly days = inject(Days);
  protected readonly columns = ['name', 'device', 'since', 'seen', 'end'];
  private readonly asked = shown(() => this.api.devices(), { about: 'nothing' });
  private readonly ended = signal<DevicesView | undefined>(undefined);
  private readonly refused = signal('');
  protected readonly devices = computed(() => [
    ...((this.ended() ?? this.asked.value())?.devices ?? []),
  ]);
  protected readonly trouble = computed(() => this.refused() || this.asked.words());
  protected readonly byId = (_index: number, { deviceId }: Device): string => deviceId;

  protected words({ device, address, here }: Device): string {
    return `${deviceWords(device)}, ${address}${here ? $localize` (this one)` : ''}`;
  }

  protected async end({ deviceId }: Device): Promise<void> {
    try {
      this.ended.set(await firstValueFrom(this.api.endDevice(deviceId)));
      this.refused.set('');
    } catch (error) {
      this.refused.set(troubleFrom(error).words);
    }
  }
}
