import { chmodSync, existsSync, mkdirSync, readFileSync, writeFileSync } from 'node:fs';
import { createRequire } from 'node:module';
import { hostname, networkInterfaces } from 'node:os';
import { join, resolve } from 'node:path';
import { install, ROOT } from './workspace.mjs';

/**
 * `npm run certificate [-- FOLDER]`: a local authority, made once, and a certificate by it for this machine's names.
 * docs/running.md says how phones come to trust it.
 */
await install();
const folder = resolve(process.argv[2] ?? join(ROOT, 'data', 'tls'));
const { createCA, createCert } = createRequire(join(ROOT, 'server', 'package.json'))('mkcert');
mkdirSync(folder, { recursive: true });
const path = (name) => join(folder, name);
let authority;
if (existsSync(path('authority.key'))) {
  authority = {
    key: readFileSync(path('authority.key'), 'utf8'),
    cert: readFileSync(path('authority.crt'), 'utf8'),
  };
} else {
  authority = await createCA({
    organization: 'Tally Stone, this shop',
    countryCode: 'XX',
    state: '-',
    locality: '-',
    validity: 3650,
  });
  writeFileSync(path('authority.key'), authority.key);
  writeFileSync(path('authority.crt'), authority.cert);
}
const names = [
  'localhost',
  '127.0.0.1',
  hostname(),
  `${hostname()}.local`,
  ...Object.values(networkInterfaces()).flatMap((each) =>
    (each ?? [])
      .filter(({ family, internal }) => family === 'IPv4' && !internal)
      .map(({ address }) => address),
  ),
];
const { cert, key } = await createCert({
  domains: [...new Set(names)],
  validity: 397,
  ca: authority,
});
writeFileSync(path('server.key'), key);
writeFileSync(path('server.crt'), `${cert}\n${authority.cert}`);
for (const secret of ['authority.key', 'server.key']) chmodSync(path(secret), 0o600);
console.log(
  `A certificate for ${names.join(', ')} is in ${folder}.\nStart with: npm start -- --cert ${path('server.crt')} --key ${path('server.key')}\nPut ${path('authority.crt')} on the phones once; docs/running.md says how.`,
);
