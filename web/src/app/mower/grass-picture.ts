import { HttpClient } from '@angular/common/http';
import {
  booleanAttribute,
  ChangeDetectionStrategy,
  Component,
  effect,
  type ElementRef,
  inject,
  input,
  output,
  viewChild,
} from '@angular/core';
import type { GrassTip } from '@tally-stone/contract';
import { firstValueFrom } from 'rxjs';

/** The longer side it is drawn at, pixels: twice what the widest screen gives it. */
const MOST_PX = 1600;

/** A picture of cut tips with what was touched on it: a frayed mark on a torn tip, a square one on a clean tip. */
@Component({
  selector: 'ts-grass-picture',
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    <!-- Who cannot touch the picture counts the tips and types how many: the fields below say the same. -->
    <canvas
      #sheet
      role="img"
      aria-label="Cut tips of grass"
      i18n-aria-label
      (click)="touch($event)"
    ></canvas>
    @for (tip of tips(); track $index; let i = $index) {
      <button
        type="button"
        [class.torn]="tip.torn"
        [disabled]="!touchable()"
        [style.left.%]="tip.x * 100"
        [style.top.%]="tip.y * 100"
        [attr.aria-label]="takeAway(tip.torn, i + 1)"
        (click)="dropped.emit(i)"
      >
        <svg viewBox="-12 -12 24 24" aria-hidden="true">
          @if (tip.torn) {
            <path class="under" d="M-7 7L-4 -6L-1 1L2 -8L4 0L7 -5" />
            <path d="M-7 7L-4 -6L-1 1L2 -8L4 0L7 -5" />
          } @else {
            <path class="under" d="M-7 7V-5H7V7" />
            <path d="M-7 7V-5H7V7" />
          }
        </svg>
      </button>
    }
  `,
  styles: `
    :host {
      position: relative;
      display: block;
      width: fit-content;
      max-width: 100%;
      touch-action: manipulation;
    }
    canvas {
      display: block;
      max-width: 100%;
      max-height: 60vh;
    }
    button {
      position: absolute;
      width: 36px;
      height: 36px;
      padding: 4px;
      margin: -18px 0 0 -18px;
      cursor: pointer;
      background: none;
      border: 0;
    }
    button:disabled {
      cursor: default;
    }
    path {
      fill: none;
      stroke: #fff;
      stroke-width: 2;
    }
    .torn path:not(.under) {
      stroke: #ff9a5c;
    }
    path.under {
      stroke: #101417;
      stroke-width: 4.5;
    }
  `,
})
export class GrassPicture {
  protected readonly takeAway = (torn: boolean, place: number): string =>
    torn
      ? $localize`Torn tip ${place}:place:: take it away`
      : $localize`Clean tip ${place}:place:: take it away`;
  private readonly http = inject(HttpClient);
  private readonly sheet = viewChild.required<ElementRef<HTMLCanvasElement>>('sheet');
  /** As it was just taken, or the address it is kept at. */
  readonly picture = input.required<Blob | string>();
  /** It is no picture this browser can show. */
  readonly failed = output();
  readonly tips = input.required<readonly GrassTip[]>();
  readonly touchable = input(false, { transform: booleanAttribute });
  readonly touched = output<{ readonly x: number; readonly y: number }>();
  readonly dropped = output<number>();

  constructor() {
    effect(() => void this.draw(this.picture()));
  }

  /** Drawn here, turned as the camera held it: an address of the browser's own is not let in as a picture. */
  private async draw(picture: Blob | string): Promise<void> {
    try {
      const blob =
        typeof picture === 'string'
          ? await firstValueFrom(this.http.get(picture, { responseType: 'blob' }))
          : picture;
      const seen = await createImageBitmap(blob, { imageOrientation: 'from-image' });
      const scale = Math.min(1, MOST_PX / Math.max(seen.width, seen.height));
      const canvas = this.sheet().nativeElement;
      canvas.width = Math.round(seen.width * scale);
      canvas.height = Math.round(seen.height * scale);
      canvas.getContext('2d')?.drawImage(seen, 0, 0, canvas.width, canvas.height);
      seen.close();
    } catch {
      this.failed.emit();
    }
  }

  protected touch(event: MouseEvent): void {
    if (!this.touchable()) return;
    const box = (event.target as HTMLElement).getBoundingClientRect();
    const share = (at: number, from: number, size: number): number =>
      Math.min(1, Math.max(0, (at - from) / size));
    this.touched.emit({
      x: share(event.clientX, box.left, box.width),
      y: share(event.clientY, box.top, box.height),
    });
  }
}
