import { mkdtempSync, rmSync, writeFileSync } from 'node:fs';
import { once } from 'node:events';
import type { AddressInfo } from 'node:net';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { Refusal } from '@tally-stone/cycle';
import express, { type ErrorRequestHandler } from 'express';
import { mountWeb } from './web.js';

describe('the page of the built app', () => {
  const folder = mkdtempSync(join(tmpdir(), 'tally-web-'));
  const page =
    '<html><head></head><body><ts-app ngCspNonce="__CSP_NONCE__"></ts-app></body></html>';
  writeFileSync(join(folder, 'index.html'), page);
  afterAll(() => {
    rmSync(folder, { recursive: true });
  });

  async function asked(
    path: string,
    scripts: Readonly<Record<string, readonly string[]>> = {},
  ): Promise<string> {
    writeFileSync(join(folder, 'screen-scripts.json'), JSON.stringify(scripts));
    const app = express();
    app.use((_request, response, next) => {
      response.locals['nonce'] = 'once';
      next();
    });
    mountWeb(app, folder);
    app.use(((error: unknown, _request, response, next) => {
      if (error instanceof Refusal && error.kind === 'notFound') response.sendStatus(404);
      else next(error);
    }) satisfies ErrorRequestHandler);
    const server = app.listen(0, '127.0.0.1');
    await once(server, 'listening');
    const { port } = server.address() as AddressInfo;
    try {
      const headers = { accept: 'text/html' };
      const answer = await fetch(`http://127.0.0.1:${port}${path}`, { headers });
      return answer.ok ? await answer.text() : String(answer.status);
    } finally {
      server.close();
    }
  }

  it('is the same for every address that the build wrote no scripts down for', async () => {
    expect(await asked('/blade/7')).toBe(page.replace('__CSP_NONCE__', 'once'));
  });

  it('is not sent in place of a file that is not there, as after the app was renewed', async () => {
    expect(await asked('/chunk-AbC123.js')).toBe('404');
    expect(await asked('/media/face.woff2')).toBe('404');
    expect(await asked('/mower/7')).toBe(page.replace('__CSP_NONCE__', 'once'));
  });

  it('asks at once for the scripts of the screen that was asked for, and for no other’s', async () => {
    const scripts = { '/blade/:bladeId': ['life.js', 'shared.js'], '/rack': ['rack.js'] };
    const preloads = async (path: string): Promise<unknown> =>
      [...(await asked(path, scripts)).matchAll(/<link rel="modulepreload" href="([^"]+)">/g)].map(
        ([, name]) => name,
      );
    expect(await preloads('/blade/7')).toEqual(['life.js', 'shared.js']);
    expect(await preloads('/rack')).toEqual(['rack.js']);
    expect(await preloads('/')).toEqual([]);
    expect(await preloads('/no/such/screen')).toEqual([]);
  });
});
