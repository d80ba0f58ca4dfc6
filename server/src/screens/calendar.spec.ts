import type { CalendarAddress, DueView, FleetView } from '@tally-stone/contract';
import ICAL from 'ical.js';
import { calendarOf } from './calendar.js';
import { TestShop } from '../testing/shop.js';

const due = (dueOn: string, because: DueView['because'] = 'hours'): DueView => ({
  state: 'later',
  because,
  dueOn,
  late: false,
  complaints: 0,
});
const mower = (name: string, on?: DueView): FleetView['mowers'][number] => ({
  mowerId: `id-${name}`,
  name,
  energy: 'petrol',
  site: 'Cemeteries; north, old part',
  hoursH: 10,
  upkeep: [],
  deck: {
    deckId: 'd',
    held: [],
    bladeSpeedRpm: 3000,
    spindles: [],
    pairs: [],
    faults: [],
    tooFast: false,
    hoursOnEdge: 6.5,
    readyBlades: 2,
    ...(on ? { due: on } : {}),
  },
});
const view = (change: Partial<FleetView> = {}): FleetView => ({
  mowers: [
    mower('Yew', due('2026-03-29')),
    mower('Lark, small', due('2026-03-20', 'strike')),
    mower('Bare'),
  ],
  today: '2026-03-28',
  planIsBest: true,
  benchDays: [
    { day: '2026-03-31', capacity: 12, blades: 5, mowers: ['Yew', 'Lark, small'] },
    { day: '2026-04-02', capacity: 12, blades: 0, mowers: [] },
  ],
  ...change,
});
/** The file as an independent reader understands it. */
const read = (text: string) =>
  new ICAL.Component(ICAL.parse(text) as unknown[])
    .getAllSubcomponents('vevent')
    .map((event) => new ICAL.Event(event));

describe('the calendar file', () => {
  it('is read by an independent package: whole days, names and places whole', () => {
    const events = read(calendarOf(view(), 'Test shop'));
    expect(events.map(({ summary }) => summary)).toEqual([
      'Grind 5 blades: Yew, Lark, small',
      'Change the set of Yew',
      'Change the set of Lark, small',
    ]);
    expect(events.every(({ startDate }) => startDate.isDate)).toBeTrue();
    expect(events[1]?.location).toBe('Cemeteries; north, old part');
    expect(events[2]?.description).toContain('it struck something');
  });
  it('keeps a day a day across the night the clocks change, and moves what is overdue to today', () => {
    const [bench, yew, lark] = read(calendarOf(view(), 'Test shop'));
    const days = (event: typeof bench) => [event?.startDate.toString(), event?.endDate.toString()];
    // British summer time begins on 29 March 2026.
    expect(days(yew)).toEqual(['2026-03-29', '2026-03-30']);
    expect(days(bench)).toEqual(['2026-03-31', '2026-04-01']);
    expect(days(lark)).toEqual(['2026-03-28', '2026-03-29']);
  });
  it('gives a day the same name every time', () => {
    const uids = (text: string) => read(text).map(({ uid }) => uid);
    expect(uids(calendarOf(view(), 'a'))).toEqual(
      uids(calendarOf(view({ mowers: view().mowers }), 'b')),
    );
    expect(new Set(uids(calendarOf(view(), 'a'))).size).toBe(3);
  });
  it('comes from the server as a file', async () => {
    const shop = await TestShop.open();
    const { status, headers, body } = await shop.get<string>('/api/v1/calendar.ics');
    expect(status).toBe(200);
    expect(headers.get('content-type')).toContain('text/calendar');
    expect(read(body)).toEqual([]);
    await shop.close();
  });

  it('is subscribed to under an address of its own, which a new one and an end take away', async () => {
    const shop = await TestShop.open();
    try {
      const change = async (act: 'make' | 'end'): Promise<CalendarAddress> => {
        const response = await fetch(`${shop.serving.address}/api/v1/calendar-address`, {
          method: 'POST',
          headers: { 'Content-Type': 'application/json' },
          body: JSON.stringify({ act }),
        });
        return (await response.json()) as CalendarAddress;
      };
      const statusOf = async (path = ''): Promise<number> => (await shop.get(path)).status;
      expect((await shop.get('/api/v1/calendar-address')).body).toEqual({});
      const { path: first } = await change('make');
      const reply = await shop.get<string>(first ?? '');
      expect(reply.headers.get('content-type')).toContain('text/calendar');
      expect(new ICAL.Component(ICAL.parse(reply.body) as object[]).name).toBe('vcalendar');
      const { path: second } = await change('make');
      expect([await statusOf(first), await statusOf(second)]).toEqual([404, 200]);
      // Only its hash is kept: whoever reads the file of the shop cannot open it.
      const [row] = await shop.database.models.calendarAddress.findAll();
      expect(second).not.toContain(row?.id ?? 'none');
      await change('end');
      expect(await statusOf(second)).toBe(404);
      expect(await statusOf('/api/v1/calendars/.ics')).toBe(404);
    } finally {
      await shop.close();
    }
  });
});
