import { Injectable, signal } from '@angular/core';
import type { HoursAssumption } from '@tally-stone/contract';

/** How long sets are taken to stay on: chosen once for the months ahead and the season, so that the two agree. */
@Injectable({ providedIn: 'root' })
export class HoursAssumed {
  readonly now = signal<HoursAssumption>('last-year');
}
