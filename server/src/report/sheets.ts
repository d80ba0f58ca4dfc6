import { Refusal } from '@tally-stone/cycle';
import {
  bladeCost,
  bladePrice,
  BLADE_STATES,
  RETIRE_REASONS,
  type Base,
  type RetireReason,
  type UnitSystem,
} from '@tally-stone/core';
import {
  HoursAssumption,
  REGISTER_COLUMNS,
  RegisterSheetQuery,
  type LifeLeftRow,
  type RegisterColumn,
  type RegisterRow,
} from '@tally-stone/contract';
import Papa from 'papaparse';
import { QueryTypes } from 'sequelize';
import * as z from 'zod';
import type { Database } from '../database.js';
import { groupedBy } from '../db/grouped.js';
import { aheadView } from '../screens/ahead.js';
import { DUE_WORDS } from './due-words.js';
import { fleetView } from '../screens/fleet.js';
import { registerPage } from '../screens/register.js';
import { shopOf, type Shop } from '../shop/look-up.js';
import { livesLeft } from '../wear/lives-left.js';
import { CAME_OFF } from './came-off.js';

/** A list as a spreadsheet has it: numbers as numbers, moments as dates. */
export interface Sheet {
  readonly name: string;
  /** Heads with their units, so that a bare number is never a riddle. */
  readonly heads: readonly string[];
  readonly rows: readonly (readonly Cell[])[];
}
type Cell = string | number | Date | undefined;

const day = (instant: string | null | undefined): Date | undefined =>
  instant ? new Date(instant) : undefined;

const PAGE = 500;
/** Lines of a list on paper at most: some forty pages, made in a few seconds. */
const MOST_ON_PAPER = 2000;

interface Column {
  readonly heads: readonly string[];
  readonly cells: (blade: RegisterRow, left: LifeLeftRow | undefined) => readonly Cell[];
}
const COLUMNS: Readonly<Record<RegisterColumn, Column>> = {
  spec: {
    get heads() {
      return [$localize`Spec`, $localize`New length, mm`, $localize`New width, mm`];
    },
    cells: ({ specName, lengthMm, widthMm }) => [specName, lengthMm, widthMm],
  },
  state: {
    get heads() {
      return [$localize`State`];
    },
    cells: ({ state }) => [BLADE_STATES[state].words],
  },
  place: {
    get heads() {
      return [$localize`Place`, $localize`Mower`, $localize`Spindle`];
    },
    cells: ({ place, mowerName, position }) => [place, mowerName, position],
  },
  grinds: {
    get heads() {
      return [$localize`Grinds`];
    },
    cells: ({ grinds }) => [grinds],
  },
  left: {
    get heads() {
      return [$localize`Grinds left`, $localize`at the least`, $localize`at the most`];
    },
    cells: (_, left) => [left?.grinds.median, left?.grinds.low, left?.grinds.high],
  },
  first: {
    get heads() {
      return [$localize`First limit`, $localize`Left there, mm`];
    },
    cells: (_, left) => [
      left?.first,
      left?.roomMm === undefined ? undefined : rounded(left.roomMm),
    ],
  },
  'last-grind': {
    get heads() {
      return [$localize`Last ground`];
    },
    cells: ({ lastGroundAt }) => [day(lastGroundAt)],
  },
  waiting: {
    get heads() {
      return [$localize`Waiting since`];
    },
    cells: ({ waitingSince }) => [day(waitingSince)],
  },
};
const rounded = (mm: number): number => Math.round(mm * 100) / 100;

