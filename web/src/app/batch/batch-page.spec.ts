import { TestbedHarnessEnvironment } from '@angular/cdk/testing/testbed';
import { TestBed } from '@angular/core/testing';
import { MatSnackBarHarness } from '@angular/material/snack-bar/testing';
import type { BatchBlade, BatchView, ShiftView, StepKey } from '@tally-stone/contract';
import { BLADE } from '../../testing/views';
import { Served } from '../../testing/served';
import { Batch, behindInBatch, firstInBatch, nextInBatch, withLeft } from '../data/batch';
import { BatchPage } from './batch-page';

const member = (code: string, step?: StepKey): BatchBlade => ({
  blade: { ...BLADE, bladeId: code, code, ...(step ? { cycleId: `c-${code}` } : {}) },
  ...(step ? { step } : { outcome: 'ready' as const }),
});
const batch = (...blades: BatchBlade[]): NonNullable<BatchView['batch']> => ({
  batchId: 'b',
  madeAt: '2026-05-01T08:00:00Z',
  changeMinutes: 4,
  runs: [
    { bevelDeg: 30, hand: 'right', table: 'flat', changeMinutes: 0, blades: blades.slice(0, 2) },
    { bevelDeg: 45, hand: 'right', table: 'flat', changeMinutes: 4, blades: blades.slice(2) },
  ],
  sets: [
    {
      name: 'Heron',
      codes: ['a', 'b', 'c'],
      ready: 3,
      spread: { lengthMm: 1, widthMm: 6, massG: 12 },
      over: ['widthMm'],
      oddCode: 'c',
    },
  ],
});

describe('the order in a batch', () => {
  const three = batch(member('a', 'inspect'), member('b', 'clean'), member('c', 'inspect'));
  const next = (from: string, mode: 'blade' | 'step', step: StepKey): string | undefined =>
    nextInBatch(three, from, mode, step)?.blade.code;

  it('goes round blade by blade, past what is done', () => {
    expect(next('a', 'blade', 'sign-off')).toBe('b');
    expect(next('c', 'blade', 'sign-off')).toBe('a');
    const done = batch(member('a'), member('b', 'clean'), member('c'));
    expect(nextInBatch(done, 'b', 'blade', 'sign-off')).toBeUndefined();
    expect(firstInBatch(three, 'blade')?.blade.code).toBe('a');
  });
  it('goes step by step to the blade that is behind, then on with the first', () => {
    expect(next('a', 'step', 'clean')).toBe('b');
    const cleaned = batch(member('a', 'inspect'), member('b', 'inspect'), member('c', 'inspect'));
    expect(nextInBatch(cleaned, 'c', 'step', 'clean')?.blade.code).toBe('a');
    expect(firstInBatch(three, 'step')?.blade.code).toBe('b');
    // One that came into the batch further on waits until the others have come so far.
    const ahead = batch(member('a', 'balance'), member('b', 'inspect'), member('c', 'inspect'));
    expect(nextInBatch(ahead, 'c', 'step', 'clean')?.blade.code).toBe('b');
    // One just left here has done its heap, also before the server has told of it.
    const left = withLeft(three, [{ bladeId: 'b', cycleId: 'c-b', step: 'inspect' }]);
    expect(nextInBatch(left, 'c', 'step', 'clean')?.blade.code).toBe('a');
    expect(nextInBatch(three, 'c', 'step', 'clean')?.blade.code).toBe('b');
    const ofSet = batch({ ...member('b', 'clean'), setName: 'Heron' });
    const [still] = withLeft(ofSet, [{ bladeId: 'b', cycleId: 'c-b', step: 'inspect' }]).runs;
    expect(still?.blades[0]?.setName).toBe('Heron');
    const signed = withLeft(three, [{ bladeId: 'c', cycleId: 'c-c', step: undefined }]);
    expect(nextInBatch(signed, 'b', 'blade', 'sign-off')?.blade.code).toBe('a');
    // What the server has heard of meanwhile is newer.
    expect(withLeft(three, [{ bladeId: 'a', cycleId: 'c-a', step: 'clean' }])).toEqual(three);
    // Who has not done the heap yet, the one in hand aside.
    expect(behindInBatch(three, 'a', 'clean').map(({ blade }) => blade.code)).toEqual(['b']);
    expect(behindInBatch(three, 'b', 'inspect').map(({ blade }) => blade.code)).toEqual(['a', 'c']);
  });
});

