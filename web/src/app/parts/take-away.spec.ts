import { Served } from '../../testing/served';
import { TakeAway } from './take-away';

describe('taking a list away', () => {
  it('takes what is on the screen, as a workbook, as plain text or on paper', async () => {
    const page = await Served.open(
      TakeAway,
      {},
      { asked: { text: 'kestrel & co', state: undefined, sort: 'place' } },
    );
    await page.click('Export this list');
    const links = [...document.querySelectorAll<HTMLAnchorElement>('a[mat-menu-item]')];
    expect(links.map((link) => link.getAttribute('href'))).toEqual([
      '/api/v1/sheets/register.xlsx?text=kestrel+%26+co&sort=place',
      '/api/v1/sheets/register.csv?text=kestrel+%26+co&sort=place',
      '/api/v1/sheets/register.pdf?text=kestrel+%26+co&sort=place&units=metric',
    ]);
  });
});
