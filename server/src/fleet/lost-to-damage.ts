import type { RetireReason } from '@tally-stone/core';
import { QueryTypes } from 'sequelize';
import type { Database } from '../database.js';
import { inSql } from '../db/in-sql.js';

/** Blades lost to damage per hour of a blade on a mower, before a shop has mown enough. Common practice, no source. */
const USUAL_PER_HOUR = 0.0003;
/** The usual counts as so many hours of blades beside a shop's own. */
const WORTH_HOURS = 1000;

/**
 * How many blades were retired for these reasons and not taken back, of those that had mown here, in SQL: a blade that came
 * cracked says nothing of this shop's mowing.
 */
export const lostHere = (reasons: readonly RetireReason[]): string => `
  (SELECT count(*) FROM signedCycle
   WHERE outcome = 'retired' AND retireReason IN (${inSql(reasons)}) AND NOT takenBack
     AND EXISTS (SELECT 1 FROM fit WHERE fit.bladeId = signedCycle.bladeId AND fit.toHoursH > fit.fromHoursH))`;

/**
 * Blades lost for these reasons per hour of a blade on a mower, the usual share counting as so many hours with the shop's
 * own; as none where a shop's own grinds are replayed.
 */
export async function lostPerHour(
  { connection }: Database,
  reasons: readonly RetireReason[],
  worthHours = WORTH_HOURS,
): Promise<number> {
  const [found] = await connection.sequelize.query<{ lost: number; hours: number }>(
    `SELECT ${lostHere(reasons)} AS lost,
       (SELECT total(toHoursH - fromHoursH) FROM fit WHERE "to" IS NOT NULL) AS hours`,
    { type: QueryTypes.SELECT },
  );
  const { lost, hours } = found ?? { lost: 0, hours: 0 };
  return (lost + USUAL_PER_HOUR * worthHours) / Math.max(1, hours + worthHours);
}
