import { computed, inject, Injectable, signal } from '@angular/core';
import { Router } from '@angular/router';
import { firstValueFrom } from 'rxjs';
import { Api } from '../data/api';

interface Stop {
  readonly name: string;
  readonly words: string;
  /** Where it is; a blade in hand is looked up. */
  readonly path: string;
}

const STOPS: readonly Stop[] = [
  {
    name: $localize`The bench`,
    words: $localize`Scan a blade or type its code. Enter takes the one that has waited longest. ? lists every key.`,
    path: '/',
  },
  {
    name: $localize`A blade in hand`,
    words: $localize`Nine steps, from clean to sign-off. The large button is always the next thing; the verdict says which limit decides.`,
    path: '/run/',
  },
  {
    name: $localize`The rack`,
    words: $localize`The wall of the shop: a peg for each mower’s next set, the hold hook, the scrap bin.`,
    path: '/rack',
  },
  {
    name: $localize`The mowers`,
    words: $localize`Which set is due, when, and why; from here a set is changed.`,
    path: '/mowers',
  },
  {
    name: $localize`The months ahead`,
    words: $localize`What to buy and when, from each blade’s own wear. That is all five: the bench is yours.`,
    path: '/ahead',
  },
];

/** How far somebody has come on this screen, or that they have left; kept for the next time. */
const KEPT = 'tally-stone.tour';
const LEFT = 'left';

/** A look round in five stops, for who tries the app out. It can be left at once, and is offered only once. */
@Injectable({ providedIn: 'root' })
export class Tour {
  private readonly api = inject(Api);
  private readonly router = inject(Router);
  private readonly kept = signal(localStorage.getItem(KEPT));

  readonly stops = STOPS.length;
  /** The stop somebody stands at, from 0; nothing while nobody is on the tour. */
  readonly at = computed(() => {
    const at = Number.parseInt(this.kept() ?? '', 10);
    return at >= 0 && at < STOPS.length ? at : undefined;
  });
  readonly stop = computed(() => STOPS[this.at() ?? -1]);
  readonly next = computed(() => STOPS[(this.at() ?? -2) + 1]);
  /** Neither begun nor left on this screen. */
  readonly fresh = computed(() => this.kept() === null);

  async goTo(at: number): Promise<void> {
    const stop = STOPS[at];
    if (!stop) {
      this.leave();
      await this.router.navigateByUrl('/');
      return;
    }
    const path = stop.path === '/run/' ? await this.bladeInHand() : stop.path;
    this.keep(String(at));
    await this.router.navigateByUrl(path);
  }

  leave(): void {
    this.keep(LEFT);
  }

  /** With no blade in hand the bench shows how one is taken. */
  private async bladeInHand(): Promise<string> {
    try {
      const { atBench } = await firstValueFrom(this.api.bench());
      const cycleId = atBench.find((blade) => blade.cycleId)?.cycleId;
      return cycleId ? `/run/${cycleId}` : '/';
    } catch {
      return '/';
    }
  }

  private keep(value: string): void {
    localStorage.setItem(KEPT, value);
    this.kept.set(value);
  }
}
