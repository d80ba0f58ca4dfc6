import { inject, Injectable, signal } from '@angular/core';
import type { ShopView } from '@tally-stone/contract';
import { firstValueFrom } from 'rxjs';
import { Api } from './api';
import { troubleFrom } from './problem';

/** The shop's schools and machines, asked for by the screens that show them. */
@Injectable({ providedIn: 'root' })
export class Shop {
  private readonly api = inject(Api);
  readonly view = signal<ShopView | undefined>(undefined);
  /** What went wrong when it was asked for last, in words; what was known before stands. */
  readonly trouble = signal('');

  async refresh(): Promise<void> {
    try {
      this.view.set(await firstValueFrom(this.api.shop()));
      this.trouble.set('');
    } catch (error) {
      this.trouble.set(troubleFrom(error).words);
    }
  }
}
