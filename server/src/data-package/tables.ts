import { QueryTypes } from 'sequelize';
import { QUANTITIES } from '@tally-stone/core';
import type { Connection } from '../db/connection.js';
import { modelsOf } from '../models.js';

/** A column as a Table Schema describes it (Frictionless Data, Table Schema 1). */
export interface Field {
  readonly name: string;
  readonly type:
    'string' | 'number' | 'integer' | 'boolean' | 'datetime' | 'date' | 'object' | 'array' | 'any';
  readonly format?: 'any';
  readonly trueValues?: readonly string[];
  readonly falseValues?: readonly string[];
  /** Unit by its UCUM code. */
  readonly unit?: string;
  readonly constraints?: { readonly required?: true; readonly unique?: true };
}

export interface TableSchema {
  readonly fields: readonly Field[];
  readonly primaryKey: readonly string[];
  readonly foreignKeys?: readonly {
    readonly fields: string;
    readonly reference: { readonly resource: string; readonly fields: string };
  }[];
  readonly missingValues: readonly string[];
}

export interface Table {
  readonly name: string;
  readonly schema: TableSchema;
}

/** Not of the shop but of this server: who is signed in, what was tried, which version it is. */
const OF_THIS_SERVER = [
  'session',
  'joinLink',
  'calendarAddress',
  'machineToken',
  'wrongPin',
  'migration',
  'sqlite_sequence',
];
/** The trade's own words, which every server of this version knows. */
const VOCABULARY = ['quantity', 'damageKind'];
/** The journal goes out as JSON Lines: its chain is of entries, not of columns. */
const AS_LINES = ['journal', 'journalSeal'];
/** Secrets never leave: whoever opens the shop elsewhere sets PINs anew. */
const SECRET = new Set(['person.pinHash']);

/** UCUM code by the end of a column's name; the longest that fits counts. */
const UNIT_BY_ENDING: Readonly<Record<string, string>> = {
  Gmm: 'g.mm',
  Mm: 'mm',
  Deg: 'deg',
  Rpm: '{rev}/min',
  H: 'h',
  G: 'g',
  hoursPerDay: 'h/d',
  beforePerDay: 'h/d',
  'balanceRound.u': 'g.mm',
  'balancerCalibration.frictionU': 'g.mm',
};
const ENDINGS = Object.keys(UNIT_BY_ENDING).sort((a, b) => b.length - a.length);

const unitOf = (table: string, column: string): string | undefined =>
  UNIT_BY_ENDING[ENDINGS.find((ending) => `${table}.${column}`.endsWith(ending)) ?? ''];

/** What is read at the bench and the unit its values are stored in: millimetre, gram and degree are UCUM codes as they are. */
export const quantityUnits = (): readonly { readonly quantity: string; readonly unit: string }[] =>
  Object.entries(QUANTITIES).map(([quantity, { unit }]) => ({ quantity, unit }));

/** Columns that hold a list; other JSON is an object, but for what a correction puts in place of anything. */
const LISTS = new Set([
  'batch.bladeIds',
  'cutReport.signs',
  'grassLook.tips',
  'balancerCalibration.drops',
  'grinderCheck.checked',
]);
const ANYTHING = new Set(['correction.value']);
/** Columns of 0 or 1. */
const FLAGS = new Set(['balanceRound.endOnly', 'strike.vibration', 'deckDue.struck']);

const TYPE_BY_DECLARED: Readonly<Record<string, Field['type']>> = {
  TEXT: 'string',
  REAL: 'number',
  INTEGER: 'integer',
};

/** A moment by its name: at, From, To and the columns that are called so. */
const A_MOMENT = /(^at|At|Since|^from|^to)$/;

interface Column {
  readonly name: string;
  readonly type: string;
  readonly notnull: number;
  readonly pk: number;
  readonly hidden: number;
}

/** A table's name as a data package spells names. */
export const resourceName = (table: string): string =>
  table.replace(/[A-Z]/g, (letter) => `-${letter.toLowerCase()}`);

/** Every table of a shop that goes into a data package, described from the database itself. */
export async function tablesOf(connection: Connection): Promise<Table[]> {
  const ask = <Row extends object>(sql: string): Promise<Row[]> =>
    connection.sequelize.query<Row>(sql, { type: QueryTypes.SELECT });
  const models = modelsOf(connection.sequelize) as unknown as Readonly<
    Record<string, { getAttributes(): Readonly<Record<string, { type: { key: string } }>> }>
  >;
  const left = new Set([...OF_THIS_SERVER, ...VOCABULARY, ...AS_LINES]);
  const names = await ask<{ name: string }>(
    `SELECT name FROM sqlite_master WHERE type = 'table' ORDER BY name`,
  );
  const tables: Table[] = [];
  for (const { name } of names.filter((each) => !left.has(each.name))) {
    const attributes = models[name]?.getAttributes() ?? {};
    const columns = await ask<Column>(`PRAGMA table_xinfo("${name}")`);
    const keys = await ask<{ table: string; from: string; to: string | null }>(
      `PRAGMA foreign_key_list("${name}")`,
    );
    const fields = columns
      .filter((column) => column.hidden === 0 && !SECRET.has(`${name}.${column.name}`))
      .map((column) => fieldOf(name, column, attributes[column.name]?.type.key));
    tables.push({
      name,
      schema: {
        fields,
        primaryKey: columns.filter(({ pk }) => pk > 0).map((column) => column.name),
        ...(keys.some(({ table }) => !VOCABULARY.includes(table)) && {
          foreignKeys: keys
            .filter(({ table }) => !VOCABULARY.includes(table))
            .map(({ table, from, to }) => ({
              fields: from,
              reference: {
                resource: table === name ? '' : resourceName(table),
                fields: to ?? 'id',
              },
            })),
        }),
        missingValues: [''],
      },
    });
  }
  return tables;
}

function typeOf(at: string, column: Column, modelled: string | undefined): Field['type'] {
  if (FLAGS.has(at)) return 'boolean';
  if (ANYTHING.has(at)) return 'any';
  if (modelled === 'JSON') return LISTS.has(at) ? 'array' : 'object';
  const declared = TYPE_BY_DECLARED[column.type] ?? 'string';
  if (declared !== 'string') return declared;
  if (column.name === 'day') return 'date';
  return A_MOMENT.test(column.name) ? 'datetime' : 'string';
}

function fieldOf(table: string, column: Column, modelled: string | undefined): Field {
  const { name } = column;
  const type = typeOf(`${table}.${name}`, column, modelled);
  const unit = type === 'number' || type === 'integer' ? unitOf(table, name) : undefined;
  return {
    name,
    type,
    ...(type === 'datetime' && { format: 'any' as const }),
    ...(type === 'boolean' && { trueValues: ['1'], falseValues: ['0'] }),
    ...(unit && { unit }),
    // An empty text and none at all are the same cell, so no text is required but keys.
    ...((column.pk > 0 || (column.notnull && type !== 'string')) && {
      constraints: { required: true as const },
    }),
  };
}

/**
 * Tables so that each comes after those it points at. With rows that point nowhere yet SQLite looks through every child table
 * at each new row: in this order there are none.
 */
export function parentsFirst(tables: readonly Table[]): Table[] {
  const placed = new Set<string>();
  const order: Table[] = [];
  const place = (table: Table): void => {
    if (placed.has(table.name)) return;
    placed.add(table.name);
    for (const { reference } of table.schema.foreignKeys ?? []) {
      const parent = tables.find(({ name }) => resourceName(name) === reference.resource);
      if (parent) place(parent);
    }
    order.push(table);
  };
  for (const table of tables) place(table);
  return order;
}
