import { createRequire } from 'node:module';
import { createCanvas } from '@napi-rs/canvas';
import type { Problem } from '@tally-stone/contract';
import {
  BinaryBitmap,
  DataMatrixReader,
  HybridBinarizer,
  RGBLuminanceSource,
} from '@zxing/library';
import { getDocument } from 'pdfjs-dist/legacy/build/pdf.mjs';
import readXlsxFile from 'read-excel-file/node';
import Papa from 'papaparse';
import { v7 as uuidv7 } from 'uuid';
import { shopOf } from '../shop/look-up.js';
import { TestShop, type TestCycle } from '../testing/shop.js';

/** As the package that writes a PDF has it: what an import gives cannot be watched. */
const fs = createRequire(import.meta.url)('node:fs') as {
  readFileSync: (path: string) => unknown;
};

/** The text of a PDF, page by page, by another package than wrote it. */
async function textOf(bytes: ArrayBuffer) {
  const pdf = await getDocument({ data: new Uint8Array(bytes), verbosity: 0 }).promise;
  const pages: string[] = [];
  for (let i = 1; i <= pdf.numPages; i++) {
    const { items } = await (await pdf.getPage(i)).getTextContent();
    pages.push(items.map((item) => ('str' in item ? item.str : '')).join(' '));
  }
  const tree = await (await pdf.getPage(1)).getStructTree();
  const { info } = await pdf.getMetadata();
  return { text: pages.join('\n').replace(/\s+/g, ' '), tree: JSON.stringify(tree), info };
}

/** The first sheet of a workbook, by another package than wrote it. */
const rowsOf = async (answer: Response) =>
  (await readXlsxFile(Buffer.from(await answer.arrayBuffer())))[0]?.data ?? [];

