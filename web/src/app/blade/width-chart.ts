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
  ViewEncapsulation,
} from '@angular/core';
import { MatButtonToggleModule } from '@angular/material/button-toggle';
import type { BladeView, CycleSummary, SpecFigures } from '@tally-stone/contract';
import { convert, ENDS, type End, named } from '@tally-stone/core';
import { extent } from 'd3-array';
import { axisBottom, axisLeft } from 'd3-axis';
import { scaleLinear } from 'd3-scale';
import { select } from 'd3-selection';
import { area, line } from 'd3-shape';
import { capital } from '../data/capital';
import { Region } from '../data/region';
import { Units } from '../data/units';
import { tickWords } from '../parts/tick-words';

const WIDTH = 560;
const HEIGHT = 270;
/** Two labels closer than this cover each other. */
const LABEL_PX = 17;
const MARGIN = { top: 14, right: 84, bottom: 36, left: 46 };

interface Point {
  readonly cycle: number;
  readonly value: number;
}
/** Cycles start with what a blade came in with: the first is 1. */
const numberOf = (index: number): number => index + 1;

/** What can be shown: the widths at the stations, and what else has a limit. */
interface Shown {
  readonly key: string;
  readonly words: string;
  readonly limitKind: 'width' | 'wing' | 'length' | 'mass-loss';
}
const NOTHING: Shown = { key: '', words: '', limitKind: 'width' };
const BESIDES: readonly Shown[] = [
  { key: 'wing', words: $localize`wing`, limitKind: 'wing' },
  { key: 'length', words: $localize`length`, limitKind: 'length' },
  { key: 'mass', words: $localize`mass`, limitKind: 'mass-loss' },
];

