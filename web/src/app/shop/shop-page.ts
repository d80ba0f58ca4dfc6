import { submit } from '../data/submit';
import {
  ChangeDetectionStrategy,
  Component,
  computed,
  ElementRef,
  inject,
  signal,
} from '@angular/core';
import { toSignal } from '@angular/core/rxjs-interop';
import { FormControl, FormGroup, ReactiveFormsModule } from '@angular/forms';
import { MatButtonModule } from '@angular/material/button';
import { RouterLink } from '@angular/router';
import { SpecFigures, type Person, type ShopAct } from '@tally-stone/contract';
import { BenchError } from '@tally-stone/core';
import { forkJoin, map } from 'rxjs';
import { Api } from '../data/api';
import { newId } from '../data/commands';
import { shown } from '../data/shown';
import { Units } from '../data/units';
import { Who } from '../data/who';
import { BladeDrawing } from '../parts/blade-drawing';
import { ShopRecord } from './shop-record';
import { Rules } from './rules';
import { figuresFrom, SIZE_FIELDS, type TypedSpec } from './spec-figures';

const text = (start = '') => new FormControl(start, { nonNullable: true });

const FIELD_WORDS: Readonly<Record<string, string>> = {
  pin: 'The new PIN',
  byPin: 'The PIN that stands now',
};

/** The shop: who works here, which blade specs it runs with which limits, which mowers. */
@Component({
  selector: 'ts-shop-page',
  imports: [MatButtonModule, ReactiveFormsModule, BladeDrawing, RouterLink, Rules, ShopRecord],
  changeDetection: ChangeDetectionStrategy.OnPush,
  templateUrl: './shop-page.html',
  styleUrl: './shop-page.scss',
})
export class ShopPage {
  private readonly api = inject(Api);
  private readonly element = inject<ElementRef<HTMLElement>>(ElementRef);
  protected readonly who = inject(Who);
  protected readonly units = inject(Units);
  private readonly page = shown(
    () =>
      forkJoin({
        people: this.who.load(),
        health: this.api.health(),
        specs: this.api.specs(),
        mowers: this.api.mowers(),
      }),
    {
      about: 'nothing',
      then: ({ health: { shop: name, timeZone } }) => {
        this.shop.setValue({ name, timeZone });
      },
    },
  );
  protected readonly specs = computed(() => this.page.value()?.specs ?? []);
  protected readonly mowers = computed(() => this.page.value()?.mowers ?? []);
  private readonly write = submit({
    names: FIELD_WORDS,
    kept: () => {
      this.adding.set(undefined);
      return this.page.again();
    },
  });
  protected readonly trouble = computed(() => this.write.words() || this.page.words());
  protected readonly adding = signal<'person' | 'spec' | 'mower' | undefined>(undefined);
  protected readonly sizes = SIZE_FIELDS;
  protected readonly none = { A: [], B: [] };

  protected readonly shop = new FormGroup({ name: text(), timeZone: text('Europe/London') });
  protected readonly person = new FormGroup({ name: text(), role: text('technician') });
  protected readonly mower = new FormGroup({
    name: text(),
    energy: text('petrol'),
    site: text(),
    bladeSpeedRpm: text('3000'),
    hoursH: text('0'),
    positions: text('left, right'),
  });
  protected readonly spec = new FormGroup({
    name: text(),
    kind: text('high-lift'),
    hand: text('right'),
    hole: text('round'),
    source: text('shop'),
    sourceText: text(),
    sizes: new FormGroup(
      Object.fromEntries(SIZE_FIELDS.map(({ key, start }) => [key, text(start)])),
    ),
  });

  /** The page is long: its parts by name, as their sections are called. */
  protected readonly places = [
    'People',
    'Schools',
    'Money',
    'Due and bench days',
    'Grinders',
    'Balancers',
    'Instruments',
    'Blade specs',
    'Mowers',
  ];

  protected goTo(place: string): void {
    const section = this.element.nativeElement.querySelector<HTMLElement>(
      `section[aria-label="${place}"]`,
    );
    section?.scrollIntoView({ behavior: 'smooth', block: 'start' });
  }

  protected async addPerson(): Promise<void> {
    const newPersonId = newId();
    const { name, role } = this.person.getRawValue();
    if ((this.who.people() ?? []).length === 0) this.who.pick(newPersonId);
    const act = { type: 'add-person', newPersonId, name, role } as ShopAct;
    if (await this.write.send(act)) this.person.reset({ name: '', role: 'technician' });
  }

  protected readonly pinOf = signal<Person | undefined>(undefined);
  protected readonly pin = new FormGroup({ pin: text(), byPin: text() });
  /** A manager sets anybody's PIN anew with their own. */
  protected readonly isManager = computed(
    () =>
      (this.who.people() ?? []).find(({ personId }) => personId === this.who.personId())?.role ===
      'manager',
  );

  protected async setPin(): Promise<void> {
    const person = this.pinOf();
    if (!person) return;
    const { pin, byPin } = this.pin.getRawValue();
    const act: ShopAct = {
      type: 'set-pin',
      ofPersonId: person.personId,
      pin,
      ...(person.hasPin ? { byPin } : {}),
    };
    if (await this.write.send(act)) this.pinOf.set(undefined);
  }

  protected async nameShop(): Promise<void> {
    await this.write.send({ type: 'name-shop', ...this.shop.getRawValue() });
  }

  protected async addMower(): Promise<void> {
    const { name, energy, site, bladeSpeedRpm, hoursH, positions } = this.mower.getRawValue();
    const spindles = positions
      .split(',')
      .map((position) => position.trim())
      .filter((position) => position !== '')
      .map((position) => ({ spindleId: newId(), position }));
    await this.write.send({
      type: 'add-mower',
      mowerId: newId(),
      name,
      energy: energy as 'petrol',
      site,
      bladeSpeedRpm: Number(bladeSpeedRpm),
      hoursH: Number(hoursH),
      spindles,
    });
  }

  /** The spec as typed so far, for its drawing; nothing while a size is missing or wrong. */
  protected readonly specDraft = toSignal(
    this.spec.valueChanges.pipe(
      map(() => {
        try {
          const figures = figuresFrom(this.spec.getRawValue() as TypedSpec, this.units.length());
          return SpecFigures.safeParse({ ...figures, name: figures.name || 'new', limits: [] })
            .success
            ? figures
            : undefined;
        } catch (error) {
          if (error instanceof BenchError) return undefined;
          throw error;
        }
      }),
    ),
  );

  protected async addSpec(): Promise<void> {
    try {
      const figures = figuresFrom(this.spec.getRawValue() as TypedSpec, this.units.length());
      await this.write.send({
        type: 'add-spec',
        specId: newId(),
        specRevisionId: newId(),
        figures,
      });
    } catch (error) {
      if (!(error instanceof BenchError)) throw error;
      this.write.say(error.message);
    }
  }
}