/** What the register shows, all of it: every blade that was found, in the columns that are shown. */
async function register(database: Database, asked: object): Promise<Sheet> {
  const { columns = REGISTER_COLUMNS, ...query } = RegisterSheetQuery.parse({
    ...asked,
    offset: 0,
    limit: PAGE,
  });
  const shown = REGISTER_COLUMNS.filter((key) => columns.includes(key)).map((key) => COLUMNS[key]);
  const ofLife = columns.includes('left') || columns.includes('first');
  const rows: Cell[][] = [];
  for (let offset = 0; ; offset += PAGE) {
    const { blades, total } = await registerPage(database, { ...query, offset });
    const ids = blades.map(({ bladeId }) => bladeId);
    const lives = ofLife ? await livesLeft(database, ids) : new Map<string, LifeLeftRow>();
    for (const blade of blades)
      rows.push([
        blade.code,
        ...shown.flatMap(({ cells }) => cells(blade, lives.get(blade.bladeId))),
      ]);
    if (offset + PAGE >= total || blades.length === 0) break;
  }
  return {
    name: $localize`Blades`,
    heads: [$localize`Code`, ...shown.flatMap(({ heads }) => heads)],
    rows,
  };
}

/** Decks by when their set is due. */
async function due(database: Database): Promise<Sheet> {
  const { mowers } = await fleetView(database);
  const rows = mowers.map(({ name, site, deck }): Cell[] => {
    const { due, specName, spindles, hoursOnEdge, readyBlades } = deck;
    return [
      name,
      site,
      specName,
      spindles.length,
      hoursOnEdge,
      due ? DUE_WORDS[due.state] : $localize`nothing on`,
      due && due.because !== 'nothing' ? due.because : undefined,
      day(due?.dueOn),
      day(due?.benchOn),
      readyBlades,
    ];
  });
  const last = '9999';
  const at = ([, , , , , , , dueOn]: readonly Cell[]): string =>
    dueOn instanceof Date ? dueOn.toISOString() : last;
  return {
    name: $localize`Due`,
    heads: [
      $localize`Mower`,
      $localize`Site`,
      $localize`Spec`,
      $localize`Blades`,
      $localize`Hours on the edge`,
      $localize`Due`,
      $localize`Because of`,
      $localize`Due on`,
      $localize`Bench day`,
      $localize`Ready blades that fit`,
    ],
    rows: rows.sort((a, b) => (at(a) < at(b) ? -1 : 1)),
  };
}

/** Retired blades, newest first, and what retired each. */
async function scrap({ connection }: Database): Promise<Sheet> {
  const rows = await connection.sequelize.query<{
    code: string;
    spec: string;
    signedAt: string;
    person: string;
    reason: RetireReason;
    grinds: number;
  }>(
    `SELECT bladeCode.code AS code, spec.name AS spec, cycle.signedAt AS signedAt, person.name AS person,
       cycle.retireReason AS reason, blade.grinds AS grinds
     FROM cycle JOIN blade ON blade.id = cycle.bladeId JOIN spec ON spec.id = blade.specId
       JOIN bladeCode ON bladeCode.bladeId = blade.id AND bladeCode."to" IS NULL
       JOIN person ON person.id = cycle.signedBy
     WHERE cycle.outcome = 'retired' AND blade.state = 'retired' ORDER BY cycle.signedAt DESC`,
    { type: QueryTypes.SELECT },
  );
  return {
    name: $localize`Scrap`,
    heads: [
      $localize`Code`,
      $localize`Spec`,
      $localize`Retired`,
      'By',
      $localize`Why`,
      $localize`Grinds`,
    ],
    rows: rows.map(({ code, spec, signedAt, person, reason, grinds }) => [
      code,
      spec,
      day(signedAt),
      person,
      RETIRE_REASONS[reason].words,
      grinds,
    ]),
  };
}

interface Spent {
  readonly mower: string | null;
  readonly site: string | null;
  readonly specId: string;
  readonly grinds: number;
  readonly retired: number;
}

/**
 * What the bench has spent, by the mower a blade came off and then by site: minutes, abrasive, and a new blade for each
 * that was retired, at the shop's prices of today.
 */
