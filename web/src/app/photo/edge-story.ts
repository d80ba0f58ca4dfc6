import { ChangeDetectionStrategy, Component, computed, inject, input, signal } from '@angular/core';
import { MatSliderModule } from '@angular/material/slider';
import type { EdgeSeen } from '@tally-stone/contract';
import { EDGE_EVERY_MM, ENDS, type End } from '@tally-stone/core';
import { extent, max } from 'd3-array';
import { scaleLinear } from 'd3-scale';
import { line } from 'd3-shape';
import { Days } from '../data/days';
import { Units } from '../data/units';

const WIDTH = 560;
const LEFT = 64;
const RIGHT = 14;
const TOP = 26;
const ROW = 92;
const GAP = 18;

/**
 * Photographed edges of a blade, each end along its row, the steel above and the air below: the picture chosen is drawn
 * strong, those before it faint. Depth is drawn larger than length, or a millimetre would not be seen.
 */
@Component({
  selector: 'ts-edge-story',
  imports: [MatSliderModule],
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    <svg [attr.viewBox]="'0 0 ${WIDTH} ' + (foot() + 26)" role="img" [attr.aria-label]="words()">
      @for (tick of ticks(); track tick.mm) {
        <line class="tick" [attr.x1]="tick.x" [attr.x2]="tick.x" y1="${TOP}" [attr.y2]="foot()" />
        <text class="small" [attr.x]="tick.x" [attr.y]="foot() + 18" text-anchor="middle">
          {{ tick.words }}
        </text>
      }
      @for (row of rows(); track row.end) {
        <text class="end" x="0" [attr.y]="row.middle">{{ endWords(row.end) }}</text>
        @if (row.steel) {
          <path class="steel" [attr.d]="row.steel" />
        } @else {
          <text class="small" x="${LEFT + 8}" [attr.y]="row.middle">{{ notYet }}</text>
        }
        @for (edge of row.earlier; track $index) {
          <path class="earlier" [attr.d]="edge" />
        }
        @if (row.chosen) {
          <path class="chosen" [attr.d]="row.chosen" />
        }
      }
      <text class="small" x="${WIDTH - RIGHT}" y="16" text-anchor="end">{{ scaleWords() }}</text>
    </svg>
    @if (moments().length > 1) {
      <div class="when">
        <mat-slider min="0" [max]="moments().length - 1" step="1">
          <input
            matSliderThumb
            [attr.aria-label]="'Which picture'"
            [attr.aria-valuetext]="momentWords()"
            [value]="at()"
            (valueChange)="picked.set($event)"
          />
        </mat-slider>
        <output>{{ momentWords() }}</output>
      </div>
    }
  `,
  styles: `
    :host {
      display: block;
      max-width: 45rem;
    }
    svg {
      display: block;
      width: 100%;
    }
    .tick {
      stroke: var(--rule);
    }
    .small {
      font-size: 14px;
      fill: var(--steel);
    }
    .end {
      font-size: 17px;
      font-weight: 600;
      fill: var(--ink);
    }
    .steel {
      fill: var(--steel-light);
    }
    .earlier {
      fill: none;
      stroke: var(--steel);
      stroke-opacity: 0.6;
    }
    .chosen {
      fill: none;
      stroke: var(--ink);
      stroke-width: 2.2;
    }
    .when {
      display: flex;
      align-items: center;
      gap: 16px;
    }
    mat-slider {
      flex: 1;
    }
    output {
      min-width: 11em;
    }
  `,
})
export class EdgeStory {
  protected readonly endWords = (end: string): string => $localize`End ${end}:end:`;
  protected readonly notYet = $localize`not photographed yet`;
  private readonly units = inject(Units);
  private readonly days = inject(Days);
  /** Oldest first. */
  readonly edges = input.required<readonly EdgeSeen[]>();
  readonly edgeLengthMm = input.required<number>();
  /** An end that was never photographed has no row. */
  private readonly ends = computed(() =>
    ENDS.filter((each) => this.edges().some(({ end }) => end === each)),
  );
  protected readonly foot = computed(
    () => TOP + this.ends().length * ROW + (this.ends().length - 1) * GAP,
  );
  protected readonly picked = signal<number | undefined>(undefined);

  private readonly momentOf = ({ at, phase }: EdgeSeen): string =>
    phase === 'before'
      ? $localize`${this.days.full(at)}, before its grind`
      : $localize`${this.days.full(at)}, ground`;

  /** The pictures that can be chosen: those before and after of one cycle and day are two. */
  protected readonly moments = computed(() => {
    return [...new Set(this.edges().map(this.momentOf))];
  });
  protected readonly at = computed(() => this.picked() ?? this.moments().length - 1);
  protected readonly momentWords = computed(() => this.moments()[this.at()] ?? '');

  private readonly x = computed(() =>
    scaleLinear([0, this.edgeLengthMm() + 8], [LEFT, WIDTH - RIGHT]),
  );
  private readonly shown = computed(() => {
    const last = Math.round((this.edgeLengthMm() + 8) / EDGE_EVERY_MM);
    return this.edges().map((edge) => ({ ...edge, widthsMm: edge.widthsMm.slice(0, last) }));
  });
  private readonly depths = computed(() => {
    const [least = 0, most = 1] = extent(
      this.shown().flatMap(({ widthsMm }) => widthsMm.filter((width) => width !== null)),
    );
    return scaleLinear([least - 0.3, most + 0.3], [8, ROW - 6]);
  });

  protected readonly ticks = computed(() =>
    this.x()
      .ticks(6)
      .map((mm) => ({ mm, x: this.x()(mm), words: this.units.show(mm, 'mm', 0) })),
  );

  private pathOf(widthsMm: readonly (number | null)[], top: number): string {
    const draw = line<number | null>()
      .defined((width) => width !== null)
      .x((_, i) => this.x()(i * EDGE_EVERY_MM))
      .y((width) => top + this.depths()(width ?? 0));
    return draw([...widthsMm]) ?? '';
  }

  protected readonly rows = computed(() =>
    this.ends().map((end: End, i) => {
      const top = TOP + i * (ROW + GAP);
      const until = this.moments().slice(0, this.at() + 1);
      const known = this.shown().filter(
        (edge) => edge.end === end && until.includes(this.momentOf(edge)),
      );
      const chosen = known.at(-1);
      const path = chosen && this.pathOf(chosen.widthsMm, top);
      const right = this.x()(
        EDGE_EVERY_MM * Math.max(0, (max(known, ({ widthsMm }) => widthsMm.length) ?? 1) - 1),
      );
      return {
        end,
        top,
        middle: top + ROW / 2 + 6,
        chosen: path,
        steel: path && `${path} L${right} ${top} L${LEFT} ${top} Z`,
        earlier: known.slice(0, -1).map(({ widthsMm }) => this.pathOf(widthsMm, top)),
      };
    }),
  );

  protected readonly scaleWords = computed(() => {
    const across = Math.abs(this.x()(1) - this.x()(0));
    const deep = Math.abs(this.depths()(1) - this.depths()(0));
    return $localize`from the tip inward; depth drawn ${this.units.number(deep / across)} times as large`;
  });
  protected readonly words = computed(
    () => $localize`Edges by photo, ${this.momentWords()}:ph0:: ${this.scaleWords()}.`,
  );
}
