import { DOCUMENT, inject, Injectable } from '@angular/core';

const KEPT_AS = 'tally-stone.light';

/** Light or dark: as the device says until somebody chooses. */
@Injectable({ providedIn: 'root' })
export class Light {
  private readonly root = inject(DOCUMENT).documentElement;

  constructor() {
    this.show(localStorage.getItem(KEPT_AS));
  }

  toggle(): void {
    const dark =
      this.root.dataset['light'] === 'dark' ||
      (!this.root.dataset['light'] && matchMedia('(prefers-color-scheme: dark)').matches);
    const next = dark ? 'light' : 'dark';
    localStorage.setItem(KEPT_AS, next);
    this.show(next);
  }

  private show(choice: string | null): void {
    if (choice) this.root.dataset['light'] = choice;
  }
}
