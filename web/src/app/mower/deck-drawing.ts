import { ChangeDetectionStrategy, Component, computed, inject, input } from '@angular/core';
import type { DeckView } from '@tally-stone/contract';
import { judgeDeckFit } from '@tally-stone/core';
import { Units } from '../data/units';

interface Drawn {
  readonly x: number;
  readonly y: number;
  readonly r: number;
  readonly halfWidth: number;
  readonly words: string;
  readonly code: string;
  readonly empty: boolean;
}

/** Assumed of a deck nobody has measured: blades side by side, drawn broken. */
const UNKNOWN_LENGTH_MM = 500;
const UNKNOWN_WIDTH_MM = 60;
const UNKNOWN_OVERLAP_MM = 25;

/**
 * How far apart two spindles are drawn that nobody has measured, mm.
 * @example usualGapMm(560)
 */
export const usualGapMm = (lengthMm = UNKNOWN_LENGTH_MM): number => lengthMm - UNKNOWN_OVERLAP_MM;

/** Where everything of a deck is drawn, mm, and the box around it. */
export function deckPlan({ spindles, figures, pairs }: DeckView, labels: boolean) {
  const drawn = spindles.map(({ spindleId, position, blade }, i): Drawn => {
    const lengthMm = blade?.lengthMm ?? UNKNOWN_LENGTH_MM;
    const widthMm = blade?.widthMm ?? UNKNOWN_WIDTH_MM;
    const at = figures?.spindles.find((each) => each.spindleId === spindleId);
    return {
      x: at?.acrossMm ?? i * usualGapMm(lengthMm),
      y: -(at?.aheadMm ?? 0),
      r: Math.hypot(lengthMm, widthMm) / 2,
      halfWidth: widthMm / 2,
      words: position,
      code: blade?.code ?? $localize`empty`,
      empty: !blade,
    };
  });
  const left = Math.min(...drawn.map(({ x, r }) => x - r));
  const right = Math.max(...drawn.map(({ x, r }) => x + r));
  const top = Math.min(...drawn.map(({ y, r }) => y - r));
  const bottom = Math.max(...drawn.map(({ y, r }) => y + r));
  const width = right - left;
  const head = labels && pairs.length > 0 ? width / 22 : 0;
  const view = {
    x: left - 8,
    y: top - 8 - head,
    width: width + 16,
    height: bottom - top + 16 + head,
  };
  return { drawn, view };
}

/** A deck from above, to scale, the way it mows upward: the circle each blade sweeps, and what is between them. */
@Component({
  selector: 'ts-deck-drawing',
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    @let box = view();
    <svg
      [attr.viewBox]="box.x + ' ' + box.y + ' ' + box.width + ' ' + box.height"
      role="img"
      [attr.aria-label]="words()"
      [class.guessed]="!deck().figures"
    >
      @for (spindle of drawn(); track $index) {
        <g [attr.transform]="'translate(' + spindle.x + ' ' + spindle.y + ')'">
          <circle class="sweep" [attr.r]="spindle.r" [class.empty]="spindle.empty" />
          @if (!spindle.empty) {
            <rect
              class="steel"
              [attr.x]="-spindle.r"
              [attr.y]="-spindle.halfWidth"
              [attr.width]="2 * spindle.r"
              [attr.height]="2 * spindle.halfWidth"
              transform="rotate(-18)"
            />
          }
          <circle class="hub" [attr.r]="box.width / 90" />
          @if (labels()) {
            <text [attr.y]="spindle.r * 0.62" [attr.font-size]="box.width / 34">
              {{ spindle.words }}
            </text>
            <text class="code" [attr.y]="-spindle.r * 0.42" [attr.font-size]="box.width / 28">
              {{ spindle.code }}
            </text>
          }
        </g>
      }
      @if (labels()) {
        @for (pair of gaps(); track $index) {
          <g [class.bad]="pair.bad">
            <line
              [attr.x1]="pair.x"
              [attr.x2]="pair.x"
              [attr.y1]="box.y + box.width / 30"
              [attr.y2]="pair.y"
            />
            <text
              [attr.x]="pair.x"
              [attr.y]="box.y + box.width / 40"
              [attr.font-size]="box.width / 42"
            >
              {{ pair.words }}
            </text>
          </g>
        }
      }
    </svg>
  `,
  styles: `
    :host {
      display: block;
    }
    svg {
      display: block;
      width: 100%;
      height: auto;
      max-height: var(--deck-height, 320px);
    }
    .sweep {
      fill: var(--steel-wash, rgb(0 0 0 / 6%));
      stroke: var(--steel);
      vector-effect: non-scaling-stroke;
      stroke-width: 1.5px;
    }
    .guessed .sweep {
      stroke-dasharray: 6 5;
    }
    .sweep.empty {
      fill: none;
      stroke-dasharray: 3 6;
    }
    .steel {
      fill: var(--steel);
    }
    .hub {
      fill: var(--ink);
    }
    text {
      text-anchor: middle;
      fill: var(--ink);
      font-weight: 500;
    }
    .code {
      font-weight: 700;
      letter-spacing: 2px;
    }
    line {
      stroke: var(--rule);
      stroke-width: 1px;
      vector-effect: non-scaling-stroke;
    }
    .bad text {
      fill: var(--bad);
      font-weight: 700;
    }
    .bad line {
      stroke: var(--bad);
    }
  `,
})
export class DeckDrawing {
  private readonly units = inject(Units);
  readonly deck = input.required<DeckView>();
  readonly labels = input(true);

  private readonly plan = computed(() => deckPlan(this.deck(), this.labels()));
  protected readonly drawn = computed(() => this.plan().drawn);
  protected readonly view = computed(() => this.plan().view);

  /** Between neighbours: how far they clear each other and how far their cuts overlap. */
  protected readonly gaps = computed(() => {
    const { pairs, figures } = this.deck();
    const order = [...this.drawn().keys()];
    return pairs
      .filter(({ neighbours }) => neighbours)
      .flatMap(({ left, right, clearanceMm, overlapMm }) => {
        const [one, two] = [this.drawn()[order[left] ?? -1], this.drawn()[order[right] ?? -1]];
        if (!one || !two || !figures) return [];
        return [
          {
            x: (one.x + two.x) / 2,
            y: (one.y + two.y) / 2,
            bad: judgeDeckFit({ clearanceMm, overlapMm }, figures).length > 0,
            words: $localize`clear ${this.units.show(clearanceMm, 'mm', 0)}, overlap ${this.units.show(overlapMm, 'mm', 0)}`,
          },
        ];
      });
  });

  protected readonly words = computed(() => {
    const { spindles, faults, figures } = this.deck();
    const on = spindles.map(
      ({ position, blade }) => `${position} ${blade?.code ?? $localize`empty`}`,
    );
    const state = figures
      ? faults.length > 0
        ? this.units.resay(faults.join('; '))
        : $localize`all clear`
      : $localize`not measured`;
    return $localize`Deck from above: ${on.join(', ')}; ${state}`;
  });
}
