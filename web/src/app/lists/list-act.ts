import { SpecFigures, type ShopAct } from '@tally-stone/contract';
import {
  BenchError,
  usualLeastWidths,
  usualSpec,
  type ListKind,
  type ListRow,
} from '@tally-stone/core';
import { newId } from '../data/commands';

type BringList = Extract<ShopAct, { type: 'bring-list' }>;
type SpecValues = Parameters<typeof usualSpec>[0] &
  Pick<
    SpecFigures,
    | 'name'
    | 'kind'
    | 'hand'
    | 'hole'
    | 'holeMm'
    | 'newWidthMm'
    | 'newMassG'
    | 'bevelDeg'
    | 'edgeLengthMm'
    | 'bladeSpeedRpm'
  > & { readonly leastWidthMm?: number };

/** A spec of a row: its sizes, and usual practice around them. */
function specOf({ leastWidthMm, ...sizes }: SpecValues): SpecFigures {
  const least =
    leastWidthMm === undefined
      ? usualLeastWidths(sizes.newWidthMm)
      : {
          widthsMm: [leastWidthMm, leastWidthMm, leastWidthMm] as const,
          source: 'shop' as const,
          sourceText: $localize`from the shop’s own list`,
        };
  return usualSpec(sizes, least);
}

/** What of a spec's figures came from which field of the list, where they are not called the same. */
const FIELD_OF: Readonly<Record<string, string>> = { limits: 'leastWidthMm' };

/** Rows of specs with what no blade can be said at its cell: sizes are judged as where a spec is typed. */
export const checkedSpecs = (rows: readonly ListRow[]): ListRow[] =>
  rows.map((row) => {
    if (Object.keys(row.troubles).length > 0) return row;
    try {
      const { error } = SpecFigures.safeParse(specOf(row.values as unknown as SpecValues));
      const issues = error?.issues ?? [];
      const troubles = issues.map(({ path: [first], message }): [string, string] => {
        const key = String(first);
        return [FIELD_OF[key] ?? key, message];
      });
      return { ...row, troubles: Object.fromEntries(troubles) };
    } catch (error) {
      if (!(error instanceof BenchError)) throw error;
      const key = error.field === 'lengthMm' ? 'newLengthMm' : error.field;
      return { ...row, troubles: { [key]: error.rule } };
    }
  });

type MowerRow = NonNullable<BringList['mowers']>[number];
type MeterRow = NonNullable<BringList['hours']>[number];
/** Rows as `LISTS` in the core reads them. */
interface Values {
  readonly specs: SpecValues;
  readonly mowers: Omit<MowerRow, 'mowerId' | 'spindles'> & {
    readonly spindles: readonly string[];
  };
  readonly blades: { readonly specId: string; readonly count: number; readonly used: boolean };
  readonly hours: MeterRow;
}

/** What the rows ask of the shop, ids made here. */
export function actOf(kind: ListKind, rows: readonly ListRow[]): BringList {
  const valuesOf = <Kind extends ListKind>(of: Kind): Values[Kind][] =>
    kind === of ? rows.map(({ values }) => values as unknown as Values[Kind]) : [];
  return {
    type: 'bring-list',
    specs: valuesOf('specs').map((values) => ({
      specId: newId(),
      specRevisionId: newId(),
      figures: specOf(values),
    })),
    mowers: valuesOf('mowers').map(({ spindles, ...mower }) => ({
      ...mower,
      mowerId: newId(),
      spindles: spindles.map((position) => ({ spindleId: newId(), position })),
    })),
    blades: valuesOf('blades').map(({ specId, count, used }) => ({
      specId,
      count,
      ...(used && { knownFrom: 'used' as const, place: $localize`Heap` }),
    })),
    hours: valuesOf('hours'),
  };
}
