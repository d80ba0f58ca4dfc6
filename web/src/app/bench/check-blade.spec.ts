import type { CheckView, InstrumentView } from '@tally-stone/contract';
import { Served, problem } from '../../testing/served';
import { CheckBlade } from './check-blade';

const check = (quantity: CheckView['quantity'], change: Partial<CheckView> = {}): CheckView => ({
  quantity,
  reference: quantity === 'mass' ? 500 : quantity === 'width' ? 50 : 1,
  unit: quantity === 'width' ? 'mm' : 'g',
  today: true,
  readings: 3,
  last: 500,
  trueness: 'true',
  deviation: 0.1,
  expanded: 0.3,
  smoothed: 0,
  ...change,
});
const SCALE: InstrumentView = {
  key: 'scale',
  name: 'Bench scale',
  reads: ['mass'],
  unit: 'g',
  resolution: 0.1,
  u: 0.06,
  tolerance: 0.4,
  windowS: 0.8,
  plugged: true,
  by: 'stand-in',
};
const open = (checks: CheckView[], more: Record<string, unknown> = {}) =>
  Served.open(CheckBlade, {
    '/api/v1/shop': { name: '', timeZone: 'utc', rules: {}, grinders: [], checks },
    ...more,
  });

describe('CheckBlade', () => {
  it('is content when all was read today', async () => {
    const page = await open([check('mass'), check('width'), check('level')]);
    expect(page.text).toContain('read today, all true');
    expect(await page.isUnfolded()).toBeFalse();
  });
  it('asks for what was not read today', async () => {
    const page = await open([check('mass'), check('width', { today: false }), check('level')]);
    expect(page.text).toContain('not read today: caliper');
  });
  it('opens by itself and says which instrument is off, before one that drifts', async () => {
    const page = await open([
      check('mass', { trueness: 'off', deviation: 3 }),
      check('width', { trueness: 'drifting' }),
      check('level'),
    ]);
    expect(await page.isUnfolded()).toBeTrue();
    expect(page.text).toContain('the scale is off: do not trust it before it is put right');
    expect(page.text).toContain('over 3 mornings it creeps away');
  });
  it('keeps a reading, and says at the field what is wrong with one', async () => {
    const page = await open([check('mass')], {
      'POST read-check-blade': problem('/problems/invalid-input', 'was read today', 'entered.text'),
    });
    await page.enter('Its mass', 'heavy');
    await page.click('Keep');
    expect(await page.wrongAt('Its mass')).toContain('is not a number');
    expect(page.commands).toEqual([]);
    await page.enter('Its mass', '500,2');
    await page.click('Keep');
    expect(page.commands.at(-1)).toEqual(
      jasmine.objectContaining({
        type: 'read-check-blade',
        quantity: 'mass',
        entered: { text: '500,2', unit: 'g' },
      }),
    );
    expect(await page.wrongAt('Its mass')).toContain('was read today');
    expect(await page.valueOf('Its mass')).toBe('500,2');
  });
  it('is weighed by the scale itself; what levels it is typed', async () => {
    const page = await open([check('mass'), check('level')], {
      '/api/v1/instruments': { instruments: [SCALE] },
      'POST put-check': { instruments: [SCALE] },
      'POST take-off': { instruments: [SCALE] },
      'POST read-check-blade': { commandId: 'x', sequence: 1 },
    });
    expect(page.element.querySelectorAll('[aria-label^=Take]').length).toBe(1);
    page.find('[aria-label^=Take]').click();
    for (let i = 0; i < 40; i++) {
      page.lines.next(`scale ${(i * 0.05).toFixed(2)} ${i < 10 ? 520 - i : 500.1} g 0.1 0.06 ok`);
    }
    await page.settle();
    expect(page.commands.find(({ act }) => act === 'put-check')).toEqual({
      act: 'put-check',
      quantity: 'mass',
    });
    expect(page.commands.find(({ type }) => type === 'read-check-blade')).toEqual(
      jasmine.objectContaining({
        quantity: 'mass',
        entered: { text: '500.1', unit: 'g' },
        instrument: 'scale',
      }),
    );
  });
});
