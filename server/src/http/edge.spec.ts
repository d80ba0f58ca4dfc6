import { request as ask } from 'node:http';
import { connect } from 'node:net';
import type { CycleView, Problem } from '@tally-stone/contract';
import { v7 as uuidv7 } from 'uuid';
import { SPECS } from '../demo/specs.js';
import { TestShop } from '../testing/shop.js';
import { serve } from './serve.js';

interface Answer {
  readonly status: number;
  readonly allow?: string | undefined;
  readonly problem: Problem;
}

describe('the edge of the server', () => {
  let shop: TestShop;
  beforeAll(async () => {
    shop = await TestShop.open();
  });
  afterAll(() => shop.close());

  /** As no browser would send it: with whatever headers. */
  const send = (
    method: string,
    path: string,
    headers: Record<string, string>,
    body?: string | Buffer,
  ): Promise<Answer> =>
    new Promise((resolve, reject) => {
      const going = ask(`${shop.serving.address}${path}`, { method, headers }, (response) => {
        const parts: Buffer[] = [];
        response.on('data', (part: Buffer) => parts.push(part));
        response.on('end', () => {
          const text = Buffer.concat(parts).toString();
          resolve({
            status: response.statusCode ?? 0,
            allow: response.headers.allow,
            problem: (text.startsWith('{') ? JSON.parse(text) : {}) as Problem,
          });
        });
      });
      going.on('error', reject);
      going.end(body);
    });
  const json = { 'Content-Type': 'application/json' };
  const command = (more: object = {}): string =>
    JSON.stringify({
      ...shop.envelope(),
      type: 'name-shop',
      name: 'Pellwater',
      timeZone: 'UTC',
      ...more,
    });

  it('answers under the machine’s own names only (DNS rebinding)', async () => {
    expect((await send('GET', '/api/v1/health', { Host: 'evil.example' })).status).toBe(403);
    expect((await send('GET', '/', { Host: 'evil.example:4160' })).status).toBe(403);
    expect((await send('GET', '/api/v1/health', { Host: 'localhost' })).status).toBe(200);
    expect((await send('GET', '/api/v1/health', { Host: '[::1]:80' })).status).toBe(200);
  });

  it('takes no write from a page of another site', async () => {
    for (const headers of [
      { ...json, Origin: 'https://evil.example' },
      { ...json, Origin: 'null' },
      { ...json, 'Sec-Fetch-Site': 'cross-site' },
      { ...json, 'Sec-Fetch-Site': 'same-site' },
    ]) {
      const answer = await send('POST', '/api/v1/commands', headers, command());
      expect(answer.status).toBe(403);
      expect(answer.problem.detail).toContain('nothing was stored');
      expect((await send('POST', '/api/v1/photos', headers)).status).toBe(403);
    }
    const own = { ...json, Origin: shop.serving.address, 'Sec-Fetch-Site': 'same-origin' };
    expect((await send('POST', '/api/v1/commands', own, command())).status).toBe(200);
  });

  it('takes JSON in UTF-8 and nothing else', async () => {
    const types = ['text/plain', 'application/x-www-form-urlencoded', 'multipart/form-data'];
    for (const type of types) {
      const answer = await send('POST', '/api/v1/commands', { 'Content-Type': type }, command());
      expect(answer.status).withContext(type).toBe(415);
    }
    const odd = { 'Content-Type': 'application/json; charset=klingon' };
    expect((await send('POST', '/api/v1/commands', odd, command())).status).toBe(415);
    const packed = { ...json, 'Content-Encoding': 'martian' };
    expect((await send('POST', '/api/v1/commands', packed, command())).status).toBe(415);
  });

  it('says which methods an address takes', async () => {
    const answer = await send('DELETE', '/api/v1/people', {});
    expect([answer.status, answer.allow]).toEqual([405, 'GET']);
    expect((await send('PUT', '/api/v1/commands', json, command())).allow).toBe('POST');
    expect((await send('GET', '/api/v1/nothing', {})).status).toBe(404);
  });

  it('refuses what cannot be seen by its field, in bodies and in queries', async () => {
    for (const name of ['Pell\u0000water', '\u200B\u200B', 'Pell\u202Ewater']) {
      const { status, problem } = await send('POST', '/api/v1/commands', json, command({ name }));
      expect(status).toBe(422);
      expect(problem.errors?.[0]?.field).toBe('name');
    }
    expect((await send('GET', '/api/v1/codes/4%007', {})).status).toBe(422);
    expect((await send('GET', '/api/v1/register?text=%00', {})).status).toBe(422);
  });

  it('puts nothing of a scanned code into the stream as a line of its own', async () => {
    await shop.simulate(['scanner']);
    const body = JSON.stringify({ act: 'scan', code: 'A\u0000B' });
    expect((await send('POST', '/api/v1/instruments/scanner', json, body)).status).toBe(422);
    const lines: string[] = [];
    const events = ask(`${shop.serving.address}/api/v1/events`, (response) => {
      response.on('data', (part: Buffer) => lines.push(part.toString()));
    });
    events.end();
    await new Promise((done) => setTimeout(done, 200));
    const forged = JSON.stringify({ act: 'scan', code: 'A\n\nevent: change\ndata: {}' });
    await send('POST', '/api/v1/instruments/scanner', json, forged);
    await new Promise((done) => setTimeout(done, 200));
    events.destroy();
    expect(lines.join('')).not.toContain('\nevent: change');
  });

  it('lets no address hold more streams than a shop has windows', async () => {
    const open = Array.from({ length: 61 }, () => {
      const going = ask(`${shop.serving.address}/api/v1/events`);
      going.end();
      return new Promise<{ status: number; end: () => void }>((resolve) => {
        going.on('response', (response) =>
          resolve({ status: response.statusCode ?? 0, end: () => going.destroy() }),
        );
      });
    });
    const streams = await Promise.all(open);
    expect(streams.filter(({ status }) => status === 200).length).toBe(60);
    expect(streams.filter(({ status }) => status === 429).length).toBe(1);
    for (const { end } of streams) end();
  });

  it('says which port is in use, and what to do', async () => {
    const port = Number(new URL(shop.serving.address).port);
    await expectAsync(
      serve({ database: shop.database, host: '127.0.0.1', port }),
    ).toBeRejectedWithError(/Port \d+ is in use: stop what listens there, or start with another/);
  });

  it('lets go of who connects and says nothing', async () => {
    const { port, hostname } = new URL(shop.serving.address);
    const began = performance.now();
    await new Promise<void>((closed) => {
      const socket = connect(Number(port), hostname, () => socket.write('GET / HTTP/1.1\r\n'));
      socket.on('close', () => closed());
      socket.on('error', () => undefined);
      socket.resume();
    });
    expect(performance.now() - began).toBeLessThan(20_000);
  }, 30_000);

  it('takes no act on a blade from before it was taken up', async () => {
    const cycle = await shop.openCycle();
    const { revision } = (await shop.get<CycleView>(`/api/v1/cycles/${cycle.cycleId}`)).body;
    const early = new Date(Date.now() - 3_600_000).toISOString();
    const { status, problem } = await send(
      'POST',
      '/api/v1/commands',
      json,
      JSON.stringify({
        ...shop.envelope(),
        occurredAt: early,
        type: 'clean',
        done: true,
        cycleId: cycle.cycleId,
        expectedRevision: revision,
      }),
    );
    expect([status, problem.errors?.[0]?.field]).toEqual([422, 'occurredAt']);
  });

  it('holds no blade that is not open, nor for somebody who is not there', async () => {
    const { cycleId } = await shop.openCycle();
    const lease = (of: string, personId: string): Promise<Answer> =>
      send('POST', `/api/v1/cycles/${of}/lease`, json, JSON.stringify({ holder: 'a', personId }));
    expect((await lease(uuidv7(), shop.personId)).status).toBe(404);
    const nobody = await lease(cycleId, uuidv7());
    expect([nobody.status, nobody.problem.errors?.[0]?.field]).toEqual([422, 'personId']);
    expect((await lease(cycleId, shop.personId)).status).toBe(200);
  });

  it('takes no spec with two stations of one key', async () => {
    const [figures] = SPECS;
    const [first, second, ...rest] = figures?.stations ?? [];
    const stations = [first, { ...second, key: first?.key }, ...rest];
    const act = {
      ...shop.envelope(),
      type: 'add-spec',
      specId: uuidv7(),
      specRevisionId: uuidv7(),
      figures: { ...figures, name: 'Twice', stations },
    };
    const { status, problem } = await send('POST', '/api/v1/commands', json, JSON.stringify(act));
    expect([status, problem.errors?.[0]?.field]).toEqual([422, 'figures.stations.1.key']);
  });

  it('takes no time that cannot be, and shows nobody the words of the database', async () => {
    for (const occurredAt of [
      '0001-01-01T00:00:00Z',
      '2036-01-01T00:00:00Z',
      '9999-12-31T23:59:59Z',
    ]) {
      const { status, problem } = await send(
        'POST',
        '/api/v1/commands',
        json,
        command({ occurredAt }),
      );
      expect(status).withContext(occurredAt).toBe(422);
      expect(problem.errors?.[0]?.field).toBe('occurredAt');
    }
  });
});
