import { Injectable, signal } from '@angular/core';

/** English as the shop writes it: the day before the month. */
const LOCALE = 'en-GB';

/** Days as the shop counts them: in the shop's own time zone, wherever the screen stands. */
@Injectable({ providedIn: 'root' })
export class Days {
  readonly zone = signal('utc');

  /** A stored UTC time as a day, for example `3 Nov`. */
  short(instant: string): string {
    return this.format(instant, { day: 'numeric', month: 'short' });
  }

  /** With the year, for records. */
  full(instant: string): string {
    return this.format(instant, { day: 'numeric', month: 'short', year: 'numeric' });
  }

  /** The time of day, for example `10:42`. */
  time(instant: string): string {
    return this.format(instant, { hour: '2-digit', minute: '2-digit' });
  }

  private format(instant: string, parts: Intl.DateTimeFormatOptions): string {
    return new Intl.DateTimeFormat(LOCALE, { ...parts, timeZone: this.zone() }).format(
      new Date(instant),
    );
  }
}
