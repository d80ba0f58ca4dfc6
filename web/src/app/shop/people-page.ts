import { ChangeDetectionStrategy, Component, computed, inject, signal } from '@angular/core';
import { FormGroup, ReactiveFormsModule } from '@angular/forms';
import { MatButtonModule } from '@angular/material/button';
import { AddPerson, SetPin, TypedSecret, type Person, type ShopAct } from '@tally-stone/contract';
import { NamedPipe } from '../parts/named.pipe';
import { newId } from '../data/commands';
import { passes, text } from '../data/fields';
import { Session } from '../data/session';
import { shown } from '../data/shown';
import { inForm, submit } from '../data/submit';
import { Who } from '../data/who';
import { optionsOf, PickField } from '../parts/form/pick-field';
import { TextField } from '../parts/form/text-field';
import { Devices } from './devices';
import { JoinCode } from './join-code';
import { ShopPart } from './shop-part';
import { Opened } from '../parts/form/opened';

/** Who works in the shop, with their PINs, and the devices they are signed in on. */
@Component({
  selector: 'ts-people-page',
  imports: [
    NamedPipe,
    Devices,
    JoinCode,
    MatButtonModule,
    PickField,
    ReactiveFormsModule,
    ShopPart,
    TextField,
    Opened,
  ],
  changeDetection: ChangeDetectionStrategy.OnPush,
  templateUrl: './people-page.html',
  styleUrl: './part.scss',
})
export class PeoplePage {
  protected readonly ownPin = $localize`Your own PIN`;
  protected readonly pinSoFar = $localize`The PIN so far`;
  protected readonly who = inject(Who);
  protected readonly session = inject(Session);
  protected readonly works = optionsOf(['technician', 'manager', 'crew']);
  protected readonly adding = signal(false);
  protected readonly pinOf = signal<Person | undefined>(undefined);
  protected readonly joining = signal<Person | undefined>(undefined);
  protected readonly person = new FormGroup({
    name: text('', AddPerson.shape.name),
    role: text('technician'),
  });
  protected readonly pin = new FormGroup({
    byPin: text('', TypedSecret),
    pin: text('', SetPin.shape.pin),
  });
  private readonly page = shown(() => this.who.load(), { about: 'nothing' });
  private readonly added = submit({
    at: inForm(() => this.person),
    kept: () => this.page.again(),
  });
  private readonly pinSet = submit({ at: inForm(() => this.pin), kept: () => this.page.again() });
  protected readonly trouble = computed(
    () => this.added.words() || this.pinSet.words() || this.page.words(),
  );
  /** A manager sets anybody's PIN anew with their own. */
  protected readonly isManager = computed(
    () =>
      (this.who.people() ?? []).find(({ personId }) => personId === this.who.personId())?.role ===
      'manager',
  );

  protected async addPerson(): Promise<void> {
    if (!passes(this.person)) return;
    const newPersonId = newId();
    const { name, role } = this.person.getRawValue();
    if ((this.who.people() ?? []).length === 0) this.who.pick(newPersonId);
    const act = { type: 'add-person', newPersonId, name, role } as ShopAct;
    if (!(await this.added.send(act))) return;
    this.person.reset();
    this.adding.set(false);
  }

  protected askPin(person: Person): void {
    this.pin.reset();
    this.pinOf.set(person);
  }

  protected async setPin(): Promise<void> {
    const person = this.pinOf();
    if (!person || !passes(this.pin)) return;
    const { pin, byPin } = this.pin.getRawValue();
    const act: ShopAct = {
      type: 'set-pin',
      ofPersonId: person.personId,
      pin,
      ...(person.hasPin ? { byPin } : {}),
    };
    if (await this.pinSet.send(act)) this.pinOf.set(undefined);
  }
}
