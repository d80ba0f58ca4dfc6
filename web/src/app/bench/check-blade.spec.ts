import type { CheckView } from '@tally-stone/contract';
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
const open = (checks: CheckView[], more: Record<string, unknown> = {}) =>
  Served.open(CheckBlade, {
    '/api/shop': { name: '', timeZone: 'utc', rules: {}, grinders: [], checks },
    ...more,
  });

describe('CheckBlade', () => {
  it('is content when all was read today', async () => {
    const page = await open([check('mass'), check('width'), check('level')]);
    expect(page.text).toContain('read today, all true');
    expect(page.find<HTMLDetailsElement>('details').open).toBeFalse();
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
    expect(page.find<HTMLDetailsElement>('details').open).toBeTrue();
    expect(page.text).toContain('the scale is off: do not trust it before it is put right');
    expect(page.text).toContain('over 3 mornings it creeps away');
  });
  it('keeps a reading, and says at the field what is wrong with one', async () => {
    const page = await open([check('mass')], {
      'POST read-check-blade': problem('/problems/invalid-input', 'is no number', 'entered.text'),
    });
    await page.type('input', 'heavy');
    await page.click('Keep');
    expect(page.commands.at(-1)).toEqual(
      jasmine.objectContaining({
        type: 'read-check-blade',
        quantity: 'mass',
        entered: { text: 'heavy', unit: 'g' },
      }),
    );
    expect(page.find('[role=alert]').textContent).toContain('Its mass is no number');
  });
});
