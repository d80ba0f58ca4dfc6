import {
  afterRenderEffect,
  ChangeDetectionStrategy,
  Component,
  computed,
  type ElementRef,
  inject,
  input,
  viewChild,
  ViewEncapsulation,
} from '@angular/core';
import { dateLocale, seasonLanes, type Season, type SeasonSpan, DAY_MS } from '@tally-stone/core';
import { axisBottom } from 'd3-axis';
import { scaleBand, scaleUtc } from 'd3-scale';
import { select } from 'd3-selection';
import { Region } from '../data/region';
import { edgeOf, nickOf, steelOf, type LanePlace } from './lane-shapes';

const WIDTH = 1180;
const ROW = 32;
const STEEL = 18;
const LEFT = 96;
const BELOW = 28;
const MONTH = new Intl.DateTimeFormat(dateLocale({ dates: 'day-first', decimal: 'point' }), {
  month: 'long',
  timeZone: 'UTC',
});

interface Drawn extends SeasonSpan {
  readonly usedAtStart: number;
  readonly usedAtEnd: number;
}

const STATE_WORDS: Readonly<Record<SeasonSpan['state'], string>> = {
  sharp: $localize`sharp`,
  dull: $localize`mows dull`,
  stopped: $localize`stands after a strike`,
};

/** Where the marks of the key lie. */
const KEY = { leftPx: 1, rightPx: 43, topPx: 2, tallPx: STEEL, usedAtStart: 0, usedAtEnd: 1 };

