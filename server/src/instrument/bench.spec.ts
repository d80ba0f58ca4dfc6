import type { InstrumentAnswer, Problem } from '@tally-stone/contract';
import {
  readInstrumentLine,
  steadiness,
  unbalanceFromDrops,
  type InstrumentSample,
  type Sample,
  expanded,
  USUAL_DRAG_PER_S,
  USUAL_FRICTION_GMM,
} from '@tally-stone/core';
import { get } from 'node:http';
import { TestShop } from '../testing/shop.js';
import { cycleAt } from '../cycle/facts.js';
import { SHAFT_DAMPING_PER_S, SHAFT_FRICTION_GMM, SimulatedBench } from './bench.js';
import { benchTruth, offCentreGmm } from './truth.js';

describe('the simulated bench', () => {
  let shop: TestShop;
  beforeAll(async () => {
    shop = await TestShop.open();
    await shop.simulate();
  });
  afterAll(() => shop.close());

  const act = (key: string, body: unknown) =>
    fetch(`${shop.serving.address}/api/v1/instruments/${key}`, {
      method: 'POST',
      headers: { 'Content-Type': 'application/json' },
      body: JSON.stringify(body),
    });

  /** The samples of one instrument off the event stream, until `done` says so. */
  function hear(key: string, done: (samples: InstrumentSample[]) => boolean) {
    const samples: InstrumentSample[] = [];
    return new Promise<InstrumentSample[]>((resolve, reject) => {
      const request = get(`${shop.serving.address}/api/v1/events`, (response) => {
        response.setEncoding('utf8');
        response.on('data', (chunk: string) => {
          for (const [, line] of chunk.matchAll(/event: sample\ndata: (.*)\n/g)) {
            const heard = readInstrumentLine(line ?? '');
            if ('value' in heard && heard.key === key) samples.push(heard);
          }
          if (done(samples)) {
            request.destroy();
            resolve(samples);
          }
        });
      });
      request.on('error', (error: NodeJS.ErrnoException) => {
        if (error.code !== 'ECONNRESET') reject(error);
      });
    });
  }

  /** As a screen takes it: once the instrument stands still, however slowly the samples come. */
  const still = (samples: readonly InstrumentSample[], within = { windowS: 0.5, tolerance: 0.1 }) =>
    steadiness(
      samples.map(({ timeS, value }): Sample => ({ timeS, value })),
      within,
    );

  it('lists its instruments with resolution and uncertainty', async () => {
    const { body } = await shop.get<InstrumentAnswer>('/api/v1/instruments');
    const scale = body.instruments.find(({ key }) => key === 'scale');
    expect(scale).toEqual(
      jasmine.objectContaining({ unit: 'g', resolution: 0.1, u: 0.06, plugged: true }),
    );
  });

  it('simulates only what the shop says: for the rest it offers no figure, and what hung there is gone', async () => {
    await shop.simulate(['caliper']);
    const { instruments } = (await shop.get<InstrumentAnswer>('/api/v1/instruments')).body;
    expect(instruments.filter(({ by }) => by === 'stand-in').map(({ key }) => key)).toEqual([
      'caliper',
    ]);
    const put = await act('scale', { act: 'put-check', quantity: 'mass' });
    expect(put.status).toBe(422);
    expect(((await put.json()) as Problem).detail).toContain('type what it shows');
    expect((await act('balancer', { act: 'take-off' })).status).toBe(200);
    await shop.simulate();
  });

  it('settles on the blade’s own value with noise, and steady comes only then', async () => {
    const cycle = await shop.openCycle();
    const steadied = (samples: readonly InstrumentSample[]) =>
      still(samples, { windowS: 0.8, tolerance: 0.4 });
    const lastValues = (samples: readonly InstrumentSample[]) =>
      new Set(samples.slice(-8).map(({ value }) => value));
    // Until it stands still with the blade on it, however slowly a busy machine sends, and its noise has shown: eight like
    // values in a row come by chance too.
    const listening = hear(
      'scale',
      (samples) =>
        (samples.at(-1)?.value ?? 0) > 1000 &&
        steadied(samples).steady &&
        lastValues(samples).size > 1,
    );
    await new Promise((next) => setTimeout(next, 100));
    await act('scale', {
      act: 'put',
      cycleId: cycle.cycleId,
      place: { phase: 'before', quantity: 'mass' },
    });
    const samples = await listening;
    const taken = steadied(samples).value ?? NaN;
    expect(taken).toBeGreaterThan(1000);
    const swinging = samples.flatMap(({ value }, i) =>
      value > 100 && Math.abs(value - taken) > 2 ? [samples.slice(0, i + 1)] : [],
    );
    expect(swinging.length).toBeGreaterThan(2);
    expect(swinging.some((heard) => steadied(heard).steady)).toBeFalse();
    expect(lastValues(samples).size).toBeGreaterThan(1);
    await act('scale', { act: 'take-off' });
  }, 30_000);

  it('reads a nick’s depth at its mark, the same each time, and stores with what', async () => {
    const cycle = await shop.openCycle();
    await cycle.do({ type: 'clean', done: true });
    const damageId = crypto.randomUUID();
    const mark = (depth: string, instrument?: string) =>
      cycle.do({
        type: 'mark-damage',
        damageId,
        kind: 'nick',
        end: 'A',
        fromTip: { text: '20', unit: 'mm' },
        depth: { text: depth, unit: 'mm' },
        ...(instrument ? { instrument } : {}),
      });
    await mark('0.5');
    const put = { act: 'put-mark', cycleId: cycle.cycleId, damageId, what: 'depth' } as const;
    const read = async (): Promise<number> => {
      const listening = hear('caliper', (samples) => still(samples).steady);
      await new Promise((next) => setTimeout(next, 100));
      expect((await act('caliper', put)).status).toBe(200);
      const samples = await listening;
      await act('caliper', { act: 'take-off' });
      return still(samples).value ?? NaN;
    };
    const first = await read();
    expect(first).toBeGreaterThan(0.2);
    expect(first).toBeLessThan(1.4);
    expect(Math.abs((await read()) - first)).toBeLessThan(0.1);
    await mark(first.toFixed(2), 'caliper');
    expect((await cycle.view()).damage).toEqual([
      jasmine.objectContaining({ damageId, instrument: 'caliper' }),
    ]);
    expect((await act('scale', put)).status).toBe(422);
    const nowhere = { ...put, damageId: crypto.randomUUID() };
    expect(await (await act('caliper', nowhere)).text()).toContain('is not marked on this blade');
  }, 30_000);

  it('refuses what an instrument does not read, and one that is unplugged', async () => {
    const cycle = await shop.openCycle();
    const width = { phase: 'before', quantity: 'width', end: 'A', stationKey: 'tip' };
    const wrong = await act('scale', { act: 'put', cycleId: cycle.cycleId, place: width });
    expect(wrong.status).toBe(422);
    await act('caliper', { act: 'unplug' });
    const dead = await act('caliper', { act: 'put', cycleId: cycle.cycleId, place: width });
    expect(dead.status).toBe(422);
    expect(((await dead.json()) as { detail: string }).detail).toBe(
      'The caliper is unplugged: plug it in, or type it.',
    );
    await act('caliper', { act: 'plug' });
    expect((await act('nothing', { act: 'plug' })).status).toBe(404);
  });

  it('weighs and measures the check blade, and nothing else of it', async () => {
    const listening = hear('caliper', (samples) => still(samples).steady);
    await new Promise((next) => setTimeout(next, 100));
    expect((await act('caliper', { act: 'put-check', quantity: 'width' })).status).toBe(200);
    const samples = await listening;
    const { value } = still(samples);
    expect(Math.abs((value ?? 0) - 50)).toBeLessThan(0.1);
    await act('caliper', { act: 'take-off' });
    expect((await act('caliper', { act: 'put-check', quantity: 'mass' })).status).toBe(422);
    expect((await act('balancer', { act: 'put-check', quantity: 'level' })).status).toBe(422);
  });

  it('stores with a reading which instrument it came from, its resolution and uncertainty', async () => {
    const cycle = await shop.openCycle();
    await cycle.do({ type: 'clean', done: true });
    await cycle.do({
      type: 'take-reading',
      readingId: crypto.randomUUID(),
      place: { phase: 'before', quantity: 'mass' },
      entered: { text: '1598.3', unit: 'g' },
      instrument: 'scale',
    });
    const mass = (await cycle.view()).slots.find(({ quantity }) => quantity === 'mass')?.taken;
    expect(mass).toEqual(
      jasmine.objectContaining({ source: 'instrument', instrument: 'scale', resolution: 0.1 }),
    );
    expect(mass?.u).toBeCloseTo(Math.hypot(0.06, 0.1), 9);
    const wrong = await cycle.act({
      type: 'take-reading',
      readingId: crypto.randomUUID(),
      place: { phase: 'before', quantity: 'width', end: 'A', stationKey: 'tip' },
      entered: { text: '60', unit: 'mm' },
      instrument: 'scale',
    });
    expect(wrong.body.errors?.[0]?.field).toBe('instrument');
  });

  it('reads a round by drops, names stray ones, and wants a free shaft', async () => {
    const cycle = await shop.openCycle();
    await cycle.inspectClean();
    const round = (device: 'bearing-shaft' | 'nail', drops: number[]) =>
      cycle.act({
        type: 'balance-round',
        roundId: crypto.randomUUID(),
        phase: 'before',
        device,
        heavyEnd: 'B',
        drops,
      });
    expect((await round('nail', [5])).body.errors?.[0]?.field).toBe('device');
    expect((await round('bearing-shaft', [5.1, 5.0, 5.2, 9.9])).status).toBe(200);
    const [read] = (await cycle.view()).rounds;
    expect(read?.unbalanceGmm).toBeLessThan(-200);
    expect(read?.outliersS).toEqual([9.9]);
  });

  it('refuses a blade too small to be one, and goes on serving after a release', async () => {
    const tiny = { massG: 1e-200, lengthMm: 1e-200, widthMm: 1e-200 };
    const hung = await act('balancer', {
      act: 'hang-check',
      ...tiny,
      weightG: 1e-200,
      radiusMm: 1e-200,
      end: 'A',
      turned: false,
    });
    expect(hung.status).toBe(422);
    const { errors } = (await hung.json()) as Problem;
    expect(errors).toContain({ field: 'massG', message: 'is less than 50\u00a0g' });
    expect((await act('balancer', { act: 'release' })).status).toBe(200);
    await new Promise((next) => setTimeout(next, 150));
    expect((await shop.get('/api/v1/health')).status).toBe(200);
  });

  it('takes an instrument off that throws in its timer, tells of it, and lets the others speak on', async () => {
    const told: unknown[] = [];
    const bench = new SimulatedBench(shop.database, { report: (error) => told.push(error) });
    const heard: string[] = [];
    let broken = true;
    bench.listen((line) => {
      if (broken) throw new Error('a listener that is gone');
      heard.push(line);
    });
    await bench.act('scale', { act: 'put-check', quantity: 'mass' });
    await new Promise((next) => setTimeout(next, 150));
    expect(told).toHaveSize(1);
    broken = false;
    await bench.act('scale', { act: 'put-check', quantity: 'mass' });
    await new Promise((next) => setTimeout(next, 150));
    expect(heard.length).toBeGreaterThan(0);
    bench.close();
  });

  it('has lost at every place what its grinds took, whether somebody read it there or not', async () => {
    const cycle = await shop.openCycle();
    await cycle.inspectClean();
    await cycle.measure('before', { width: '62.0' });
    await cycle.grind();
    await cycle.balance();
    await cycle.read('after', 'mass', '1592.0');
    await cycle.read('after', 'width', '61.5', { end: 'A', stationKey: 'root' });
    await cycle.lightTests();
    await cycle.do({ type: 'sign-off', outcome: 'ready' });
    const { cycleId } = await shop.openCycleOf(cycle.bladeId);
    const { state, facts } = await cycleAt(shop.database, cycleId);
    const truth = benchTruth(state, facts);
    for (const end of ['A', 'B'] as const)
      for (const stationKey of ['tip', 'middle', 'root']) {
        const place = { phase: 'before', quantity: 'width', end, stationKey } as const;
        expect(truth.valueAt(place)).withContext(`${end} ${stationKey}`).toBeLessThan(61.6);
        expect(truth.valueAt(place)).withContext(`${end} ${stationKey}`).toBeGreaterThan(61.1);
      }
  });

  it('swings as the blade truly is: its drop time gives that unbalance back', async () => {
    const cycle = await shop.openCycle();
    await cycle.do({ type: 'clean', done: true });
    const { state, facts } = await cycleAt(shop.database, cycle.cycleId);
    const truth = benchTruth(state, facts);
    const markDeg = 60;
    const listening = hear('balancer', (samples) =>
      samples.some(({ value }) => Math.abs(value) > markDeg),
    );
    await act('balancer', { act: 'hang', cycleId: cycle.cycleId, turned: false });
    await new Promise((next) => setTimeout(next, 200));
    await act('balancer', { act: 'release' });
    const samples = await listening;
    const level = samples.findLastIndex(({ value }) => value === 0);
    const past = samples.findIndex(({ value }) => Math.abs(value) > markDeg);
    const [start, at, before] = [samples[level], samples[past], samples[past - 1]];
    if (!start || !at || !before) return fail('it hung level, then fell past the mark');
    const share =
      (markDeg - Math.abs(before.value)) / (Math.abs(at.value) - Math.abs(before.value));
    const timeS = before.timeS + share * (at.timeS - before.timeS) - start.timeS;
    const { unbalance } = unbalanceFromDrops(
      [timeS],
      {
        inertiaGmm2: truth.inertiaGmm2,
        markDeg,
        frictionGmm: SHAFT_FRICTION_GMM,
        dragPerS: SHAFT_DAMPING_PER_S,
      },
      {
        bladeMassG: truth.massG,
        centringMm: 0,
        frictionU: USUAL_FRICTION_GMM.u,
        dragU: USUAL_DRAG_PER_S.u,
      },
    );
    const hung = truth.unbalanceGmm + offCentreGmm(truth.massG, false);
    expect(Math.sign(at.value)).toBe(Math.sign(hung));
    // A sample is up to 50 ms late at either end, and the time counts twice.
    const late = (2 * 0.1 * Math.abs(hung)) / timeS;
    expect(Math.abs(unbalance.value - Math.abs(hung))).toBeLessThan(expanded(unbalance.u) + late);
    expect(expanded(unbalance.u)).toBeLessThan(0.3 * Math.abs(hung));
    await act('balancer', { act: 'take-off' });
  });
});
