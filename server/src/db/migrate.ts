import { SequelizeStorage, Umzug } from 'umzug';
import type { Connection } from './connection.js';
import { firstShapes } from './migrations/0001-first-shapes.js';
import { grindersAndMarks } from './migrations/0002-grinders-and-marks.js';
import { hands } from './migrations/0003-hands-batches-mornings.js';
import { balancersAndPhotos } from './migrations/0004-balancers-photos.js';
import { checkByInstrument } from './migrations/0005-check-by-instrument.js';
import { fleet } from './migrations/0006-fleet.js';
import { registerAndLife } from './migrations/0007-register-and-life.js';
import { fitsOfASpindle } from './migrations/0008-fits-of-a-spindle.js';
import { damageByInstrument } from './migrations/0009-damage-by-instrument.js';
import { figuresCorrected } from './migrations/0010-figures-corrected.js';

const MIGRATIONS = [
  firstShapes,
  grindersAndMarks,
  hands,
  balancersAndPhotos,
  checkByInstrument,
  fleet,
  registerAndLife,
  fitsOfASpindle,
  damageByInstrument,
  figuresCorrected,
];

/** Brings the schema up to date. Each migration is plain SQL, run as one transaction. */
export async function migrate(connection: Connection): Promise<void> {
  const umzug = new Umzug({
    migrations: MIGRATIONS.map(({ name, up }) => ({
      name,
      up: async () => {
        await connection.write(async (scope) => {
          for (const statement of up) {
            await connection.sequelize.query(statement, { transaction: scope.transaction });
          }
        });
      },
    })),
    storage: new SequelizeStorage({ sequelize: connection.sequelize, tableName: 'migration' }),
    logger: undefined,
  });
  await umzug.up();
}
