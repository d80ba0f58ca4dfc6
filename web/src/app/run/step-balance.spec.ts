import { TestBed } from '@angular/core/testing';
import { DEFAULT_RULES, type CycleView, type ShopView } from '@tally-stone/contract';
import { By } from '@angular/platform-browser';
import { problem, Served } from '../../testing/served';
import { balanceView, cycleView } from '../../testing/views';
import { Keys } from '../data/keys';
import { DropTimer } from './drop-timer';
import { Run } from './run';

const id = '018f0000-0000-7000-8000-000000000001';
const shaft = '018f0000-0000-7000-8000-0000000000b1';
const cone = '018f0000-0000-7000-8000-0000000000b2';
const kept = { commandId: 'c', sequence: 1, cycleId: id, revision: 4 };

const balancers: ShopView['balancers'] = [
  {
    balancerId: shaft,
    name: 'Window shaft',
    device: 'bearing-shaft',
    calibration: {
      madeAt: '2026-03-30T08:00:00Z',
      frictionGmm: 9,
      frictionU: 1,
      inertiaFactor: 1,
      misfit: 0.6,
    },
  },
  { balancerId: cone, name: 'Door cone', device: 'cone-point' },
];

function atBalance(
  change: Partial<CycleView> = {},
  own = balancers,
  answers: Record<string, unknown> = {},
): Promise<Served<Run>> {
  const view = cycleView({ nextStep: 'balance', ...change });
  return Served.open(
    Run,
    {
      [`/api/v1/cycles/${id}`]: view,
      [`/api/v1/cycles/${id}/plan`]: { kind: 'not-yet', words: 'later' },
      [`/api/v1/cycles/${id}/lease`]: { mine: true, name: 'Ash', since: '2026-05-01T08:00:00Z' },
      '/api/v1/batch': { batch: null, waiting: [] },
      '/api/v1/shop': { balancers: own, grinders: [], checks: [], rules: DEFAULT_RULES },
      'POST balance-round': kept,
      ...answers,
    },
    { cycleId: id },
  );
}

const rounds = (run: Served<Run>) => run.commands.filter(({ type }) => type === 'balance-round');