const NO_SHIFT: ShiftView = {
  pull: [],
  runs: [],
  heap: [],
  grindMinutes: 0,
  changeMinutes: 0,
  capacity: 0,
  left: 0,
};
const run = (...codes: string[]): ShiftView['runs'][number] => ({
  bevelDeg: 30,
  hand: 'right',
  table: 'flat',
  changeMinutes: 0,
  blades: codes.map((code) => ({ ...BLADE, bladeId: code, code })),
});
const shift = (heap: string[], ...codes: string[]): ShiftView => ({
  heap: [run(...heap)],
  day: '2026-05-05',
  capacity: 12,
  pull: [{ mowerId: 'm', name: 'Lark', bladeIds: ['p', 'q'] }],
  runs: [run(...codes)],
  grindMinutes: 24,
  changeMinutes: 4,
  left: 1,
});

describe('the batch at this bench', () => {
  it('knows where a blade was left until the batch is asked for again, and then what it says', async () => {
    const page = await Served.open(BatchPage, {
      '/api/v1/batch': { batch: batch(member('a', 'clean'), member('b', 'clean')) },
      '/api/v1/shift': NO_SHIFT,
    });
    const here = TestBed.inject(Batch);
    const steps = () => here.open()?.runs.flatMap(({ blades }) => blades.map(({ step }) => step));
    here.leave({ bladeId: 'a', cycleId: 'c-a', step: 'inspect' });
    expect(steps()).toEqual(['inspect', 'clean']);
    // Undone at another bench meanwhile.
    void here.refresh();
    await page.settle();
    expect(steps()).toEqual(['clean', 'clean']);
  });
});

describe('BatchPage', () => {
  it('proposes the next bench day: its minutes, what to pull first, and what has room', async () => {
    const page = await Served.open(BatchPage, {
      '/api/v1/batch': {},
      '/api/v1/shift': shift(['x', 'y', 'z'], 'x', 'z'),
      'POST make-batch': { commandId: 'k', sequence: 1 },
    });
    expect(page.text).toContain('2 of 12 blades, 24 min at the bench and 4 min of changing over');
    expect(page.text).toContain('Pull the set of Lark');
    // What is chosen from stands in the order it will be worked in, under its set-up.
    expect(page.text).toMatch(/30°, right-hand, flat tablex.*y.*z/);
    await page.click('Batch 2 blades');
    expect(page.commands.at(-1)).toEqual(jasmine.objectContaining({ bladeIds: ['x', 'z'] }));
    await page.click('Take all that waits');
    expect(page.button('Batch 3 blades')).toBeTruthy();
  });
  it('shows set-ups with the change-over between, and a set that does not match', async () => {
    const page = await Served.open(BatchPage, {
      '/api/v1/batch': { batch: batch(member('a'), member('b', 'clean'), member('c', 'inspect')) },
      '/api/v1/shift': NO_SHIFT,
    });
    expect(page.find('h1').textContent).toContain('1 of 3 done');
    expect(page.text).toContain('Change over, 4 min: 45°, right-hand, flat table');
    expect(page.text).toContain('no match in width: apart by length 1.0 mm, width 6.0 mm');
    expect(page.text).toContain('The odd one is c.');
    expect(page.button('Start b')).toBeTruthy();
  });
  it('offers a closed batch back with what was left of it', async () => {
    const page = await Served.open(BatchPage, {
      '/api/v1/batch': { batch: batch(member('a'), member('b', 'clean'), member('c', 'inspect')) },
      '/api/v1/shift': NO_SHIFT,
      'POST close-batch': { commandId: 'k', sequence: 1 },
      'POST make-batch': { commandId: 'l', sequence: 2 },
    });
    await page.click('Close the batch, the rest');
    const bar = await TestbedHarnessEnvironment.documentRootLoader(page.fixture).getHarness(
      MatSnackBarHarness,
    );
    expect(await bar.getMessage()).toBe('The batch is closed.');
    await bar.dismissWithAction();
    await page.settle();
    expect(page.commands.at(-1)).toEqual(
      jasmine.objectContaining({ type: 'make-batch', bladeIds: ['b', 'c'] }),
    );
  });
  it('makes a batch of what waits, without what is left out', async () => {
    const page = await Served.open(BatchPage, {
      '/api/v1/batch': {},
      '/api/v1/shift': shift(['x', 'y'], 'x', 'y'),
      'POST make-batch': { commandId: 'k', sequence: 1 },
    });
    page.find<HTMLInputElement>('input[type=checkbox]').click();
    await page.settle();
    await page.click('Batch 1 blade');
    expect(page.commands.at(-1)).toEqual(
      jasmine.objectContaining({ type: 'make-batch', bladeIds: ['y'] }),
    );
  });
});
