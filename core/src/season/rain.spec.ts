import { readFileSync } from 'node:fs';
import { createRequire } from 'node:module';
import { dirname, join } from 'node:path';
import {
  chanceFrom,
  drawWetDays,
  rainFrom,
  steadyRain,
  wetShare,
  type DailyRain,
} from '../index.js';

/** Daily rain at one maritime station, 2012 to 2015: an open data set out of the vega-datasets package. */
function openSeries(): DailyRain[] {
  const main = createRequire(import.meta.url).resolve('vega-datasets');
  const file = join(dirname(main), '../data/seattle-weather.csv');
  const [, ...lines] = readFileSync(file, 'utf8').trim().split('\n');
  return lines.map((line) => {
    const [day = '', rain = ''] = line.split(',');
    return { day, rainMm: Number(rain) };
  });
}

describe('rainFrom', () => {
  const days = openSeries();

  it('counts the chances of each month as a count by hand does', () => {
    const model = rainFrom(days, 2);
    const july = { dry: 0, dryThenWet: 0, wet: 0, wetThenWet: 0 };
    days.slice(1).forEach(({ day, rainMm }, i) => {
      if (day.slice(5, 7) !== '07') return;
      const was = (days[i]?.rainMm ?? 0) >= 2;
      july[was ? 'wet' : 'dry'] += 1;
      if (rainMm >= 2) july[was ? 'wetThenWet' : 'dryThenWet'] += 1;
    });
    expect(model[6]?.afterDry).toBeCloseTo(july.dryThenWet / july.dry, 12);
    expect(model[6]?.afterWet).toBeCloseTo(july.wetThenWet / july.wet, 12);
  });
  it('finds wet days keeping together, and summer drier than winter', () => {
    const model = rainFrom(days, 1);
    const share = (month: number): number => wetShare(model[month] ?? { afterDry: 0, afterWet: 0 });
    expect(model[10]?.afterWet).toBeGreaterThan(model[10]?.afterDry ?? 1);
    expect(share(6)).toBeLessThan(share(11) / 2);
  });
  it('draws as many wet days as the series has', () => {
    const model = rainFrom(days, 2);
    const months = days.map(({ day }) => Number(day.slice(5, 7)) - 1);
    const chance = chanceFrom(3);
    let wet = 0;
    const YEARS = 25;
    for (let i = 0; i < YEARS; i++)
      wet += drawWetDays(model, months, chance).filter(Boolean).length;
    const seen = days.filter(({ rainMm }) => rainMm >= 2).length;
    expect(wet / YEARS / seen).toBeGreaterThan(0.95);
    expect(wet / YEARS / seen).toBeLessThan(1.05);
  });
  it('leaves out days that do not follow each other', () => {
    const gaps = days.slice(0, 200).filter((_, i) => i % 2 === 0);
    expect(rainFrom(gaps, 2)[0]).toEqual({ afterDry: 0, afterWet: 0 });
  });
  it('refuses a series too short, a day that is none, rain below none', () => {
    expect(() => rainFrom(days.slice(0, 10), 2)).toThrowError(/days/);
    const [first, ...rest] = days.slice(0, 70);
    expect(() =>
      rainFrom([{ day: '31/01/2012', rainMm: first?.rainMm ?? 0 }, ...rest], 2),
    ).toThrowError(/day/);
    expect(() => rainFrom([{ day: '2012-01-01', rainMm: -1 }, ...rest], 2)).toThrowError(/rainMm/);
  });
});

describe('the long run of a chain', () => {
  it('is wet as often as its closed form says', () => {
    const chain = { afterDry: 0.15, afterWet: 0.55 };
    const model = Array.from({ length: 12 }, () => chain);
    const months = Array.from({ length: 200_000 }, () => 0);
    const wet = drawWetDays(model, months, chanceFrom(8)).filter(Boolean).length;
    expect(wet / months.length).toBeCloseTo(wetShare(chain), 2);
    expect(wetShare(steadyRain(0.25)[3] ?? chain)).toBeCloseTo(0.25, 12);
  });
});
