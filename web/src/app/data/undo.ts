import { inject, Injectable } from '@angular/core';
import { MatSnackBar } from '@angular/material/snack-bar';

/** Long enough to read it, put the blade down and press. */
const SHOWN_MS = 12_000;

/** What was just done, said at the foot of the screen with the way back. */
@Injectable({ providedIn: 'root' })
export class Undo {
  private readonly bar = inject(MatSnackBar);

  offer(words: string, back: () => void): void {
    this.bar
      .open(words, $localize`Undo`, { duration: SHOWN_MS, politeness: 'polite' })
      .onAction()
      .subscribe(back);
  }
}
