import { Injectable, signal } from '@angular/core';
import { DateTime } from 'luxon';

/** Days as the shop counts them: in the shop's own time zone, wherever the screen stands. */
@Injectable({ providedIn: 'root' })
export class Days {
  readonly zone = signal('utc');

  /** A stored UTC time as a day, for example `3 Nov`. */
  short(instant: string): string {
    return this.format(instant, 'd LLL');
  }

  /** With the year, for records. */
  full(instant: string): string {
    return this.format(instant, 'd LLL yyyy');
  }

  /** The time of day, for example `10:42`. */
  time(instant: string): string {
    return this.format(instant, 'HH:mm');
  }

  private format(instant: string, pattern: string): string {
    return DateTime.fromISO(instant, { zone: this.zone(), locale: 'en-GB' }).toFormat(pattern);
  }
}
