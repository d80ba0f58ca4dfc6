/** A person's language goes with them from device to device. */
export const languageOfAPerson = {
  name: '0025-language-of-a-person',
  up: ['ALTER TABLE person ADD COLUMN language TEXT'],
};
