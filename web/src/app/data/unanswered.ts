import { computed, Injectable, signal } from '@angular/core';

/** What a screen asked for and the server did not answer, so that one button asks for all of it again. */
@Injectable({ providedIn: 'root' })
export class Unanswered {
  private readonly asks = signal<readonly (() => void)[]>([]);
  readonly any = computed(() => this.asks().length > 0);

  add(ask: () => void): void {
    if (!this.asks().includes(ask)) this.asks.update((all) => [...all, ask]);
  }

  remove(ask: () => void): void {
    if (this.asks().includes(ask)) this.asks.update((all) => all.filter((each) => each !== ask));
  }

  askAgain(): void {
    for (const ask of this.asks()) ask();
  }
}
