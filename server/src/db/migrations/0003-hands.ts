/** Whose hand counted a pass; batches; and rounds hung for the heavy end alone, whose amount says nothing. */
export const hands = {
  name: '0003-hands',
  up: [
    'ALTER TABLE pass ADD COLUMN personId TEXT REFERENCES person(id)',
    'ALTER TABLE balanceRound ADD COLUMN endOnly INTEGER NOT NULL DEFAULT 0 CHECK (endOnly IN (0, 1))',
    `CREATE TABLE batch (
      id TEXT PRIMARY KEY, madeAt TEXT NOT NULL, madeBy TEXT NOT NULL REFERENCES person(id),
      bladeIds TEXT NOT NULL CHECK (json_valid(bladeIds)), closedAt TEXT)`,
    'CREATE INDEX batchOpen ON batch (closedAt)',
  ],
};
