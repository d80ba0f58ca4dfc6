import type { Region } from '../data/region';
import type { Compared } from './choice';

type Spread = Compared['summary']['waits'];

/** One line of the comparison: what it is, and what it is under each choice. */
export interface Row {
  readonly name: string;
  readonly value: (compared: Compared) => string;
  readonly range?: (compared: Compared) => string;
  readonly bar?: (compared: Compared) => number;
}

/** Figures of a season as the shop writes them. */
export class SeasonFigures {
  constructor(
    private readonly region: Pick<Region, 'number'>,
    readonly money: (amount: number) => string,
  ) {}

  /** Small figures with a decimal, large ones without. */
  one(value: number): string {
    return this.region.number(value, value < 10 ? 1 : 0);
  }
  whole(value: number): string {
    return this.region.number(value);
  }
  between({ low, high }: Spread): string {
    return $localize`${this.whole(low)} to ${this.whole(high)}`;
  }
  /** Percentage points, signed; what rounds to nothing has no sign. */
  points(share: number): string {
    const figure = this.one(Math.abs(100 * share));
    return $localize`${this.sign(figure, share)}${figure} points`;
  }
  percent(share: number): string {
    return `${this.one(100 * share)} %`;
  }
  more(money: number): string {
    const figure = this.money(Math.abs(money));
    return `${this.sign(figure, money)}${figure}`;
  }
  private sign(figure: string, value: number): string {
    return /[1-9]/.test(figure) ? (value < 0 ? '−' : '+') : '';
  }
}

/** What choices are compared by. */
export const seasonRows = (figures: SeasonFigures): readonly Row[] => [
  {
    name: $localize`Hours mown dull`,
    value: ({ summary }) => figures.percent(summary.dullShare.mean),
    range: ({ summary: { dullShare } }) =>
      $localize`${figures.percent(dullShare.low)} to ${figures.percent(dullShare.high)}`,
    bar: ({ summary }) => summary.dullShare.mean,
  },
  {
    name: $localize`Waits for a ready set`,
    value: ({ summary }) => figures.one(summary.waits.mean),
    range: ({ summary }) => figures.between(summary.waits),
  },
  {
    name: $localize`Days waited, all mowers`,
    value: ({ summary }) => figures.one(summary.waitDays.mean),
    range: ({ summary }) => figures.between(summary.waitDays),
  },
  {
    name: $localize`Hours stood after a strike`,
    value: ({ summary }) => figures.one(summary.stoppedH.mean),
    range: ({ summary }) => figures.between(summary.stoppedH),
  },
  {
    name: $localize`Grinds`,
    value: ({ summary }) => figures.whole(summary.grinds.mean),
    range: ({ summary }) => figures.between(summary.grinds),
  },
  {
    name: $localize`Bench room used`,
    value: ({ summary }) => figures.percent(summary.benchShare.mean),
    range: ({ summary: { benchShare } }) =>
      $localize`${figures.percent(benchShare.low)} to ${figures.percent(benchShare.high)}`,
  },
  {
    name: $localize`Blades retired and bought`,
    value: ({ summary }) => figures.one(summary.bought.mean),
    range: ({ summary }) => figures.between(summary.bought),
  },
  { name: $localize`A season costs`, value: ({ cost }) => figures.money(cost.total) },
  {
    name: $localize`Against as it stands: dull hours`,
    value: ({ apart }) => figures.points(apart.dullShare.mean),
    range: ({ apart: { dullShare } }) =>
      $localize`${figures.points(dullShare.low)} to ${figures.points(dullShare.high)}`,
  },
  {
    name: $localize`Against as it stands: money`,
    value: ({ apart }) => figures.more(apart.cost.mean),
    range: ({ apart: { cost } }) =>
      $localize`${figures.more(cost.low)} to ${figures.more(cost.high)}`,
  },
];
