/** Which instrument read the check blade, and to what step. */
export const checkByInstrument = {
  name: '0005-check-by-instrument',
  up: [
    'ALTER TABLE instrumentCheck ADD COLUMN resolution REAL CHECK (resolution > 0)',
    'ALTER TABLE instrumentCheck ADD COLUMN instrumentKey TEXT',
  ],
};
