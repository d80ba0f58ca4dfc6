import type { ShopView } from '@tally-stone/contract';
import { barInertiaGmm2, dropTimeS, USUAL_DRAG_PER_S } from '@tally-stone/core';
import { problem, Served } from '../../testing/served';
import { Calibrate } from './calibrate';

const shaft = '018f0000-0000-7000-8000-0000000000b1';
const cone = '018f0000-0000-7000-8000-0000000000b2';
const SHOP = {
  '/api/v1/shop': {
    balancers: [
      { balancerId: shaft, name: 'Window shaft', device: 'bearing-shaft' },
      { balancerId: cone, name: 'Door cone', device: 'cone-point' },
    ],
  } as Partial<ShopView>,
};
const accepted = { commandId: 'c', sequence: 1 };

/** What a stop watch shows on a shaft of 10 g·mm friction. */
function timeOf(weightG: number, end: 'A' | 'B'): string {
  return dropTimeS(weightG * 180 + (end === 'A' ? 40 : -40), {
    inertiaGmm2: barInertiaGmm2(500, 430, 50) + weightG * 180 ** 2,
    markDeg: 90,
    frictionGmm: 10,
    dragPerS: USUAL_DRAG_PER_S.value,
  }).toFixed(2);
}

async function opened(answers: Record<string, unknown> = {}): Promise<Served<Calibrate>> {
  const page = await Served.open(Calibrate, { ...SHOP, ...answers }, { balancerId: shaft });
  await page.enter('The blade weighs', '500');
  await page.enter('Its width', '50');
  await page.enter('Its length', '430');
  await page.enter('They hang at', '180');
  return page;
}

async function drop(page: Served<Calibrate>, text: string): Promise<void> {
  await page.enter('Or by stop watch', text);
  await page.click('Add this drop');
}

describe('calibrating a balancer', () => {
  it('draws the blade on its shaft with the weight of the drops in hand, where it hangs', async () => {
    const page = await opened();
    const weight = (): number => Number.parseFloat(page.find('ts-shaft-sheet .weight').style.left);
    const said = (): string | null => page.find('ts-shaft-sheet .drawn').getAttribute('aria-label');
    await page.enter('Its length', '500');
    await page.enter('They hang at', '125');
    expect(said()).toBe('The check blade on its shaft, the light weight at end A');
    // Half of half the bar out, on the left.
    expect(weight()).toBeCloseTo(50 - 21, 6);
    await page.enter('They hang at', '250');
    expect(weight()).toBeCloseTo(8, 6);
    await page.click('Blade turned half way round, light weight at end A');
    expect(said()).toContain('turned half way round, the light weight at end A');
    expect(weight()).toBeCloseTo(92, 6);
    // What cannot be is marked on the drawing, which stays as it can be read.
    expect(page.element.querySelector('ts-shaft-sheet .wrong')).toBeNull();
    await page.enter('They hang at', 'far out');
    expect(page.find('ts-shaft-sheet .under').classList).toContain('wrong');
  });
  it('goes through weights and ends by itself and says what the drops tell', async () => {
    const page = await opened({ 'POST calibrate-balancer': accepted });
    expect(page.text).toContain('Not enough yet');
    for (const [weight, end] of [
      [1, 'A'],
      [1, 'B'],
      [4, 'B'],
      [4, 'A'],
    ] as const) {
      await drop(page, timeOf(weight, end));
      await drop(page, timeOf(weight, end));
    }
    const told = page.find('[aria-label="What they show"]').textContent ?? '';
    const friction = Number(/holds\s*([\d.]+)/.exec(told)?.[1]);
    expect(friction).toBeGreaterThan(9);
    expect(friction).toBeLessThan(11);
    expect(told).toContain('turn it half way round');
    expect(page.find('li.here').textContent).toContain('turned half way round');
    await page.click('Keep it as it is');
    const [sent] = page.commands;
    expect(sent?.['balancerId']).toBe(shaft);
    expect((sent?.['drops'] as { timesS: number[] }[]).length).toBe(4);
  });

  it('takes a stray drop out again and asks for it anew', async () => {
    const page = await opened();
    await drop(page, '3,5');
    expect(page.text).toContain('3.50 s');
    page.find('[aria-label="Strike out 3.50 s"]').click();
    await page.settle();
    expect(page.text).not.toContain('3.50 s');
    expect(page.find('li.here').textContent).toContain('Light weight at end A');
  });

  it('names what is wrong, keeps what was typed, and shows the server’s refusal', async () => {
    const page = await opened({
      'POST calibrate-balancer': problem(
        '/problems/invalid-input',
        'do not fit each other',
        'drops',
      ),
    });
    await drop(page, 'soon');
    expect(await page.wrongAt('Or by stop watch')).toBe('is not a number');
    expect(await page.valueOf('Or by stop watch')).toBe('soon');
    await page.enter('The blade weighs', '');
    expect(page.text).toContain('First type its mass.');
    await page.enter('The blade weighs', '500');
    for (const [weight, end] of [
      [1, 'A'],
      [1, 'B'],
      [4, 'B'],
      [4, 'A'],
    ] as const)
      for (let i = 0; i < 2; i++) await drop(page, timeOf(weight, end));
    await page.click('Keep it as it is');
    expect(page.text).toContain('drops do not fit each other');
    expect(page.text).toContain(`${timeOf(1, 'A')} s`);
  });

  it('says of a cone why there is nothing to time', async () => {
    const page = await Served.open(Calibrate, SHOP, { balancerId: cone });
    expect(page.text).toContain('Calibrate Door cone');
    expect(page.text).toContain('calibrated on the blade itself');
  });
});
