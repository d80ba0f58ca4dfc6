import { edgeHoursByGrass, tornShare, type GrassLook } from './torn.js';

describe('torn tips', () => {
  it('have the share and range Newcombe prints for Wilson’s interval', () => {
    // Statistics in Medicine 17 (1998) 857, table I, method 3 (from memory).
    const printed: [number, number, number, number][] = [
      [81, 263, 0.2553, 0.3662],
      [15, 148, 0.0624, 0.1605],
      [0, 20, 0, 0.1611],
      [1, 29, 0.0061, 0.1718],
    ];
    for (const [torn, of, low, high] of printed) {
      const found = tornShare(torn, of - torn);
      expect(found.low).toBeCloseTo(low, 4);
      expect(found.high).toBeCloseTo(high, 4);
    }
    expect(() => tornShare(0, 0)).toThrowError(/look at some tips/);
  });
});

describe('edge life by the grass', () => {
  /** Tips of a lawn where log-odds of torn rise by 0.4 an hour and a third are torn at `atH`. */
  const seen = (atH: number, hours: readonly number[], of = 40): GrassLook[] =>
    hours.map((h) => {
      const share = 1 / (1 + Math.exp(-(Math.log(1 / 2) + 0.4 * (h - atH))));
      const torn = Math.round(share * of);
      return { hours: h, torn, clean: of - torn };
    });

  it('finds the hours at which a third is torn, inside its own range', () => {
    const found = edgeHoursByGrass(seen(8, [0.5, 2, 4, 6, 8, 10, 12]))!;
    expect(found.hours).toBeCloseTo(8, 0);
    expect(found.low).toBeLessThan(8);
    expect(found.high).toBeGreaterThan(8);
    expect(found.high - found.low).toBeLessThan(4);
  });

  it('holds the true hours about nineteen times in twenty, also where lawns differ more than counts do', () => {
    let state = 7;
    const random = (): number => {
      state = (state * 1103515245 + 12345) % 2147483648;
      return state / 2147483648;
    };
    const normal = (): number =>
      Math.sqrt(-2 * Math.log(1 - random())) * Math.cos(2 * Math.PI * random());
    for (const lawns of [0, 0.6]) {
      let [held, told] = [0, 0];
      for (let trial = 0; trial < 1000; trial++) {
        const looks = [1, 2, 4, 6, 7, 9, 11, 13].map((hours) => {
          const odds = Math.log(1 / 2) + 0.4 * (hours - 8) + lawns * normal();
          const share = 1 / (1 + Math.exp(-odds));
          const torn = Array.from({ length: 25 }).filter(() => random() < share).length;
          return { hours, torn, clean: 25 - torn };
        });
        const found = edgeHoursByGrass(looks);
        if (!found) continue;
        told += 1;
        if (found.low <= 8 && 8 <= found.high) held += 1;
      }
      expect(told).toBeGreaterThan(970);
      expect(held / told).toBeGreaterThan(0.93);
      expect(held / told).toBeLessThan(0.99);
    }
  });

  it('says nothing from few looks, from alike hours, or where hours tear no more', () => {
    expect(edgeHoursByGrass(seen(8, [2, 6, 8, 10]))).toBeUndefined();
    expect(edgeHoursByGrass(seen(8, [5, 5, 5, 5, 5, 5]))).toBeUndefined();
    const falling = [0, 2, 4, 6, 8, 10].map((hours) => ({ hours, torn: 20 - hours, clean: 20 }));
    expect(edgeHoursByGrass(falling)).toBeUndefined();
    const scattered = [1, 9, 3, 7, 2, 8].map((hours, i) => ({
      hours,
      torn: i % 2 ? 2 : 30,
      clean: i % 2 ? 30 : 2,
    }));
    expect(edgeHoursByGrass(scattered)).toBeUndefined();
  });
});