async function costs(database: Database): Promise<Sheet> {
  const { rules } = await shopOf(database);
  const { prices } = rules;
  const spent = await database.connection.sequelize.query<Spent>(
    `WITH off AS (
       SELECT cycle.id AS cycleId, cycle.outcome AS outcome, blade.specId AS specId,
         ${CAME_OFF('cycle')} AS mowerId,
         EXISTS (SELECT 1 FROM pass WHERE pass.cycleId = cycle.id) AS ground
       FROM cycle JOIN blade ON blade.id = cycle.bladeId WHERE cycle.signedAt IS NOT NULL)
     SELECT mower.name AS mower, mower.site AS site, off.specId AS specId, SUM(off.ground) AS grinds,
       SUM(off.outcome = 'retired') AS retired
     FROM off LEFT JOIN mower ON mower.id = off.mowerId GROUP BY mower.id, off.specId`,
    { type: QueryTypes.SELECT },
  );
  const rowOf = (name: string, site: string, of: readonly Spent[]): Cell[] => {
    const grinds = of.reduce((sum, each) => sum + each.grinds, 0);
    const retired = of.reduce((sum, each) => sum + each.retired, 0);
    const { bench, abrasive } = bladeCost({ ...prices, blade: 0 }, grinds, 0);
    const blades = of.reduce(
      (sum, each) => sum + each.retired * bladePrice(prices, each.specId),
      0,
    );
    const money = [bench, abrasive, blades, bench + abrasive + blades];
    return [name, site, grinds, retired, ...money.map((each) => Math.round(100 * each) / 100)];
  };
  const by = (key: 'mower' | 'site'): [string, Spent[]][] =>
    [...groupedBy(spent, (each) => each[key] ?? nowhere())].sort(([a], [b]) => (a < b ? -1 : 1));
  const { currency } = prices;
  return {
    name: $localize`Costs`,
    heads: [
      $localize`Mower`,
      $localize`Site`,
      $localize`Grinds`,
      $localize`Blades retired`,
      ...[$localize`Bench`, $localize`Abrasive`, $localize`New blades`, $localize`Together`].map(
        (head) => `${head}, ${currency}`,
      ),
    ],
    rows: [
      ...by('mower').map(([name, of]) => rowOf(name, of[0]?.site ?? '', of)),
      ...by('site').map(([site, of]) => rowOf($localize`All mowers`, site, of)),
    ],
  };
}

/** Blades that were never on a mower, or on which nobody knows. */
const nowhere = (): string => $localize`on no mower`;

/** What is asked of the list of blades to buy. */
const PurchaseQuery = z.object({
  assumed: HoursAssumption.default('last-year'),
  months: z.coerce.number().int().min(1).max(36).default(6),
});

/** What to buy for the coming months, by spec: enough four times out of five, and what it costs at today's prices. */
async function purchases(database: Database, asked: object): Promise<Sheet> {
  const { assumed, months: until } = PurchaseQuery.parse(asked);
  const { months, outlooks, currency } = await aheadView(database);
  const span = months.slice(0, until);
  const rows = outlooks[assumed].specs.map(({ name, blades, need, price }): Cell[] => {
    const soon = need.slice(0, until);
    const enough = soon.reduce((sum, each) => sum + each.enough, 0);
    const expected = soon.reduce((sum, each) => sum + each.expected, 0);
    const figures = [
      Math.round(10 * expected) / 10,
      enough,
      price,
      Math.round(100 * enough * price) / 100,
    ];
    return [name, blades, ...soon.map((each) => each.enough), ...figures];
  });
  return {
    name: $localize`Blades to buy`,
    heads: [
      $localize`Spec`,
      $localize`In use`,
      ...span,
      $localize`On average`,
      $localize`Buy`,
      ...[$localize`Each`, $localize`Sum`].map((head) => `${head}, ${currency}`),
    ],
    // What is to be bought comes first.
    rows: rows.sort((a, b) => Number(b.at(-3)) - Number(a.at(-3))),
  };
}

const SHEETS = { register, due, scrap, costs, purchases } as const;
export type SheetName = keyof typeof SHEETS;
export const isSheet = (name: string): name is SheetName => Object.hasOwn(SHEETS, name);
export const sheetOf = (name: SheetName, database: Database, asked: object): Promise<Sheet> =>
  SHEETS[name](database, asked);

