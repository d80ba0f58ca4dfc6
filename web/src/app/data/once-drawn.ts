import { afterNextRender, DestroyRef, type Injector } from '@angular/core';

/** Does something once the screen has drawn itself anew; nothing where it was left before an answer came. */
export function onceDrawn(injector: Injector, work: () => void): void {
  if (injector.get(DestroyRef).destroyed) return;
  afterNextRender(work, { injector });
}
