import { inject, Injectable, signal } from '@angular/core';
import { takeUntilDestroyed } from '@angular/core/rxjs-interop';
import type { FleetMower, FleetView } from '@tally-stone/contract';
import { auditTime, filter, firstValueFrom } from 'rxjs';
import { Api } from './api';
import { Changes } from './changes';
import { troubleFrom } from './problem';

const ABOUT: readonly string[] = ['mower', 'blade', 'spec', 'shop'];

/** Mowers and their decks, kept up to date with what other screens do. */
@Injectable({ providedIn: 'root' })
export class Fleet {
  private readonly api = inject(Api);
  readonly view = signal<FleetView | undefined>(undefined);
  readonly trouble = signal('');

  constructor() {
    inject(Changes)
      .all$.pipe(
        filter((event) => event === 'resumed' || ABOUT.includes(event.subjectKind)),
        auditTime(300),
        takeUntilDestroyed(),
      )
      .subscribe(() => void this.refresh());
  }

  async refresh(): Promise<void> {
    try {
      this.view.set(await firstValueFrom(this.api.fleet()));
      this.trouble.set('');
    } catch (error) {
      this.trouble.set(troubleFrom(error).words);
    }
  }

  mower(mowerId: string): FleetMower | undefined {
    return this.view()?.mowers.find((mower) => mower.mowerId === mowerId);
  }
}
