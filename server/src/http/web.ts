import { existsSync, readFileSync } from 'node:fs';
import { join } from 'node:path';
import express, { type Express, type RequestHandler } from 'express';
import { z } from 'zod';
import { Refusal } from '@tally-stone/cycle';

const POLICY = 'Content-Security-Policy';
const NONCE_MARK = /__CSP_NONCE__/g;

/** Files that change under the same name: asked for anew each time. */
const KEEPS_ITS_NAME = /(service-worker\.js|\.webmanifest|\.png|\.svg|\.wasm)$/;
/** What computes beside the page: one of them reads codes by WebAssembly, which the page itself may not run. */
const WORKER = /[/\\]worker-[^/\\]+\.js$/;

/** What ends so is a file; no screen's address does. */
const FILE = /\.\w+$/;

/** The scripts of each screen by its address, as the build wrote them down. */
const SCREEN_SCRIPTS = 'screen-scripts.json';
const ScreenScripts = z.record(z.string(), z.array(z.string()));

function screenScripts(webRoot: string): [address: string, scripts: readonly string[]][] {
  const path = join(webRoot, SCREEN_SCRIPTS);
  if (!existsSync(path)) return [];
  return Object.entries(ScreenScripts.parse(JSON.parse(readFileSync(path, 'utf8'))));
}

/** The built app: hashed files cached for good, the page itself with this response's nonce. */
export function mountWeb(app: Express, webRoot: string): void {
  const page = readFileSync(join(webRoot, 'index.html'), 'utf8');
  app.use(
    express.static(webRoot, {
      index: false,
      immutable: true,
      maxAge: '1y',
      setHeaders: (response, path) => {
        if (KEEPS_ITS_NAME.test(path)) response.setHeader('Cache-Control', 'no-cache');
        if (WORKER.test(path)) {
          const policy = String(response.getHeader(POLICY));
          response.setHeader(POLICY, policy.replace("script-src 'self'", "$& 'wasm-unsafe-eval'"));
        }
      },
    }),
  );
  const send = (scripts: readonly string[]): RequestHandler => {
    const links = scripts.map((name) => `<link rel="modulepreload" href="${name}">`).join('');
    const withLinks = page.replace('</head>', `${links}</head>`);
    return (request, response) => {
      // The page in place of a script that was renewed would be taken for a broken script.
      if (!request.accepts('html') || FILE.test(request.path))
        throw new Refusal('notFound', $localize`There is no such file.`);
      response
        .set('Cache-Control', 'no-store')
        .type('html')
        .send(withLinks.replace(NONCE_MARK, response.locals['nonce'] as string));
    };
  };
  // The browser asks for a screen's scripts at once, not when the app has started.
  for (const [address, scripts] of screenScripts(webRoot)) app.get(address, send(scripts));
  app.get('/{*path}', send([]));
}
