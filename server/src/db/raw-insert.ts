import { DataTypes, type Model, type ModelStatic } from 'sequelize';
import { driverOfWrite } from './connection.js';

const insertInto = (table: string, columns: readonly string[]): string =>
  `INSERT INTO "${table}" (${columns.map((column) => `"${column}"`).join(', ')}) VALUES (${columns.map(() => '?').join(', ')})`;

interface Insert {
  readonly sql: string;
  readonly columns: readonly { readonly name: string; readonly isJson: boolean }[];
}
const inserts = new WeakMap<ModelStatic<Model>, Insert>();

/** One INSERT a model, with a place for each of its columns that is not numbered by the table. */
function insertOf(model: ModelStatic<Model>): Insert {
  const known = inserts.get(model);
  if (known) return known;
  const columns = Object.entries(model.getAttributes()).flatMap(([name, attribute]) =>
    attribute.autoIncrement ? [] : [{ name, isJson: attribute.type instanceof DataTypes.JSON }],
  );
  const names = columns.map(({ name }) => name);
  const insert = { sql: insertInto(model.tableName, names), columns };
  inserts.set(model, insert);
  return insert;
}

/**
 * A row written at every command, by the driver of the write under way, and the number its table gave it. Sequelize's
 * own way makes an instance, validates it and composes the statement anew: 0.8 ms a row, its `query` 0.25, this 0.1; a
 * command writes three, and the demo shop 35,000.
 * Errors: the driver's, where the table's rules refuse the row.
 */
export function rawInsert<Row extends object>(
  model: ModelStatic<Model>,
  row: Readonly<Row>,
): Promise<number> {
  const { sql, columns } = insertOf(model);
  const values = new Map<string, unknown>(Object.entries(row));
  const bind = columns.map(({ name, isJson }) => {
    const value = values.get(name) ?? null;
    return isJson && value !== null ? JSON.stringify(value) : value;
  });
  return new Promise((resolve, reject) => {
    driverOfWrite().run(sql, bind, function (error: Error | null) {
      if (error) reject(error);
      else resolve(this.lastID);
    });
  });
}

/**
 * Many rows into one table, by one prepared statement of the write under way.
 * Errors: the driver's, for the first row that the table's rules refuse.
 */
export function rawInsertAll(
  table: string,
  columns: readonly string[],
  rows: readonly (readonly unknown[])[],
): Promise<void> {
  return new Promise((resolve, reject) => {
    let refused: Error | null = null;
    const statement = driverOfWrite().prepare(insertInto(table, columns));
    for (const row of rows)
      statement.run(row, (error: Error | null) => {
        refused ??= error;
      });
    statement.finalize((error: Error | null) => {
      const wrong = refused ?? error;
      if (wrong) reject(wrong);
      else resolve();
    });
  });
}

/** What the tables' rules said of a row they refused, in SQLite's words; nothing where it is another error. */
export function wordsOfRefusal(error: unknown): string | undefined {
  // Sequelize calls every refusal of SQLite a unique constraint, a trigger's too, and has the driver's error as parent.
  const { code, message, parent } = error as Partial<
    Error & { code: string; parent: Error & { code: string } }
  >;
  const words =
    (parent?.code ?? code) === 'SQLITE_CONSTRAINT' ? (parent ?? { message }).message : undefined;
  return words?.replace(/^SQLITE_CONSTRAINT: /, '');
}
