import { DestroyRef, inject, Injectable, signal } from '@angular/core';
import type { LeaseAct, LeaseView } from '@tally-stone/contract';
import { firstValueFrom, interval } from 'rxjs';
import { takeUntilDestroyed } from '@angular/core/rxjs-interop';
import { Api } from '../data/api';
import { newId } from '../data/commands';
import { windowName } from '../data/window-name';
import { Who } from '../data/who';

const BEAT_MS = 6000;

/** Who has the blade in hand: this screen, or another one that this one watches. */
@Injectable()
export class Lease {
  private readonly api = inject(Api);
  private readonly who = inject(Who);
  private readonly holder = windowName();
  private cycleId = '';
  /** Somebody else has it; nothing while it is ours, or while the server is away. */
  readonly other = signal<LeaseView | undefined>(undefined);

  constructor() {
    interval(BEAT_MS)
      .pipe(takeUntilDestroyed())
      .subscribe(() => void this.speak());
    inject(DestroyRef).onDestroy(() => void this.speak({ letGo: true }));
  }

  open(cycleId: string): Promise<void> {
    if (this.cycleId && this.cycleId !== cycleId) void this.speak({ letGo: true });
    this.cycleId = cycleId;
    return this.speak();
  }

  takeOver(): Promise<void> {
    return this.speak({ takeOver: newId() });
  }

  /** Asks again at once: somebody may have taken the blade over. */
  ask(): Promise<void> {
    return this.speak();
  }

  private async speak(more: Partial<LeaseAct> = {}): Promise<void> {
    const personId = this.who.personId();
    if (!this.cycleId || !personId) return;
    try {
      const lease = await firstValueFrom(
        this.api.lease(this.cycleId, { holder: this.holder, personId, ...more }),
      );
      this.other.set(lease.mine ? undefined : lease);
    } catch {
      // The server is away: whoever had the blade goes on with it.
    }
  }
}
