import { Served } from '../../testing/served';
import { LabelSheet } from './label-sheet';

describe('a sheet of labels', () => {
  it('asks for the labels on the sheet that was picked, from where it is still whole, and remembers the sheet', async () => {
    const page = await Served.open(LabelSheet, {}, { codes: ['4447M', '444CC'] });
    const asked = () =>
      Object.fromEntries(new URL(page.find<HTMLAnchorElement>('a').href).searchParams.entries());
    expect(asked()).toEqual({ sheet: '3 × 8, 70 × 37 mm, A4', skip: '0', codes: '4447M,444CC' });
    await page.enter('Labels gone already', '5');
    await page.pick('Label sheet', /5 × 13/);
    expect(asked()).toEqual({
      sheet: '5 × 13, 38.1 × 21.2 mm, A4',
      skip: '5',
      codes: '4447M,444CC',
    });
    expect(localStorage.getItem('tally-stone.label-sheet')).toContain('5 × 13');
    await page.enter('Labels gone already', '99');
    expect(await page.wrongAt('Labels gone already')).toContain('more than a sheet has');
    expect(asked()['skip']).toBe('0');
    localStorage.clear();
  });
});
