/** Whose hand counted a pass: what a tool takes differs from hand to hand. */
export const hands = {
  name: '0003-hands',
  up: ['ALTER TABLE pass ADD COLUMN personId TEXT REFERENCES person(id)'],
};