/** Width at a station, wing, length or mass against its limit, cycle by cycle, drawn with D3. */
@Component({
  selector: 'ts-width-chart',
  imports: [MatButtonToggleModule],
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    <mat-button-toggle-group
      [value]="shown().key"
      (change)="chosen.set($event.value)"
      aria-label="What is shown"
      i18n-aria-label
    >
      @for (each of choices(); track each.key) {
        <mat-button-toggle [value]="each.key">{{ each.words }}</mat-button-toggle>
      }
    </mat-button-toggle-group>
    <svg #drawing role="img" [attr.aria-label]="words()" viewBox="0 0 ${WIDTH} ${HEIGHT}"></svg>
  `,
  styleUrl: './width-chart.scss',
  // D3 draws what Angular does not know of: its styles are this component's by its name.
  encapsulation: ViewEncapsulation.None,
})
export class WidthChart {
  private readonly units = inject(Units);
  private readonly region = inject(Region);
  readonly spec = input.required<SpecFigures>();
  readonly cycles = input.required<readonly CycleSummary[]>();
  /** Where the width is likely to be after further grinds, by `end:station`. */
  readonly fan = input<BladeView['fan']>({});
  protected readonly chosen = signal<string | undefined>(undefined);
  private readonly drawing = viewChild.required<ElementRef<SVGSVGElement>>('drawing');

  /** The limit that comes first, as `width:B:root`: shown until another is picked. */
  readonly first = input('');
  /** Wing, length and mass after each cycle, by `wing:A`, `length`, `mass`. */
  readonly series = input<BladeView['series']>({});

  protected readonly choices = computed<readonly Shown[]>(() => [
    ...this.spec().stations.map(({ key, name }): Shown => ({
      key,
      words: named(name),
      limitKind: 'width',
    })),
    ...BESIDES.filter(({ key }) => Object.keys(this.series()).some((name) => name.startsWith(key))),
  ]);
  protected readonly shown = computed<Shown>(() => {
    const all = this.choices();
    const [quantity, , station] = this.first().split(':');
    const read = all.filter((each) => this.isRead(each));
    const soonest = read.find(({ key }) => key === (station ?? quantity));
    const first = soonest ?? read[0] ?? all[0] ?? NOTHING;
    return all.find(({ key }) => key === this.chosen()) ?? first;
  });
  /** The quick routine reads what could decide: a place with readings is shown, not an empty one. */
  private isRead({ key, limitKind }: Shown): boolean {
    return limitKind === 'width'
      ? this.cycles().some(({ widthsMm }) =>
          ENDS.some((end) => widthsMm[`${end}:${key}`] !== undefined),
        )
      : Object.keys(this.series()).some((name) => name.startsWith(key));
  }
  private readonly inGrams = computed(() => this.shown().key === 'mass');
  private readonly asNew = computed(() => {
    const { newWidthMm, wingMm, newLengthMm, newMassG } = this.spec();
    const sizes = { width: newWidthMm, wing: wingMm, length: newLengthMm, 'mass-loss': newMassG };
    return sizes[this.shown().limitKind];
  });
  /** The limit in the same unit as the values; a loss in per cent as the mass it leaves. */
  private readonly limit = computed(() => {
    const { key, limitKind } = this.shown();
    const found = this.spec().limits.find(
      ({ kind, stationKey }) => kind === limitKind && (kind !== 'width' || stationKey === key),
    )?.value;
    return found !== undefined && limitKind === 'mass-loss'
      ? this.spec().newMassG * (1 - found / 100)
      : found;
  });

  private readonly lines = computed<readonly { end: End | undefined; points: readonly Point[] }[]>(
    () => {
      const { key, limitKind } = this.shown();
      if (limitKind === 'length' || limitKind === 'mass-loss') {
        return [{ end: undefined, points: this.series()[key] ?? [] }];
      }
      return ENDS.map((end) => ({
        end,
        points:
          limitKind === 'wing'
            ? (this.series()[`wing:${end}`] ?? [])
            : this.cycles().flatMap((cycle, i): Point[] => {
                const value = cycle.widthsMm[`${end}:${key}`];
                return value === undefined ? [] : [{ cycle: numberOf(i), value }];
              }),
      }));
    },
  );

  private readonly fans = computed(() =>
    ENDS.flatMap((end) => {
      const { key, limitKind } = this.shown();
      const ahead = this.fan()[limitKind === 'wing' ? `wing:${end}` : `${end}:${key}`];
      return ahead ? [{ end, ahead }] : [];
    }),
  );
  /** The cycle at the bench now, if there is one: its readings may still change. */
  private readonly unsigned = computed(() => {
    const open = this.cycles().findIndex(({ signedAt }) => signedAt === undefined);
    return open < 0 ? undefined : numberOf(open);
  });
  private readonly lastCycle = computed(
    () => this.cycles().length + Math.max(0, ...this.fans().map(({ ahead }) => ahead.length - 1)),
  );

  private readonly said = (value: number): string =>
    this.inGrams() ? this.units.show(value, 'g', 0) : this.units.show(value, 'mm');

  protected readonly words = computed(() => {
    const last = this.lines().map(({ end, points }) => {
      const point = points.at(-1);
      const who = end ? $localize`end ${end} ` : '';
      return point ? `${who}${this.said(point.value)}` : $localize`${who}not read`;
    });
    const limit = this.limit();
    const cycles = this.cycles().length;
    const what = this.shown().limitKind === 'width' ? $localize`Width` : this.shown().words;
    return $localize`${capital(what)} over ${cycles} ${cycles === 1 ? $localize`cycle` : $localize`cycles`}:ph3:: ${last.join(', ')}${limit === undefined ? '' : $localize`, limit ${this.said(limit)}`}`;
  });

  constructor() {
    effect(() => {
      this.draw();
    });
  }

  private draw(): void {
    const svg = select(this.drawing().nativeElement);
    svg.selectAll('*').remove();
    const base = this.inGrams() ? 'g' : 'mm';
    const unit = this.units.unitFor(base);
    const shown = (value: number): number => convert(value, base, unit);
    const limit = this.limit();
    const all = this.lines().flatMap(({ points }) => points.map(({ value }) => shown(value)));
    const [low = 0, high = 1] = extent([
      ...all,
      shown(this.asNew()),
      ...(limit === undefined ? [] : [shown(limit)]),
      ...(limit === undefined ? [] : [shown(limit) - 0.08 * (shown(this.asNew()) - shown(limit))]),
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
      .call(
        axisLeft(y)
          .ticks(5)
          .tickFormat(tickWords(y, 5, this.region)),
      );
    svg
      .append('text')
      .attr('class', 'caption')
      .attr('x', WIDTH - MARGIN.right)
      .attr('y', HEIGHT - 2)
      .attr('text-anchor', 'end')
      .text(
        $localize`cycle; ${this.shown().limitKind === 'width' ? $localize`width` : this.shown().words} in ${unit}${this.fans().length > 0 ? $localize`; the fan holds 80 %` : ''}`,
      );

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
        .text($localize`limit ${this.units.figure(limit, base, base === unit ? 0 : 1)}`);
    }
    const clip = (value: number): number => Math.min(HEIGHT - MARGIN.bottom, y(shown(value)));
    // From what is left after its last cycle, whenever it was read last.
    const now = Math.max(1, this.cycles().filter(({ signedAt }) => signedAt !== undefined).length);
    for (const { end, ahead } of this.fans()) {
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
      ({ value }) => y(shown(value)),
    );
    const lastYs: number[] = [];
    for (const { end, points } of this.lines()) {
      const last = points.at(-1);
      if (!last) continue;
      const group = svg.append('g').attr('class', `end end-${end ?? 'A'}`);
      const signed = points.filter(({ cycle }) => cycle !== this.unsigned());
      group.append('path').attr('d', path(signed));
      if (signed.length < points.length) {
        group
          .append('path')
          .attr('class', 'unsigned')
          .attr('d', path(points.slice(-2)));
      }
      group
        .selectAll('.dot')
        .data([...points])
        .join('path')
        .attr('class', ({ cycle }) => (cycle === this.unsigned() ? 'dot unsigned' : 'dot'))
        .attr('d', end === 'B' ? 'M-4 -4 H4 V4 H-4 Z' : 'M-4 4 L0 -5 L4 4 Z')
        .attr('transform', ({ cycle, value }) => `translate(${x(cycle)} ${y(shown(value))})`);
      const at = y(shown(last.value)) + 6;
      const near = lastYs.find((other) => Math.abs(other - at) < LABEL_PX);
      const clear = near === undefined ? at : near + (at < near ? -LABEL_PX : LABEL_PX);
      group
        .append('text')
        .attr('x', x(last.cycle) + 10)
        .attr('y', clear)
        .text(
          [end ? $localize`end ${end}` : this.shown().words]
            .concat(last.cycle === this.unsigned() ? [$localize`not signed`] : [])
            .join(', '),
        );
      lastYs.push(clear);
    }
  }
}
