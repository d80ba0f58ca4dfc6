import { inject, Injectable, signal } from '@angular/core';
import type { ShopView } from '@tally-stone/contract';
import { firstValueFrom } from 'rxjs';
import { Api } from './api';

/** The shop's schools and machines, asked for by the screens that show them. */
@Injectable({ providedIn: 'root' })
export class Shop {
  private readonly api = inject(Api);
  readonly view = signal<ShopView | undefined>(undefined);

  async refresh(): Promise<void> {
    this.view.set(await firstValueFrom(this.api.shop()));
  }
}
