/** Tokens of machines that use the API, each as its hash. */
export const machineTokens = {
  name: '0020-machine-token',
  up: [
    `CREATE TABLE machineToken (
      id TEXT PRIMARY KEY, hash TEXT NOT NULL UNIQUE, name TEXT NOT NULL, scopes TEXT NOT NULL,
      madeAt TEXT NOT NULL, madeBy TEXT REFERENCES person(id), seenAt TEXT)`,
  ],
};
