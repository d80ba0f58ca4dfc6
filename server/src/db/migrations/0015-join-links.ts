/** Links that sign a crew's phone in, once: what is stored is the hash of what the link holds. */
export const joinLinks = {
  name: '0015-join-links',
  up: [
    `CREATE TABLE joinLink (
       id TEXT PRIMARY KEY, personId TEXT NOT NULL REFERENCES person (id), madeBy TEXT NOT NULL,
       until TEXT NOT NULL)`,
  ],
};
