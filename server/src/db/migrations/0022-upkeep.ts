/** What was looked at on a mower while its blades were off. */
export const upkeep = {
  name: '0022-upkeep',
  up: [
    `CREATE TABLE upkeep (
       id TEXT PRIMARY KEY, mowerId TEXT NOT NULL REFERENCES mower (id),
       kind TEXT NOT NULL, found TEXT NOT NULL CHECK (found IN ('in-order', 'done', 'wants-work')),
       note TEXT, at TEXT NOT NULL, hoursH REAL NOT NULL,
       personId TEXT NOT NULL REFERENCES person (id))`,
    'CREATE INDEX upkeepOfMower ON upkeep (mowerId, kind, at)',
  ],
};
