/** Whose hand counted a pass; batches; mornings with the check blade; and rounds hung for the heavy end alone, whose amount says nothing. */
export const hands = {
  name: '0003-hands-batches-mornings',
  up: [
    'ALTER TABLE pass ADD COLUMN personId TEXT REFERENCES person(id)',
    'ALTER TABLE balanceRound ADD COLUMN endOnly INTEGER NOT NULL DEFAULT 0 CHECK (endOnly IN (0, 1))',
    `CREATE TABLE batch (
      id TEXT PRIMARY KEY, madeAt TEXT NOT NULL, madeBy TEXT NOT NULL REFERENCES person(id),
      bladeIds TEXT NOT NULL CHECK (json_valid(bladeIds)), closedAt TEXT)`,
    'CREATE INDEX batchOpen ON batch (closedAt)',
    `CREATE TABLE instrumentCheck (
      id TEXT PRIMARY KEY, quantity TEXT NOT NULL CHECK (quantity IN ('mass', 'width', 'level')),
      value REAL NOT NULL CHECK (value > 0), u REAL NOT NULL CHECK (u >= 0),
      readBy TEXT NOT NULL REFERENCES person(id), readAt TEXT NOT NULL)`,
  ],
};
