import { Served } from '../../testing/served';
import { adviceOn, isEnough, missedMark, pastMarkS } from './drop-advice';
import { DropTimer } from './drop-timer';

const instruments: unknown[] = [];
const answered = { instruments };

describe('the drop timer', () => {
  const open = (drops: readonly number[] = []) =>
    Served.open(
      DropTimer,
      { 'POST hang': answered, 'POST release': answered, 'POST take-off': answered },
      {
        drops,
        hung: { act: 'hang', cycleId: '018f0000-0000-7000-8000-0000000000c1', phase: 'before' },
      },
    );

  it('says how many more drops are worth it, and why', () => {
    expect(adviceOn([])).toBe('Two or three drops are better than one.');
    expect(adviceOn([2])).toBe('8 more are worth it: timing alone is sure to ± 14 %.');
    expect(adviceOn([9, 9.05])).toContain('Enough: timing alone is sure to ± 2 %');
    expect(adviceOn([0.5])).toContain('use a test weight');
  });

  it('lets a drop that went wrong be struck out', async () => {
    const timer = await open([3.5, 3.52]);
    const struck: number[] = [];
    timer.fixture.componentInstance.struck.subscribe((index) => struck.push(index));
    timer.find('[aria-label="Strike out 3.52 s"]').click();
    expect(struck).toEqual([1]);
  });

  it('times by hand where nothing tells the swing: clock, then the low end, asked once for several drops', async () => {
    const timer = await Served.open(
      DropTimer,
      { '/api/v1/instruments': { instruments: [{ key: 'balancer', reads: [], by: 'hand' }] } },
      { drops: [], hung: { act: 'hang', cycleId: '018f0000-0000-7000-8000-0000000000c1' } },
    );
    const told: { seconds: number; heavyEnd: string }[] = [];
    timer.fixture.componentInstance.timed.subscribe((drop) => told.push(drop));
    const drop = async (): Promise<void> => {
      await timer.click('Let it go from level');
      await new Promise((next) => setTimeout(next, 120));
      await timer.click('It hangs: stop');
    };
    await drop();
    expect(told).toEqual([]);
    await timer.click('End B');
    timer.fixture.componentRef.setInput('drops', [0.1]);
    await drop();
    expect(told.map(({ heavyEnd }) => heavyEnd)).toEqual(['B', 'B']);
    expect(told.every(({ seconds }) => seconds >= 0.1 && seconds < 5)).toBeTrue();
    expect(timer.commands).toEqual([]);
  });

  it('does not count a drop that was stopped before the balancer says that it hangs', async () => {
    const timer = await open();
    const told: unknown[] = [];
    timer.fixture.componentInstance.timed.subscribe((drop) => told.push(drop));
    await timer.click('Let it go from level');
    await timer.click('It falls: stops by itself');
    expect(told).toEqual([]);
    expect(timer.find('[role=alert]').textContent).toContain('before the mark');
    expect(timer.text).toContain('Let it go from level');
  });

  it('hangs the blade only once what was counted has arrived', async () => {
    const timer = await open();
    let arrive: () => void = () => undefined;
    const arrived = new Promise<void>((done) => (arrive = done));
    timer.fixture.componentRef.setInput('underWay', () => arrived);
    await timer.click('Let it go from level');
    expect(timer.text).not.toContain('It falls: stops by itself');
    arrive();
    await timer.settle();
    expect(timer.text).toContain('It falls: stops by itself');
  });

  it('takes no drop to hanging for one to the mark at 30°, whichever end is low', () => {
    expect([88, -88].map((angle) => missedMark(angle, 30))).toEqual(['past', 'past']);
    expect([12, 40, -60, 69].map((angle) => missedMark(angle, 30))).toEqual(
      [12, 40, -60, 69].map(() => undefined),
    );
    expect(missedMark(5, 30)).toBe('before');
    // It swings through where it hangs.
    expect([60, 85, 110, -125].map((angle) => missedMark(angle, 90))).toEqual([
      'before',
      undefined,
      undefined,
      undefined,
    ]);
  });

  it('runs its seconds on the button from the release on', async () => {
    const timer = await open();
    expect(timer.element.querySelector('output')).toBeNull();
    await timer.click('Let it go from level');
    expect(timer.find('.drop').textContent).toContain('It falls: stops by itself');
    await new Promise((next) => setTimeout(next, 260));
    await timer.settle();
    expect(Number.parseFloat(timer.find('output').textContent ?? '')).toBeGreaterThan(0.1);
  });

  it('stops the clock itself where the balancer tells its swing, between two of its samples', () => {
    const at = (timeS: number, angleDeg: number) => ({ timeS, angleDeg });
    expect(pastMarkS(at(0, 0), at(0.05, 20), 30)).toBeUndefined();
    expect(pastMarkS(at(1, 20), at(1.05, 40), 30)).toBeCloseTo(0.025, 6);
    expect(pastMarkS(at(1, 80), at(1.05, 87), 90)).toBeUndefined();
    // A little before it hangs, where friction holds it: the clock is stopped as if it went on.
    expect(pastMarkS(at(1, 80), at(1.05, 89), 90)).toBeCloseTo(-0.05 / 9, 6);
    expect(pastMarkS(at(1, 80), at(1.05, 100), 90)).toBeCloseTo(0.025, 6);
    // Back from the other side of its swing: when it passed is not known any more.
    expect(pastMarkS(at(1, 110), at(1.05, 100), 90)).toBe(0);
  });

  it('has drops enough to go on by where they agree: one to the mark, two to hanging', () => {
    expect(isEnough([2.4], 30)).toBeTrue();
    expect(isEnough([2.4], 90)).toBeFalse();
    expect(isEnough([2.4, 2.45], 90)).toBeTrue();
    expect(isEnough([2.4, 3.4], 90)).toBeFalse();
    expect(isEnough([0.1, 0.1], 90)).toBeFalse();
  });
});
