import { NEXT_TO_GO_MONTHS, type AheadOutlook } from '@tally-stone/contract';
import { scaleLinear } from 'd3-scale';

type Spec = AheadOutlook['specs'][number];
type Next = Spec['next'][number];

/** A blade on the rail: where it hangs, in months, and how sure it is gone within the year. */
export interface Hung extends Next {
  readonly nth: number;
  readonly at: number;
  /** Gone as likely as not by then; else it hangs at the end of the year. */
  readonly even: boolean;
}

/** Blades to have by the start of a month; 0 is now, for what goes this month. */
export interface Order {
  readonly month: number;
  readonly count: number;
  readonly money: number;
  /** Where its tag hangs, in months: beside the one before it, not over it. */
  readonly tagAt: number;
}

/** One spec's rail through the year. */
export interface Rail {
  readonly spec: Spec;
  /** Used up already; drawn together where today is. */
  readonly now: readonly Hung[];
  readonly later: readonly Hung[];
  readonly orders: readonly Order[];
  /** So many are likely used up within the year, and not more than so many four times out of five. */
  readonly likely: number;
  readonly enough: number;
}

/** Blades that are less likely gone within the year are told in a line, not drawn. */
const DRAWN_FROM = 0.2;
/** An order covers what goes within so many months of its first blade. */
const ORDER_MONTHS = 2;
/** Two blades hang at least so far apart, in months; two that both have a figure above them further. */
const APART = 0.25;
const FIGURES_APART = 0.5;
/** A tag is so wide, in months, and begins a little before the month it is for. */
const TAG_WIDE = 1.6;
const TAG_BEFORE = 0.25;
/** Less sure than this, the figure stands above the blade. */
export const FIGURE_BELOW = 0.95;

/**
 * Places in months, in their order, moved no further than keeps each as far from the one before it as `gaps` says and all
 * within `end`; where they are too many for that, they stand closer.
 */
function spread(places: readonly number[], gaps: readonly number[], end: number): number[] {
  const room =
    end /
    Math.max(
      end,
      gaps.slice(1).reduce((sum, gap) => sum + gap, 0),
    );
  const out = [...places];
  for (let i = 1; i < out.length; i++)
    out[i] = Math.max(out[i] ?? 0, (out[i - 1] ?? 0) + room * (gaps[i] ?? 0));
  let most = end;
  for (let i = out.length - 1; i >= 0; i--) {
    out[i] = Math.min(out[i] ?? 0, most);
    most = (out[i] ?? 0) - room * (gaps[i] ?? 0);
  }
  return out;
}

function ordersOf(hung: readonly Hung[], price: number): Order[] {
  const orders: Omit<Order, 'tagAt'>[] = [];
  for (const { at } of hung) {
    const month = Math.floor(at);
    const last = orders.at(-1);
    // What goes this month is bought now, and by itself.
    const joins =
      last && (month === last.month || (last.month > 0 && at < last.month + ORDER_MONTHS));
    if (joins) orders.pop();
    const before = joins ? last : { month, count: 0, money: 0 };
    orders.push({ ...before, count: before.count + 1, money: before.money + price });
  }
  const tags = spread(
    orders.map(({ month }) => month),
    orders.map(() => TAG_WIDE),
    NEXT_TO_GO_MONTHS - TAG_WIDE + TAG_BEFORE,
  );
  return orders.map((order, i) => ({ ...order, tagAt: tags[i] ?? order.month }));
}

/** The rails of an outlook, those that cost most first. Specs of which no blade is likely to go have none. */
export function railsOf({ specs }: Pick<AheadOutlook, 'specs'>): Rail[] {
  return specs
    .map((spec): Rail => {
      const all = spec.next.map((each, i): Hung => {
        const { evenAt } = each;
        return {
          ...each,
          nth: i + 1,
          at: evenAt ?? NEXT_TO_GO_MONTHS,
          even: evenAt !== undefined,
        };
      });
      const now = all.filter(({ at }) => at === 0);
      const drawn = all.filter(({ at, chance }) => at > 0 && chance >= DRAWN_FROM);
      const figures = drawn.map(({ chance }) => chance < FIGURE_BELOW);
      const places = spread(
        drawn.map(({ at }) => at),
        figures.map((figure, i) => (figure && figures[i - 1] ? FIGURES_APART : APART)),
        NEXT_TO_GO_MONTHS,
      );
      const later = drawn.map((each, i) => ({ ...each, at: places[i] ?? each.at }));
      return {
        spec,
        now,
        later,
        orders: ordersOf(
          all.filter(({ even }) => even),
          spec.price,
        ),
        likely: all.filter(({ even }) => even).length,
        enough: all.filter(({ chance }) => chance > DRAWN_FROM).length,
      };
    })
    .filter(({ likely }) => likely > 0)
    .sort((a, b) => b.likely * b.spec.price - a.likely * a.spec.price || b.enough - a.enough);
}

/** What to order first, of every spec that is due at the same time; nothing where nothing is likely to go. */
export function firstOrder(
  rails: readonly Rail[],
): { readonly month: number; readonly orders: readonly (Order & { name: string })[] } | undefined {
  const firsts = rails.flatMap(({ spec, orders }) =>
    orders.slice(0, 1).map((order) => ({ ...order, name: spec.name })),
  );
  if (firsts.length === 0) return undefined;
  const month = Math.min(...firsts.map((order) => order.month));
  return { month, orders: firsts.filter((order) => order.month === month) };
}

/** Where a moment of the year lies on the rail, in per cent: the first month has only begun to be over today. */
export function placeOf(todayShare: number): (months: number) => number {
  const scale = scaleLinear().domain([0, 1, NEXT_TO_GO_MONTHS]);
  return scale.range([(100 * todayShare) / NEXT_TO_GO_MONTHS, 100 / NEXT_TO_GO_MONTHS, 100]);
}

/** Hours the mowing grows through, month by month, in strokes of so many hours a blade. */
export function grassOf({ specs }: Pick<AheadOutlook, 'specs'>): {
  readonly strokeH: number;
  readonly strokes: readonly number[];
} {
  const hours = Array.from({ length: NEXT_TO_GO_MONTHS }, (_, month) =>
    specs.reduce((sum, { blades, hoursPerBlade }) => sum + blades * (hoursPerBlade[month] ?? 0), 0),
  );
  const most = Math.max(...hours, 1);
  const strokeH =
    [10, 20, 50, 100, 200, 500, 1000, 2000, 5000].find((each) => most / each <= 14) ?? 10_000;
  return { strokeH, strokes: hours.map((each) => Math.round(each / strokeH)) };
}

/** A set as a rope: how far it is likely to hold, in months; nothing beyond the year. */
export function ropeEnd({ whole, breaksIn }: AheadOutlook['sets'][number]): number | undefined {
  if (breaksIn === undefined || breaksIn >= NEXT_TO_GO_MONTHS) return undefined;
  const [before, after] = [breaksIn === 0 ? 1 : (whole[breaksIn - 1] ?? 1), whole[breaksIn] ?? 0];
  return breaksIn + Math.min(1, Math.max(0, (before - 0.5) / Math.max(1e-9, before - after)));
}
