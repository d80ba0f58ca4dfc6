import { Connection, type Durability } from './db/connection.js';
import { Kept } from './db/kept.js';
import { migrate } from './db/migrate.js';
import { Heavy } from './heavy/heavy.js';
import { modelsOf, type Models } from './models.js';
import { sealOldEntries } from './record/chain.js';
import { KnownLives } from './wear/life-questions.js';
import { ShopWear } from './wear/shop-wear.js';

/** What is read from: the tables, and what was worked out from them before. */
export interface Book {
  readonly models: Models;
  /** What signed-off cycles say: until one is signed off, corrected or taken back. */
  readonly signed: Kept;
  /** How the shop works, and what is in hand: until the shop changes something about that. */
  readonly atBench: Kept;
}

/** The shop's database: its book, the write queue and the backup, what is worked out beside, and what it knows of wear. */
export interface Database extends Book {
  readonly connection: Connection;
  readonly heavy: Heavy;
  /** Decodes photos, apart from the plans: one that hangs stops nothing else. */
  readonly pictures: Heavy;
  readonly wear: ShopWear;
  readonly lives: KnownLives;
}

/** Opens a database file, creating it where there is none, and migrates it. */
export async function openDatabase(
  file: string,
  durability?: Durability,
  tell?: (words: string) => void,
): Promise<Database> {
  const connection = new Connection(file, durability);
  const models = modelsOf(connection.sequelize);
  await migrate(connection, tell);
  await sealOldEntries(connection);
  return {
    connection,
    models,
    signed: new Kept(),
    atBench: new Kept(),
    heavy: new Heavy(),
    pictures: new Heavy(),
    wear: new ShopWear(),
    lives: new KnownLives(),
  };
}
