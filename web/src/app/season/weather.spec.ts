import { dailyRain } from './weather';

describe('daily rain out of a file', () => {
  it('finds its two columns wherever they stand, with a decimal comma too', () => {
    expect(dailyRain('Rain;Date\n0,4;2027-03-29\n12;2027-03-30\n')).toEqual([
      { day: '2027-03-29', rainMm: 0.4 },
      { day: '2027-03-30', rainMm: 12 },
    ]);
    expect(dailyRain('date,temp,precipitation\n2027-03-29,7,1.5')[0]?.rainMm).toBe(1.5);
  });
  it('says which column is missing, and which line is not a number', () => {
    expect(() => dailyRain('a,b\n1,2')).toThrowError(/The day is not in the file/);
    expect(() => dailyRain('date,b\n1,2')).toThrowError(/The rain is not in the file/);
    expect(() => dailyRain('date,rain\n2027-03-29,1\n2027-03-30,wet')).toThrowError(/line 3/);
    expect(() => dailyRain('date,rain\n2027-03-29,')).toThrowError(/line 2/);
  });
});
