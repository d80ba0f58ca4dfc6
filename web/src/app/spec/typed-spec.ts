import { SpecFigures } from '@tally-stone/contract';
import { BenchError, parseQuantity, type Base, type Unit } from '@tally-stone/core';
import type { Units } from '../data/units';
import { SIZES, type Draft, type Limit, type Size } from './spec-fields';

/** A spec's figures as they stand in their fields. */
export interface TypedSpec {
  readonly drafts: readonly Draft[];
  readonly sizes: Readonly<Record<Size, string>>;
  /** The length the maker lets its blades be trimmed to; empty where nobody trims them. */
  readonly trimTo: string;
}

/** What was read of the fields, and where something is wrong with it. */
export interface ReadSpec {
  readonly figures: SpecFigures | undefined;
  /** Sizes that were typed anew. */
  readonly sizes: Readonly<Partial<Record<Size, number>>>;
  readonly wrong: Readonly<Record<number, string>>;
  readonly wrongSizes: Readonly<Partial<Record<Size, string>>>;
  readonly wrongTrimming: string;
  readonly trimmingMoved: boolean;
}

export const limitShown = ({ value, unit }: Limit, units: Units): string =>
  unit === 'mm' ? units.typed(value, 'mm') : units.typedNumber(value);

/** What can be read in other units, and is typed in any of them; the rest is a plain number. */
export const readAs = (base: (typeof SIZES)[number]['base']): Base | undefined =>
  base === 'mm' || base === 'g' ? base : undefined;

const sizeShown = (figures: SpecFigures, { key, base }: (typeof SIZES)[number], units: Units) => {
  const as = readAs(base);
  return as ? units.typed(figures[key], as) : units.typedNumber(figures[key]);
};

const bySize = (text: (size: (typeof SIZES)[number]) => string) =>
  Object.fromEntries(SIZES.map((size) => [size.key, text(size)])) as Record<Size, string>;

/** A spec as its fields show it before anybody typed. */
export const shownSpec = (figures: SpecFigures, units: Units): TypedSpec => ({
  drafts: figures.limits.map((limit) => ({ limit, text: limitShown(limit, units) })),
  sizes: bySize((size) => sizeShown(figures, size, units)),
  trimTo: figures.trimming ? units.typed(figures.trimming.leastLengthMm, 'mm') : '',
});

/** Nearer than a field tells apart: four decimals of an inch, in mm, and of an ounce, in g. */
const SAME = 0.003;

/** The unit each quantity was shown in. */
export type ShownIn = (base: Base) => Unit;

/** The same, typed in another unit, as the fields show it now; what is no figure stays as it was typed. */
export function turnedSpec(
  typed: TypedSpec,
  figures: SpecFigures,
  from: ShownIn,
  units: Units,
): TypedSpec {
  const turned = (text: string, was: number | undefined, as: Base): string => {
    try {
      const { value } = parseQuantity(text, from(as));
      const same = was !== undefined && Math.abs(value - was) < SAME;
      return units.typed(same ? was : value, as);
    } catch {
      return text;
    }
  };
  return {
    drafts: typed.drafts.map(({ limit, text }) => ({
      limit,
      text: limit.unit === 'mm' ? turned(text, limit.value, 'mm') : text,
    })),
    sizes: bySize(({ key, base }) => {
      const as = readAs(base);
      return as ? turned(typed.sizes[key], figures[key], as) : typed.sizes[key];
    }),
    trimTo: turned(typed.trimTo, figures.trimming?.leastLengthMm, 'mm'),
  };
}

/** A figure as it was typed, a quantity in its base unit; or nothing, and why. */
function figureOf(
  text: string,
  as: Base | undefined,
  units: Units,
  wrong: (words: string) => void,
): number | undefined {
  if (text.trim() === '') {
    wrong($localize`is empty: type the figure`);
    return undefined;
  }
  try {
    const value = as
      ? parseQuantity(text, units.unitFor(as), 'limit').value
      : Number(text.replace(',', '.'));
    if (Number.isFinite(value)) return value;
    wrong($localize`is not a number: type the figure`);
  } catch (error) {
    if (!(error instanceof BenchError)) throw error;
    wrong(error.rule);
  }
  return undefined;
}

/** How short the maker allows; nothing where nobody trims, and as it was where that is no figure. */
function readTrimming(
  was: SpecFigures['trimming'],
  { trimTo, trimSource }: { readonly trimTo: string; readonly trimSource: string },
  units: Units,
  wrong: (words: string) => void,
): SpecFigures['trimming'] {
  const text = trimTo.trim();
  if (text === '') return undefined;
  const untouched = was && text === units.typed(was.leastLengthMm, 'mm');
  const leastLengthMm = untouched ? was.leastLengthMm : figureOf(text, 'mm', units, wrong);
  return leastLengthMm === undefined ? was : { leastLengthMm, sourceText: trimSource.trim() };
}

/** Reads the fields into figures. What nobody touched keeps every digit it had. */
export function readSpec(
  was: SpecFigures,
  typed: TypedSpec & { readonly trimSource: string },
  units: Units,
): ReadSpec {
  const wrong: Record<number, string> = {};
  const wrongSizes: Partial<Record<Size, string>> = {};
  let wrongTrimming = '';
  const limits = typed.drafts.map(({ limit, text }, i): Limit => {
    if (text === limitShown(limit, units)) return limit;
    const value = figureOf(
      text,
      limit.unit === 'mm' ? 'mm' : undefined,
      units,
      (words) => (wrong[i] = words),
    );
    return value === undefined ? limit : { ...limit, value };
  });
  const sizes: Partial<Record<Size, number>> = {};
  for (const size of SIZES) {
    const { key, base } = size;
    if (typed.sizes[key] === sizeShown(was, size, units)) continue;
    const value = figureOf(
      typed.sizes[key],
      readAs(base),
      units,
      (words) => (wrongSizes[key] = words),
    );
    if (value !== undefined) sizes[key] = value;
  }
  const { trimming: trimmingWas, ...rest } = was;
  const trimming = readTrimming(trimmingWas, typed, units, (words) => (wrongTrimming = words));
  const figures: SpecFigures = { ...rest, ...sizes, limits, ...(trimming ? { trimming } : {}) };
  // What is no figure stands as it was before; the rest is judged with it.
  for (const { path, message } of SpecFigures.safeParse(figures).error?.issues ?? []) {
    if (path[0] === 'limits') wrong[Number(path[1])] ??= message;
    else if (path[0] === 'trimming') wrongTrimming ||= message;
    else wrongSizes[path[0] as Size] ??= message;
  }
  const trimmingMoved = JSON.stringify(trimming) !== JSON.stringify(trimmingWas);
  return { figures, sizes, wrong, wrongSizes, wrongTrimming, trimmingMoved };
}
