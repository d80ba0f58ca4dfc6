import type { ElementRef } from '@angular/core';
import {
  ChangeDetectionStrategy,
  Component,
  computed,
  effect,
  inject,
  input,
  signal,
  viewChild,
} from '@angular/core';
import { MatButtonToggleModule } from '@angular/material/button-toggle';
import type { BladeView, CycleSummary, SpecFigures } from '@tally-stone/contract';
import { convert, ENDS, type End } from '@tally-stone/core';
import { extent } from 'd3-array';
import { axisBottom, axisLeft } from 'd3-axis';
import { scaleLinear } from 'd3-scale';
import { select } from 'd3-selection';
import { area, line } from 'd3-shape';
import { Units } from '../data/units';

const WIDTH = 560;
const HEIGHT = 270;
const MARGIN = { top: 14, right: 84, bottom: 36, left: 46 };

interface Point {
  readonly cycle: number;
  readonly widthMm: number;
}

/** Width at one station against its limit, cycle by cycle, one line an end, drawn with D3. */
@Component({
  selector: 'ts-width-chart',
  imports: [MatButtonToggleModule],
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    <mat-button-toggle-group
      [value]="station()"
      (change)="chosen.set($event.value)"
      aria-label="Station"
    >
      @for (each of spec().stations; track each.key) {
        <mat-button-toggle [value]="each.key">{{ each.name }}</mat-button-toggle>
      }
    </mat-button-toggle-group>
    <svg #drawing role="img" [attr.aria-label]="words()" viewBox="0 0 ${WIDTH} ${HEIGHT}"></svg>
  `,
  styleUrl: './width-chart.scss',
})
export class WidthChart {
  private readonly units = inject(Units);
  readonly spec = input.required<SpecFigures>();
  readonly cycles = input.required<readonly CycleSummary[]>();
  /** Where the width is likely to be after further grinds, by `end:station`. */
  readonly fan = input<BladeView['fan']>({});
  protected readonly chosen = signal<string | undefined>(undefined);
  private readonly drawing = viewChild.required<ElementRef<SVGSVGElement>>('drawing');

  protected readonly station = computed(() => this.chosen() ?? this.spec().stations[0]?.key ?? '');
  private readonly limit = computed(
    () =>
      this.spec().limits.find(
        ({ kind, stationKey }) => kind === 'width' && stationKey === this.station(),
      )?.value,
  );

  private readonly lines = computed(() =>
    ENDS.map((end) => ({
      end,
      points: this.cycles().flatMap((cycle, i): Point[] => {
        const widthMm = cycle.widthsMm[`${end}:${this.station()}`];
        return widthMm === undefined ? [] : [{ cycle: i + 1, widthMm }];
      }),
    })),
  );

  private readonly fans = computed(() =>
    ENDS.flatMap((end) => {
      const ahead = this.fan()[`${end}:${this.station()}`];
      return ahead ? [{ end, ahead }] : [];
    }),
  );
  private readonly lastCycle = computed(
    () => this.cycles().length + Math.max(0, ...this.fans().map(({ ahead }) => ahead.length - 1)),
  );

  protected readonly words = computed(() => {
    const last = (end: End): string => {
      const point = this.lines()
        .find((each) => each.end === end)
        ?.points.at(-1);
      return point ? `end ${end} ${this.units.show(point.widthMm, 'mm')}` : `end ${end} not read`;
    };
    const limit = this.limit();
    return `Width over ${this.cycles().length} cycles: ${last('A')}, ${last('B')}${limit === undefined ? '' : `, limit ${this.units.show(limit, 'mm')}`}`;
  });

  constructor() {
    effect(() => {
      this.draw();
    });
  }

  private draw(): void {
    const svg = select(this.drawing().nativeElement);
    svg.selectAll('*').remove();
    const unit = this.units.length();
    const shown = (widthMm: number): number => convert(widthMm, 'mm', unit);
    const limit = this.limit();
    const all = this.lines().flatMap(({ points }) => points.map(({ widthMm }) => shown(widthMm)));
    const [low = 0, high = 1] = extent([
      ...all,
      shown(this.spec().newWidthMm),
      ...(limit === undefined ? [] : [shown(limit)]),
      ...(limit === undefined ? [] : [shown(limit - 1)]),
    ]);
    const room = (high - low) * 0.08;
    const x = scaleLinear([1, Math.max(2, this.lastCycle())], [MARGIN.left, WIDTH - MARGIN.right]);
    const y = scaleLinear([low - room, high + room], [HEIGHT - MARGIN.bottom, MARGIN.top]);

    svg
      .append('g')
      .attr('class', 'axis')
      .attr('transform', `translate(0 ${HEIGHT - MARGIN.bottom})`)
      .call(
        axisBottom(x)
          .ticks(Math.min(10, this.lastCycle()))
          .tickFormat((tick) => String(tick)),
      );
    svg
      .append('g')
      .attr('class', 'axis')
      .attr('transform', `translate(${MARGIN.left} 0)`)
      .call(axisLeft(y).ticks(5));
    svg
      .append('text')
      .attr('class', 'caption')
      .attr('x', WIDTH - MARGIN.right)
      .attr('y', HEIGHT - 2)
      .attr('text-anchor', 'end')
      .text(`cycle; width in ${unit}; the fan holds 80 %`);

    if (limit !== undefined) {
      svg
        .append('rect')
        .attr('class', 'under')
        .attr('x', MARGIN.left)
        .attr('width', WIDTH - MARGIN.left - MARGIN.right)
        .attr('y', y(shown(limit)))
        .attr('height', Math.max(0, HEIGHT - MARGIN.bottom - y(shown(limit))));
      svg
        .append('line')
        .attr('class', 'limit')
        .attr('x1', MARGIN.left)
        .attr('x2', WIDTH - MARGIN.right)
        .attr('y1', y(shown(limit)))
        .attr('y2', y(shown(limit)));
      svg
        .append('text')
        .attr('class', 'limit-name')
        .attr('x', WIDTH - MARGIN.right + 6)
        .attr('y', y(shown(limit)) - 6)
        .text(`limit ${shown(limit).toFixed(unit === 'in' ? 2 : 0)}`);
    }
    const clip = (widthMm: number): number => Math.min(HEIGHT - MARGIN.bottom, y(shown(widthMm)));
    for (const { end, ahead } of this.fans()) {
      const now =
        this.lines()
          .find((each) => each.end === end)
          ?.points.at(-1)?.cycle ?? 1;
      const at = ({ grinds }: (typeof ahead)[number]): number => x(now + grinds);
      const group = svg.append('g').attr('class', `fan fan-${end}`);
      group.append('path').attr(
        'd',
        area<(typeof ahead)[number]>(
          at,
          ({ low }) => clip(low),
          ({ high }) => clip(high),
        )(ahead),
      );
      group
        .append('path')
        .attr('class', 'likely')
        .attr('d', line<(typeof ahead)[number]>(at, ({ median }) => clip(median))(ahead));
    }
    const path = line<Point>(
      ({ cycle }) => x(cycle),
      ({ widthMm }) => y(shown(widthMm)),
    );
    const lastYs: number[] = [];
    for (const { end, points } of this.lines()) {
      const last = points.at(-1);
      if (!last) continue;
      const group = svg.append('g').attr('class', `end end-${end}`);
      group.append('path').attr('d', path(points));
      group
        .selectAll('.dot')
        .data(points)
        .join('path')
        .attr('class', 'dot')
        .attr('d', end === 'A' ? 'M-4 4 L0 -5 L4 4 Z' : 'M-4 -4 H4 V4 H-4 Z')
        .attr('transform', ({ cycle, widthMm }) => `translate(${x(cycle)} ${y(shown(widthMm))})`);
      const clash = lastYs.some((other) => Math.abs(other - y(shown(last.widthMm))) < 16);
      group
        .append('text')
        .attr('x', x(last.cycle) + 10)
        .attr('y', y(shown(last.widthMm)) + (clash ? -10 : 6))
        .text(`end ${end}`);
      lastYs.push(y(shown(last.widthMm)));
    }
  }
}
