import { questionReading } from './question.js';
import { plain } from '../testing/plain.js';

describe('questionReading', () => {
  const base = { quantity: 'mass', unit: 'g', newTolerance: 15 } as const;
  it('doubts a mass above the one before grinding and names likely causes', () => {
    const words = questionReading({
      ...base,
      reading: { value: 815, u: 0.3 },
      before: { value: 812, u: 0.3 },
    })?.words;
    expect(plain(words)).toContain('3.0 g more than');
    expect(words).toContain('weighed dirty');
  });

  it('accepts a rise within the combined uncertainty', () => {
    expect(
      questionReading({
        ...base,
        reading: { value: 812.3, u: 0.3 },
        before: { value: 812, u: 0.3 },
      }),
    ).toBeUndefined();
  });

  it('asks whether the ends were swapped where a width is what the other end was', () => {
    const swapped = {
      quantity: 'width',
      unit: 'mm',
      newTolerance: 0.8,
      reading: { value: 58.4, u: 0.1 },
      last: { value: 56.9, u: 0.1 },
    } as const;
    expect(questionReading({ ...swapped, otherEnd: { value: 58.5, u: 0.1 } })?.words).toContain(
      'as the other end was: ends swapped? Read it again',
    );
    expect(questionReading({ ...swapped, otherEnd: { value: 57.6, u: 0.1 } })?.words).toContain(
      'wrong station or end',
    );
    // Right at both ends is no question at all.
    expect(
      questionReading({
        ...swapped,
        last: { value: 58.5, u: 0.1 },
        otherEnd: { value: 58.4, u: 0.1 },
      }),
    ).toBeUndefined();
  });

  it('doubts a blade wider than new', () => {
    expect(
      questionReading({
        quantity: 'width',
        unit: 'mm',
        reading: { value: 66, u: 0.1 },
        asNew: 63.5,
        newTolerance: 0.8,
      })?.words,
    ).toContain('of a new blade');
  });

  it('leaves alone what grinding can raise', () => {
    expect(
      questionReading({
        quantity: 'bevel',
        unit: 'deg',
        reading: { value: 33, u: 0.1 },
        before: { value: 30, u: 0.1 },
        newTolerance: 2,
      }),
    ).toBeUndefined();
  });

  describe('where a reading fell further than mowing and grinding take', () => {
    const mass = { ...base, last: { value: 1862, u: 0.2 } } as const;
    const root = {
      quantity: 'width',
      unit: 'mm',
      newTolerance: 0.8,
      last: { value: 69.1, u: 0.2 },
    } as const;
    const at = (value: number, u = 0.1) => ({ reading: { value, u } });

    it('asks before it is believed: 55.2 g and 1,800 g on a blade of 1,862 g, a root of 30 after 69.1', () => {
      expect(plain(questionReading({ ...mass, ...at(55.2) })?.words)).toContain(
        '55.2 g is 1806.8 g less than the 1862.0 g after the last cycle (at most 22.3 g can have gone): zeroed with something on the scale? Read it again',
      );
      expect(plain(questionReading({ ...mass, ...at(1800) })?.words)).toContain('62.0 g less');
      expect(questionReading({ ...root, ...at(30) })?.words).toContain('misread, or another blade');
    });

    it('believes what a season of mowing and a grind can take', () => {
      expect(questionReading({ ...mass, ...at(1845) })).toBeUndefined();
      expect(questionReading({ ...root, ...at(67.2) })).toBeUndefined();
      const grindsSince = 3;
      const longAgo = { ...root, last: { ...root.last, grindsSince } };
      expect(questionReading({ ...longAgo, ...at(52) })).toBeUndefined();
      expect(plain(questionReading({ ...root, ...at(52) })?.words)).toContain('17.1 mm less');
      // Twenty passes that should have taken 80 g: then 120 g gone is not out of the way.
      const heavy = {
        ...base,
        before: { value: 1862, u: 0.2 },
        expected: { value: 1782, u: 8 },
      };
      expect(questionReading({ ...heavy, ...at(1742) })).toBeUndefined();
      expect(questionReading({ ...heavy, expected: undefined, ...at(1742) })).toBeDefined();
    });

    it('offers the slip: unit, decimal place, end, station', () => {
      const inches = questionReading({ ...root, ...at(2.71, 0.005) });
      expect(inches?.words).toContain('read in inches?');
      expect(inches?.meant).toBeCloseTo(68.8, 1);
      expect(questionReading({ ...mass, ...at(185.9) })?.meant).toBeCloseTo(1859, 9);
      expect(questionReading({ ...mass, ...at(65.6) })?.words).toContain('read in ounces');
      expect(
        questionReading({ ...root, ...at(58.5), otherEnd: { value: 58.4, u: 0.1 } })?.words,
      ).toContain('ends swapped');
      const neighbours = [{ name: 'middle', value: 61.2, u: 0.1 }];
      expect(questionReading({ ...root, ...at(61.2), neighbours })?.words).toContain(
        'as the station middle was: another station',
      );
    });

    it('believes a fall that was read twice, and never a rise', () => {
      expect(questionReading({ ...root, ...at(52), confirmed: true })).toBeUndefined();
      expect(questionReading({ ...root, ...at(71), confirmed: true })).toBeDefined();
    });

    it('holds a blade nobody has measured before against a share of new', () => {
      const used = { ...base, asNew: 1600, knownWorn: true };
      expect(questionReading({ ...used, ...at(1100) })).toBeUndefined();
      expect(questionReading({ ...used, ...at(700) })?.words).toMatch(
        /less than .* of a new blade/,
      );
      expect(questionReading({ ...used, knownWorn: false, ...at(1100) })).toBeDefined();
    });
  });

  it('asks of a bevel, a land or a hole that is out of all measure', () => {
    const bevel = { quantity: 'bevel', unit: 'deg', newTolerance: 2, asNew: 30 } as const;
    expect(questionReading({ ...bevel, reading: { value: 38, u: 0.4 } })).toBeUndefined();
    expect(questionReading({ ...bevel, reading: { value: 55, u: 0.4 } })?.words).toContain(
      '25.0° more than',
    );
    const hole = { quantity: 'hole-wear', unit: 'mm', newTolerance: 0.8 } as const;
    expect(questionReading({ ...hole, reading: { value: 0.8, u: 0.03 } })).toBeUndefined();
    expect(questionReading({ ...hole, reading: { value: 8, u: 0.03 } })?.meant).toBeCloseTo(0.8, 9);
  });
});
