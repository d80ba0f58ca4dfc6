/** What large shops ask for at every sign-off: the newest finished grinds, out of an index, without reading all of them. */
export const registerAndLife = {
  name: '0007-register-and-life',
  up: [
    `ALTER TABLE cycle ADD COLUMN removedG REAL
       GENERATED ALWAYS AS (json_extract(frozen, '$.removedG.value')) VIRTUAL`,
    `ALTER TABLE cycle ADD COLUMN teaches INTEGER
       GENERATED ALWAYS AS (coalesce(json_extract(frozen, '$.teaches'), 1)) VIRTUAL`,
    'CREATE INDEX cycleBySigned ON cycle (signedAt, removedG, teaches, id)',
  ],
};
