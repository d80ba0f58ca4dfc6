import { shown } from './shown';
import { inject, Injectable } from '@angular/core';
import type { KeptMower } from '@tally-stone/contract';
import { Api } from './api';

const ABOUT: readonly string[] = ['mower', 'blade', 'spec', 'shop'];

/** Mowers and their decks, kept up to date while a screen that provides it is open. */
@Injectable()
export class Fleet {
  private readonly api = inject(Api);
  private readonly fleet = shown(() => this.api.fleet(), {
    about: ({ subjectKind }) => ABOUT.includes(subjectKind),
  });
  readonly view = this.fleet.value;
  readonly trouble = this.fleet.words;

  /** Asks anew, and waits for the answer: what was just written is to be seen in it. */
  refresh(): Promise<void> {
    return this.fleet.again();
  }

  mower(mowerId: string): KeptMower | undefined {
    return this.view()?.mowers.find((mower) => mower.mowerId === mowerId);
  }
}
