import {
  booleanAttribute,
  ChangeDetectionStrategy,
  Component,
  computed,
  input,
  output,
} from '@angular/core';
import { MatButtonModule } from '@angular/material/button';
import type { Trouble } from '../data/problem';

/** A peg in the board, from its middle. */
const PEG = 'M-4 0a4 4 0 1 0 8 0a4 4 0 1 0 -8 0Z';
/** A blade that hangs by its hole, 92 long, its ends cut like any of ours. */
const BLADE = 'M-5 -8H5V72L1 84H-5Z';

/**
 * What a screen or a part of it shows while it has nothing to show: a blade that swings while the server is asked, one
 * off its peg where that failed, bare pegs where there is nothing. A way on goes inside.
 */
@Component({
  selector: 'ts-state',
  imports: [MatButtonModule],
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    <svg viewBox="0 0 160 100" aria-hidden="true" [attr.class]="kind()">
      <path class="board" d="M0 8H160" />
      @for (x of pegs; track x) {
        <path class="peg" [attr.d]="peg" [attr.transform]="'translate(' + x + ' 8)'" />
      }
      @switch (kind()) {
        @case ('waits') {
          <g transform="translate(80 12)"><path class="blade" [attr.d]="blade" /></g>
        }
        @case ('failed') {
          <path class="blade" [attr.d]="blade" transform="translate(112 92) rotate(97)" />
          <path class="floor" d="M0 98H160" />
        }
      }
    </svg>
    <div [attr.role]="kind() === 'failed' ? 'alert' : 'status'">
      @if (kind() === 'failed') {
        @if (main()) {
          <h1 i18n>{{ what() }} cannot be shown</h1>
        } @else {
          <h2 i18n>{{ what() }} cannot be shown</h2>
        }
        <p>{{ words() }}</p>
      } @else if (main() && kind() === 'nothing') {
        <h1>{{ nothing() }}</h1>
      } @else {
        <p>{{ nothing() || doing() }}</p>
      }
      <div class="ways">
        @if (kind() === 'failed') {
          @if (main()) {
            <button i18n mat-flat-button class="next-thing" type="button" (click)="again.emit()">
              Try again
            </button>
          } @else {
            <button i18n mat-stroked-button class="big" type="button" (click)="again.emit()">
              Try again
            </button>
          }
        }
        <ng-content />
      </div>
    </div>
  `,
  styles: `
    :host {
      display: flex;
      flex-wrap: wrap;
      align-items: center;
      gap: 12px 28px;
      padding: 20px 0;
    }
    /* A quick answer shows no waiting. */
    :host:has(svg.waits) {
      animation: appear 200ms 250ms both;
    }
    @keyframes appear {
      from {
        visibility: hidden;
        opacity: 0;
      }
    }
    svg {
      flex: none;
      width: 10rem;
      height: 100px;
    }
    .board {
      stroke: var(--rule);
      stroke-width: 6;
    }
    .peg {
      fill: var(--steel);
    }
    .blade {
      fill: var(--steel-face);
      stroke: var(--steel);
      stroke-width: 1.5;
    }
    .floor {
      stroke: var(--steel);
      stroke-width: 2;
    }
    .waits .blade {
      animation: swing 1.6s ease-in-out infinite alternate;
    }
    @keyframes swing {
      from {
        transform: rotate(14deg);
      }
      to {
        transform: rotate(-14deg);
      }
    }
    @media (prefers-reduced-motion: reduce) {
      .waits .blade {
        animation: none;
      }
    }
    h1,
    h2,
    p {
      margin: 0;
    }
    .ways {
      display: flex;
      flex-wrap: wrap;
      align-items: center;
      gap: 12px;
    }
    .ways:not(:empty) {
      margin-top: 10px;
    }
  `,
})
export class PageState {
  /** What is shown here once it can be, as the start of a sentence: "The bench". */
  readonly what = input('');
  /** What goes on while the answer is awaited. */
  readonly doing = input('');
  readonly trouble = input<Trouble | string | undefined>('');
  /** What to say where there is nothing to show. */
  readonly nothing = input('');
  /** It stands for the whole page: its words are the heading, its way on the first thing to do. */
  readonly main = input(false, { transform: booleanAttribute });
  readonly again = output();
  protected readonly peg = PEG;
  protected readonly blade = BLADE;
  protected readonly pegs = [40, 80, 120];
  protected readonly words = computed(() => {
    const trouble = this.trouble();
    return typeof trouble === 'object' ? trouble.words : (trouble ?? '');
  });
  protected readonly kind = computed(() =>
    this.words() ? 'failed' : this.nothing() ? 'nothing' : 'waits',
  );
}
