import type { SpecRevision } from '@tally-stone/contract';
import { fleetMower, SPINDLES } from '../../testing/fleet';
import { problem, Served } from '../../testing/served';
import { SPEC } from '../../testing/views';
import { IntakePage } from './intake-page';

const ID = (n: number): string => `0190b7a0-0000-7000-8000-${String(n).padStart(12, '0')}`;
const spec = (n: number, change: Partial<SpecRevision['figures']>): SpecRevision => ({
  ...SPEC,
  specId: ID(n),
  figures: { ...SPEC.figures, ...change },
});
const SPECS = [
  spec(1, { name: 'Towpath 533', newLengthMm: 533, newWidthMm: 63.5, hole: 'round', holeMm: 16 }),
  spec(2, { name: 'Churchyard 457', newLengthMm: 457, newWidthMm: 57, hole: 'star', holeMm: 20 }),
];
const blades = [
  { bladeId: ID(11), code: '44X' },
  { bladeId: ID(12), code: '47K' },
];
const empty = fleetMower(
  {
    spindles: [
      { spindleId: SPINDLES[0], position: 'left' },
      { spindleId: SPINDLES[1], position: 'right' },
    ],
  },
  { name: 'Yew', hoursH: 310 },
);

const open = (more: Record<string, unknown> = {}) =>
  Served.open(IntakePage, {
    '/api/v1/specs': SPECS,
    '/api/v1/fleet': { mowers: [empty], today: '2027-01-01', benchDays: [], planIsBest: true },
    'POST register-blades': { commandId: ID(1), sequence: 1, blades },
    'POST first-readings': { commandId: ID(2), sequence: 2 },
    'POST found-on-mower': { commandId: ID(3), sequence: 3 },
    ...more,
  });

async function toStamp(page: Served<IntakePage>): Promise<void> {
  await page.type('input', '529');
  await page.click('Towpath 533');
  await page.type('input', '2');
  await page.click('Give them codes');
}

describe('taking in used blades', () => {
  it('guesses the spec from what is measured, likeliest first, and says what speaks against', async () => {
    const page = await open();
    await page.type('input', '529');
    const names = [...page.element.querySelectorAll('.guesses button')].map((each) =>
      each.textContent?.trim(),
    );
    expect(names).toEqual(['Towpath 533', 'Churchyard 457']);
    expect(page.text).toContain('nothing speaks against it');
    expect(page.text).toContain('72 mm longer than new');
    await page.type('input', '610');
    expect(page.text).toContain('None fits as measured');
  });
  it('gives codes to stamp in order and tags to scan, history unknown', async () => {
    const page = await open();
    await toStamp(page);
    expect(page.commands.at(-1)).toEqual(
      jasmine.objectContaining({ type: 'register-blades', count: 2, knownFrom: 'used' }),
    );
    expect(page.element.querySelectorAll('ts-peg-tags img').length).toBe(2);
    expect(page.find('ts-peg-tags img').getAttribute('src')).toBe('/api/v1/codes/44X/tag.svg');
  });
  it('keeps first readings of a sample, pasted or typed, and finishes', async () => {
    const page = await open();
    await toStamp(page);
    await page.click('Stamped');
    const field = page.find<HTMLInputElement>('[aria-label="44X, Width, tip A"]');
    const data = new DataTransfer();
    data.setData('text/plain', '58.2\t58.0\t5.1\t5.0\t1488\n57.9\t58.4');
    field.dispatchEvent(new ClipboardEvent('paste', { clipboardData: data, cancelable: true }));
    await page.settle();
    expect(field.value).toBe('58.2');
    await page.click('Keep and finish');
    const { readings } = page.commands.at(-1) as { readings: { entered: { text: string } }[] };
    expect(readings.map(({ entered }) => entered.text)).toEqual([
      '58.2',
      '58.0',
      '5.1',
      '5.0',
      '1488',
      '57.9',
      '58.4',
    ]);
    expect(page.text).toContain('their history before today unknown');
  });
  it('takes nothing of ten thousand pasted lines over, and says what fits', async () => {
    const page = await open();
    await toStamp(page);
    await page.click('Stamped');
    const field = page.find<HTMLInputElement>('[aria-label="44X, Width, tip A"]');
    const data = new DataTransfer();
    data.setData('text/plain', Array.from({ length: 10_000 }, () => '58\t58').join('\n'));
    field.dispatchEvent(new ClipboardEvent('paste', { clipboardData: data, cancelable: true }));
    await page.settle();
    expect(page.find('[role=alert]').textContent).toContain(
      '10,000 lines were pasted for 2 blades',
    );
    expect(field.value).toBe('');
  });
  it('shows what is wrong with a reading at its field, and keeps what was typed', async () => {
    const page = await open({
      'POST first-readings': problem(
        '/problems/invalid',
        'is of another spec',
        'readings.0.entered.text',
      ),
    });
    await toStamp(page);
    await page.click('Stamped');
    await page.type('[aria-label="44X, Width, tip A"]', '99');
    await page.click('Keep and finish');
    const field = page.find<HTMLInputElement>('[aria-label="44X, Width, tip A"]');
    expect(field.getAttribute('aria-invalid')).toBe('true');
    expect(field.value).toBe('99');
    expect(field.closest('mat-form-field')?.textContent).toContain('is of another spec');
  });
  it('puts those found on a mower onto its free spindles', async () => {
    const page = await open();
    await page.type('input', '529');
    await page.click('Towpath 533');
    await page.pick('They are', 'on Yew');
    expect(page.text).toContain('2 of 2 spindles without a known blade');
    await page.click('Give them codes');
    expect(page.commands.at(-1)).toEqual(
      jasmine.objectContaining({ type: 'found-on-mower', hoursH: 310 }),
    );
    expect(page.text).toContain('They are on Yew: 44X left, 47K right.');
  });
});