describe('the balance step', () => {
  it('hangs on the shop’s own balancer, whose calibration it names, and sends which', async () => {
    const run = await atBalance();
    expect(run.text).toContain('Window shaftfriction 9 g·mm, calibrated 30 Mar');
    await run.click('Level');
    await run.click('Keep this reading');
    expect(rounds(run)[0]).toEqual(
      jasmine.objectContaining({ device: 'bearing-shaft', balancerId: shaft, heavyEnd: 'level' }),
    );
  });

  it('goes on to which end hangs low once the burr is off, and D brings the timer up', async () => {
    const run = await atBalance();
    expect(run.find('[data-todo=true]').textContent).toContain('End A low');
    expect(document.activeElement?.textContent).toContain('End A low');
    TestBed.inject(Keys).press(new KeyboardEvent('keydown', { key: 'd' }));
    await run.settle();
    expect(run.find('[data-todo=true]').textContent).toContain('Let it go from level');
    // The timer has the key now: hiding the step's own.
    expect(
      TestBed.inject(Keys)
        .bindings()
        .filter(({ key }) => key === 'd').length,
    ).toBe(1);
  });

  it('lets it be said that the burr was off before it was hung', async () => {
    const before = await atBalance({
      burr: true,
      overBurr: true,
      rounds: [balanceView({ burr: 'on' })],
    });
    expect(before.text).toContain('It was hung over the burr, which weighs like metal');
    await before.click('It was off before I hung or read it');
    expect(before.commands.find(({ type }) => type === 'deburr')).toEqual(
      jasmine.objectContaining({ done: true, alreadyOff: true }),
    );
  });

  it('hangs again what hung over the burr', async () => {
    const after = await atBalance({ rounds: [balanceView({ burr: 'gone' })] });
    expect(after.text).toContain('It was hung over the burr, which weighs like metal');
    expect(after.find('[data-todo=true]').textContent).toContain('End A low');
  });

  it('counts no drop at which the other end hung low, and says what it refuses of the drops', async () => {
    localStorage.clear();
    const run = await atBalance({}, balancers, {
      'POST balance-round': problem(
        '/problems/invalid-input',
        'lie too far apart: strike the wrong one out',
        'drops',
      ),
    });
    TestBed.inject(Keys).press(new KeyboardEvent('keydown', { key: 'd' }));
    await run.settle();
    const timer = run.fixture.debugElement.query(By.directive(DropTimer))
      .componentInstance as DropTimer;
    timer.timed.emit({ seconds: 6.1, heavyEnd: 'A' });
    timer.timed.emit({ seconds: 5.9, heavyEnd: 'B' });
    await run.settle();
    expect(run.find('[role=alert]').textContent).toContain(
      'End B hung low this time, end A before',
    );
    expect(run.element.querySelectorAll('[aria-label=Drops] li').length).toBe(1);
    timer.timed.emit({ seconds: 6, heavyEnd: 'A' });
    await run.settle();
    expect(run.element.querySelector('[role=alert]')).toBeNull();
    await run.click('Keep this reading');
    expect(rounds(run)[0]).toEqual(jasmine.objectContaining({ heavyEnd: 'A', drops: [6.1, 6] }));
    expect(run.text).toContain('The drops lie too far apart: strike the wrong one out');
    localStorage.clear();
  });

  it('goes on to the grind where it was hung as it stands, and asks for it again after a pass', async () => {
    localStorage.clear();
    const hung = { rounds: [balanceView({ within: false })] };
    const run = await atBalance({ ...hung, before: { verdict: 'grind', findings: [] } });
    TestBed.inject(Keys).press(new KeyboardEvent('keydown', { key: 'd' }));
    await run.settle();
    expect(run.find('.drop').getAttribute('data-todo')).toBe('false');
    // Before the grind it is the plan's to take out, not a correction of its own.
    expect(run.text).toContain('The plan takes it out with the sharpening');
    expect(run.text).not.toContain('then hang it again');
    expect(run.text).toContain('On to: verdict');
    TestBed.resetTestingModule();
    const ground = await atBalance({
      ...hung,
      before: { verdict: 'grind', findings: [] },
      passes: [{ passId: 'p', end: 'A', zone: 'full', count: 3 }],
    });
    TestBed.inject(Keys).press(new KeyboardEvent('keydown', { key: 'd' }));
    await ground.settle();
    expect(ground.find('.drop').getAttribute('data-todo')).toBe('true');
    expect(ground.text).toContain('3 passes since it was hung. Before them end A was heavy by 120');
    expect(ground.text).not.toContain('Turn it half way round');
    expect(ground.text).not.toContain('Back to: grind');
  });

  it('offers the ways a balancer has, and falls back to the weight where one has not', async () => {
    const run = await atBalance();
    await run.click('Drop to hanging');
    await run.click('Another balancer');
    await run.click('Door cone');
    expect(run.text).not.toContain('Drop to hanging');
    expect(run.text).toContain('Tilt');
    await run.click('End A low');
    expect(run.find('#test-weight')).toBeTruthy();
  });

  it('asks for both heights and the weight by tilt, and sends them with it', async () => {
    const run = await atBalance();
    await run.click('Another balancer');
    await run.click('Door cone');
    await run.click('Tilt');
    await run.click('End B low');
    await run.enter('Heavy tip lower by', '12.5');
    await run.enter('With the weight', '31');
    await run.enter('Known weight', '2');
    await run.enter('From the hole centre', '200');
    await run.click('Keep this reading');
    expect(rounds(run)[0]).toEqual(
      jasmine.objectContaining({
        device: 'cone-point',
        balancerId: cone,
        tilt: { alone: { text: '12.5', unit: 'mm' }, withWeight: { text: '31', unit: 'mm' } },
      }),
    );
  });

  it('keeps a reading by one key, wherever the focus is', async () => {
    const run = await atBalance();
    await run.click('Level');
    TestBed.inject(Keys).press(new KeyboardEvent('keydown', { key: 'y' }));
    await run.settle();
    expect(rounds(run)).toHaveSize(1);
  });

  it('turns the blade half way round and sends what the next reading is the mean with', async () => {
    const run = await atBalance({ rounds: [balanceView()] });
    await run.click('Turn it half way round');
    expect(run.text).toContain('the mean of both counts');
    await run.click('Level');
    await run.click('Keep this reading');
    expect(rounds(run)[0]?.['halfTurnOf']).toBe(balanceView().roundId);
    expect(run.text).not.toContain('Turned half way round on its adapter');
  });

  it('takes a half turn back, and offers none after one or where nobody measured', async () => {
    const run = await atBalance({ rounds: [balanceView()] });
    await run.click('Turn it half way round');
    await run.click('Not turned after all');
    await run.click('Level');
    await run.click('Keep this reading');
    expect(rounds(run)[0]?.['halfTurnOf']).toBeUndefined();
    TestBed.resetTestingModule();
    const mean = await atBalance({
      rounds: [balanceView({ halfTurn: { firstGmm: 180, turnedGmm: 60, offsetGmm: 60 } })],
    });
    expect(mean.text).toContain('Mean of 180 g·mm at A and, turned, 60 g·mm at A');
    expect(mean.text).toContain('off by 60 g·mm');
    expect(mean.text).not.toContain('Turn it half way round');
  });

  it('calls level what the bearing cannot see, with the figure', async () => {
    const run = await atBalance({
      rounds: [balanceView({ heavyEnd: 'level', unbalanceGmm: 0, belowSightGmm: 14 })],
    });
    expect(run.text).toContain('Below what this balancer can see, 14 g·mm');
  });

  it('asks for a third hanging where the newest does not fit the one before', async () => {
    const run = await atBalance({
      rounds: [
        balanceView({
          phase: 'after',
          unbalanceGmm: 90,
          dropsS: [13],
          expected: { unbalanceGmm: -310, expandedUncertaintyGmm: 80 },
        }),
      ],
    });
    const means = run.find('[aria-label="What it means"]').textContent;
    expect(means).toContain('end B should be 310 g·mm heavy, give or take 80 g·mm');
    expect(means).toContain('Was the clock stopped at the mark that is drawn?');
    expect(means).not.toContain('Within its grade.');
    // The next thing is to say again which end hangs low.
    expect(run.find('[data-todo=true]').textContent).toContain('End A low');
  });

  it('hangs on the usual kinds where the shop has named none', async () => {
    const run = await atBalance({}, []);
    expect(run.text).toContain('On Cone on a bearing shaft');
    await run.click('Level');
    await run.click('Keep this reading');
    expect(rounds(run)[0]?.['balancerId']).toBeUndefined();
  });
});
