import { ChangeDetectionStrategy, Component, computed, input } from '@angular/core';

const GROUP_WIDTH = 34;
const STROKE_GAP = 6;
/** More than this is tallied in tens, with a thick mark for each. */
const MOST_SINGLE = 40;

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
      <path [attr.d]="strokes()" [class.tens]="inTens()" />
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
    path.tens {
      stroke-width: 4.6;
    }
    path {
      stroke: currentColor;
      stroke-width: 2.6;
      stroke-linecap: round;
      fill: none;
    }
  `,
})
export class Tally {
  readonly count = input.required<number>();
  readonly what = input('passes');
  readonly heightPx = input(30);

  protected readonly inTens = computed(() => this.count() > MOST_SINGLE);
  private readonly marks = computed(() =>
    this.inTens() ? Math.floor(this.count() / 10) : this.count(),
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
