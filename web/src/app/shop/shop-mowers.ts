import { ChangeDetectionStrategy, Component, computed, inject, signal } from '@angular/core';
import { FormGroup, ReactiveFormsModule } from '@angular/forms';
import { MatButtonModule } from '@angular/material/button';
import { MatTableModule } from '@angular/material/table';
import { RouterLink } from '@angular/router';
import { AddMower } from '@tally-stone/contract';
import { NamedPipe } from '../parts/named.pipe';
import { Api } from '../data/api';
import { newId } from '../data/commands';
import { passes, QuantityControl, text } from '../data/fields';
import { shown } from '../data/shown';
import { inForm, submit } from '../data/submit';
import { Units } from '../data/units';
import { optionsOf, PickField } from '../parts/form/pick-field';
import { QuantityField } from '../parts/form/quantity-field';
import { TextField } from '../parts/form/text-field';
import { ShopPart } from './shop-part';
import { spindles, SpindlesField } from './spindles';
import { Opened } from '../parts/form/opened';

const SHAPE = AddMower.shape;

/** The shop's mowers, and another one with its spindles. */
@Component({
  selector: 'ts-shop-mowers',
  imports: [
    NamedPipe,
    MatButtonModule,
    MatTableModule,
    PickField,
    QuantityField,
    ReactiveFormsModule,
    RouterLink,
    ShopPart,
    SpindlesField,
    TextField,
    Opened,
  ],
  changeDetection: ChangeDetectionStrategy.OnPush,
  templateUrl: './shop-mowers.html',
  styleUrl: './part.scss',
})
export class ShopMowers {
  private readonly api = inject(Api);
  protected readonly units = inject(Units);
  private readonly page = shown(() => this.api.mowers(), { about: 'nothing' });
  protected readonly mowers = computed(() => [...(this.page.value() ?? [])]);
  protected readonly columns = ['name', 'energy', 'site', 'speed', 'hours', 'spindles'];
  protected readonly energies = optionsOf(SHAPE.energy.options);
  protected readonly adding = signal(false);
  protected readonly form = new FormGroup({
    name: text('', SHAPE.name),
    energy: text('petrol'),
    site: text('', SHAPE.site),
    bladeSpeedRpm: new QuantityControl('rpm', SHAPE.bladeSpeedRpm, this.units, { start: 3000 }),
    hoursH: new QuantityControl('h', SHAPE.hoursH, this.units, { start: 0 }),
    spindles: spindles(2),
  });
  private readonly write = submit({
    at: (field) => {
      const [, index] = /^spindles\.(\d+)/.exec(field) ?? [];
      return index === undefined
        ? inForm(() => this.form)(field)
        : this.form.controls.spindles.at(Number(index));
    },
    kept: () => this.page.again(),
  });
  protected readonly trouble = computed(() => this.write.words() || this.page.words());

  protected async keep(): Promise<void> {
    if (!passes(this.form)) {
      this.write.showFirstWrong();
      return;
    }
    const { name, energy, site, spindles } = this.form.getRawValue();
    const { bladeSpeedRpm, hoursH } = this.form.controls;
    const kept = await this.write.send({
      type: 'add-mower',
      mowerId: newId(),
      name,
      energy: energy as 'petrol',
      site,
      bladeSpeedRpm: bladeSpeedRpm.quantity ?? NaN,
      hoursH: hoursH.quantity ?? NaN,
      spindles: spindles.map((position) => ({ spindleId: newId(), position: position.trim() })),
    });
    if (kept) this.adding.set(false);
  }
}
