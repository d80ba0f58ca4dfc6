import convertUnits from 'convert-units';
import { BenchError, convert, kindOf, parseQuantity, torqueIn, unitsOf } from '../index.js';

describe('units', () => {
  // NIST SP 811, appendix B.8: exact factors.
  it('agree with the exact definitions of NIST SP 811', () => {
    expect(convert(1, 'in', 'mm')).toBe(25.4);
    expect(convert(1, 'lb', 'g')).toBe(453.59237);
    expect(convert(1, 'lb', 'oz')).toBeCloseTo(16, 12);
    expect(convert(1, 'lbf·ft', 'N·m')).toBeCloseTo(1.3558179483314, 12);
    expect(convert(1, 'kgf·m', 'N·m')).toBe(9.80665);
  });

  it('put 5 to 6 kgf·m at 36.2 to 43.4 lbf·ft', () => {
    expect(convert(5, 'kgf·m', 'lbf·ft')).toBeCloseTo(36.2, 1);
    expect(convert(6, 'kgf·m', 'lbf·ft')).toBeCloseTo(43.4, 1);
  });

  it('agree with an independent units package', () => {
    const pairs = [
      ['in', 'mm', 'in', 'mm'],
      ['lb', 'g', 'lb', 'g'],
      ['oz', 'g', 'oz', 'g'],
      ['kg', 'lb', 'kg', 'lb'],
      ['mm', 'in', 'mm', 'in'],
    ] as const;
    for (const [from, to, theirFrom, theirTo] of pairs) {
      const theirs = convertUnits(3.7).from(theirFrom).to(theirTo);
      // It keeps rounded factors (1 lb = 453.592 g); ours are exact.
      expect(convert(3.7, from, to) / theirs)
        .withContext(`${from} to ${to}`)
        .toBeCloseTo(1, 5);
    }
  });

  it('show one stored torque in all four units', () => {
    const torque = torqueIn(54);
    expect(torque['lbf·ft']).toBeCloseTo(39.83, 2);
    expect(torque['lbf·in']).toBeCloseTo(12 * torque['lbf·ft'], 9);
    expect(torque['kgf·m'] * 9.80665).toBeCloseTo(54, 9);
  });

  it('refuse to mix kinds', () => {
    expect(() => convert(1, 'mm', 'g')).toThrowError(BenchError, /measures length/);
    expect(kindOf('oz·in')).toBe('unbalance');
    expect(unitsOf('length')).toEqual(['mm', 'in']);
  });
});

describe('parseQuantity', () => {
  it('reads decimals with point or comma in the assumed unit', () => {
    expect(parseQuantity('51.2', 'mm')).toEqual({ value: 51.2, unit: 'mm' });
    expect(parseQuantity(' 51,2 ', 'mm').value).toBe(51.2);
    expect(parseQuantity('.5', 'mm').value).toBe(0.5);
  });

  it('reads fractions of an inch', () => {
    expect(parseQuantity('1/8', 'in').value).toBeCloseTo(3.175, 9);
    expect(parseQuantity('2 1/2', 'in').value).toBeCloseTo(63.5, 9);
    expect(parseQuantity('2-1/2 in', 'mm')).toEqual({ value: 63.5, unit: 'in' });
    expect(parseQuantity('3/4"', 'mm').value).toBeCloseTo(19.05, 9);
  });

  it('lets a unit typed after the number win over the assumed one', () => {
    expect(parseQuantity('1.6 kg', 'g').value).toBe(1600);
    expect(parseQuantity('30°', 'deg').value).toBe(30);
    expect(parseQuantity('40 ft-lb', 'N·m').unit).toBe('lbf·ft');
  });

  it('names the field and says what to do for empty, odd and wrong-unit entries', () => {
    expect(() => parseQuantity('', 'mm', 'width')).toThrowError(BenchError, /width is empty/);
    expect(() => parseQuantity('NaN', 'mm', 'width')).toThrowError(/width is not a number/);
    expect(() => parseQuantity('1e9', 'mm', 'width')).toThrowError(/width is not a number/);
    expect(() => parseQuantity('5 g', 'mm', 'width')).toThrowError(
      /width is in g, which measures mass: use mm, in/,
    );
    expect(() => parseQuantity('5 furlongs', 'mm', 'width')).toThrowError(
      /not known here: use mm, in/,
    );
    expect(() => parseQuantity('1/0', 'in', 'width')).toThrowError(/fraction over zero/);
  });

  it('keeps the sign, so that a negative entry is refused as negative and not misread', () => {
    expect(parseQuantity('-3', 'mm').value).toBe(-3);
  });
});
