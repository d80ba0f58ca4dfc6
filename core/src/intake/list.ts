/**
 * Lists a shop brings from elsewhere: which column is what, and what each cell says. Nothing is guessed that could be two
 * things: such a cell says what to type instead.
 */
export const LIST_KINDS = ['mowers', 'blades', 'hours'] as const;
export type ListKind = (typeof LIST_KINDS)[number];

/** What a list already in the shop is held against, by names. */
export interface KnownNames {
  readonly mowers: ReadonlyMap<string, string>;
  readonly specs: ReadonlyMap<string, string>;
}

type Value = string | number | boolean | readonly string[];
type Read = { readonly value: Value } | { readonly trouble: string };

export interface ListField {
  readonly key: string;
  readonly words: string;
  /** What the column is called in lists, the first in a template. */
  readonly called: readonly string[];
  /** Taken where the list has no such column, or nothing in the cell. Without one the cell must be filled. */
  readonly otherwise?: Value;
  readonly read: (text: string, known: KnownNames) => Read;
}

/** Names are the same but for case, spaces and marks between their words. */
const plain = (text: string): string =>
  text
    .toLowerCase()
    .normalize('NFKD')
    .replace(/[^\p{L}\p{N}]+/gu, ' ')
    .trim();

/**
 * Names as lists are held against them.
 * @example namesOf([['m1', 'Kestrel 2']]).get('kestrel 2') // 'm1'
 */
export const namesOf = (pairs: readonly (readonly [string, string])[]): Map<string, string> =>
  new Map(pairs.map(([id, name]) => [plain(name), id]));

const text =
  (most: number, least = 0) =>
  (typed: string): Read =>
    typed.length < least
      ? { trouble: 'is empty' }
      : typed.length > most
        ? { trouble: `is longer than ${most} letters` }
        : { value: typed };

