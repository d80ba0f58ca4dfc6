/** Blades trimmed to a shorter length: what they were before, and how long each half was found after. */
export const trimming = {
  name: '0023-trimming',
  up: [
    `CREATE TABLE trimming (
       id TEXT PRIMARY KEY, bladeId TEXT NOT NULL REFERENCES blade (id),
       fromSpecId TEXT NOT NULL REFERENCES spec (id), toSpecId TEXT NOT NULL REFERENCES spec (id),
       fromLengthMm REAL NOT NULL CHECK (fromLengthMm > 0), toLengthMm REAL NOT NULL CHECK (toLengthMm > 0),
       halfAMm REAL NOT NULL CHECK (halfAMm > 0), halfBMm REAL NOT NULL CHECK (halfBMm > 0),
       u REAL NOT NULL CHECK (u > 0), resolution REAL NOT NULL CHECK (resolution > 0),
       bladeBefore TEXT NOT NULL, at TEXT NOT NULL,
       personId TEXT NOT NULL REFERENCES person (id), takenBackAt TEXT)`,
    'ALTER TABLE blade ADD COLUMN trimmedAt TEXT',
    'CREATE INDEX trimmingOfBlade ON trimming (bladeId, at)',
  ],
};
