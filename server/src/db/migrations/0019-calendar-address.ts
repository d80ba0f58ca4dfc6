/** The one address calendars may subscribe to, as the hash of its token. */
export const calendarAddress = {
  name: '0019-calendar-address',
  up: [
    `CREATE TABLE calendarAddress (
      id TEXT PRIMARY KEY, madeAt TEXT NOT NULL, madeBy TEXT REFERENCES person(id))`,
  ],
};
