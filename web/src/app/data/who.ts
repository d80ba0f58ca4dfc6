import { computed, inject, Injectable, signal } from '@angular/core';
import type { Person } from '@tally-stone/contract';
import { catchError, of, tap, type Observable } from 'rxjs';
import { Api } from './api';

const KEPT_AS = 'tally-stone.person';

/** Who is at the bench: picked from the shop's people, remembered on this device. */
@Injectable({ providedIn: 'root' })
export class Who {
  private readonly api = inject(Api);
  readonly people = signal<readonly Person[] | undefined>(undefined);
  /** The name to show for whoever is at the bench. */
  readonly name = computed(
    () =>
      this.people()?.find(({ personId }) => personId === this.personId())?.name ??
      $localize`Nobody yet`,
  );
  /** The language they read, where they ever picked one. */
  readonly language = computed(
    () => this.people()?.find(({ personId }) => personId === this.personId())?.language,
  );
  readonly personId = signal<string | undefined>(localStorage.getItem(KEPT_AS) ?? undefined);

  /** Asks who works here; whoever was picked before stays picked, else the first technician. */
  load(): Observable<readonly Person[]> {
    return this.api.people().pipe(
      tap((people) => {
        this.people.set(people);
        const known = people.some(({ personId }) => personId === this.personId());
        const first = people.find(({ role }) => role === 'technician') ?? people[0];
        if (!known && first) this.pick(first.personId);
      }),
      catchError(() => of([])),
    );
  }

  pick(personId: string): void {
    this.personId.set(personId);
    localStorage.setItem(KEPT_AS, personId);
  }
}
