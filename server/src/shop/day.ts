import { DateTime } from 'luxon';

/** The shop's own day at an instant. */
export const shopDay = (at: string, timeZone: string): string =>
  DateTime.fromISO(at, { zone: timeZone }).toISODate() ?? at.slice(0, 10);
