import fc from 'fast-check';
import { dueOf, dutyFactor, paceAfter, planBench, type EdgeOnDuty } from '../index.js';

const edge = (change: Partial<EdgeOnDuty> = {}): EdgeOnDuty => ({
  interval: { kind: 'hours', hours: 10 },
  duty: { turf: 'soft', soil: 'loam' },
  hoursOnEdge: 0,
  daysOnEdge: 0,
  hoursPerDay: 4,
  struck: false,
  complaints: 0,
  ...change,
});

describe('dueOf', () => {
  it('counts hours by duty: sandy ground and coarse turf use an edge up sooner', () => {
    expect(dueOf(edge({ hoursOnEdge: 5 }))).toEqual({
      state: 'later',
      because: 'hours',
      used: 0.5,
      hoursLeft: 5,
      daysLeft: 1.25,
    });
    const hard = edge({ hoursOnEdge: 5, duty: { turf: 'coarse', soil: 'sandy' } });
    expect(dueOf(hard)).toEqual(jasmine.objectContaining({ state: 'now', hoursLeft: 0 }));
    expect(dueOf(edge({ hoursOnEdge: 8 })).state).toBe('soon');
  });
  it('is at once after a strike or a complaint, in every school', () => {
    for (const interval of [
      { kind: 'hours', hours: 10 },
      { kind: 'days', days: 7 },
      { kind: 'when-shown' },
    ] as const) {
      expect(dueOf(edge({ interval, struck: true })).because).toBe('strike');
      expect(dueOf(edge({ interval, complaints: 1 })).state).toBe('now');
    }
  });
  it('goes by days where the shop changes weekly, and by nothing where the cut shows it', () => {
    const weekly = edge({ interval: { kind: 'days', days: 7 }, daysOnEdge: 6, hoursOnEdge: 99 });
    expect(dueOf(weekly)).toEqual({ state: 'soon', because: 'days', used: 6 / 7, daysLeft: 1 });
    expect(dueOf(edge({ interval: { kind: 'when-shown' }, hoursOnEdge: 99 })).state).toBe(
      'unplanned',
    );
  });
  it('has no date where nobody knows the pace', () => {
    expect(dueOf(edge({ hoursPerDay: 0 })).daysLeft).toBeUndefined();
    expect(dueOf(edge({ hoursPerDay: 0, hoursOnEdge: 20 })).daysLeft).toBe(0);
  });
  it('never has more left after more mowing', () => {
    const hours = fc.double({ min: 0, max: 50, noNaN: true });
    fc.assert(
      fc.property(hours, hours, (a, b) => {
        const left = (h: number): number => dueOf(edge({ hoursOnEdge: h })).hoursLeft ?? NaN;
        expect(left(Math.max(a, b))).toBeLessThanOrEqual(left(Math.min(a, b)));
      }),
    );
  });
  it('refuses hours below none and an interval of none, by name', () => {
    expect(() => dueOf(edge({ hoursOnEdge: -1 }))).toThrowError(/hoursOnEdge/);
    expect(() => dueOf(edge({ interval: { kind: 'hours', hours: 0 } }))).toThrowError(/hours must/);
    expect(dutyFactor({ turf: 'soft', soil: 'loam' })).toBe(1);
  });
});

describe('paceAfter', () => {
  it('comes to what is mown, and forgets what was', () => {
    let pace = 9;
    for (let week = 0; week < 20; week++) pace = paceAfter(pace, 21, 7);
    expect(pace).toBeCloseTo(3, 3);
    expect(paceAfter(5, 8, 0)).toBe(5);
    expect(() => paceAfter(1, -1, 1)).toThrowError(/hours/);
  });
  it('is the same told in one week or day by day', () => {
    let daily = 2;
    for (let day = 0; day < 7; day++) daily = paceAfter(daily, 4, 1);
    expect(daily).toBeCloseTo(paceAfter(2, 28, 7), 12);
  });
});

