import {
  afterRenderEffect,
  ChangeDetectionStrategy,
  Component,
  computed,
  type ElementRef,
  input,
  viewChild,
  ViewEncapsulation,
} from '@angular/core';
import { seasonLanes, type Season, type SeasonSpan } from '@tally-stone/core';
import { axisBottom } from 'd3-axis';
import { scaleBand, scaleUtc } from 'd3-scale';
import { select } from 'd3-selection';

const WIDTH = 1180;
const ROW = 26;
const LEFT = 96;
const BELOW = 28;
const DAY_MS = 86_400_000;

interface Drawn extends SeasonSpan {
  readonly odd: boolean;
}

const STATE_WORDS: Readonly<Record<SeasonSpan['state'], string>> = {
  sharp: 'sharp',
  dull: 'dull, no set ready',
  stopped: 'stopped after a strike',
};

/** One season drawn out: a lane a mower, each set that was on it one bar, dull and stopped told by their marks. */
@Component({
  selector: 'ts-season-lanes',
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    <svg
      #svg
      [attr.viewBox]="'0 0 ' + width + ' ' + height()"
      role="img"
      [attr.aria-label]="words()"
    >
      <defs>
        <pattern id="dull-hatch" width="6" height="6" patternUnits="userSpaceOnUse">
          <path d="M-1 7 7 -1M2 10 10 2" class="hatch" />
        </pattern>
      </defs>
      <g class="lanes"></g>
      <g class="axis"></g>
    </svg>
    <p class="key quiet" aria-hidden="true">
      <span class="even"></span> one set <span class="odd"></span> the next
      <span class="dull"></span> dull, no set ready <span class="stopped"></span> stopped after a
      strike
    </p>
  `,
  // D3 draws what Angular does not know of: its styles are this component's by its name.
  encapsulation: ViewEncapsulation.None,
  styles: `
    ts-season-lanes {
      svg {
        display: block;
        width: 100%;
        height: auto;
      }
      .hatch {
        stroke: var(--spark);
        stroke-width: 2;
      }
      .name {
        font-size: 15px;
        fill: var(--ink);
      }
      .span-even {
        fill: var(--steel-dark);
      }
      .span-odd {
        fill: var(--steel-light);
      }
      .span-dull {
        fill: url('#dull-hatch');
        stroke: var(--spark);
        stroke-width: 1;
      }
      .span-stopped {
        fill: var(--bad);
      }
      .axis text {
        font-family: inherit;
        font-size: 15px;
        fill: var(--steel);
      }
      .axis path,
      .axis line {
        stroke: var(--rule);
      }
      .key {
        display: flex;
        flex-wrap: wrap;
        align-items: center;
        gap: 4px 10px;
        margin: 4px 0 0;
        font-size: 15px;
      }
      .key span {
        width: 26px;
        height: 12px;
      }
      .key .even {
        background: var(--steel-dark);
      }
      .key .odd {
        background: var(--steel-light);
      }
      .key .dull {
        background: repeating-linear-gradient(135deg, var(--spark) 0 2px, transparent 2px 5px);
        border: 1px solid var(--spark);
      }
      .key .stopped {
        background: var(--bad);
      }
    }
  `,
})
export class SeasonLanes {
  readonly season = input.required<Season>();
  readonly seed = input.required<number>();
  private readonly svg = viewChild.required<ElementRef<SVGSVGElement>>('svg');
  protected readonly width = WIDTH;
  protected readonly height = computed(() => this.season().mowers.length * ROW + BELOW);
  /** Each with whether an even or an odd set is on, counted in the order they went on: neighbours are told apart. */
  private readonly spans = computed(() => {
    const on = new Map<string, { set: number; turn: number }>();
    return seasonLanes(this.season(), this.seed()).map((span) => {
      const before = on.get(span.mowerKey);
      const sameSpell = before?.set === span.set && span.state !== 'sharp';
      const turn = before ? before.turn + (sameSpell ? 0 : 1) : 0;
      on.set(span.mowerKey, { set: span.set, turn });
      return { ...span, odd: turn % 2 === 1 };
    });
  });

  /** The same in words: which mower mowed dull or stood for how many days. */
  protected readonly words = computed(() => {
    const dull = this.season().mowers.flatMap(({ key, name }) => {
      const days = this.spans()
        .filter(({ mowerKey, state }) => mowerKey === key && state !== 'sharp')
        .reduce((sum, { fromDay, toDay }) => sum + toDay - fromDay, 0);
      return days >= 1 ? [`${name} ${days.toFixed(0)} days`] : [];
    });
    return dull.length === 0
      ? 'One season by chance: no mower ever waits for a sharp set.'
      : `One season by chance. Waiting for a sharp set: ${dull.join(', ')}.`;
  });

  constructor() {
    afterRenderEffect(() => {
      this.draw();
    });
  }

  private draw(): void {
    const season = this.season();
    const start = Date.parse(`${season.firstDay}T00:00:00Z`);
    const x = scaleUtc()
      .domain([start, start + season.days * DAY_MS])
      .range([LEFT, WIDTH - 8]);
    const y = scaleBand<string>()
      .domain(season.mowers.map(({ key }) => key))
      .range([0, season.mowers.length * ROW])
      .padding(0.25);
    const at = (day: number): number => x(start + day * DAY_MS);
    const root = select(this.svg().nativeElement);
    root
      .select('.lanes')
      .selectAll<SVGTextElement, Season['mowers'][number]>('text')
      .data(season.mowers, ({ key }) => key)
      .join('text')
      .attr('class', 'name')
      .attr('x', LEFT - 10)
      .attr('text-anchor', 'end')
      .attr('dominant-baseline', 'central')
      .attr('y', ({ key }) => (y(key) ?? 0) + y.bandwidth() / 2)
      .text(({ name }) => name);
    root
      .select('.lanes')
      .selectAll<SVGRectElement, Drawn>('rect')
      .data(this.spans())
      .join('rect')
      .attr('class', ({ state, odd }) =>
        state === 'sharp' ? `span-${odd ? 'odd' : 'even'}` : `span-${state}`,
      )
      .attr('x', ({ fromDay }) => at(fromDay))
      .attr('y', ({ mowerKey }) => y(mowerKey) ?? 0)
      .attr('width', ({ fromDay, toDay }) => Math.max(0.5, at(toDay) - at(fromDay) - 0.5))
      .attr('height', y.bandwidth())
      .selectAll<SVGTitleElement, Drawn>('title')
      .data((span) => [span])
      .join('title')
      .text(
        ({ set, state, fromDay, toDay }) =>
          `Set ${set + 1}, ${STATE_WORDS[state]}, ${(toDay - fromDay).toFixed(1)} days`,
      );
    root
      .select<SVGGElement>('.axis')
      .attr('transform', `translate(0, ${season.mowers.length * ROW})`)
      .call(
        axisBottom<Date>(x as never)
          .ticks(8)
          .tickSizeOuter(0),
      )
      .attr('font-family', 'inherit');
  }
}