/**
 * One season drawn out: a lane a mower, each set on it a strip of steel whose edge goes back while it mows, has teeth
 * while it is dull, and a nick where it struck something; no steel where the mower stands.
 */
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
      <g class="lanes"></g>
      <g class="axis"></g>
    </svg>
    <ul class="key quiet" aria-hidden="true">
      <li>
        <svg viewBox="0 0 44 24">
          <path class="steel" [attr.d]="key.steel" />
          <path class="edge-sharp" [attr.d]="key.sharp" />
        </svg>
        &ngsp;<ng-container i18n>a set goes on sharp and wears</ng-container>
      </li>
      <li>
        <svg viewBox="0 0 44 24">
          <path class="steel" [attr.d]="key.worn" />
          <path class="edge-dull" [attr.d]="key.dull" />
        </svg>
        &ngsp;<ng-container i18n>mows dull</ng-container>
      </li>
      <li>
        <svg viewBox="0 0 44 24">
          <path class="steel" [attr.d]="key.steel" />
          <path class="nick" [attr.d]="key.nick" />
        </svg>
        &ngsp;<ng-container i18n>strikes something</ng-container>
      </li>
      <li>
        <svg viewBox="0 0 44 24"><path class="empty" d="M1 4H43" /></svg>
        &ngsp;<ng-container i18n>no set on: the mower stands</ng-container>
      </li>
    </ul>
  `,
  // D3 draws what Angular does not know of: its styles are this component's by its name.
  encapsulation: ViewEncapsulation.None,
  styles: `
    ts-season-lanes {
      > svg {
        display: block;
        width: 100%;
        height: auto;
      }
      .name {
        font-size: 15px;
        fill: var(--ink);
      }
      .steel {
        fill: var(--steel-face);
      }
      .edge-sharp,
      .edge-dull {
        fill: none;
        stroke: var(--ink);
        stroke-width: 1.6;
      }
      .edge-dull {
        stroke: var(--spark);
      }
      .nick {
        fill: var(--bad);
      }
      .empty {
        stroke: var(--bad);
        stroke-width: 2;
        stroke-dasharray: 3 4;
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
        gap: 4px 24px;
        margin: 4px 0 0;
        padding: 0;
        list-style: none;
        font-size: 15px;
      }
      .key li {
        display: flex;
        align-items: center;
        gap: 8px;
      }
      .key svg {
        width: 44px;
        height: 24px;
      }
    }
  `,
})
export class SeasonLanes {
  readonly season = input.required<Season>();
  readonly seed = input.required<number>();
  private readonly region = inject(Region);
  private readonly svg = viewChild.required<ElementRef<SVGSVGElement>>('svg');
  protected readonly width = WIDTH;
  protected readonly height = computed(() => this.season().mowers.length * ROW + BELOW);
  protected readonly key = {
    steel: steelOf(KEY, true),
    sharp: edgeOf(KEY, 'sharp'),
    worn: steelOf({ ...KEY, usedAtStart: 1 }, false),
    dull: edgeOf({ ...KEY, usedAtStart: 1 }, 'dull'),
    nick: nickOf(KEY),
  };
  /** Each with how far its edge has gone: a mower's longest sharp spell is a whole edge. */
  private readonly spans = computed(() => {
    const all = seasonLanes(this.season(), this.seed());
    const wholeDays = new Map<string, number>();
    for (const { mowerKey, state, fromDay, toDay } of all) {
      if (state !== 'sharp') continue;
      wholeDays.set(mowerKey, Math.max(wholeDays.get(mowerKey) ?? 0, toDay - fromDay));
    }
    return all.map((span): Drawn => {
      const days = span.toDay - span.fromDay;
      return span.state === 'sharp'
        ? { ...span, usedAtStart: 0, usedAtEnd: days / (wholeDays.get(span.mowerKey) ?? days) }
        : { ...span, usedAtStart: 1, usedAtEnd: 1 };
    });
  });

  /** The same in words: which mower mowed dull or stood for how many days. */
  protected readonly words = computed(() => {
    const dull = this.season().mowers.flatMap(({ key, name }) => {
      const days = this.spans()
        .filter(({ mowerKey, state }) => mowerKey === key && state !== 'sharp')
        .reduce((sum, { fromDay, toDay }) => sum + toDay - fromDay, 0);
      return days >= 1 ? [$localize`${name} ${days.toFixed(0)} days`] : [];
    });
    return dull.length === 0
      ? $localize`One season by chance: no mower ever mows dull or stands.`
      : $localize`One season by chance. Mown dull or stood: ${dull.join(', ')}.`;
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
      .range([0, season.mowers.length * ROW]);
    const at = (day: number): number => x(start + day * DAY_MS);
    const place = ({ mowerKey, fromDay, toDay, usedAtStart, usedAtEnd }: Drawn): LanePlace => ({
      leftPx: at(fromDay),
      rightPx: Math.max(at(fromDay) + 0.5, at(toDay) - 0.5),
      topPx: (y(mowerKey) ?? 0) + (y.bandwidth() - STEEL) / 2,
      tallPx: STEEL,
      usedAtStart,
      usedAtEnd,
    });
    const root = select(this.svg().nativeElement);
    const lanes = root.select('.lanes');
    lanes
      .selectAll<SVGTextElement, Season['mowers'][number]>('text')
      .data(season.mowers, ({ key }) => key)
      .join('text')
      .attr('class', 'name')
      .attr('x', LEFT - 10)
      .attr('text-anchor', 'end')
      .attr('dominant-baseline', 'central')
      .attr('y', ({ key }) => (y(key) ?? 0) + y.bandwidth() / 2)
      .text(({ name }) => name);
    const spells = lanes
      .selectAll<SVGGElement, Drawn>('g')
      .data(this.spans())
      .join((enter) => {
        const spell = enter.append('g');
        spell.append('title');
        for (const part of ['body', 'edge', 'strike']) spell.append('path').attr('data-part', part);
        return spell;
      });
    spells
      .select('title')
      .text(({ set, state, struck, fromDay, toDay }) =>
        [
          $localize`Set ${set + 1}`,
          STATE_WORDS[state],
          $localize`${this.region.number(toDay - fromDay, 1)} days`,
          ...(struck ? [$localize`then struck something`] : []),
        ].join(', '),
      );
    spells
      .select('[data-part=body]')
      .attr('class', ({ state }) => (state === 'stopped' ? 'empty' : 'steel'))
      .attr('d', (span) => {
        const where = place(span);
        return span.state === 'stopped'
          ? `M${where.leftPx} ${where.topPx + 2}H${where.rightPx}`
          : steelOf(where, span.state === 'sharp');
      });
    spells
      .select('[data-part=edge]')
      .attr('class', ({ state }) => `edge-${state}`)
      .attr('d', (span) => edgeOf(place(span), span.state));
    spells
      .select('[data-part=strike]')
      .attr('class', 'nick')
      .attr('d', (span) => (span.struck && span.state !== 'stopped' ? nickOf(place(span)) : null));
    root
      .select<SVGGElement>('.axis')
      .attr('transform', `translate(0, ${season.mowers.length * ROW})`)
      .call(
        axisBottom<Date>(x as never)
          .ticks(8)
          .tickFormat((day) => MONTH.format(day))
          .tickSizeOuter(0),
      )
      .attr('font-family', 'inherit');
  }
}
