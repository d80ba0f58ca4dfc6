import { randomBytes } from 'node:crypto';
import {
  SUBSCRIBED_CALENDAR_PATH,
  type CalendarAddress,
  type CalendarAddressAct,
  type CalendarAddressView,
} from '@tally-stone/contract';
import type { Database } from '../database.js';
import { sha256 } from '../record/chain.js';

/** Since when there has been an address to subscribe to. */
export async function calendarAddress({ models }: Database): Promise<CalendarAddressView> {
  const row = await models.calendarAddress.findOne();
  return row ? { since: row.madeAt } : {};
}

/** Makes a new address, which ends the one before, or only ends it. The token is told once and stored nowhere. */
export async function changeCalendarAddress(
  database: Database,
  { act }: CalendarAddressAct,
  madeBy: string | undefined,
): Promise<CalendarAddress> {
  const { models, connection } = database;
  const token = randomBytes(24).toString('base64url');
  const madeAt = new Date().toISOString();
  await connection.write(async () => {
    await models.calendarAddress.destroy({ where: {} });
    if (act === 'make')
      await models.calendarAddress.create({ id: sha256(token), madeAt, madeBy: madeBy ?? null });
  });
  if (act === 'end') return {};
  return { since: madeAt, path: SUBSCRIBED_CALENDAR_PATH.replace(':token', `${token}.ics`) };
}

/** Does this token open the calendar? */
export const opensCalendar = async ({ models }: Database, token: string): Promise<boolean> =>
  (await models.calendarAddress.findByPk(sha256(token))) !== null;
