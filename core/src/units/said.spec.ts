import { resaid, said, shownIn, speedIn, type Show, type UnitSystem } from '../index.js';

const shows =
  (system: UnitSystem): Show =>
  (value, base, digits = 1) => {
    const shown = shownIn(system, value, base, digits);
    return `${shown.value.toFixed(shown.digits)} ${shown.unit}`;
  };

describe('A quantity in a sentence', () => {
  it('is written for the reader, with as many figures as say the same', () => {
    const words = `End A: ${said(0.7, 'mm')} deep, takes ${said(8.5, 'g')}, ${said(360, 'g·mm', 0)} heavy`;
    expect(resaid(words, shows('metric'))).toBe('End A: 0.7 mm deep, takes 8.5 g, 360 g·mm heavy');
    expect(resaid(words, shows('inch'))).toBe('End A: 0.028 in deep, takes 8.5 g, 360 g·mm heavy');
    // 1 oz = 28.349523125 g, 1 oz·in = 720.0779 g·mm (NIST SP 811, appendix B).
    expect(resaid(words, shows('inch-ounce'))).toBe(
      'End A: 0.028 in deep, takes 0.300 oz, 0.500 oz·in heavy',
    );
  });

  it('leaves what a person wrote, and a rule of law, as it stands', () => {
    const typed = 'maker: manual, page 3, at least 52 mm or 2 1/16 in; at most 3.1 mm at the rest';
    expect(resaid(typed, shows('inch-ounce'))).toBe(typed);
    // A balance grade is a number of its standard, not a length.
    const grade = 'is more than 100\u00a0mm/s';
    expect(resaid(grade, shows('inch'))).toBe(grade);
  });

  it('is a speed in feet a minute where lengths are in inches', () => {
    // 1 ft/min = 5.08 mm/s (NIST SP 811, appendix B.8).
    expect(speedIn('inch', 0.00508).value).toBeCloseTo(1, 12);
    expect(speedIn('inch-ounce', 96.52).value).toBeCloseTo(19_000, 9);
    expect(speedIn('inch', 1).unit).toBe('ft/min');
    expect(speedIn('metric', 96.52)).toEqual({ value: 96.52, unit: 'm/s' });
  });
});
