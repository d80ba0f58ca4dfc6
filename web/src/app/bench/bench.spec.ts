import { TestBed } from '@angular/core/testing';
import { Router } from '@angular/router';
import { PROBLEMS, type BenchView, type BladeRow } from '@tally-stone/contract';
import { problem, Served } from '../../testing/served';
import { BLADE } from '../../testing/views';
import { Bench } from './bench';

const IDLE: BladeRow = { ...BLADE };
delete IDLE.cycleId;
const BENCH: BenchView = {
  atBench: [BLADE],
  waiting: [
    {
      ...IDLE,
      bladeId: 'w',
      code: '447HP',
      state: 'waiting',
      place: 'Heap by Heron',
      waitingSince: '2026-11-01T08:00:00Z',
    },
  ],
  onHold: [],
  counts: { waiting: 1, onHold: 0, ready: 5, onMower: 8, retired: 1, all: 24 },
  missing: [],
};

describe('Bench', () => {
  it('says of a large shop how many more wait and are on hold than it shows', async () => {
    const counts = { ...BENCH.counts, waiting: 1761, onHold: 2 };
    const bench = await Served.open(Bench, { '/api/v1/bench': { ...BENCH, counts } });
    expect(bench.text).toContain('1760 more wait');
    expect(bench.text).toContain('2 more on hold');
    TestBed.resetTestingModule();
    const small = await Served.open(Bench, { '/api/v1/bench': BENCH });
    expect(small.text).not.toContain('more');
  });
  it('shows what is in hand, what waits and since when, and how many there are', async () => {
    const bench = await Served.open(Bench, { '/api/v1/bench': BENCH });
    expect(bench.find('[aria-label="In hand"]').textContent).toContain('4447M');
    expect(bench.find('[aria-label="Waiting"]').textContent).toContain('since 1 Nov');
    expect(bench.find('.counts').textContent).toContain('24');
  });

  it('takes up a waiting blade by opening a cycle, and goes on with one in hand', async () => {
    const bench = await Served.open(Bench, {
      '/api/v1/bench': BENCH,
      'POST open-cycle': { commandId: 'c', sequence: 1 },
    });
    const navigate = spyOn(TestBed.inject(Router), 'navigate').and.resolveTo(true);
    bench.find('[aria-label="Waiting"] .row').click();
    await bench.settle();
    expect(bench.commands.map(({ type, bladeId }) => [type, bladeId])).toEqual([
      ['open-cycle', 'w'],
    ]);
    bench.find('[aria-label="In hand"] .row').click();
    await bench.settle();
    expect(bench.commands).toHaveSize(1);
    expect(navigate.calls.mostRecent().args[0]).toEqual(['/run', BLADE.cycleId]);
  });

  it('shows the page of a blade that is neither waiting nor in hand', async () => {
    const bench = await Served.open(Bench, {
      '/api/v1/bench': BENCH,
      '/api/v1/codes/4447M': { blade: { ...IDLE, state: 'ready' } },
    });
    const navigate = spyOn(TestBed.inject(Router), 'navigate').and.resolveTo(true);
    await bench.type('#code', '4447M');
    await bench.click('Start this blade');
    expect(navigate.calls.mostRecent().args[0]).toEqual(['/blade', BLADE.bladeId]);
  });

  it('says what is wrong with a code, keeps it, and helps to find an unknown blade', async () => {
    const bench = await Served.open(Bench, {
      '/api/v1/bench': BENCH,
      '/api/v1/codes/44A44': problem(PROBLEMS.misreadCode, 'does not check'),
      '/api/v1/codes/4447N': problem(PROBLEMS.unknownCode, 'no blade of this shop has it'),
      '/api/v1/mowers': [],
      '/api/v1/blades': { blades: [], total: 0 },
    });
    await bench.type('#code', '44A44');
    await bench.click('Start this blade');
    expect(bench.text).toContain('does not check');
    expect(bench.find<HTMLInputElement>('#code').value).toBe('44A44');
    expect(bench.element.querySelector('ts-find-blade')).toBeNull();
    await bench.type('#code', '4447N');
    await bench.click('Start this blade');
    await bench.until('ts-find-blade');
    expect(bench.element.querySelector('ts-find-blade')).not.toBeNull();
  });

  it('tells an empty shop what to do first', async () => {
    const bench = await Served.open(Bench, {
      '/api/v1/bench': {
        atBench: [],
        waiting: [],
        onHold: [],
        counts: { waiting: 0, onHold: 0, ready: 0, onMower: 0, retired: 0, all: 0 },
        missing: ['spec', 'blades'],
      },
    });
    await bench.until('ts-first-day h1');
    expect(bench.text).toContain('Which blade do you grind most?');
    expect(bench.find('.take').hidden).toBeTrue();
  });

  it('says so when the server does not answer', async () => {
    const bench = await Served.open(Bench, {});
    expect(bench.text).toContain('The bench cannot be shown');
    expect(bench.text).toContain('does not answer');
  });
});
