/** Cut tips looked at close: of which set, at which hours of its edge, on which ground. */
export const grass = {
  name: '0024-grass',
  up: [
    `CREATE TABLE grassLook (
       id TEXT PRIMARY KEY, mowerId TEXT NOT NULL REFERENCES mower (id),
       fittedAt TEXT NOT NULL, hoursOnEdge REAL NOT NULL CHECK (hoursOnEdge >= 0),
       turf TEXT NOT NULL, soil TEXT NOT NULL, file TEXT, tips TEXT NOT NULL,
       torn INTEGER NOT NULL CHECK (torn >= 0), clean INTEGER NOT NULL CHECK (clean >= 0),
       at TEXT NOT NULL, personId TEXT NOT NULL REFERENCES person (id), takenBackAt TEXT)`,
    'CREATE INDEX grassLookOfMower ON grassLook (mowerId, at)',
  ],
};
