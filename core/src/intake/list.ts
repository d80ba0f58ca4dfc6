import { kindOf, unitSpelt, type Unit } from '../units/units.js';
import { LISTS, plain, type KnownNames, type ListKind, type Value } from './list-fields.js';

/** Which column of a list each field is, by its place; nothing where none is called so. */
export type Columns = Readonly<Record<string, number | undefined>>;

/**
 * Columns by what their heads are called: the whole name first, then a part of it; none is taken twice.
 * @example guessColumns('hours', ['Asset no', 'Mower', 'Eng. hours']) // { mowerId: 1, hoursH: 2 }
 */
export function guessColumns(
  kind: ListKind,
  heads: readonly string[],
): Record<string, number | undefined> {
  const said = heads.map(plain);
  const taken = new Set<number>();
  const guess: Record<string, number | undefined> = {};
  const passes: readonly ((head: string, name: string) => boolean)[] = [
    (head, name) => head === name,
    (head, name) => ` ${head} `.includes(` ${name} `),
  ];
  for (const fits of passes)
    for (const { key, called } of LISTS[kind]) {
      if (guess[key] !== undefined) continue;
      for (const name of called.map(plain)) {
        const at = said.findIndex((head, i) => !taken.has(i) && fits(head, name));
        if (at < 0) continue;
        guess[key] = at;
        taken.add(at);
        break;
      }
    }
  return guess;
}

/** Heads stand in one of so many rows from the top: a title, a date or a logo's row may lie above them. */
const HEADS_WITHIN = 12;

/**
 * Which row holds the heads, by its place: the first of those near the top that name most of the fields; where none names
 * two, the first that says anything.
 * @example headRow('hours', [['Fleet, spring'], [], ['Mower', 'Hours'], ['Kestrel', '412']]) // 2
 */
export function headRow(kind: ListKind, rows: readonly (readonly string[])[]): number {
  const named = rows
    .slice(0, HEADS_WITHIN)
    .map((row) => Object.values(guessColumns(kind, row)).filter((at) => at !== undefined).length);
  const most = Math.max(...named);
  const says = rows.findIndex((row) => row.some((cell) => cell.trim() !== ''));
  return most < 2 ? Math.max(0, says) : named.indexOf(most);
}

/** The unit of each measured column of a list, by its field. */
export type ColumnUnits = Readonly<Record<string, Unit | undefined>>;

/**
 * Units of the measured columns: what a head names (`Length (in)`), else what it usually is here.
 * @example guessUnits('specs', ['Blade', 'Length (in)', 'Width'], { newLengthMm: 1, newWidthMm: 2 }, { mm: 'mm', g: 'g' }).newLengthMm // 'in'
 */
export function guessUnits(
  kind: ListKind,
  heads: readonly string[],
  columns: Columns,
  usual: Readonly<Record<'mm' | 'g', Unit>>,
): Record<string, Unit> {
  return Object.fromEntries(
    LISTS[kind].flatMap(({ key, base }) => {
      if (!base) return [];
      const head = heads[columns[key] ?? -1] ?? '';
      const named = head
        .split(/[\s,;:()[\]/]+/)
        .map(unitSpelt)
        .find((unit) => unit && kindOf(unit) === kindOf(base));
      return [[key, named ?? usual[base]]];
    }),
  );
}

/** A row of a list as it is understood: what each field says, or what is wrong with its cell. */
export interface ListRow {
  /** Its line in the list, counted from the top of the file. */
  readonly line: number;
  readonly values: Readonly<Record<string, Value>>;
  readonly troubles: Readonly<Record<string, string>>;
}

/** Fields of which no two rows may say the same, and no row what the shop has already. */
const ONCE: Readonly<Record<ListKind, string | undefined>> = {
  specs: 'name',
  mowers: 'name',
  hours: 'mowerId',
  blades: undefined,
};

/**
 * A whole list, row by row below its heads; empty rows are passed over.
 * @param below units of the measured columns, and the line of the first row
 * @example readList('blades', [['High 533', '4']], { specId: 0, count: 1 }, { mowers: new Map(), specs: new Map([['high 533', 's1']]) })[0].values.count // 4
 */
export function readList(
  kind: ListKind,
  rows: readonly (readonly string[])[],
  columns: Columns,
  names: KnownNames,
  { units = {}, firstLine = 2 }: { readonly units?: ColumnUnits; readonly firstLine?: number } = {},
): ListRow[] {
  const seen = new Map<string, number>();
  const once = ONCE[kind];
  const of = kind === 'specs' ? kind : 'mowers';
  return rows.flatMap((cells, i): ListRow[] => {
    if (cells.every((cell) => cell.trim() === '')) return [];
    const line = i + firstLine;
    const values: Record<string, Value> = {};
    const troubles: Record<string, string> = {};
    for (const { key, otherwise, optional, read } of LISTS[kind]) {
      const at = columns[key];
      const typed = at === undefined ? '' : (cells[at] ?? '').replace(/\s+/g, ' ').trim();
      if (typed === '') {
        if (optional) continue;
        if (otherwise === undefined)
          troubles[key] =
            at === undefined ? $localize`has no column: pick one` : $localize`is empty`;
        else values[key] = otherwise;
        continue;
      }
      const said = read(typed, names, units[key]);
      if ('trouble' in said) troubles[key] = said.trouble;
      else values[key] = said.value;
      if (key !== once || 'trouble' in said) continue;
      const first = seen.get(plain(typed));
      if (first !== undefined) troubles[key] = $localize`is on line ${first} already`;
      else if (key === 'name' && names[of].has(plain(typed)))
        troubles[key] =
          $localize`is a ${of === 'mowers' ? $localize`mower` : $localize`spec`} of this shop already`;
      seen.set(plain(typed), first ?? line);
    }
    return [{ line, values, troubles }];
  });
}
