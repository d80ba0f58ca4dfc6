import { ChangeDetectionStrategy, Component, inject, signal } from '@angular/core';
import { FormGroup, ReactiveFormsModule } from '@angular/forms';
import { MatButtonModule } from '@angular/material/button';
import { RouterLink } from '@angular/router';
import { AddBalancer } from '@tally-stone/contract';
import { BALANCE_DEVICES, type BalanceDevice } from '@tally-stone/core';
import { newId } from '../data/commands';
import { Days } from '../data/days';
import { passes, text } from '../data/fields';
import { Shop } from '../data/shop';
import { inForm, submit } from '../data/submit';
import { Units } from '../data/units';
import { PickField, type Option } from '../parts/form/pick-field';
import { TextField } from '../parts/form/text-field';
import { ShopPart } from './shop-part';
import { Opened } from '../parts/form/opened';

const DEVICES: readonly Option[] = (Object.keys(BALANCE_DEVICES) as BalanceDevice[]).map(
  (value) => ({ value, words: BALANCE_DEVICES[value].label }),
);

/** What blades are hung on, and how small a heavy end each shows. */
@Component({
  selector: 'ts-balancers-page',
  imports: [
    MatButtonModule,
    PickField,
    ReactiveFormsModule,
    RouterLink,
    ShopPart,
    TextField,
    Opened,
  ],
  changeDetection: ChangeDetectionStrategy.OnPush,
  templateUrl: './balancers-page.html',
  styleUrl: './part.scss',
})
export class BalancersPage {
  private readonly shop = inject(Shop);
  protected readonly days = inject(Days);
  protected readonly units = inject(Units);
  protected readonly view = this.shop.view;
  protected readonly devices = BALANCE_DEVICES;
  protected readonly kinds = DEVICES;
  protected readonly adding = signal(false);
  protected readonly form = new FormGroup({
    name: text('', AddBalancer.shape.name),
    device: text('bearing-shaft'),
  });
  private readonly write = submit({ at: inForm(() => this.form), kept: () => this.load() });
  protected readonly trouble = this.write.words;

  constructor() {
    void this.load();
  }

  protected async keep(): Promise<void> {
    if (!passes(this.form)) {
      this.write.showFirstWrong();
      return;
    }
    const { name, device } = this.form.getRawValue();
    const act = {
      type: 'add-balancer' as const,
      balancerId: newId(),
      name,
      device: device as BalanceDevice,
    };
    if (!(await this.write.send(act))) return;
    this.form.reset();
    this.adding.set(false);
  }

  private async load(): Promise<void> {
    await this.shop.refresh();
    this.write.say(this.shop.trouble());
  }
}
