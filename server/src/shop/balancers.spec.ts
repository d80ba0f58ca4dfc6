import type { Problem, ShopView } from '@tally-stone/contract';
import { barInertiaGmm2, dropTimeS, USUAL_DRAG_PER_S } from '@tally-stone/core';
import { v7 as uuidv7 } from 'uuid';
import { TestShop, type TestCycle } from '../testing/shop.js';

const mm = (text: string) => ({ text, unit: 'mm' as const });
const g = (text: string) => ({ text, unit: 'g' as const });

/** The check blade's times on a shaft of known friction, as a hand without reaction would stop them. */
function timesOn(frictionGmm: number, offsetGmm = 0) {
  const inertia = barInertiaGmm2(1600, 533, 64);
  return [false, true].flatMap((turned) =>
    (turned ? (['light'] as const) : (['light', 'heavy'] as const)).flatMap((weight) =>
      (['A', 'B'] as const).map((end) => {
        const weightG = weight === 'light' ? 1.5 : 6;
        const own = 50 + (turned ? -offsetGmm : offsetGmm);
        const time = dropTimeS(weightG * 200 + (end === 'A' ? own : -own), {
          inertiaGmm2: inertia + weightG * 200 ** 2,
          markDeg: 90,
          frictionGmm,
          dragPerS: USUAL_DRAG_PER_S.value,
        });
        return { weight, end, turned, timesS: [time, time] };
      }),
    ),
  );
}

