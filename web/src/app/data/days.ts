import { inject, Injectable, signal } from '@angular/core';
import { DAY, dateLocale, FULL_DAY, momentIn, type MomentParts } from '@tally-stone/core/basics';
import { Region } from './region';

const WEEKDAYS = [
  $localize`Mon`,
  $localize`Tue`,
  $localize`Wed`,
  $localize`Thu`,
  $localize`Fri`,
  $localize`Sat`,
  $localize`Sun`,
];

const MONTHS_BY_NAME = { dates: 'day-first', decimal: 'point' } as const;

/** Days as the shop counts them: in the shop's own time zone, wherever the screen stands. */
@Injectable({ providedIn: 'root' })
export class Days {
  readonly zone = signal('utc');
  private readonly region = inject(Region);

  /** A stored UTC time as a day, for example `3 Nov`. */
  short(instant: string): string {
    return this.format(instant, DAY);
  }

  /** With the year, for records. */
  full(instant: string): string {
    return this.format(instant, FULL_DAY);
  }

  /** A month of the calendar, `2026-11`: `Nov`, or with its year `Nov 26`. */
  month(
    key: string,
    parts: Pick<Intl.DateTimeFormatOptions, 'month' | 'year'> = { month: 'short' },
  ): string {
    // Months by their names are of the language, whatever the form of the days.
    return new Intl.DateTimeFormat(dateLocale(MONTHS_BY_NAME), {
      ...parts,
      timeZone: 'UTC',
    }).format(new Date(`${key}-01T00:00:00Z`));
  }

  /** The days of the week by their numbers, Monday 1, as the shop's week runs. */
  weekdays(): { readonly day: number; readonly name: string }[] {
    const first = this.region.written().weekBegins;
    return Array.from({ length: 7 }, (_, i) => {
      const day = ((first - 1 + i) % 7) + 1;
      return { day, name: WEEKDAYS[day - 1] ?? '' };
    });
  }

  /** The time of day, for example `10:42`. */
  time(instant: string): string {
    return this.format(instant, { hour: '2-digit', minute: '2-digit' });
  }

  private format(instant: string, parts: MomentParts): string {
    return momentIn(this.region.written(), this.zone(), instant, parts);
  }
}
