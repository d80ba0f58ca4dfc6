import { startOf, switching, type Load, type Supply } from './power.js';

const SUPPLY: Supply = { ratedW: 2000, surgeW: 2500 };
const belt: Load = { name: 'Belt', runW: 1100 };
const lamp: Load = { name: 'Lamp', runW: 60, startW: 60 };
const collector: Load = { name: 'Collector', runW: 750, startW: 1600 };

/** All orders of a few. */
const ordersOf = <T>(some: readonly T[]): T[][] =>
  some.length < 2
    ? [[...some]]
    : some.flatMap((first, i) =>
        ordersOf(some.filter((_, j) => j !== i)).map((rest) => [first, ...rest]),
      );

describe('power at the grinder', () => {
  it('asks for two to three times the running power at the start, and all of it beside what runs', () => {
    expect(startOf(belt, [], SUPPLY)).toEqual({
      holds: 'may-trip',
      fromW: 2200,
      toW: 3300,
      runW: 1100,
    });
    expect(startOf({ ...belt, startW: 2400 }, [], SUPPLY).holds).toBe('holds');
    expect(startOf({ ...belt, startW: 2400 }, [lamp], SUPPLY).holds).toBe('holds');
    expect(startOf({ ...belt, startW: 2400 }, [collector], SUPPLY).holds).toBe('trips');
  });

  it('trips at every plate’s edge only past it', () => {
    const exactly = { name: 'Belt', runW: 2000, startW: 2500 };
    expect(startOf(exactly, [], SUPPLY).holds).toBe('holds');
    expect(startOf({ ...exactly, runW: 2001 }, [], SUPPLY).holds).toBe('trips');
    expect(startOf({ ...exactly, startW: 2501 }, [], SUPPLY).holds).toBe('trips');
    expect(startOf({ name: 'x', runW: 1250 }, [], SUPPLY).holds).toBe('may-trip');
    expect(startOf({ name: 'x', runW: 1251 }, [], SUPPLY).holds).toBe('trips');
  });

  it('is switched on in the order that asks for least, of every order there is', () => {
    const peak = (order: readonly Load[]): number =>
      Math.max(...order.map((load, i) => startOf(load, order.slice(0, i), SUPPLY).toW));
    for (const grinder of [belt, { ...belt, startW: 1900 }, { name: 'Disc', runW: 400 }]) {
      const all = [grinder, lamp, collector, { name: 'Heater', runW: 900, startW: 900 }];
      const { order } = switching(grinder, all.slice(1), SUPPLY);
      const chosen = order.map((name) => all.find((each) => each.name === name) as Load);
      expect(peak(chosen)).toBe(Math.min(...ordersOf(all).map(peak)));
    }
  });

  it('says which start it is that trips', () => {
    const strong = { ...belt, startW: 2200 };
    expect(switching(strong, [lamp, collector], SUPPLY)).toEqual({
      order: ['Belt', 'Collector', 'Lamp'],
      holds: 'trips',
      worst: 'Collector',
    });
    expect(switching(strong, [lamp], SUPPLY).holds).toBe('holds');
    expect(() => startOf({ name: 'x', runW: 0 }, [], SUPPLY)).toThrowError(/runW/);
  });
});
