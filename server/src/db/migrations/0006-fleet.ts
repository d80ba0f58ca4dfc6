import { MOMENT } from './0001-first-shapes.js';

/**
 * Decks as measured, strikes, complaints of the cut, and for each deck one row of where its set stands: the due
 * list reads that row, and every command that changes it keeps it. Meter segments may carry less than nothing:
 * a second-hand meter shows more hours than the mower has run.
 */
export const fleet = {
  name: '0006-fleet',
  up: [
    'ALTER TABLE deck ADD COLUMN figures TEXT CHECK (figures IS NULL OR json_valid(figures))',
    `CREATE TABLE meterWider (
      id TEXT PRIMARY KEY, mowerId TEXT NOT NULL REFERENCES mower(id), "from" TEXT NOT NULL, "to" TEXT,
      startReadingH REAL NOT NULL CHECK (startReadingH >= 0),
      lastReadingH REAL NOT NULL CHECK (lastReadingH >= startReadingH), carriedH REAL NOT NULL)`,
    `INSERT INTO meterWider SELECT id, mowerId, "from", "to", startReadingH, lastReadingH, carriedH
      FROM hourMeterSegment`,
    'DROP TABLE hourMeterSegment',
    'ALTER TABLE meterWider RENAME TO hourMeterSegment',
    `CREATE UNIQUE INDEX oneMeterPerMower ON hourMeterSegment (mowerId) WHERE "to" IS NULL`,
    `CREATE TABLE strike (
      id TEXT PRIMARY KEY, mowerId TEXT NOT NULL REFERENCES mower(id), what TEXT NOT NULL,
      hard TEXT NOT NULL CHECK (hard IN ('glanced', 'hard', 'stopped')),
      vibration INTEGER NOT NULL CHECK (vibration IN (0, 1)),
      at TEXT NOT NULL CHECK (${MOMENT('at')}), personId TEXT NOT NULL REFERENCES person(id),
      clearedAt TEXT, clearedBy TEXT REFERENCES person(id),
      CHECK ((clearedAt IS NULL) = (clearedBy IS NULL)))`,
    'CREATE INDEX openStrikes ON strike (mowerId) WHERE clearedAt IS NULL',
    `CREATE TABLE cutReport (
      id TEXT PRIMARY KEY, mowerId TEXT NOT NULL REFERENCES mower(id),
      signs TEXT NOT NULL CHECK (json_valid(signs)), at TEXT NOT NULL CHECK (${MOMENT('at')}),
      personId TEXT NOT NULL REFERENCES person(id))`,
    `CREATE TABLE deckDue (
      deckId TEXT PRIMARY KEY REFERENCES deck(id), mowerId TEXT NOT NULL REFERENCES mower(id),
      bladesOn INTEGER NOT NULL CHECK (bladesOn >= 0), fittedAt TEXT, fittedAtH REAL,
      hoursH REAL NOT NULL, readAt TEXT NOT NULL, hoursPerDay REAL NOT NULL CHECK (hoursPerDay >= 0),
      struck INTEGER NOT NULL CHECK (struck IN (0, 1)), complaints INTEGER NOT NULL CHECK (complaints >= 0))`,
    'CREATE INDEX deckDueOfMower ON deckDue (mowerId)',
    `INSERT INTO deckDue
      SELECT deck.id, deck.mowerId, count(fit.id), min(fit."from"), min(fit.fromHoursH),
        meter.carriedH + meter.lastReadingH, coalesce(max(fit."from"), meter."from"), 0, 0, 0
      FROM deck JOIN hourMeterSegment AS meter ON meter.mowerId = deck.mowerId AND meter."to" IS NULL
        LEFT JOIN spindle ON spindle.deckId = deck.id
        LEFT JOIN fit ON fit.spindleId = spindle.id AND fit."to" IS NULL
      GROUP BY deck.id`,
  ],
};
