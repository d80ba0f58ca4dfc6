import { TestBed } from '@angular/core/testing';
import { DEFAULT_RULES, type InstrumentView } from '@tally-stone/contract';
import { Served, problem } from '../../testing/served';
import { Units } from '../data/units';
import { InstrumentsPage } from './instruments-page';

const instrument = (change: Partial<InstrumentView>): InstrumentView => ({
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
  ...change,
});
const instruments = [
  instrument({}),
  instrument({ key: 'angle-gauge', name: 'Angle gauge', reads: ['bevel'], unit: 'deg' }),
];
describe('the panel of the instruments', () => {
  it('puts the check blade on, shows what the instrument says, and takes it off again', async () => {
    const page = await Served.open(InstrumentsPage, {
      '/api/v1/instruments': { instruments },
      'POST put-check': { instruments },
      'POST take-off': { instruments },
    });
    const section = page.find('section[aria-label="Instruments"]');
    expect(section.textContent.match(/Put the check blade on/g)?.length).toBe(1);
    expect(section.textContent).toContain('0.1 g steps');
    TestBed.inject(Units).system.set('inch-ounce');
    await page.settle();
    expect(section.textContent).toContain('0.004 oz steps');
    TestBed.inject(Units).system.set('metric');
    await page.click('Put the check blade on');
    expect(page.commands.at(-1)).toEqual({ act: 'put-check', quantity: 'mass' });
    page.lines.next('scale 1.00 500.1 g 0.1 0.06 ok');
    await page.settle();
    expect(page.find('[aria-label="Bench scale shows"]').textContent).toBe('500.1 g');
    await page.click('Take it off');
    expect(page.commands.at(-1)).toEqual({ act: 'take-off' });
    expect(section.querySelector('output')).toBeNull();
  });
  it('says what an instrument answers that cannot do it', async () => {
    const page = await Served.open(InstrumentsPage, {
      '/api/v1/instruments': { instruments },
      '/api/v1/shop': { rules: DEFAULT_RULES, mats: [] },
      'POST put-check': problem(
        '/problems/invalid-input',
        'The bench scale is unplugged: plug it in, or type it.',
      ),
    });
    await page.click('Put the check blade on');
    expect(page.find('[role=alert]').textContent).toBe(
      'The bench scale is unplugged: plug it in, or type it.',
    );
  });
  it('says what is simulated, and simulates what a manager ticks', async () => {
    const page = await Served.open(InstrumentsPage, {
      '/api/v1/instruments': { instruments: [instrument({ by: 'hand' })] },
      '/api/v1/shop': { rules: { ...DEFAULT_RULES, standIns: ['balancer'] }, mats: [] },
    });
    await page.settle();
    expect(page.text).toContain('an invented blade, never of yours');
    expect(page.text).not.toContain('Put the check blade on');
    page.find('[aria-label="Simulate the bench scale"]').click();
    await page.settle();
    expect(page.commands.at(-1)).toEqual(
      jasmine.objectContaining({
        type: 'set-rules',
        rules: { ...DEFAULT_RULES, standIns: ['scale', 'balancer'] },
      }),
    );
    await page.click('Simulate nothing');
    expect(page.commands.at(-1)).toEqual(
      jasmine.objectContaining({ rules: { ...DEFAULT_RULES, standIns: [] } }),
    );
  });
  it('shows nothing any more of one that was unplugged', async () => {
    const page = await Served.open(InstrumentsPage, {
      '/api/v1/instruments': { instruments },
    });
    page.lines.next('scale 1.00 500.1 g 0.1 0.06 ok');
    await page.settle();
    page.lines.next('scale 1.05 0.0 g 0.1 0.06 unplugged');
    await page.settle();
    expect(page.element.querySelector('output')).toBeNull();
  });
});
