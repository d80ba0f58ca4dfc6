import { normal, seeded } from '../testing/dice.js';
import { breakEven, yearlyCost, type ToolCost } from './which-tool.js';

const PAY_OFF = { benchHour: 36, years: 5 };
const jig: ToolCost = {
  price: 150,
  minutesPerBlade: { value: 12, u: 1 },
  abrasivePerBlade: { value: 0.6, u: 0.05 },
};
const belt: ToolCost = {
  price: 2400,
  minutesPerBlade: { value: 5, u: 0.5 },
  abrasivePerBlade: { value: 0.5, u: 0.05 },
};

describe('which tool pays', () => {
  it('is the one that costs less in a year of so many blades', () => {
    const { bladesAYear = 0, from = 0, to = 0 } = breakEven(jig, belt, PAY_OFF);
    const at = (tool: ToolCost, blades: number): number => yearlyCost(tool, PAY_OFF, blades).value;
    expect(at(jig, bladesAYear)).toBeCloseTo(at(belt, bladesAYear), 6);
    expect(at(jig, bladesAYear - 1)).toBeLessThan(at(belt, bladesAYear - 1));
    expect(at(jig, bladesAYear + 1)).toBeGreaterThan(at(belt, bladesAYear + 1));
    // By hand: 450 a year more, 4.30 saved a blade.
    expect(bladesAYear).toBeCloseTo(450 / 4.3, 6);
    expect(from).toBeLessThan(bladesAYear);
    expect(to).toBeGreaterThan(bladesAYear);
  });

  it('holds within its range as often as two standard uncertainties should, by Monte Carlo', () => {
    const dice = seeded(4);
    const drawn = ({ minutesPerBlade, abrasivePerBlade }: ToolCost): number =>
      ((minutesPerBlade.value + minutesPerBlade.u * normal(dice)) * PAY_OFF.benchHour) / 60 +
      abrasivePerBlade.value +
      abrasivePerBlade.u * normal(dice);
    const { from = 0, to = 0 } = breakEven(jig, belt, PAY_OFF);
    let within = 0;
    for (let i = 0; i < 20_000; i++) {
      const blades = 450 / (drawn(jig) - drawn(belt));
      if (blades >= from && blades <= to) within += 1;
    }
    expect(within / 20_000).toBeGreaterThan(0.945);
    expect(within / 20_000).toBeLessThan(0.965);
  });

  it('has no end where the saving may be nothing, and is nowhere where there is none', () => {
    const unsure = { ...belt, minutesPerBlade: { value: 10, u: 2 } };
    expect(breakEven(jig, unsure, PAY_OFF).bladesAYear).toBeGreaterThan(0);
    expect(breakEven(jig, unsure, PAY_OFF).to).toBeUndefined();
    const slower = { ...belt, minutesPerBlade: { value: 14, u: 0.1 } };
    expect(breakEven(jig, slower, PAY_OFF).bladesAYear).toBeUndefined();
    expect(() => breakEven(jig, belt, { ...PAY_OFF, years: 0 })).toThrowError(/years/);
  });
});
