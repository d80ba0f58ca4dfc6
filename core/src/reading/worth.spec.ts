import { fullLookDue, readingsWorthTaking, type KnownPlace } from '../index.js';

const width = (key: string, margin: number, u = 0.4): KnownPlace => ({
  key,
  quantity: 'width',
  carried: { value: 52 + margin, u },
  margin,
});
const mass: KnownPlace = { key: 'mass', quantity: 'mass', carried: { value: 1500, u: 2 } };
const ask = (places: KnownPlace[], change: { fullLook?: boolean; struck?: boolean } = {}) =>
  readingsWorthTaking({ places, fullLook: false, struck: false, ...change });

describe('readingsWorthTaking', () => {
  it('asks for the mass and the narrowest place alone while every limit is far away', () => {
    const worth = ask([mass, width('A:tip', 6), width('A:mid', 5), width('B:tip', 7)]);
    expect(worth.map(({ key }) => key)).toEqual(['mass', 'A:mid']);
    expect(worth[1]?.why).toContain('narrowest');
  });
  it('asks for what could be past its limit, and says by how much it might', () => {
    const worth = ask([mass, width('A:tip', 1), width('B:tip', 0.9), width('B:mid', 4)]);
    expect(worth.map(({ key }) => key)).toEqual(['mass', 'A:tip', 'B:tip']);
    expect(worth[1]?.why).toBe(
      'could be past its limit: 1.0\u00a0mm left, give or take 0.8\u00a0mm',
    );
  });
  it('asks for what moves the plan by two passes, not for less, and says by how many', () => {
    const land = (passesAtStake: number): KnownPlace => ({
      key: 'land',
      quantity: 'land',
      carried: { value: 0.3, u: 0.2 },
      passesAtStake,
    });
    expect(ask([land(2.2)])[0]?.why).toBe('could change the plan by 2 passes');
    expect(ask([land(1.9)])).toEqual([]);
  });
  it('asks for everything at a full look, and for what was never read', () => {
    const bevel: KnownPlace = { key: 'bevel', quantity: 'bevel', carried: { value: 30, u: 0.5 } };
    expect(ask([bevel])).toEqual([]);
    expect(ask([bevel], { fullLook: true })[0]?.why).toBe('full look');
    expect(ask([{ key: 'wing', quantity: 'wing' }])[0]?.why).toBe('never read on this blade');
  });
  it('looks for a bend again after a strike', () => {
    const tip: KnownPlace = {
      key: 'tip',
      quantity: 'tip-height',
      carried: { value: 40, u: 0.4 },
    };
    expect(ask([tip])).toEqual([]);
    expect(ask([tip], { struck: true })[0]?.why).toBe('it struck something');
  });
});

describe('fullLookDue', () => {
  it('comes after so many cycles or so many days', () => {
    expect(fullLookDue({ cycles: 3, days: 20 })).toBeFalse();
    expect(fullLookDue({ cycles: 4, days: 20 })).toBeTrue();
    expect(fullLookDue({ cycles: 1, days: 130 })).toBeTrue();
  });
});
