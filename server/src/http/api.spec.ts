import SwaggerParser from '@apidevtools/swagger-parser';
import { createConfig, lintFromString } from '@redocly/openapi-core';
import { Validator } from '@seriousme/openapi-schema-validator';
import {
  Command,
  FILE_ROUTES,
  PROBLEMS,
  ROUTES,
  type BenchView,
  type BladeList,
  type Health,
  type Problem,
} from '@tally-stone/contract';
import { CODE_CHARACTERS, nextCode } from '@tally-stone/core';
import { v7 as uuidv7 } from 'uuid';
import { TestShop } from '../testing/shop.js';

describe('the API', () => {
  let shop: TestShop;
  beforeAll(async () => {
    shop = await TestShop.open();
  });
  afterAll(() => shop.close());

  it('says that it is up', async () => {
    const { status, body } = await shop.get<Health>('/api/v1/health');
    expect(status).toBe(200);
    expect(body.status).toBe('ok');
  });

  it('allows nothing but the app itself', async () => {
    const { headers } = await shop.get('/api/v1/health');
    const policy = headers.get('content-security-policy') ?? '';
    expect(policy).toContain("default-src 'none'");
    expect(policy).toContain("script-src 'self';");
    expect(policy).not.toContain('unsafe-eval');
    expect(policy).toMatch(/style-src 'self' 'nonce-[^']+'/);
    expect(policy).not.toContain('unsafe-inline');
    expect(policy).not.toContain('upgrade-insecure-requests');
    expect(policy).not.toMatch(/https?:/);
  });

  it('describes itself in OpenAPI 3.1, which two validators and a linter find nothing wrong with', async () => {
    const { body } = await shop.get<{
      openapi: string;
      paths: Record<string, Record<string, { operationId: string; responses: object }>>;
      components: { schemas: Record<string, { discriminator?: object; properties?: object }> };
    }>('/api/v1/openapi.json');
    const { valid, errors } = await new Validator().validate(structuredClone(body));
    expect(valid).withContext(JSON.stringify(errors)).toBeTrue();
    await expectAsync(SwaggerParser.validate(structuredClone(body) as never)).toBeResolved();
    const config = await createConfig({ extends: ['recommended'] });
    const found = await lintFromString({ source: JSON.stringify(body), config });
    expect(found.map(({ message }) => message)).toEqual([]);

    // An example beside every JSON body, each of which the linter held against its schema.
    const command = body.paths['/api/v1/commands']?.['post'] as unknown as {
      requestBody: { content: Record<string, { examples: Record<string, { value: object }> }> };
    };
    const { examples = {} } = command.requestBody.content['application/json'] ?? {};
    expect(Object.keys(examples).length).toBe(Command.options.length);
    for (const [name, { value }] of Object.entries(examples))
      expect(Command.safeParse(value).error?.issues).withContext(name).toBeUndefined();

    const operations = Object.values(body.paths).flatMap((path) => Object.values(path));
    expect(operations.map(({ operationId }) => operationId).sort()).toEqual(
      [...Object.keys(ROUTES), ...Object.keys(FILE_ROUTES)].sort(),
    );
    expect(body.paths['/api/v1/commands']?.['post']?.responses).toEqual(
      jasmine.objectContaining({ 409: { $ref: '#/components/responses/Problem409' } }),
    );
    expect(body.components.schemas['CommandSent']?.discriminator).toEqual({ propertyName: 'type' });
    expect(Object.keys(body.components.schemas['TakeReadingSent']?.properties ?? {})).toContain(
      'expectedRevision',
    );
  });

  it('answers at every address that it describes, and says what a method it lacks could be', async () => {
    for (const route of [...Object.values(ROUTES), ...Object.values(FILE_ROUTES)]) {
      const path = route.path.replace(/:\w+/g, 'nothing');
      const wrong = await fetch(`${shop.serving.address}${path}`, { method: 'DELETE' });
      expect(wrong.status).withContext(path).toBe(405);
      expect(wrong.headers.get('allow')).withContext(path).toContain(route.method.toUpperCase());
    }
    expect((await shop.get('/api/bench')).status).toBe(404);
  });

  it('gives a view again only where it has changed since', async () => {
    const ask = (etag = '') =>
      fetch(`${shop.serving.address}/api/v1/people`, {
        // As browsers ask; `fetch` of Node would ask for a fresh one.
        headers: { 'If-None-Match': etag, 'Cache-Control': 'max-age=0' },
      });
    const first = await ask();
    const etag = first.headers.get('etag') ?? '';
    expect(first.status).toBe(200);
    expect(first.headers.get('cache-control')).toBe('private, no-cache');
    const same = await ask(etag);
    expect(same.status).toBe(304);
    expect(await same.text()).toBe('');
    await shop.send({ type: 'add-person', newPersonId: uuidv7(), name: 'Ola', role: 'crew' });
    const moved = await ask(etag);
    expect(moved.status).toBe(200);
    expect(moved.headers.get('etag')).not.toBe(etag);
    expect((await shop.post({})).headers.get('cache-control')).not.toContain('private');
  });

  it('gives lists in parts, and says how long they are and where the next part is', async () => {
    await shop.send({ type: 'add-person', newPersonId: uuidv7(), name: 'Tove', role: 'crew' });
    const whole = await shop.get<{ personId: string }[]>('/api/v1/people');
    expect(whole.headers.get('x-total-count')).toBe(String(whole.body.length));
    expect(whole.headers.get('link')).toBeNull();
    const parts: { personId: string }[] = [];
    let next = '/api/v1/people?limit=1';
    while (next) {
      const part = await shop.get<{ personId: string }[]>(next);
      expect(part.body.length).toBe(1);
      parts.push(...part.body);
      next = /^<([^>]+)>; rel="next"$/.exec(part.headers.get('link') ?? '')?.[1] ?? '';
    }
    expect(parts.length).toBeGreaterThan(1);
    expect(parts).toEqual(whole.body);
    expect((await shop.get('/api/v1/specs?offset=99')).body).toEqual([]);
    for (const [query, field] of [
      ['limit=0', 'limit'],
      ['limit=501', 'limit'],
      ['offset=-1', 'offset'],
      ['offset=x', 'offset'],
    ] as const)
      expect((await shop.get<Problem>(`/api/v1/mowers?${query}`)).body.errors?.[0]?.field)
        .withContext(query)
        .toBe(field);
  });

  it('answers what is not JSON with problem details and stores nothing', async () => {
    const { status, headers, body } = await shop.post<Problem>(undefined, '{ "type": ');
    expect(status).toBe(400);
    expect(headers.get('content-type')).toContain('application/problem+json');
    expect(body.type).toBe(PROBLEMS.notJson);
  });

  it('turns down a body of 5 MB', async () => {
    const { status, body } = await shop.post<Problem>({ filler: 'x'.repeat(5_000_000) });
    expect(status).toBe(413);
    expect(body.detail).toContain('nothing was stored');
  });

  it('names every field of a command that is wrong', async () => {
    const { status, body } = await shop.post({
      ...shop.envelope(),
      type: 'register-blades',
      specId: 'no-id',
      count: -2,
    });
    expect(status).toBe(422);
    expect(body.errors).toEqual([
      { field: 'specId', message: 'must be a UUID' },
      { field: 'count', message: 'must be at least 1' },
    ]);
  });

  it('knows no other address and no such id', async () => {
    expect((await shop.get('/api/v1/nothing')).status).toBe(404);
    expect((await shop.get(`/api/v1/blades/${shop.personId}`)).status).toBe(404);
    expect((await shop.get<Problem>('/api/v1/blades/abc')).body.errors?.[0]?.field).toBe('id');
    expect((await shop.get('/api/v1/codes/%E0%A4%A')).status).toBe(422);
  });

  it('names the shop and its time zone, and knows which zones there are', async () => {
    const named = { ...shop.envelope(), type: 'name-shop', name: 'Wagtail Yard' };
    const wrong = await shop.post({ ...named, timeZone: 'Mars/Olympus' });
    expect(wrong.body.errors?.[0]?.field).toBe('timeZone');
    expect((await shop.post({ ...named, timeZone: 'Pacific/Auckland' })).status).toBe(200);
    const { body } = await shop.get<Health>('/api/v1/health');
    expect([body.shop, body.timeZone]).toEqual(['Wagtail Yard', 'Pacific/Auckland']);
  });

  it('needs somebody of the shop behind every write', async () => {
    const { status, body } = await shop.post({
      ...shop.envelope(),
      personId: shop.specId,
      type: 'register-blades',
      specId: shop.specId,
      count: 1,
    });
    expect(status).toBe(422);
    expect(body.errors?.[0]?.field).toBe('personId');
  });

  describe('codes', () => {
    it('find their blade however they are typed', async () => {
      const { bladeId, code } = await shop.newBlade();
      const typed = encodeURIComponent(` ${code.slice(0, 2).toLowerCase()}-${code.slice(2)} `);
      const { body } = await shop.get<{ blade: { bladeId: string } }>(`/api/v1/codes/${typed}`);
      expect(body.blade.bladeId).toBe(bladeId);
    });

    it('with a wrong check character are told apart from unknown ones', async () => {
      const { code } = await shop.newBlade();
      const other = [...CODE_CHARACTERS].find((character) => character !== code[4]) ?? '';
      const misread = await shop.get<Problem>(`/api/v1/codes/${code.slice(0, 4)}${other}`);
      expect(misread.status).toBe(422);
      expect(misread.body.type).toBe(PROBLEMS.misreadCode);
      const unknown = await shop.get<Problem>(`/api/v1/codes/${nextCode(30_000).code}`);
      expect(unknown.status).toBe(404);
      expect(unknown.body.type).toBe(PROBLEMS.unknownCode);
      expect(unknown.body.detail).toContain('Find the blade by mower and size');
    });

    it('with a character never stamped say which one', async () => {
      const { body } = await shop.get<Problem>('/api/v1/codes/AC0KO');
      expect(body.detail).toContain('"0"');
    });
  });

  describe('commands', () => {
    it('change nothing when repeated, and give the first answer again', async () => {
      const command = {
        ...shop.envelope(),
        type: 'register-blades',
        specId: shop.specId,
        count: 2,
        place: 'Shelf',
      };
      const first = await shop.post(command);
      const again = await shop.post(command);
      expect(again.status).toBe(200);
      expect(again.body).toEqual(first.body);
      const other = await shop.post({ ...command, count: 3 });
      expect(other.status).toBe(409);
      expect(other.body.type).toBe(PROBLEMS.commandReused);
    });
  });

  describe('blades without a readable stamp', () => {
    it('are found by mower, place and size', async () => {
      const cycle = await shop.openCycle();
      await cycle.upToSignOff();
      await cycle.do({ type: 'sign-off', outcome: 'ready' });
      const [spindleId = ''] = shop.spindleIds;
      await shop.send({
        type: 'fit-blade',
        fitId: cycle.cycleId,
        bladeId: cycle.bladeId,
        spindleId,
        hoursH: 101,
      });
      const { body: mowers } = await shop.get<{ mowerId: string }[]>('/api/v1/mowers');
      const query = `mowerId=${mowers[0]?.mowerId ?? ''}&place=s0&lengthMm=530`;
      const { body } = await shop.get<BladeList>(`/api/v1/blades?${query}`);
      expect(body.blades.map(({ bladeId }) => bladeId)).toEqual([cycle.bladeId]);
      expect((await shop.get<BladeList>('/api/v1/blades?lengthMm=300')).body.total).toBe(0);
      expect((await shop.get<Problem>('/api/v1/blades?lengthMm=-3')).body.errors?.[0]?.field).toBe(
        'lengthMm',
      );

      const backwards = await shop.post({
        ...shop.envelope(),
        type: 'bring-in',
        bladeId: cycle.bladeId,
        place: 'Heap',
        hoursH: 50,
      });
      expect(backwards.body.errors?.[0]?.field).toBe('hoursH');
      await shop.send({ type: 'bring-in', bladeId: cycle.bladeId, place: 'Heap', hoursH: 110 });
      const { body: bench } = await shop.get<BenchView>('/api/v1/bench');
      expect(bench.waiting.map(({ bladeId }) => bladeId)).toContain(cycle.bladeId);
    });
  });
});
