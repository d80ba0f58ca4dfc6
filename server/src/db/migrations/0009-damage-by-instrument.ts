/** A nick's depth may be read with an instrument, as any reading is. */
export const damageByInstrument = {
  name: '0009-damage-by-instrument',
  up: ['ALTER TABLE damage ADD COLUMN instrument TEXT'],
};
