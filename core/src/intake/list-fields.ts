import { BenchError } from '../errors.js';
import { parseQuantity, type Unit } from '../units/units.js';

/**
 * Lists a shop brings from elsewhere: which column is what, and what each cell says. Nothing is guessed that could be two
 * things: such a cell says what to type instead.
 */
export const LIST_KINDS = ['specs', 'mowers', 'blades', 'hours'] as const;
export type ListKind = (typeof LIST_KINDS)[number];

/** What a list already in the shop is held against, by names. */
export interface KnownNames {
  readonly mowers: ReadonlyMap<string, string>;
  readonly specs: ReadonlyMap<string, string>;
}

export type Value = string | number | boolean | readonly string[];
type Read = { readonly value: Value } | { readonly trouble: string };

export interface ListField {
  readonly key: string;
  readonly words: string;
  /** What the column is called in lists, the first in a template. */
  readonly called: readonly string[];
  /** Taken where the list has no such column, or nothing in the cell. Without one the cell must be filled. */
  readonly otherwise?: Value;
  /** Left out where the list does not say. */
  readonly optional?: true;
  /** A measured quantity is told in a unit of this kind: its cell's own, or its column's. */
  readonly base?: 'mm' | 'g';
  readonly read: (text: string, known: KnownNames, unit: Unit | undefined) => Read;
}

/** Names are the same but for case, spaces and marks between their words. */
export const plain = (text: string): string =>
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
      ? { trouble: $localize`is empty` }
      : typed.length > most
        ? { trouble: $localize`is longer than ${most} letters` }
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
  if (!match) return { trouble: $localize`"${typed}" is not a number` };
  const [, whole = '', , decimals = ''] = match;
  const marks = whole.match(/[.,]/g) ?? [];
  if (marks.length === 1 && decimals === '')
    return {
      trouble: $localize`"${typed}" may be ${whole.replace(/[.,]/, '')} or ${whole.replace(',', '.')}:ph2:: type it without the mark`,
    };
  if (new Set(marks).size > 1 || (decimals !== '' && marks[0] === match[2]))
    return { trouble: $localize`"${typed}" is not a number` };
  const value = Number(`${whole.replace(/\D/g, '')}.${decimals || '0'}`);
  if (value < least || value > most)
    return { trouble: $localize`${bare} is not between ${least} and ${most}` };
  return { value };
}

const number =
  (least: number, most: number, whole = false) =>
  (typed: string): Read => {
    const read = listNumber(typed, least, most);
    return whole && 'value' in read && !Number.isInteger(read.value)
      ? { trouble: $localize`${typed} is not a whole number` }
      : read;
  };

/** A length or a mass in any unit of the bench, fractions of an inch too; a bare number is in its column's unit. */
const quantity = (base: 'mm' | 'g') => ({
  base,
  read: (typed: string, _known: KnownNames, unit: Unit = base): Read => {
    try {
      const { value } = parseQuantity(typed, unit);
      return { value: Math.round(value * 1e4) / 1e4 };
    } catch (error) {
      if (error instanceof BenchError) return { trouble: `"${typed}" ${error.rule}` };
      throw error;
    }
  },
});

const oneOf =
  (choices: Readonly<Record<string, readonly string[]>>) =>
  (typed: string): Read => {
    const said = plain(typed);
    const found = Object.entries(choices).find(([, names]) => names.includes(said));
    return found
      ? { value: found[0] }
      : { trouble: $localize`"${typed}" is not one of ${Object.keys(choices).join(', ')}` };
  };

const known =
  (of: keyof KnownNames, what: string) =>
  (typed: string, names: KnownNames): Read => {
    const id = names[of].get(plain(typed));
    return id === undefined
      ? {
          trouble: $localize`"${typed}" is no ${what} of this shop: add it first, or name it as it is there`,
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
      : { trouble: $localize`${count} is not between 1 and ${MOST_SPINDLES}` };
  }
  const names = typed
    .split(/[,;/|]/)
    .map((each) => each.trim())
    .filter(Boolean);
  if (names.length > MOST_SPINDLES || names.some((each) => each.length > 20))
    return { trouble: $localize`"${typed}" are no spindles: type their number` };
  return new Set(names).size < names.length
    ? { trouble: $localize`names a spindle twice` }
    : { value: names };
}

const YES_NO = {
  yes: ['yes', 'y', 'true', '1', 'x', 'used', 'ja', 'si'],
  no: ['no', 'n', 'false', '0', 'new', ''],
};

