import { ChangeDetectionStrategy, Component, computed, inject, input } from '@angular/core';
import type { BladeView } from '@tally-stone/contract';
import { DAMAGE, ENDS, type End } from '@tally-stone/core';
import { scaleLinear, scaleSqrt } from 'd3-scale';
import { Units } from '../data/units';

type Mark = BladeView['marks'][number];
const WIDTH = 560;
const LEFT = 64;
const TOP = 30;
const ROW = 64;

/**
 * Where damage came along both edges over the blade's life: across is the place from the tip inward, up and down the
 * two ends, later marks darker. What returns at one place stands in one column.
 */
@Component({
  selector: 'ts-nick-map',
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    <svg viewBox="0 0 ${WIDTH} ${TOP + 2 * ROW + 34}" role="img" [attr.aria-label]="words()">
      @for (tick of ticks(); track tick.mm) {
        <line
          class="tick"
          [attr.x1]="tick.x"
          [attr.x2]="tick.x"
          y1="${TOP - 6}"
          y2="${TOP + 2 * ROW}"
        />
        <text class="tick-name" [attr.x]="tick.x" y="${TOP + 2 * ROW + 20}" text-anchor="middle">
          {{ tick.words }}
        </text>
      }
      @for (end of ends; track end; let row = $index) {
        <text class="end" x="0" [attr.y]="rowY(row) + 6">{{ endWords(end) }}</text>
        <line
          class="edge"
          x1="${LEFT}"
          x2="${WIDTH - 10}"
          [attr.y1]="rowY(row)"
          [attr.y2]="rowY(row)"
        />
        @for (mark of at(end); track mark.damageId) {
          <path
            class="mark"
            [class.back]="mark.returns"
            [attr.d]="mark.d"
            [attr.transform]="'translate(' + mark.x + ' ' + rowY(row) + ')'"
            [attr.opacity]="mark.shade"
          >
            <title>{{ mark.words }}</title>
          </path>
        }
      }
      <text class="tick-name" x="${WIDTH - 10}" y="16" text-anchor="end">
        {{ key }}
      </text>
    </svg>
  `,
  styles: `
    svg {
      display: block;
      width: 100%;
    }
    .edge {
      stroke: var(--steel);
      stroke-width: 3;
    }
    .tick {
      stroke: var(--rule);
    }
    .tick-name {
      font-size: 14px;
      fill: var(--steel);
    }
    .end {
      font-size: 17px;
      font-weight: 600;
      fill: var(--ink);
    }
    .mark {
      fill: var(--bad);
      stroke: none;
    }
    .mark.back {
      stroke: var(--ink);
      stroke-width: 2.5;
    }
  `,
})
export class NickMap {
  protected readonly key = $localize`from the tip inward; later marks darker, returning ones framed`;
  protected readonly endWords = (end: End): string => $localize`End ${end}:end:`;
  private readonly units = inject(Units);
  readonly marks = input.required<readonly Mark[]>();
  readonly edgeLengthMm = input.required<number>();
  protected readonly ends = ENDS;
  protected readonly rowY = (row: number): number => TOP + ROW * (row + 0.6);

  private readonly x = computed(() =>
    scaleLinear(
      [0, Math.max(this.edgeLengthMm(), ...this.marks().map((m) => m.fromTipMm))],
      [LEFT, WIDTH - 34],
    ),
  );
  private readonly size = computed(() =>
    scaleSqrt([0, Math.max(1, ...this.marks().map(({ depthMm }) => depthMm))], [4, 17]),
  );
  protected readonly ticks = computed(() =>
    this.x()
      .ticks(6)
      .map((mm) => ({ mm, x: this.x()(mm), words: this.units.show(mm, 'mm', 0) })),
  );
  private readonly cycles = computed(() => Math.max(1, ...this.marks().map(({ cycle }) => cycle)));

  protected at(end: End) {
    return this.marks()
      .filter((mark) => mark.end === end)
      .map((mark) => {
        const half = this.size()(mark.depthMm);
        return {
          damageId: mark.damageId,
          returns: mark.returns,
          x: this.x()(mark.fromTipMm),
          // A notch as it looks in the edge: wide at the edge, its depth the mark's.
          d: `M${-half} 0 L0 ${-1.6 * half} L${half} 0 Z`,
          shade: 0.35 + (0.65 * mark.cycle) / this.cycles(),
          words: $localize`${DAMAGE[mark.kind].noun}, cycle ${mark.cycle}:ph1:: ${this.units.show(mark.depthMm, 'mm')} deep, ${this.units.show(mark.fromTipMm, 'mm', 0)} from the tip`,
        };
      });
  }

  protected readonly words = computed(() => {
    const all = this.marks();
    if (all.length === 0) return $localize`No damage was ever marked on this blade.`;
    const count = (end: End): number => all.filter((mark) => mark.end === end).length;
    const outer = all.filter(({ fromTipMm }) => fromTipMm <= this.edgeLengthMm() / 2).length;
    const back = all.filter(({ returns }) => returns).length;
    return $localize`${all.length} marks over its life: ${count('A')} at end A, ${count('B')} at end B, ${outer} of them in the outer half${back > 0 ? $localize`; ${back} came back at an old place` : ''}.`;
  });
}
