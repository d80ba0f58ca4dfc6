import type { Problem, RackView, RegisterView } from '@tally-stone/contract';
import { named, placeSaid } from '@tally-stone/core';
import { speaking } from './language.js';
import { TestShop } from './testing/shop.js';

describe('the language of an answer', () => {
  let shop: TestShop;
  beforeAll(async () => {
    shop = await TestShop.open();
  });
  afterAll(() => shop.close());

  const ask = (path: string, headers: Record<string, string>): Promise<Response> =>
    fetch(`${shop.serving.address}${path}`, { headers });
  const inSpanish = { Cookie: 'language=es' };
  const wordsOf = async (headers: Record<string, string>): Promise<string> =>
    (
      (await (
        await ask('/api/v1/blades/01900000-0000-7000-8000-000000000000', headers)
      ).json()) as Problem
    ).detail;

  it('is that of the browser’s cookie, else what it accepts, else English', async () => {
    const english = 'There is no such blade.';
    expect(await wordsOf({})).toBe(english);
    expect(await wordsOf(inSpanish)).toBe('No existe esa cuchilla.');
    expect(await wordsOf({ 'Accept-Language': 'es-MX,es;q=0.9' })).toBe('No existe esa cuchilla.');
    expect(await wordsOf({ 'Accept-Language': 'es', Cookie: 'language=en' })).toBe(english);
    expect(await wordsOf({ Cookie: 'language=../es' })).toBe(english);
    const answer = await ask('/api/v1/health', inSpanish);
    expect(answer.headers.get('Content-Language')).toBe('es');
  });

  it('is each one’s own where many ask at once, also of what is kept between questions', async () => {
    const asked = Array.from({ length: 20 }, async (_, i) => {
      const spanish = i % 2 === 0;
      const detail = await wordsOf(spanish ? inSpanish : {});
      const rack = (await (await ask('/api/v1/rack', spanish ? inSpanish : {})).json()) as RackView;
      return { spanish, detail, refused: rack.sets.map(({ refused }) => refused ?? '').join() };
    });
    for (const { spanish, detail, refused } of await Promise.all(asked)) {
      expect(detail.includes('cuchilla')).toBe(spanish);
      expect(refused).not.toMatch(spanish ? /\bdeck\b/ : /plataforma/);
    }
  });

  it('names the field that is wrong in the words of who typed', async () => {
    const send = async (headers: Record<string, string>): Promise<string | undefined> => {
      const response = await fetch(`${shop.serving.address}/api/v1/commands`, {
        method: 'POST',
        headers: { 'Content-Type': 'application/json', ...headers },
        body: JSON.stringify({ ...shop.envelope(), type: 'add-person', name: '', role: 'crew' }),
      });
      return ((await response.json()) as Problem).errors?.find(({ field }) => field === 'name')
        ?.message;
    };
    expect(await send({})).toContain('is empty');
    expect(await send(inSpanish)).toContain('está vacío');
  });

  it('leaves the record as it is: places are stored in one language and said in the reader’s', async () => {
    const page = (await (await ask('/api/v1/register?limit=5', inSpanish)).json()) as RegisterView;
    for (const { place } of page.blades) expect(place).not.toMatch(/Banco|Clavija|Estante/);
    expect(speaking('es', () => placeSaid('Peg 7'))).toBe('Clavija 7');
    expect(speaking('es', () => placeSaid('by the kettle'))).toBe('by the kettle');
    expect(speaking('es', () => named('flap-disc'))).toBe('disco de láminas');
    expect(placeSaid('Peg 7')).toBe('Peg 7');
  });
});
