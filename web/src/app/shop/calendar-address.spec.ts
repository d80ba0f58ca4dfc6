import { Served } from '../../testing/served';
import { CalendarAddressPart } from './calendar-address';

const open = (since?: string) =>
  Served.open(CalendarAddressPart, {
    '/api/v1/calendar-address': since ? { since } : {},
    'POST make': {
      since: '2026-05-02T08:00:00Z',
      path: '/api/v1/calendars/abc.ics',
    },
  });

describe('a calendar that subscribes', () => {
  it('is given its whole address once, to be copied', async () => {
    const page = await open();
    expect(page.text).not.toContain('There is an address');
    page.button('Make an address').click();
    await page.until('output');
    expect(page.find('output').textContent).toBe(`${location.origin}/api/v1/calendars/abc.ics`);
    expect(page.text).toContain('not shown again');
  });

  it('says since when there is one, and that a new one ends it', async () => {
    const page = await open('2026-05-01T08:00:00Z');
    expect(page.text).toMatch(/There is an address since .*May 2026/);
    expect(page.text).toContain('Make a new one; the old one ends');
    expect(page.text).toContain('End it');
  });
});
