/**
 * What a deck's hours were before the last reading, so that a misread one can be undone; the journal's chain of hashes;
 * sessions, and wrong PINs remembered over a restart.
 */
export const chainAndSessions = {
  name: '0014-chain-sessions-misread',
  up: [
    'ALTER TABLE deckDue ADD COLUMN beforeH REAL',
    'ALTER TABLE deckDue ADD COLUMN beforeAt TEXT',
    'ALTER TABLE deckDue ADD COLUMN beforePerDay REAL',
    // Entries from before the chain have none; they are sealed as a whole by the seal.
    'ALTER TABLE journal ADD COLUMN hash TEXT',
    'CREATE TABLE journalSeal (upTo INTEGER PRIMARY KEY, hash TEXT NOT NULL)',
    `CREATE TRIGGER journalSealNoUpdate BEFORE UPDATE ON journalSeal
       BEGIN SELECT RAISE(ABORT, 'the seal is never changed'); END`,
    `CREATE TRIGGER journalSealNoDelete BEFORE DELETE ON journalSeal
       BEGIN SELECT RAISE(ABORT, 'the seal is never broken'); END`,
    `CREATE TABLE session (
       id TEXT PRIMARY KEY, personId TEXT NOT NULL REFERENCES person (id), device TEXT NOT NULL,
       address TEXT NOT NULL, createdAt TEXT NOT NULL, seenAt TEXT NOT NULL)`,
    `CREATE TABLE wrongPin (
       personId TEXT NOT NULL, address TEXT NOT NULL, wrong INTEGER NOT NULL, untilMs REAL NOT NULL,
       PRIMARY KEY (personId, address))`,
  ],
};