/** The fields of each list. */
export const LISTS: Readonly<Record<ListKind, readonly ListField[]>> = {
  specs: [
    {
      key: 'name',
      get words() {
        return $localize`Name`;
      },
      called: ['Name', 'spec', 'blade', 'type', 'model', 'description', 'size'],
      read: text(60, 1),
    },
    {
      key: 'newLengthMm',
      get words() {
        return $localize`Length`;
      },
      called: ['Length, mm', 'length', 'long', 'cut'],
      ...quantity('mm'),
    },
    {
      key: 'newWidthMm',
      get words() {
        return $localize`Width`;
      },
      called: ['Width, mm', 'width', 'wide'],
      ...quantity('mm'),
    },
    {
      key: 'thicknessMm',
      get words() {
        return $localize`Thickness`;
      },
      called: ['Thickness, mm', 'thickness', 'thick', 'gauge'],
      ...quantity('mm'),
    },
    {
      key: 'holeMm',
      get words() {
        return $localize`Hole`;
      },
      called: ['Hole, mm', 'hole', 'bore', 'centre hole', 'center hole'],
      ...quantity('mm'),
    },
    {
      key: 'newMassG',
      get words() {
        return $localize`Mass when new`;
      },
      called: ['Mass when new, g', 'mass', 'weight'],
      ...quantity('g'),
    },
    {
      key: 'hole',
      get words() {
        return $localize`Shape of the hole`;
      },
      called: ['Hole shape', 'shape of the hole', 'pattern'],
      otherwise: 'round',
      read: oneOf({
        round: ['round', 'circle', 'plain'],
        star: ['star', 'splined', 'spline'],
        oval: ['oval'],
        square: ['square'],
      }),
    },
    {
      key: 'kind',
      get words() {
        return $localize`Lift`;
      },
      called: ['Lift', 'kind', 'style'],
      otherwise: 'medium-lift',
      read: oneOf({
        'low-lift': ['low lift', 'low', 'flat'],
        'medium-lift': ['medium lift', 'medium', 'standard', 'std'],
        'high-lift': ['high lift', 'high', 'hi lift'],
        mulching: ['mulching', 'mulch', 'mulcher'],
      }),
    },
    {
      key: 'hand',
      get words() {
        return $localize`Turns`;
      },
      called: ['Turns', 'hand', 'rotation'],
      otherwise: 'right',
      read: oneOf({
        right: ['right', 'r', 'rh', 'right hand', 'cw', 'clockwise'],
        left: ['left', 'l', 'lh', 'left hand', 'ccw', 'counterclockwise', 'anticlockwise'],
      }),
    },
    {
      key: 'edgeLengthMm',
      get words() {
        return $localize`Cutting edge`;
      },
      called: ['Cutting edge, mm', 'cutting edge', 'edge'],
      otherwise: 100,
      ...quantity('mm'),
    },
    {
      key: 'bevelDeg',
      get words() {
        return $localize`Bevel, °`;
      },
      called: ['Bevel', 'angle', 'bevel angle'],
      otherwise: 30,
      read: (typed) => listNumber(typed.replace(/\s*(°|deg(rees?)?)$/i, ''), 0, 90),
    },
    {
      key: 'bladeSpeedRpm',
      get words() {
        return $localize`Blade speed, rpm`;
      },
      called: ['Blade speed, rpm', 'blade speed', 'rpm', 'speed'],
      otherwise: 3000,
      read: number(0, 99_999),
    },
    {
      key: 'leastWidthMm',
      get words() {
        return $localize`Least width`;
      },
      called: ['Least width, mm', 'least width', 'min width', 'minimum width', 'wear limit'],
      optional: true,
      ...quantity('mm'),
    },
  ],
  mowers: [
    {
      key: 'name',
      get words() {
        return $localize`Name`;
      },
      called: ['Name', 'mower', 'machine', 'unit', 'fleet no', 'asset'],
      read: text(60, 1),
    },
    {
      key: 'energy',
      get words() {
        return $localize`Energy`;
      },
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
      get words() {
        return $localize`Where it works`;
      },
      called: ['Site', 'works at', 'location', 'round', 'customer', 'depot'],
      otherwise: '',
      read: text(80),
    },
    {
      key: 'spindles',
      get words() {
        return $localize`Spindles`;
      },
      called: ['Spindles', 'blades', 'no of blades', 'decks'],
      read: spindles,
    },
    {
      key: 'bladeSpeedRpm',
      get words() {
        return $localize`Blade speed, rpm`;
      },
      called: ['Blade speed, rpm', 'blade speed', 'rpm', 'blade rpm'],
      read: number(500, 6000),
    },
    {
      key: 'hoursH',
      get words() {
        return $localize`Hour meter, h`;
      },
      called: ['Hour meter, h', 'hours', 'hour meter', 'meter', 'engine hours', 'hrs'],
      otherwise: 0,
      read: number(0, 99_999),
    },
  ],
  blades: [
    {
      key: 'specId',
      get words() {
        return $localize`Spec`;
      },
      called: ['Spec', 'blade', 'type', 'size', 'part'],
      read: known('specs', 'spec'),
    },
    {
      key: 'count',
      get words() {
        return $localize`How many`;
      },
      called: ['How many', 'count', 'quantity', 'qty', 'number', 'stock'],
      otherwise: 1,
      read: number(1, 200, true),
    },
    {
      key: 'used',
      get words() {
        return $localize`Used`;
      },
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
      get words() {
        return $localize`Mower`;
      },
      called: ['Mower', 'name', 'machine', 'unit', 'asset'],
      read: known('mowers', 'mower'),
    },
    {
      key: 'hoursH',
      get words() {
        return $localize`Hour meter, h`;
      },
      called: ['Hour meter, h', 'hours', 'hour meter', 'meter', 'reading', 'engine hours', 'hrs'],
      read: number(0, 99_999),
    },
  ],
};
