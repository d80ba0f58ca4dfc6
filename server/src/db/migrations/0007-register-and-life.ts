/**
 * What large shops ask for often, out of an index or a stored figure instead of a scan: the newest finished grinds,
 * and the last length read of each blade, kept by sign-offs and corrections. And whether a blade is known from new,
 * or came into the book used, its history unknown.
 */
export const registerAndLife = {
  name: '0007-register-and-life',
  up: [
    `ALTER TABLE cycle ADD COLUMN removedG REAL
       GENERATED ALWAYS AS (json_extract(frozen, '$.removedG.value')) VIRTUAL`,
    `ALTER TABLE cycle ADD COLUMN teaches INTEGER
       GENERATED ALWAYS AS (coalesce(json_extract(frozen, '$.teaches'), 1)) VIRTUAL`,
    'CREATE INDEX cycleBySigned ON cycle (signedAt, removedG, teaches, id)',
    `ALTER TABLE blade ADD COLUMN lastLengthMm REAL
       CHECK (lastLengthMm IS NULL OR lastLengthMm > 0)`,
    `UPDATE blade SET lastLengthMm = (
       SELECT reading.value FROM reading JOIN cycle ON cycle.id = reading.cycleId
       WHERE cycle.bladeId = blade.id AND cycle.signedAt IS NOT NULL AND reading.quantity = 'length'
       ORDER BY cycle.openedAt DESC, reading.takenAt DESC LIMIT 1)`,
    `ALTER TABLE blade ADD COLUMN knownFrom TEXT NOT NULL DEFAULT 'new'
       CHECK (knownFrom IN ('new', 'used'))`,
    'ALTER TABLE blade ADD COLUMN intakeId TEXT',
    `CREATE TABLE intakeReading (
      id TEXT PRIMARY KEY, intakeId TEXT NOT NULL, bladeId TEXT NOT NULL REFERENCES blade(id),
      quantity TEXT NOT NULL CHECK (quantity IN ('mass', 'length', 'width', 'wing')),
      "end" TEXT CHECK ("end" IN ('A', 'B')), stationKey TEXT,
      radiusMm REAL CHECK (radiusMm IS NULL OR radiusMm >= 0),
      value REAL NOT NULL CHECK (value > 0), u REAL NOT NULL CHECK (u >= 0),
      resolution REAL NOT NULL CHECK (resolution > 0),
      enteredText TEXT NOT NULL, enteredUnit TEXT NOT NULL,
      takenAt TEXT NOT NULL, takenBy TEXT NOT NULL REFERENCES person(id))`,
    'CREATE INDEX intakeReadingByHeap ON intakeReading (intakeId)',
    'CREATE INDEX bladeBySpec ON blade (specId, state)',
  ],
};