/** What a spreadsheet would take for a formula. Such a text is given a mark before it, which spreadsheets hide or show. */
const FORMULA = /^[=+\-@\t\r]/;
const inert = (cell: Cell): Cell =>
  typeof cell === 'string' && FORMULA.test(cell) ? `'${cell}` : cell;

/** As CSV: UTF-8 with its mark, which spreadsheets look for, days as ISO 8601. */
export function toCsv({ heads, rows }: Sheet): string {
  const cells = rows.map((row) =>
    row.map((cell) => (cell instanceof Date ? cell.toISOString().slice(0, 10) : inert(cell))),
  );
  return `\uFEFF${Papa.unparse([[...heads], ...cells], { newline: '\r\n' })}\r\n`;
}

/** As an XLSX workbook of one sheet, its first row kept in view. Texts are texts there, whatever they begin with. */
export async function toXlsx({ name, heads, rows }: Sheet): Promise<Buffer> {
  const { default: ExcelJS } = await import('exceljs');
  const book = new ExcelJS.Workbook();
  const sheet = book.addWorksheet(name, { views: [{ state: 'frozen', ySplit: 1 }] });
  sheet.addRow([...heads]).font = { bold: true };
  for (const row of rows) sheet.addRow([...row]);
  heads.forEach((head, i) => {
    const column = sheet.getColumn(i + 1);
    column.width =
      Math.max(
        head.length,
        ...rows.map((row) => (row[i] instanceof Date ? 12 : String(row[i] ?? '').length)),
      ) + 2;
    if (rows.some((row) => row[i] instanceof Date)) column.numFmt = 'yyyy-mm-dd';
  });
  return Buffer.from(await book.xlsx.writeBuffer());
}

/** A head that ends with a unit is of a measured column; on paper it is written in the reader's own. */
const MEASURED = /, (mm|g)$/;
const baseOf = (head: string): Base | undefined => MEASURED.exec(head)?.[1] as Base | undefined;

/** As a PDF for a wall or a folder: the same rows, numbers to the right, a foot that says whose and when. */
export async function toPdf(
  { name, heads, rows }: Sheet,
  { shop, system, at }: { readonly shop: Shop; readonly system: UnitSystem; readonly at: string },
): Promise<Buffer> {
  if (rows.length > MOST_ON_PAPER)
    throw new Refusal(
      'invalid',
      $localize`This list has ${rows.length} lines, more than the ${MOST_ON_PAPER} that go on paper: look for fewer blades, or take it as CSV or XLSX.`,
    );
  const { Paper } = await import('./paper.js');
  const { rules, timeZone } = shop;
  const paper = new Paper(name, { system, region: rules.region, timeZone });
  paper.heading('H1', name);
  paper.paragraph(`${shop.name}, ${paper.day(at)}.`);
  paper.doc.moveDown(0.5);
  const bases = heads.map(baseOf);
  const called = heads.map((head, i) => {
    const base = bases[i];
    return base ? head.replace(MEASURED, `, ${paper.unit(base)}`) : head;
  });
  const words = rows.map((row) =>
    row.map((cell, i) => {
      const base = bases[i];
      if (cell instanceof Date) return paper.day(cell.toISOString());
      if (typeof cell === 'number' && base) return paper.figure(cell, base);
      if (typeof cell === 'number') return paper.number(cell, Number.isInteger(cell) ? 0 : 2);
      return cell ?? '';
    }),
  );
  const shares = paper.sharesOf(called, words);
  if (rows.length === 0) paper.paragraph($localize`Nothing to list.`);
  else
    paper.table(
      called.map((head, i) => ({
        head,
        share: shares[i] ?? 0,
        ...(rows.some((row) => typeof row[i] === 'number') && { align: 'right' as const }),
      })),
      words,
    );
  return paper.end($localize`${shop.name}, ${name.toLowerCase()}   ·   printed ${paper.day(at)}`);
}
