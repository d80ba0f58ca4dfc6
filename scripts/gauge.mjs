import { readFileSync } from 'node:fs';
import { parseArgs } from 'node:util';
import { build, install } from './workspace.mjs';

/**
 * Passes what gauges on serial ports say on to the shop: `npm run gauge -- gauges.json`. The file lists them (see
 * docs/instruments.md); where people sign in, `TALLY_TOKEN` is a machine's token for gauges.
 */
const { positionals, values } = parseArgs({
  allowPositionals: true,
  options: { shop: { type: 'string', default: 'http://127.0.0.1:4160' } },
});
const [file] = positionals;
if (!file) {
  console.error('Say which file lists the gauges: npm run gauge -- gauges.json');
  process.exit(1);
}
await install();
build();
const { Gauge, GaugeConfig } = await import('../server/dist/gauge/bridge.js');
const token = process.env['TALLY_TOKEN'];

async function send(key, lines) {
  const response = await fetch(`${values.shop}/api/v1/instruments/${key}/lines`, {
    method: 'POST',
    headers: {
      'Content-Type': 'application/json',
      ...(token && { Authorization: `Bearer ${token}` }),
    },
    body: JSON.stringify({ lines }),
    signal: AbortSignal.timeout(5000),
  });
  if (!response.ok) throw new Error(await response.text());
}

const gauges = JSON.parse(readFileSync(file, 'utf8')).map(
  (each) => new Gauge(GaugeConfig.parse(each), send, (words) => console.log(words)),
);
for (const gauge of gauges) gauge.start();
for (const signal of ['SIGINT', 'SIGTERM'])
  process.once(signal, () => {
    for (const gauge of gauges) gauge.close();
    process.exit();
  });
