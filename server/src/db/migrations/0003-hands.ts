/** Whose hand counted a pass; and rounds hung for the heavy end alone, whose amount says nothing. */
export const hands = {
  name: '0003-hands',
  up: [
    'ALTER TABLE pass ADD COLUMN personId TEXT REFERENCES person(id)',
    'ALTER TABLE balanceRound ADD COLUMN endOnly INTEGER NOT NULL DEFAULT 0 CHECK (endOnly IN (0, 1))',
  ],
};
