import {
  ChangeDetectionStrategy,
  Component,
  computed,
  effect,
  type ElementRef,
  inject,
  input,
  output,
  viewChild,
} from '@angular/core';
import { MatButtonModule } from '@angular/material/button';
import type { Person } from '@tally-stone/contract';
import { Named } from '../parts/named';
import { Api } from '../data/api';
import { Days } from '../data/days';
import { shown } from '../data/shown';

/** What a phone opens: the key stands after the mark, which no server and no log gets to see. */
export const joinAddress = (origin: string, token: string): string => `${origin}/join#${token}`;

/** A code for a crew's phone to point its camera at: it signs that phone in, once. */
@Component({
  selector: 'ts-join-code',
  imports: [Named, MatButtonModule],
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    <h3 i18n>Sign {{ person().name }}’s phone in</h3>
    @if (link.value(); as now) {
      <p i18n>
        Point its camera at this code and open the address. It works once, until
        {{ days.time(now.until) }}; it replaces the code before.
      </p>
      <canvas #code role="img" tsName="Code that opens {{ address() }}" i18n-tsName></canvas>
      <p class="quiet address">{{ address() }}</p>
    } @else if (link.words()) {
      <p class="bad" role="alert">{{ link.words() }}</p>
    }
    <button i18n mat-stroked-button class="big" (click)="closed.emit()">Put it away</button>
  `,
  styles: `
    canvas {
      width: 15rem;
      height: 240px;
      padding: 12px;
      /* A camera wants dark on light, in either light of the app. */
      background: #fff;
    }
    .address {
      overflow-wrap: anywhere;
    }
  `,
})
export class JoinCode {
  private readonly api = inject(Api);
  protected readonly days = inject(Days);
  readonly person = input.required<Person>();
  readonly closed = output();
  private readonly canvas = viewChild<ElementRef<HTMLCanvasElement>>('code');
  protected readonly link = shown(() => this.api.joinLink({ personId: this.person().personId }), {
    about: 'nothing',
  });
  protected readonly address = computed(() =>
    joinAddress(location.origin, this.link.value()?.token ?? ''),
  );

  constructor() {
    effect(() => {
      const canvas = this.canvas()?.nativeElement;
      const text = this.address();
      if (canvas) void this.draw(canvas, text);
    });
  }

  private async draw(canvas: HTMLCanvasElement, text: string): Promise<void> {
    const { drawingCanvas, qrcode } = await import('bwip-js/browser');
    qrcode({ bcid: 'qrcode', text, scale: 4 }, drawingCanvas(canvas));
  }
}
