/** Codes of blades that were taken in by a list and taken back with it: stamped or printed by then, they are never given again. */
export const erasedCodes = {
  name: '0017-erased-codes',
  up: [`CREATE TABLE erasedCode (code TEXT PRIMARY KEY, serial INTEGER NOT NULL UNIQUE)`],
};