describe('balancers', () => {
  let shop: TestShop;
  let shaft: string;
  let point: string;
  beforeEach(async () => {
    shop = await TestShop.open();
    [shaft, point] = [uuidv7(), uuidv7()];
    await shop.send({
      type: 'add-balancer',
      balancerId: shaft,
      name: 'Window shaft',
      device: 'bearing-shaft',
    });
    await shop.send({
      type: 'add-balancer',
      balancerId: point,
      name: 'Cone by the door',
      device: 'cone-point',
    });
  });
  afterEach(() => shop.close());

  const calibration = (drops: ReturnType<typeof timesOn>, balancerId = shaft) => ({
    type: 'calibrate-balancer' as const,
    calibrationId: uuidv7(),
    balancerId,
    blade: { mass: g('1600'), length: mm('533'), width: mm('64') },
    light: g('1.5'),
    heavy: g('6'),
    radius: mm('200'),
    drops,
  });
  const view = async () => (await shop.get<ShopView>('/api/v1/shop')).body.balancers;

  interface Hanging {
    readonly heavyEnd?: 'A' | 'B' | 'level';
    readonly weight?: string;
    readonly [more: string]: unknown;
  }
  const hang = (cycle: TestCycle, { heavyEnd = 'A', weight, ...more }: Hanging) =>
    cycle.act({
      type: 'balance-round',
      roundId: uuidv7(),
      phase: 'before',
      device: 'bearing-shaft',
      heavyEnd,
      ...(weight ? { weight: g(weight), radius: mm('200') } : {}),
      ...more,
    });
  const fieldOf = ({ errors }: Problem): string | undefined => errors?.[0]?.field;
  const last = async (cycle: TestCycle) => {
    const round = (await cycle.view()).rounds.at(-1);
    if (!round) throw new Error('no round');
    return round;
  };

  it('keeps what known weights tell, the newest first in use', async () => {
    expect(
      (await view()).find(({ balancerId }) => balancerId === shaft)?.calibration,
    ).toBeUndefined();
    await shop.send(calibration(timesOn(12, 32)));
    await shop.send(calibration(timesOn(20, 32)));
    const found = (await view()).find(({ balancerId }) => balancerId === shaft)?.calibration;
    expect(found?.frictionGmm).toBeCloseTo(20, 1);
    expect(found?.inertiaFactor).toBeCloseTo(1, 3);
    expect(found?.centringMm).toBeGreaterThanOrEqual(32 / 1600 - 1e-4);
    expect(found?.misfit).toBeLessThan(0.1);
  });

  it('reads drops with the friction of the balancer they were timed on', async () => {
    await shop.send(calibration(timesOn(24)));
    const cycle = await shop.openCycle();
    await cycle.inspectClean();
    await cycle.read('before', 'mass', '1600.0');
    const drops = [7.2, 7.2];
    await hang(cycle, { drops });
    const usual = await last(cycle);
    await hang(cycle, { drops, balancerId: shaft });
    const known = await last(cycle);
    expect(known.balancer).toBe('Window shaft');
    // Friction that is there and not counted reads low.
    expect(known.unbalanceGmm).toBeGreaterThan(usual.unbalanceGmm + 10);
  });

  it('says of a level blade what the bearing cannot see', async () => {
    await shop.send(calibration(timesOn(24)));
    const cycle = await shop.openCycle();
    await cycle.inspectClean();
    await hang(cycle, { heavyEnd: 'level', balancerId: shaft });
    const round = await last(cycle);
    expect(round.belowSightGmm).toBeCloseTo((24 * Math.PI) / 2, 0);
  });

  it('refuses drops that do not fit each other, a balancer that does not turn, and bad figures', async () => {
    const send = async (body: object) => (await shop.post({ ...body, ...shop.envelope() })).body;
    const odd = timesOn(12).map((group, i) =>
      i === 2 ? { ...group, timesS: group.timesS.map((time) => time * 1.4) } : group,
    );
    const refused = await send(calibration(odd));
    expect(fieldOf(refused)).toBe('drops');
    expect(refused.detail).toContain('do not fit each other');
    expect(fieldOf(await send(calibration(timesOn(12), point)))).toBe('balancerId');
    const one = timesOn(12).filter(({ end }) => end === 'A');
    expect((await send(calibration(one))).detail).toContain('end A and at end B');
    expect(fieldOf(await send({ ...calibration(timesOn(12)), radius: mm('400') }))).toBe(
      'radius.text',
    );
    expect(fieldOf(await send({ ...calibration(timesOn(12)), light: mm('2') }))).toBe('light.text');
    expect((await view()).every(({ calibration: kept }) => !kept)).toBeTrue();
  });

  it('takes the signed mean of a half turn, which is surer than either', async () => {
    const cycle = await shop.openCycle();
    await cycle.inspectClean();
    await cycle.read('before', 'mass', '1600.0');
    await hang(cycle, { weight: '1.30' });
    const first = await last(cycle);
    await hang(cycle, { weight: '0.70', halfTurnOf: first.roundId });
    const mean = await last(cycle);
    expect(mean.unbalanceGmm).toBeCloseTo(200, 6);
    expect(mean.halfTurn).toEqual({
      firstGmm: jasmine.any(Number),
      turnedGmm: jasmine.any(Number),
      offsetGmm: jasmine.any(Number),
    });
    expect(mean.halfTurn?.offsetGmm).toBeCloseTo(60, 6);
    expect(mean.expandedUncertaintyGmm).toBeLessThan(0.6 * first.expandedUncertaintyGmm);
  });

  it('a half turn that turns the heavy end over names the end of the mean', async () => {
    const cycle = await shop.openCycle();
    await cycle.inspectClean();
    await hang(cycle, { weight: '0.20' });
    const first = await last(cycle);
    await hang(cycle, { heavyEnd: 'B', weight: '0.60', halfTurnOf: first.roundId });
    expect((await last(cycle)).heavyEnd).toBe('B');
    expect((await last(cycle)).unbalanceGmm).toBeCloseTo(-40, 6);
  });

  it('refuses a half turn of a round that no longer speaks', async () => {
    const cycle = await shop.openCycle();
    await cycle.inspectClean();
    await cycle.measure('before');
    await hang(cycle, { weight: '1.3' });
    const { roundId } = await last(cycle);
    await cycle.grind(2);
    expect(fieldOf((await hang(cycle, { weight: '0.7', halfTurnOf: roundId })).body)).toBe(
      'halfTurnOf',
    );
    expect(fieldOf((await hang(cycle, { weight: '1', halfTurnOf: uuidv7() })).body)).toBe(
      'halfTurnOf',
    );
    const { status } = await hang(cycle, { endOnly: true });
    expect(status).toBe(200);
    const alone = (await last(cycle)).roundId;
    expect((await hang(cycle, { weight: '1', halfTurnOf: alone })).body.detail).toContain(
      'heavy end alone',
    );
  });

  it('reads an amount from two tilts on a point', async () => {
    const cycle = await shop.openCycle();
    await cycle.inspectClean();
    await cycle.read('before', 'mass', '1600.0');
    const length = (await cycle.view()).spec.figures.newLengthMm;
    // Statics of both hangings: τ₁ = U/(M·h), τ₂ = (U + m·r)/(M·h), the weight level with the point.
    const [unbalance, mh] = [300, 1600 * 2];
    const height = (moment: number): string =>
      (length * Math.sin(Math.atan(moment / mh))).toFixed(1);
    const tilt = { alone: mm(height(unbalance)), withWeight: mm(height(unbalance + 400)) };
    const onPoint = { device: 'cone-point', balancerId: point, weight: '2', tilt };
    expect((await hang(cycle, onPoint)).status).toBe(200);
    const round = await last(cycle);
    expect(round.unbalanceGmm).toBeCloseTo(300, -1);
    expect(round.byTilt).toBeTrue();
    const swapped = { ...onPoint, tilt: { alone: tilt.withWeight, withWeight: tilt.alone } };
    const { body } = await hang(cycle, swapped);
    expect(fieldOf(body)).toBe('tilt.withWeight.text');
    expect(body.detail).toContain('heavy end');
    const onShaft = await hang(cycle, { weight: '2', tilt });
    expect(fieldOf(onShaft.body)).toBe('device');
    const mistaken = await hang(cycle, { ...onPoint, device: 'bearing-shaft' });
    expect(mistaken.body.detail).toContain('Cone by the door');
  });
});
