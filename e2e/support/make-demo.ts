import { mkdtempSync, rmSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { ShopProcess } from './shop-process';

/** Makes the demo shop once, the way a first start does; every test takes a copy. */
export default async function makeDemo(): Promise<() => void> {
  // Made by the test runner already, while other tests ran.
  if (process.env['TALLY_DEMO']) return () => undefined;
  const folder = mkdtempSync(join(tmpdir(), 'tally-stone-demo-'));
  process.env['TALLY_DEMO'] = folder;
  await ShopProcess.generate(folder);
  return () => {
    rmSync(folder, { recursive: true, force: true });
  };
}
