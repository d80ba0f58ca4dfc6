import { counted } from '@tally-stone/core';
import { HttpEventType, type HttpEvent } from '@angular/common/http';
import { DOCUMENT } from '@angular/common';
import { ChangeDetectionStrategy, Component, inject, signal } from '@angular/core';
import { MatButtonModule } from '@angular/material/button';
import { MatProgressBarModule } from '@angular/material/progress-bar';
import { ImportSays } from '@tally-stone/contract';
import type { Subscription } from 'rxjs';
import { Api } from '../data/api';
import { troubleFrom } from '../data/problem';
import { Region } from '../data/region';

/** The newest whole line of an import's answer as far as it has come. */
function newest(event: HttpEvent<string>): ImportSays | undefined {
  const text =
    event.type === HttpEventType.Response
      ? event.body
      : event.type === HttpEventType.DownloadProgress && 'partialText' in event
        ? (event.partialText as string)
        : undefined;
  const line = text?.slice(0, text.lastIndexOf('\n')).split('\n').at(-1);
  return line ? ImportSays.parse(JSON.parse(line)) : undefined;
}

/** Brings a shop in that another server exported: all of it or nothing. */
@Component({
  selector: 'ts-bring-shop',
  imports: [MatButtonModule, MatProgressBarModule],
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    <p>
      @if (going(); as subscription) {
        <span role="status">{{ progress() }}</span>
        <mat-progress-bar mode="indeterminate" aria-label="Bringing the shop in" i18n-aria-label />
        <button i18n mat-button class="big" type="button" (click)="cancel(subscription)">
          Cancel
        </button>
      } @else {
        <ng-container i18n>Moving here from another computer?</ng-container>&ngsp;
        <button i18n mat-button class="big" type="button" (click)="file.click()">
          Bring in an exported shop
        </button>
      }
      <input
        #file
        hidden
        type="file"
        accept=".zip,application/zip"
        aria-label="Exported shop"
        i18n-aria-label
        (change)="bring(file)"
      />
    </p>
    @if (words(); as words) {
      <p class="bad" role="alert">{{ words }}</p>
    }
    @if (done(); as done) {
      <p role="status">{{ done }}</p>
      <button i18n mat-flat-button class="next-thing" type="button" (click)="open()">
        Open the shop
      </button>
    }
  `,
})
export class BringShop {
  private readonly api = inject(Api);
  private readonly region = inject(Region);
  private readonly document = inject(DOCUMENT);
  protected readonly going = signal<Subscription | undefined>(undefined);
  protected readonly progress = signal('');
  protected readonly words = signal('');
  protected readonly done = signal('');

  protected bring(field: HTMLInputElement): void {
    const [file] = field.files ?? [];
    field.value = '';
    if (!file) return;
    this.words.set('');
    this.progress.set($localize`Sending ${file.name} …`);
    const over = (): void => {
      this.going.set(undefined);
    };
    this.going.set(
      this.api.bringShop(file).subscribe({
        next: (event) => {
          const says = newest(event);
          if (says) this.hear(says);
        },
        error: (error: unknown) => {
          over();
          this.words.set(troubleFrom(error).words);
        },
        complete: over,
      }),
    );
  }

  private hear(says: ImportSays): void {
    if ('problem' in says) this.words.set(says.problem.detail);
    else if ('done' in says) {
      const { blades, mowers, signedCycles, photos } = says.done;
      this.done.set(
        `${counted(blades, { one: $localize`blade`, many: $localize`blades` })}, ${counted(mowers, { one: $localize`mower`, many: $localize`mowers` })}, ${counted(photos, { one: $localize`photo`, many: $localize`photos` })}. ` +
          $localize`${counted(signedCycles, { one: $localize`signed grind`, many: $localize`signed grinds` })} proved to be as signed.`,
      );
    } else
      this.progress.set(
        $localize`Reading ${says.resource}:what:: ${this.region.number(says.rows)} rows …`,
      );
  }

  protected cancel(subscription: Subscription): void {
    subscription.unsubscribe();
    this.going.set(undefined);
    this.words.set($localize`Cancelled: nothing was brought in.`);
  }

  /** Everything on screen belongs to the empty shop: the page begins anew. */
  protected open(): void {
    this.document.location.assign('/');
  }
}
