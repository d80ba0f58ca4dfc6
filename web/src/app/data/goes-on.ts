import { Injectable, signal } from '@angular/core';

const GOES_ON = 'tally-stone.goes-on';

/** Picked on this device: what an instrument has read is kept, and a step that is done leads to the next, by itself. */
@Injectable({ providedIn: 'root' })
export class GoesOn {
  private readonly picked = signal(localStorage.getItem(GOES_ON) === 'yes');
  readonly on = this.picked.asReadonly();

  pick(on: boolean): void {
    this.picked.set(on);
    if (on) localStorage.setItem(GOES_ON, 'yes');
    else localStorage.removeItem(GOES_ON);
  }
}
