import { TestBed } from '@angular/core/testing';
import { scaleLinear } from 'd3-scale';
import { Region } from '../data/region';
import { tickWords } from './tick-words';

describe('figures at an axis', () => {
  it('stand with the decimals of their step, in the sign of the shop', () => {
    const region = TestBed.inject(Region);
    region.written.set({ dates: 'day-first', decimal: 'comma', weekBegins: 1 });
    const fine = scaleLinear([50, 52], [0, 100]);
    expect(fine.ticks(4).map(tickWords(fine, 4, region))).toEqual([
      '50,0',
      '50,5',
      '51,0',
      '51,5',
      '52,0',
    ]);
    const coarse = scaleLinear([0, 20_000], [0, 100]);
    expect(tickWords(coarse, 5, region)(15_000)).toBe('15.000');
  });
});
