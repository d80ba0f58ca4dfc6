import { mkdtempSync, rmSync } from 'node:fs';
import { get } from 'node:https';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { createCA, createCert } from 'mkcert';
import { openDatabase } from '../database.js';
import { serve } from './serve.js';

describe('a shop over HTTPS', () => {
  it('is served by a certificate of its own authority, and says to come back by HTTPS only', async () => {
    const folder = mkdtempSync(join(tmpdir(), 'tally-stone-tls-'));
    const ca = await createCA({
      organization: 'Test',
      countryCode: 'XX',
      state: '-',
      locality: '-',
      validity: 2,
    });
    const tls = await createCert({ domains: ['localhost', '127.0.0.1'], validity: 2, ca });
    const database = await openDatabase(join(folder, 'shop.sqlite'));
    const serving = await serve({ database, host: '127.0.0.1', port: 0, tls });
    expect(serving.address).toMatch(/^https:/);
    const answer = await new Promise<{ status: number; strict: string }>((resolve, reject) => {
      get(`${serving.address}/api/v1/ready`, { ca: ca.cert, agent: false }, (response) => {
        response.resume();
        resolve({
          status: response.statusCode ?? 0,
          strict: response.headers['strict-transport-security'] ?? '',
        });
      }).on('error', reject);
    });
    expect(answer.status).toBe(200);
    expect(answer.strict).toContain('max-age=31536000');
    await serving.close();
    rmSync(folder, { recursive: true, force: true });
  }, 30_000);
});
