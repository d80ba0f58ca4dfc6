import { ChangeDetectionStrategy, Component, computed, inject } from '@angular/core';
import { toSignal } from '@angular/core/rxjs-interop';
import { FormGroup, ReactiveFormsModule } from '@angular/forms';
import { MatAutocompleteModule } from '@angular/material/autocomplete';
import { MatButtonModule } from '@angular/material/button';
import { MatFormFieldModule } from '@angular/material/form-field';
import { MatInputModule } from '@angular/material/input';
import { LANGUAGES, NameShop, Region as Written } from '@tally-stone/contract';
import { FULL_DAY, momentIn } from '@tally-stone/core/basics';
import { Api } from '../data/api';
import { Days } from '../data/days';
import { followShop } from '../data/language';
import { Region } from '../data/region';
import { passes, text } from '../data/fields';
import { shown } from '../data/shown';
import { inForm, submit } from '../data/submit';
import { troubleOf } from '../parts/form/field';
import { PickField, type Option } from '../parts/form/pick-field';
import { TextField } from '../parts/form/text-field';
import { Pocket } from '../pocket/pocket';
import { keepRules } from './keep-rules';
import { Machines } from './machines';
import { ShopPart } from './shop-part';
import { ShopRecord } from './shop-record';

/** So many zones are offered: the rest is a letter away. */
const OFFERED = 12;

const DATES: readonly Option[] = [
  ...(['day-first', 'month-first', 'year-first'] as const).map((dates) => ({
    value: dates,
    words: momentIn({ dates, decimal: 'point' }, 'utc', '2026-11-28T12:00:00Z', FULL_DAY),
  })),
];
const DECIMALS: readonly Option[] = [
  { value: 'point', words: '51.2' },
  { value: 'comma', words: '51,2' },
];
const WEEKS: readonly Option[] = [
  { value: '1', words: $localize`Monday` },
  { value: '6', words: $localize`Saturday` },
  { value: '7', words: $localize`Sunday` },
];

/** The shop's name and time zone, and how its record is kept. */
@Component({
  selector: 'ts-this-shop-page',
  imports: [
    Machines,
    MatAutocompleteModule,
    MatButtonModule,
    MatFormFieldModule,
    MatInputModule,
    PickField,
    ReactiveFormsModule,
    ShopPart,
    ShopRecord,
    TextField,
  ],
  changeDetection: ChangeDetectionStrategy.OnPush,
  templateUrl: './this-shop-page.html',
  styleUrl: './part.scss',
})
export class ThisShopPage {
  private readonly api = inject(Api);
  private readonly days = inject(Days);
  protected readonly pocket = inject(Pocket);
  protected readonly shop = new FormGroup({
    name: text('', NameShop.shape.name),
    timeZone: text('', NameShop.shape.timeZone),
  });
  private readonly page = shown(() => this.api.health(), {
    about: 'nothing',
    then: ({ shop: name, timeZone }) => {
      this.shop.setValue({ name, timeZone });
      this.shop.enable();
      this.days.zone.set(timeZone);
    },
  });
  protected readonly written = new FormGroup({
    dates: text(),
    decimal: text(),
    weekBegins: text(),
    language: text(),
  });
  protected readonly dates = DATES;
  protected readonly decimals = DECIMALS;
  protected readonly weeks = WEEKS;
  protected readonly languages: readonly Option[] = [
    { value: '', words: $localize`as each browser has it` },
    ...Object.entries(LANGUAGES).map(([value, words]) => ({ value, words })),
  ];
  private readonly region = inject(Region);
  private readonly rules = keepRules({
    then: ({ region }) => {
      this.written.setValue({
        ...region,
        weekBegins: String(region.weekBegins),
        language: region.language ?? '',
      });
      this.written.enable();
      this.region.tell(region);
    },
  });
  private readonly write = submit({
    at: inForm(() => this.shop),
    kept: () => this.page.again(),
  });
  protected readonly trouble = computed(
    () => this.write.words() || this.page.words() || this.rules.trouble(),
  );
  protected readonly zoneTrouble = troubleOf(computed(() => this.shop.controls.timeZone));
  private readonly zoneTyped = toSignal(this.shop.controls.timeZone.valueChanges, {
    initialValue: '',
  });
  protected readonly zones = computed(() => {
    const typed = this.zoneTyped().trim().toLowerCase().replace(/\s+/g, '_');
    return Intl.supportedValuesOf('timeZone')
      .filter((zone) => zone.toLowerCase().includes(typed))
      .slice(0, OFFERED);
  });

  constructor() {
    // What is typed before it is known what stands there would be written over.
    if (this.page.value() === undefined) this.shop.disable();
    this.written.disable();
  }

  protected async keepWritten(): Promise<void> {
    const { dates, decimal, weekBegins, language } = this.written.getRawValue();
    const region = Written.parse({
      dates,
      decimal,
      weekBegins: Number(weekBegins),
      ...(language ? { language } : {}),
    });
    await this.rules.change((rules) => ({ ...rules, region }));
    followShop(region.language);
  }

  protected async keep(): Promise<void> {
    if (passes(this.shop)) await this.write.send({ type: 'name-shop', ...this.shop.getRawValue() });
  }
}
