import { Connection, type Durability } from './connection.js';
import { migrate } from './migrate.js';
import { tablesOf, type Tables } from './tables.js';

/** The shop's database: its tables, the write queue and the backup. */
export interface Database {
  readonly connection: Connection;
  readonly tables: Tables;
}

/** Opens a database file, creating it where there is none, and migrates it. */
export async function openDatabase(
  file: string,
  durability?: Durability,
  tell?: (words: string) => void,
): Promise<Database> {
  const connection = new Connection(file, durability);
  const tables = tablesOf(connection.sequelize);
  await migrate(connection, tell);
  return { connection, tables };
}
