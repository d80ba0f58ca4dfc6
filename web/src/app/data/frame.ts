import { Injectable } from '@angular/core';

/**
 * Heavy drawing put off until what was pressed has answered: the next frame paints the press, the work comes
 * after it. Keeps the interaction to next paint short on a slow machine.
 */
@Injectable({ providedIn: 'root' })
export class Frame {
  afterPaint(work: () => void): void {
    requestAnimationFrame(() => setTimeout(work));
  }
}
