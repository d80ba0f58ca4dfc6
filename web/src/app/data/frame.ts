import { Injectable } from '@angular/core';

/** A tab behind another paints no frames: its work is done after this time all the same. */
const NO_FRAME_MS = 120;

/**
 * Heavy drawing put off until what was pressed has answered: the next frame paints the press, the work comes
 * after it. Keeps the interaction to next paint short on a slow machine.
 */
@Injectable({ providedIn: 'root' })
export class Frame {
  afterPaint(work: () => void): void {
    let done = false;
    const once = (): void => {
      if (!done) work();
      done = true;
    };
    requestAnimationFrame(() => setTimeout(once));
    setTimeout(once, NO_FRAME_MS);
  }
}
