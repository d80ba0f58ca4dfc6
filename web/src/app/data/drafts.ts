import { Injectable } from '@angular/core';

const PREFIX = 'tally-stone.draft.';

/** What was typed and not yet kept by the server, so that a closed tab or a refused value loses nothing. */
@Injectable({ providedIn: 'root' })
export class Drafts {
  get(key: string): string {
    return localStorage.getItem(PREFIX + key) ?? '';
  }

  set(key: string, text: string): void {
    if (text === '') this.drop(key);
    else localStorage.setItem(PREFIX + key, text);
  }

  drop(key: string): void {
    localStorage.removeItem(PREFIX + key);
  }
}
