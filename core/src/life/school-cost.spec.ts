import { recessionUnder, schoolCost, type GrindOfHistory, type NickPolicy } from '../index.js';
import { seeded } from '../testing/dice.js';

const CLEAR: NickPolicy = { kind: 'clear-all' };
const LEAVE: NickPolicy = { kind: 'leave-all' };
const upTo = (depthMm: number): NickPolicy => ({ kind: 'leave-to', depthMm });
const prices = {
  blade: 24,
  minutesPerBlade: 12,
  benchHour: 30,
  abrasivePerGrind: 0.4,
  dullHour: 2,
};
const plain: GrindOfHistory[] = [{ recessionMm: 0.5, deepestMm: 0 }];
const basis = {
  grinds: plain,
  roomMm: 6,
  hoursPerEdge: 20,
  dullHoursPerEdge: 4,
  lostPerHour: 0,
};

describe('what a grind takes under a nick policy', () => {
  const history: GrindOfHistory[] = [
    { recessionMm: 0.4, deepestMm: 0 },
    { recessionMm: 0.6, deepestMm: 0 },
    { recessionMm: 0.7, deepestMm: 0.6 },
    { recessionMm: 1.5, deepestMm: 2 },
  ];
  it('is by hand: as it was without a nick, the sharpening or what is asked of the nick with one', () => {
    // Sharpening alone takes 0.5: with nicks of 0.6 and 2.0 that is 0.6 and 2.0 cleared, 0.5 and 1.2 left to 0.8.
    expect(recessionUnder(history, CLEAR)).toBeCloseTo((0.4 + 0.6 + 0.6 + 2) / 4, 12);
    expect(recessionUnder(history, upTo(0.8))).toBeCloseTo((0.4 + 0.6 + 0.5 + 1.2) / 4, 12);
    expect(recessionUnder(history, LEAVE)).toBeCloseTo((0.4 + 0.6 + 0.5 + 0.5) / 4, 12);
  });
  it('never takes less the more is cleared', () => {
    const taken = [LEAVE, upTo(1.6), upTo(0.8), upTo(0.2), CLEAR].map((policy) =>
      recessionUnder(history, policy),
    );
    expect(taken).toEqual([...taken].sort((a, b) => a - b));
  });
  it('needs a history, and no figure below none', () => {
    expect(() => recessionUnder([], CLEAR)).toThrowError(/grinds/);
    expect(() => recessionUnder([{ recessionMm: -1, deepestMm: 0 }], CLEAR)).toThrowError(
      /recessionMm/,
    );
    expect(() => recessionUnder([{ recessionMm: 1, deepestMm: -1 }], CLEAR)).toThrowError(
      /deepestMm/,
    );
  });
});

describe('what an hour mown costs under a school', () => {
  it('is by hand: a factory edge and 12 grinds of 20 h of a blade of 24', () => {
    const cost = schoolCost(basis, { nicks: LEAVE }, prices);
    expect(cost.grinds).toBeCloseTo(12, 12);
    expect(cost.blade).toBeCloseTo(24 / 260, 12);
    expect(cost.bench).toBeCloseTo((12 * 12 * 30) / 60 / 260, 12);
    expect(cost.abrasive).toBeCloseTo((0.02 * 20 * 12) / 260, 12);
    expect(cost.dull).toBeCloseTo(0.4, 12);
    expect(cost.ground).toBeCloseTo(cost.blade + cost.bench + cost.abrasive, 12);
    expect(cost.total).toBeCloseTo(cost.ground + 0.4, 12);
  });

  it('counts whole grinds', () => {
    expect(schoolCost({ ...basis, roomMm: 6.4 }, { nicks: LEAVE }, prices).grinds).toBe(12);
    expect(schoolCost({ ...basis, roomMm: 5.9 }, { nicks: LEAVE }, prices).grinds).toBe(11);
    const fractions = { nicks: LEAVE, afterGrinds: 3.7 };
    expect(schoolCost(basis, fractions, prices).grinds).toBe(3);
  });

  it('pays for a blade thrown away after four grinds with 13 edges’ steel on five', () => {
    const limits = schoolCost(basis, { nicks: LEAVE }, prices);
    const count = schoolCost(basis, { nicks: LEAVE, afterGrinds: 4 }, prices);
    expect(count.grinds).toBe(4);
    expect(count.blade / limits.blade).toBeCloseTo(13 / 5, 12);
    expect(count.bench / limits.bench).toBeCloseTo(4 / 5 / (12 / 13), 12);
  });

  it('stops at a limit that grinding does not touch, and at the factory edge where there is no room', () => {
    expect(schoolCost({ ...basis, otherLimitGrinds: 5 }, { nicks: LEAVE }, prices).grinds).toBe(5);
    expect(schoolCost({ ...basis, roomMm: 0.1 }, { nicks: LEAVE }, prices).grinds).toBe(0);
  });

  it('is the mean of blades run one by one to their end (renewal-reward)', () => {
    const dice = seeded(11);
    const lost = { ...basis, lostPerHour: 0.004 };
    const chance = -Math.expm1(-0.004 * 20);
    let edges = 0;
    const BLADES = 20_000;
    for (let blade = 0; blade < BLADES; blade++) {
      for (let edge = 1; edge <= 13; edge++) {
        edges += 1;
        if (dice() < chance) break;
      }
    }
    const { grinds, blade } = schoolCost(lost, { nicks: LEAVE }, prices);
    expect((grinds + 1) / (edges / BLADES)).toBeCloseTo(1, 1.7);
    expect(blade).toBeCloseTo(24 / (20 * (grinds + 1)), 12);
  });

  it('names the field that cannot be', () => {
    const choice = { nicks: LEAVE };
    expect(() => schoolCost({ ...basis, roomMm: 0 }, choice, prices)).toThrowError(/roomMm/);
    expect(() => schoolCost({ ...basis, hoursPerEdge: 0 }, choice, prices)).toThrowError(
      /hoursPerEdge/,
    );
    expect(() => schoolCost({ ...basis, lostPerHour: -1 }, choice, prices)).toThrowError(
      /lostPerHour/,
    );
    expect(() => schoolCost(basis, { ...choice, afterGrinds: -1 }, prices)).toThrowError(
      /afterGrinds/,
    );
    expect(() => schoolCost(basis, choice, { ...prices, blade: -1 })).toThrowError(/blade/);
  });
});