describe('what a shop takes away', () => {
  let shop: TestShop;
  let signed: TestCycle;
  let fresh: { readonly code: string };
  beforeAll(async () => {
    shop = await TestShop.open();
    signed = await shop.openCycle();
    await signed.upToSignOff();
    await signed.do({ type: 'sign-off', outcome: 'hold' });
    fresh = await shop.newBlade();
    const scrapped = await shop.openCycle();
    await scrapped.do({ type: 'clean', done: true });
    await scrapped.do({ type: 'judge-crack', found: true });
    await scrapped.do({
      type: 'sign-off',
      outcome: 'retired',
      retireReason: 'crack',
      disposal: 'cut',
    });
  }, 60_000);
  afterAll(() => shop.close());

  const fetched = (path: string) => fetch(shop.serving.address + path);

  it('is a blade’s passport: what was done, by whom, which limit says what, and where the record ends', async () => {
    const answer = await fetched(`/api/v1/blades/${signed.bladeId}/passport.pdf`);
    expect(answer.headers.get('content-type')).toBe('application/pdf');
    const { text, tree, info } = await textOf(await answer.arrayBuffer());
    expect(text).toContain(`Blade ${signed.code}`);
    expect(text).toContain('8.0 ± 0.3');
    expect(text).toContain('0.50 / 0.50');
    expect(text).toContain('30.0° / 30.0°'.replaceAll('°', ''));
    expect(text).toContain('Ash');
    expect(text).toMatch(/on hold: /);
    expect(text).toMatch(/record ends at entry \d+, [0-9a-f]{16}/);
    expect(text).toContain('page 1 of');
    expect(text).toContain('licensed practice');
    for (const role of ['"H1"', '"H2"', '"Figure"', '"Table"', '"TH"', '"TD"'])
      expect(tree).withContext(role).toContain(role);
    expect(info).toEqual(
      jasmine.objectContaining({ Title: `Blade ${signed.code}`, Language: 'en-GB' }),
    );
  });

  it('is written in the reader’s units', async () => {
    const answer = await fetched(`/api/v1/blades/${signed.bladeId}/passport.pdf?units=inch-ounce`);
    const { text } = await textOf(await answer.arrayBuffer());
    expect(text).toContain('Metal, oz');
    expect(text).toContain('0.282 ± 0.010');
    expect(text).not.toMatch(/\d mm\b/);
    expect((await fetched(`/api/v1/blades/${signed.bladeId}/passport.pdf?units=ell`)).status).toBe(
      422,
    );
    expect((await fetched('/api/v1/blades/nobody/passport.pdf')).status).toBe(404);
  });

  it('is lists that spreadsheets read as numbers and days, and take for no formula', async () => {
    const csv = Papa.parse<Record<string, string>>(
      (await (await fetched('/api/v1/sheets/register.csv')).text()).replace('\uFEFF', ''),
      { header: true, skipEmptyLines: true },
    );
    expect(csv.data.length).toBe(3);
    expect(csv.data.map((row) => row['State']).sort()).toEqual(['new', 'on hold', 'retired']);
    const book = await fetched('/api/v1/sheets/register.xlsx?state=hold');
    const [heads, row, ...more] = await rowsOf(book);
    expect(more).toEqual([]);
    expect(row?.[heads?.indexOf('Grinds') ?? 0]).toBe(1);
    expect(row?.[0]).toBe(signed.code);
    // With the columns that are shown, in the register's order.
    const chosen = await fetched('/api/v1/sheets/register.xlsx?state=hold&columns=last-grind,left');
    const [shown, held] = await rowsOf(chosen);
    expect(shown?.slice(0, 5)).toEqual([
      'Code',
      'Grinds left',
      'at the least',
      'at the most',
      'Last ground',
    ]);
    expect(held?.[1]).toBeGreaterThanOrEqual(Number(held?.[2]));
    expect((await fetched('/api/v1/sheets/register.csv?columns=weight')).status).toBe(422);
  });

  it('is labels whose codes a reader finds at 200 dots an inch, beginning where the sheet is still whole', async () => {
    const codes = [signed.code, fresh.code];
    for (const [sheet, leftMm, topMm, widthMm, heightMm] of [
      ['3 × 8, 70 × 37 mm, A4', 140, 0.5, 22, 37],
      ['5 × 13, 38.1 × 21.2 mm, A4', 85.95, 10.7, 16.5, 21.2],
    ] as const) {
      const query = new URLSearchParams({ codes: codes.join(), sheet, skip: '2' });
      const answer = await fetched(`/api/v1/labels.pdf?${query.toString()}`);
      const pdf = await getDocument({
        data: new Uint8Array(await answer.arrayBuffer()),
        verbosity: 0,
      }).promise;
      const page = await pdf.getPage(1);
      const viewport = page.getViewport({ scale: 200 / 72 });
      const canvas = createCanvas(viewport.width, viewport.height);
      const context = canvas.getContext('2d');
      await page.render({ canvasContext: context as never, viewport }).promise;
      const dots = (mm: number): number => Math.round((mm * 200) / 25.4);
      // The first label is the third of the sheet; this is as much of it as its code and the white around that.
      const { data, width, height } = context.getImageData(
        dots(leftMm),
        dots(topMm),
        dots(widthMm),
        dots(heightMm),
      );
      const grey = Uint8ClampedArray.from(
        { length: width * height },
        (_, i) => data[4 * i + 1] ?? 0,
      );
      const found = new DataMatrixReader().decode(
        new BinaryBitmap(new HybridBinarizer(new RGBLuminanceSource(grey, width, height))),
      );
      expect(found.getText()).withContext(sheet).toBe(signed.code);
    }
    const { text } = await textOf(
      await (await fetched('/api/v1/labels.pdf?codes=' + codes.join())).arrayBuffer(),
    );
    for (const code of codes) expect(text).toContain(code);
    await shop.measureDeck();
    const pegs = await textOf(await (await fetched('/api/v1/labels.pdf')).arrayBuffer());
    expect(pegs.text).toContain('Peg 1');
    expect(pegs.text).toContain('Wagtail');
    expect((await fetched('/api/v1/labels.pdf?codes=NOPE')).status).toBe(422);
    expect((await fetched('/api/v1/labels.pdf?sheet=mine')).status).toBe(422);
    expect((await fetched('/api/v1/labels.pdf?skip=-1')).status).toBe(422);
  });

  it('adds up what the bench spent, by the mower a blade came off and by its site', async () => {
    const lines = (await (await fetched('/api/v1/sheets/costs.csv')).text())
      .replace('\uFEFF', '')
      .trim()
      .split('\r\n')
      .map((line) => line.split(','));
    const { prices } = (await shopOf(shop.database)).rules;
    expect(lines[0]?.slice(4)).toEqual(
      ['Bench', 'Abrasive', 'New blades', 'Together']
        .map((head) => `"${head}, ${prices.currency}"`)
        .flatMap((head) => head.split(',')),
    );
    const [off, all] = lines.slice(1);
    // One ground and on hold, one cracked and scrapped; neither was ever on a mower.
    expect(off?.slice(0, 4)).toEqual(['on no mower', '', '1', '1']);
    const bench = (prices.minutesPerBlade * prices.benchHour) / 60;
    const together = bench + prices.abrasivePerGrind + prices.blade;
    expect(Number(off?.at(-1))).toBeCloseTo(together, 2);
    expect(all?.slice(0, 4)).toEqual(['All mowers', 'on no mower', '1', '1']);
  });

  it('says of scrap what retired it, and of decks when they are due', async () => {
    const scrap = await rowsOf(await fetched('/api/v1/sheets/scrap.xlsx'));
    expect(scrap[1]?.[4]).toBe('Cracked');
    expect(scrap[1]?.[2]).toBeInstanceOf(Date);
    await shop.send({
      type: 'add-mower',
      mowerId: uuidv7(),
      name: '=HYPERLINK("x")',
      energy: 'petrol',
      site: '+44, yard',
      bladeSpeedRpm: 3000,
      hoursH: 0,
      spindles: [{ spindleId: uuidv7(), position: 'middle' }],
    });
    const due = await (await fetched('/api/v1/sheets/due.csv')).text();
    expect(due).toContain('Wagtail,Test ground');
    // In CSV a text that begins like a formula is marked as text; in XLSX it is one.
    expect(due).toContain(`"'=HYPERLINK(""x"")","'+44, yard"`);
    const book = await rowsOf(await fetched('/api/v1/sheets/due.xlsx'));
    expect(book.map(([mower]) => mower)).toContain('=HYPERLINK("x")');
    expect((await fetched('/api/v1/sheets/secrets.csv')).status).toBe(404);
    expect((await fetched('/api/v1/sheets/due.exe')).status).toBe(404);
  });

  it('is lists on paper, and what to buy at what it costs', async () => {
    const scrap = await fetched('/api/v1/sheets/scrap.pdf');
    expect(scrap.headers.get('content-type')).toBe('application/pdf');
    expect((await textOf(await scrap.arrayBuffer())).text).toContain('Cracked');
    const inches = await fetched('/api/v1/sheets/register.pdf?units=inch');
    const { text } = await textOf(await inches.arrayBuffer());
    expect(text).toContain('New length, in');
    expect(text).toContain('20.984');
    const [heads, row] = await rowsOf(
      await fetched('/api/v1/sheets/purchases.xlsx?assumed=rule&months=3'),
    );
    const { prices } = (await shopOf(shop.database)).rules;
    expect(heads?.length).toBe(9);
    const [buy, each, together] = (row ?? []).slice(-3).map(Number);
    expect(each).toBe(prices.blade);
    expect(together).toBeCloseTo((buy ?? NaN) * prices.blade, 2);
    expect((row ?? []).slice(2, 5).reduce<number>((sum, month) => sum + Number(month), 0)).toBe(
      buy ?? NaN,
    );
    expect((await fetched('/api/v1/sheets/purchases.csv?months=0')).status).toBe(422);
  });

  it('opens its fonts once for however many lines, and no list on paper is endless', async () => {
    const opened = spyOn(fs, 'readFileSync').and.callThrough();
    const { toPdf } = await import('./sheets.js');
    const lines = (count: number) => ({
      name: 'Blades',
      heads: ['Code', 'Grinds'],
      rows: Array.from({ length: count }, (_, i) => [`44${i}`, i]),
    });
    const as = { shop: await shopOf(shop.database), at: '2026-11-02T08:00:00Z' };
    const bytes = await toPdf(lines(80), { ...as, system: 'metric' });
    const fonts = opened.calls.allArgs().filter(([path]) => String(path).endsWith('.ttf'));
    expect(fonts.length).toBeGreaterThan(0);
    expect(fonts.length).toBeLessThanOrEqual(4);
    expect((await textOf(new Uint8Array(bytes).buffer)).text).toContain('4479');
    await expectAsync(toPdf(lines(2001), { ...as, system: 'metric' })).toBeRejectedWithError(
      /2001 lines, more than the 2000.*CSV or XLSX/,
    );
  });

  it('reports on a season: what the bench did by month and mower, and why blades went', async () => {
    const answer = await fetched('/api/v1/season.pdf');
    expect(answer.headers.get('content-type')).toBe('application/pdf');
    const { text, tree } = await textOf(await answer.arrayBuffer());
    // One held, one scrapped for a crack; 8.0 g went off the first.
    expect(text).toContain('1 grind took off 8 g of steel. 1 blade was retired');
    expect(text).toMatch(/[A-Z][a-z]{2} \d{4}\s+1\s+8\s+0\s+1\s+1/);
    expect(text).toContain('Crack');
    expect(tree).toContain('"TH"');
    const before = await fetched('/api/v1/season.pdf?from=2001-01-01&to=2001-12-31');
    expect((await textOf(await before.arrayBuffer())).text).toContain('No blade was signed off');
    for (const [query, field] of [
      ['from=2026-05-01&to=2026-04-01', 'from'],
      ['to=yesterday', 'to'],
    ] as const) {
      const refused = await fetched(`/api/v1/season.pdf?${query}`);
      expect(refused.status).toBe(422);
      expect(((await refused.json()) as Problem).errors?.[0]?.field).toBe(field);
    }
  });

  it('reports on the set of a mower: which blades, what was done to them last, and in the reader’s units', async () => {
    const shop = await TestShop.open();
    const fetched = (of: string) => fetch(shop.serving.address + of);
    const path = `/api/v1/mowers/${shop.mowerId}/set.pdf`;
    expect((await textOf(await (await fetched(path)).arrayBuffer())).text).toContain(
      'No blades are on it.',
    );
    const cycle = await shop.openCycle();
    await cycle.upToSignOff();
    await cycle.do({ type: 'sign-off', outcome: 'ready' });
    const [spindleId] = shop.spindleIds;
    const { bladeId } = cycle;
    await shop.send({ type: 'fit-blade', fitId: uuidv7(), bladeId, spindleId, hoursH: 100 });
    const view = await cycle.view();
    const { text, tree } = await textOf(await (await fetched(`${path}?units=inch`)).arrayBuffer());
    expect(text).toContain('Blades on Wagtail');
    expect(text).toContain('1 of 2 blades on since');
    expect(text).toContain(view.blade.code);
    expect(text).toContain('Length, in');
    expect(text).toContain('Last at the bench');
    expect(text).toContain('Never fit a blade that failed a check.');
    for (const role of ['H1', 'H2', 'Table']) expect(tree).toContain(`"${role}"`);
    expect((await fetched(`/api/v1/mowers/${uuidv7()}/set.pdf`)).status).toBe(404);
    // For a customer: every mower that works at their site.
    const atSite = await fetched('/api/v1/sets.pdf?site=Test%20ground');
    const { text: all } = await textOf(await atSite.arrayBuffer());
    expect(all).toContain('Blades at Test ground');
    expect(all).toContain('Wagtail');
    expect(all).toContain(view.blade.code);
    expect((await fetched('/api/v1/sets.pdf?site=nowhere')).status).toBe(404);
    expect((await fetched('/api/v1/sets.pdf')).status).toBe(422);
    await shop.close();
  });
});