const NUMBER = /^(\d{1,3}(?:[.,' \u00a0]\d{3})+|\d+)(?:([.,])(\d+))?$/;

/**
 * A number as spreadsheets of any country write it; a unit after it is passed over. One mark with three figures after it may
 * be either thousands or decimals, which nobody can tell: that is a trouble.
 * @example listNumber('1.234,5', 0, 99999) // { value: 1234.5 }
 */
export function listNumber(typed: string, least: number, most: number): Read {
  const bare = typed.replace(/\s*(h|hrs?|hours|rpm|std)\.?$/i, '').trim();
  const match = NUMBER.exec(bare);
  if (!match) return { trouble: `"${typed}" is no number` };
  const [, whole = '', , decimals = ''] = match;
  const marks = whole.match(/[.,]/g) ?? [];
  if (marks.length === 1 && decimals === '')
    return {
      trouble: `"${typed}" may be ${whole.replace(/[.,]/, '')} or ${whole.replace(',', '.')}: type it without the mark`,
    };
  if (new Set(marks).size > 1 || (decimals !== '' && marks[0] === match[2]))
    return { trouble: `"${typed}" is no number` };
  const value = Number(`${whole.replace(/\D/g, '')}.${decimals || '0'}`);
  if (value < least || value > most)
    return { trouble: `${bare} is not between ${least} and ${most}` };
  return { value };
}

const number =
  (least: number, most: number, whole = false) =>
  (typed: string): Read => {
    const read = listNumber(typed, least, most);
    return whole && 'value' in read && !Number.isInteger(read.value)
      ? { trouble: `${typed} is no whole number` }
      : read;
  };

const oneOf =
  (choices: Readonly<Record<string, readonly string[]>>) =>
  (typed: string): Read => {
    const said = plain(typed);
    const found = Object.entries(choices).find(([, names]) => names.includes(said));
    return found
      ? { value: found[0] }
      : { trouble: `"${typed}" is none of ${Object.keys(choices).join(', ')}` };
  };

const known =
  (of: keyof KnownNames, what: string) =>
  (typed: string, names: KnownNames): Read => {
    const id = names[of].get(plain(typed));
    return id === undefined
      ? {
          trouble: `"${typed}" is no ${what} of this shop: add it first, or name it as it is there`,
        }
      : { value: id };
  };

/** Where blades turn on a deck, by how many there are, left to right. */
const POSITIONS: Readonly<Record<number, readonly string[]>> = {
  1: ['centre'],
  2: ['left', 'right'],
  3: ['left', 'centre', 'right'],
};
const MOST_SPINDLES = 11;

/** Spindles by their number, or by their names with marks between. */
function spindles(typed: string): Read {
  if (/^\d+$/.test(typed)) {
    const count = Number(typed);
    return count >= 1 && count <= MOST_SPINDLES
      ? { value: POSITIONS[count] ?? Array.from({ length: count }, (_, i) => `s${i + 1}`) }
      : { trouble: `${count} is not between 1 and ${MOST_SPINDLES}` };
  }
  const names = typed
    .split(/[,;/|]/)
    .map((each) => each.trim())
    .filter(Boolean);
  if (names.length > MOST_SPINDLES || names.some((each) => each.length > 20))
    return { trouble: `"${typed}" are no spindles: type their number` };
  return new Set(names).size < names.length
    ? { trouble: 'names a spindle twice' }
    : { value: names };
}

const YES_NO = {
  yes: ['yes', 'y', 'true', '1', 'x', 'used', 'ja', 'si'],
  no: ['no', 'n', 'false', '0', 'new', ''],
};

/** The fields of each list. */
export const LISTS: Readonly<Record<ListKind, readonly ListField[]>> = {
  mowers: [
    {
      key: 'name',
      words: 'Name',
      called: ['Name', 'mower', 'machine', 'unit', 'fleet no', 'asset'],
      read: text(60, 1),
    },
    {
      key: 'energy',
      words: 'Energy',
      called: ['Energy', 'fuel', 'drive', 'power'],
      otherwise: 'petrol',
      read: oneOf({
        petrol: ['petrol', 'gas', 'gasoline', 'benzin', 'p'],
        diesel: ['diesel', 'd'],
        battery: ['battery', 'electric', 'accu', 'akku', 'e', 'b'],
      }),
    },
    {
      key: 'site',
      words: 'Where it works',
      called: ['Site', 'works at', 'location', 'round', 'customer', 'depot'],
      otherwise: '',
      read: text(80),
    },
    {
      key: 'spindles',
      words: 'Spindles',
      called: ['Spindles', 'blades', 'no of blades', 'decks'],
      read: spindles,
    },
    {
      key: 'bladeSpeedRpm',
      words: 'Blade speed, rpm',
      called: ['Blade speed, rpm', 'blade speed', 'rpm', 'blade rpm'],
      read: number(500, 6000),
    },
    {
      key: 'hoursH',
      words: 'Hour meter, h',
      called: ['Hour meter, h', 'hours', 'hour meter', 'meter', 'engine hours', 'hrs'],
      otherwise: 0,
      read: number(0, 99_999),
    },
  ],
  blades: [
    {
      key: 'specId',
      words: 'Spec',
      called: ['Spec', 'blade', 'type', 'size', 'part'],
      read: known('specs', 'spec'),
    },
    {
      key: 'count',
      words: 'How many',
      called: ['How many', 'count', 'quantity', 'qty', 'number', 'stock'],
      otherwise: 1,
      read: number(1, 200, true),
    },
    {
      key: 'used',
      words: 'Used',
      called: ['Used', 'condition', 'state'],
      otherwise: false,
      read: (typed) => {
        const read = oneOf(YES_NO)(typed);
        return 'value' in read ? { value: read.value === 'yes' } : read;
      },
    },
  ],
  hours: [
    {
      key: 'mowerId',
      words: 'Mower',
      called: ['Mower', 'name', 'machine', 'unit', 'asset'],
      read: known('mowers', 'mower'),
    },
    {
      key: 'hoursH',
      words: 'Hour meter, h',
      called: ['Hour meter, h', 'hours', 'hour meter', 'meter', 'reading', 'engine hours', 'hrs'],
      read: number(0, 99_999),
    },
  ],
};

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

/** A row of a list as it is understood: what each field says, or what is wrong with its cell. */
export interface ListRow {
  /** Its line in the list, the heads being line 1. */
  readonly line: number;
  readonly values: Readonly<Record<string, Value>>;
  readonly troubles: Readonly<Record<string, string>>;
}

/** Fields of which no two rows may say the same, and no row what the shop has already. */
const ONCE: Readonly<Record<ListKind, string | undefined>> = {
  mowers: 'name',
  hours: 'mowerId',
  blades: undefined,
};

/**
 * A whole list, row by row; empty rows are passed over.
 * @example readList('blades', [['High 533', '4']], { specId: 0, count: 1 }, { mowers: new Map(), specs: new Map([['high 533', 's1']]) })[0].values.count // 4
 */
export function readList(
  kind: ListKind,
  rows: readonly (readonly string[])[],
  columns: Columns,
  names: KnownNames,
): ListRow[] {
  const seen = new Map<string, number>();
  const once = ONCE[kind];
  return rows.flatMap((cells, i): ListRow[] => {
    if (cells.every((cell) => cell.trim() === '')) return [];
    const line = i + 2;
    const values: Record<string, Value> = {};
    const troubles: Record<string, string> = {};
    for (const { key, otherwise, read } of LISTS[kind]) {
      const at = columns[key];
      const typed = at === undefined ? '' : (cells[at] ?? '').replace(/\s+/g, ' ').trim();
      if (typed === '') {
        if (otherwise === undefined)
          troubles[key] = at === undefined ? 'has no column: pick one' : 'is empty';
        else values[key] = otherwise;
        continue;
      }
      const said = read(typed, names);
      if ('trouble' in said) troubles[key] = said.trouble;
      else values[key] = said.value;
      if (key !== once || 'trouble' in said) continue;
      const first = seen.get(plain(typed));
      if (first !== undefined) troubles[key] = `is on line ${first} already`;
      else if (kind === 'mowers' && names.mowers.has(plain(typed)))
        troubles[key] = 'is a mower of this shop already';
      seen.set(plain(typed), first ?? line);
    }
    return [{ line, values, troubles }];
  });
}