describe('planBench', () => {
  it('has the least worst lateness of all orders, one set a day (Jackson’s rule)', () => {
    const days = Array.from({ length: 5 }, (_, i) => ({ inDays: 2 * i, capacity: 3 }));
    const orders = (list: number[]): number[][] =>
      list.length < 2
        ? [list]
        : list.flatMap((head, i) =>
            orders(list.filter((_, j) => j !== i)).map((t) => [head, ...t]),
          );
    fc.assert(
      fc.property(
        fc.array(fc.integer({ min: 0, max: 9 }), { minLength: 2, maxLength: 5 }),
        (due) => {
          const jobs = due.map((dueInDays, i) => ({ id: String(i), blades: 3, dueInDays }));
          const { jobs: planned } = planBench(jobs, days);
          const worst = Math.max(0, ...planned.map((job) => (job.inDays ?? 0) - job.dueInDays));
          const best = Math.min(
            ...orders([...due.keys()]).map((order) =>
              Math.max(0, ...order.map((job, at) => 2 * at - (due[job] ?? 0))),
            ),
          );
          expect(worst).toBe(best);
        },
      ),
    );
  });
  it('has the least worst lateness of all ways to put whole sets of unlike size on days (exhaustive)', () => {
    const cost = (
      list: readonly { inDays?: number | undefined; dueInDays: number }[],
    ): [number, number] => [
      list.filter(({ inDays, dueInDays }) => inDays === undefined && dueInDays < Infinity).length,
      Math.max(0, ...list.map(({ inDays = 0, dueInDays }) => inDays - dueInDays)),
    ];
    fc.assert(
      fc.property(
        fc.array(
          fc.record({
            due: fc.integer({ min: 0, max: 8 }),
            blades: fc.integer({ min: 1, max: 5 }),
          }),
          {
            minLength: 2,
            maxLength: 5,
          },
        ),
        (sets) => {
          const days = [0, 2, 5].map((inDays) => ({ inDays, capacity: 6 }));
          const jobs = sets.map(({ due, blades }, i) => ({
            id: String(i),
            blades,
            dueInDays: due,
          }));
          const { jobs: planned, best } = planBench(jobs, days);
          let least: [number, number] = [Infinity, Infinity];
          for (let way = 0; way < 4 ** jobs.length; way++) {
            const at = jobs.map((job, i) => ({
              ...job,
              inDays: days[Math.floor(way / 4 ** i) % 4]?.inDays,
            }));
            const fits = days.every(
              ({ inDays, capacity }) =>
                at
                  .filter((job) => job.inDays === inDays)
                  .reduce((sum, { blades }) => sum + blades, 0) <= capacity,
            );
            const here = cost(at);
            if (fits && (here[0] < least[0] || (here[0] === least[0] && here[1] < least[1])))
              least = here;
          }
          expect(best).toBeTrue();
          expect(cost(planned)).toEqual(least);
        },
      ),
      { numRuns: 200 },
    );
  });
  it('says that it may not be the best where there are too many ways to look through', () => {
    const jobs = Array.from({ length: 40 }, (_, i) => ({
      id: String(i),
      blades: 2 + (i % 3),
      dueInDays: i % 7,
    }));
    const days = Array.from({ length: 8 }, (_, i) => ({ inDays: 2 * i + 1, capacity: 10 }));
    expect(planBench(jobs, days).best).toBeFalse();
  });
  it('grinds no edge away before it has to', () => {
    const days = [0, 2, 7].map((inDays) => ({ inDays, capacity: 6 }));
    const { jobs: planned } = planBench(
      [
        { id: 'now', blades: 3, dueInDays: 0 },
        { id: 'week', blades: 3, dueInDays: 6.5 },
        { id: 'fortnight', blades: 3, dueInDays: 14 },
        { id: 'whenever', blades: 3, dueInDays: Infinity },
      ],
      days,
    );
    expect(planned.map(({ id, inDays }) => [id, inDays])).toEqual([
      ['now', 0],
      ['week', 2],
      ['fortnight', 7],
      ['whenever', 2],
    ]);
    expect(planned.some(({ late }) => late)).toBeFalse();
  });
  it('says what is late, and what no day has room for', () => {
    const { jobs: planned } = planBench(
      [
        { id: 'late', blades: 3, dueInDays: 0 },
        { id: 'big', blades: 9, dueInDays: 1 },
        { id: 'whenever', blades: 3, dueInDays: Infinity },
      ],
      [{ inDays: 2, capacity: 6 }],
    );
    expect(planned.map(({ id, inDays, late }) => [id, inDays, late])).toEqual([
      ['late', 2, true],
      ['big', undefined, true],
      ['whenever', 2, false],
    ]);
    expect(() => planBench([], [{ inDays: 0, capacity: -1 }])).toThrowError(/capacity/);
  });
});
