import type { FleetView } from '@tally-stone/contract';
import { createEvents, type EventAttributes } from 'ics';
import { DateTime } from 'luxon';

/** Why a set is due, for a calendar that knows nothing else of it. */
const BECAUSE = {
  get strike() {
    return $localize`it struck something`;
  },
  get complaint() {
    return $localize`a poor cut was reported`;
  },
  get hours() {
    return $localize`its sharpening interval is reached`;
  },
  get days() {
    return $localize`its sharpening interval is reached`;
  },
  nothing: '',
} as const;

type Day = [number, number, number];
interface AllDay {
  readonly start: Day;
  readonly end: Day;
}

/** A shop day as a whole day: it has no clock, so no time zone moves it. */
function wholeDay(day: string): AllDay {
  const start = DateTime.fromISO(day, { zone: 'utc' });
  const end = start.plus({ days: 1 });
  const asArray = ({ year, month, day: of }: DateTime): Day => [year, month, of];
  return { start: asArray(start), end: asArray(end) };
}

/**
 * Bench days and due days as a calendar file (iCalendar, RFC 5545). A day keeps its name (UID), so that a calendar
 * that reads the file again changes what it has instead of showing it twice.
 */
export function calendarOf({ mowers, benchDays, today }: FleetView, shop: string): string {
  const common = { calName: $localize`${shop}:ph0:: blades`, productId: 'tally-stone' };
  const bench = benchDays
    .filter(({ blades }) => blades > 0)
    .map(({ day, blades, mowers: names }): EventAttributes => ({
      ...common,
      ...wholeDay(day),
      uid: `bench-${day}@tally-stone`,
      title: $localize`Grind ${blades} ${blades === 1 ? $localize`blade` : $localize`blades`}:ph1:: ${names.join(', ')}`,
      busyStatus: 'BUSY',
      transp: 'OPAQUE',
    }));
  const due = mowers.flatMap(({ mowerId, name, site, deck }): EventAttributes[] => {
    if (!deck.due?.dueOn) return [];
    return [
      {
        ...common,
        ...wholeDay(deck.due.dueOn < today ? today : deck.due.dueOn),
        uid: `due-${mowerId}@tally-stone`,
        title: $localize`Change the set of ${name}`,
        description: [
          BECAUSE[deck.due.because],
          $localize`${deck.hoursOnEdge.toFixed(1)} h on the edge`,
          $localize`${deck.readyBlades} of its blades ready in the rack`,
        ]
          .filter(Boolean)
          .join('; '),
        location: site,
        busyStatus: 'FREE',
        transp: 'TRANSPARENT',
      },
    ];
  });
  const { error, value } = createEvents([...bench, ...due]);
  if (error) throw error;
  return value ?? '';
}
