import { rmSync } from 'node:fs';
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
import { kindsAsRows } from './migrations/0010-kinds-as-rows.js';
import { figuresCorrected } from './migrations/0011-figures-corrected.js';
import { rustAndWingHeight } from './migrations/0012-rust-and-wing-height.js';
import { theRecordAsItStands } from './migrations/0013-the-record-as-it-stands.js';
import { chainAndSessions } from './migrations/0014-chain-sessions-misread.js';
import { joinLinks } from './migrations/0015-join-links.js';
import { currencyByCode } from './migrations/0016-currency-by-code.js';
import { erasedCodes } from './migrations/0017-erased-codes.js';
import { calendarAddress } from './migrations/0019-calendar-address.js';
import { machineTokens } from './migrations/0020-machine-token.js';
import { standIns } from './migrations/0021-stand-ins.js';
import { upkeep } from './migrations/0022-upkeep.js';
import { trimming } from './migrations/0023-trimming.js';
import { grass } from './migrations/0024-grass.js';
import { languageOfAPerson } from './migrations/0025-language-of-a-person.js';
import { photoMats } from './migrations/0018-photo-mat.js';

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
  kindsAsRows,
  figuresCorrected,
  rustAndWingHeight,
  theRecordAsItStands,
  chainAndSessions,
  joinLinks,
  currencyByCode,
  erasedCodes,
  photoMats,
  calendarAddress,
  machineTokens,
  standIns,
  upkeep,
  trimming,
  grass,
  languageOfAPerson,
];

/** What this version knows: a database that has more is a newer one's. */
export const MIGRATION_NAMES: readonly string[] = MIGRATIONS.map(({ name }) => name);

/**
 * Brings the schema up to date. Each migration is plain SQL, run as one transaction. A file that holds something is
 * copied beside itself first; `tell` is given the sentence that says so.
 */
export async function migrate(
  connection: Connection,
  tell: (words: string) => void = () => undefined,
): Promise<void> {
  const umzug = new Umzug({
    migrations: MIGRATIONS.map(({ name, up }) => ({
      name,
      up: async () => {
        await connection.write(async () => {
          for (const statement of up) {
            await connection.sequelize.query(statement);
          }
        });
      },
    })),
    storage: new SequelizeStorage({ sequelize: connection.sequelize, tableName: 'migration' }),
    logger: undefined,
  });
  const [pending, done] = [await umzug.pending(), await umzug.executed()];
  const newest = done.at(-1);
  if (pending.length > 0 && newest) {
    const copy = `${connection.file}.before-${pending[0]?.name ?? 'migration'}`;
    rmSync(copy, { force: true });
    await connection.backUpTo(copy);
    tell(
      `This shop was made by an older version. A copy of it as it was is kept in ${copy}; now it is brought up to date.`,
    );
  }
  await umzug.up();
}
