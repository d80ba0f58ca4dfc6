import { ChangeDetectionStrategy, Component, computed, input } from '@angular/core';

const GROUP_WIDTH = 34;
const STROKE_GAP = 6;
/** More than this is tallied in tens, and more than ten times this in hundreds, with a thicker mark for each. */
const MOST_MARKS = 40;
/** No count, however wrong, makes a drawing that the screen cannot hold; the figure beside it is exact. */
const MOST_DRAWN = 60;
const STROKE_OF_STEP = { 1: 2.6, 10: 4.6, 100: 7 } as const;

/** Tally strokes in groups of five, the fifth across the four: passes, and grinds of a blade's life. */
@Component({
  selector: 'ts-tally',
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    <svg
      role="img"
      [attr.aria-label]="count() + ' ' + what()"
      [attr.viewBox]="'0 0 ' + width() + ' 30'"
      [style.height.px]="heightPx()"
    >
      <path [attr.d]="strokes()" [style.stroke-width]="strokeWidth()" />
    </svg>
  `,
  styles: `
    :host {
      display: inline-block;
      line-height: 0;
    }
    svg {
      max-width: 100%;
    }
    path {
      stroke: currentColor;
      stroke-linecap: round;
      fill: none;
    }
  `,
})
export class Tally {
  readonly count = input.required<number>();
  readonly what = input('passes');
  readonly heightPx = input(30);

  /** What one mark stands for. */
  private readonly step = computed(() => {
    const count = this.count();
    return count <= MOST_MARKS ? 1 : count <= 10 * MOST_MARKS ? 10 : 100;
  });
  protected readonly strokeWidth = computed(() => STROKE_OF_STEP[this.step()]);
  private readonly marks = computed(() =>
    Math.min(MOST_DRAWN, Math.floor(this.count() / this.step())),
  );
  protected readonly width = computed(() =>
    Math.max(8, Math.ceil(this.marks() / 5) * GROUP_WIDTH - 4),
  );
  /** All strokes as one path: a table of thousands of blades shows one in each row. */
  protected readonly strokes = computed(() =>
    Array.from({ length: this.marks() }, (_, i) => {
      const left = Math.floor(i / 5) * GROUP_WIDTH + 3;
      const nth = i % 5;
      if (nth === 4) return `M${left - 1} 23 L${left + 4 * STROKE_GAP} 6`;
      const x = left + nth * STROKE_GAP + 1;
      const lean = ((i * 7) % 3) - 1;
      return `M${x + lean} 4 L${x - lean * 0.4} 26`;
    }).join(''),
  );
}
