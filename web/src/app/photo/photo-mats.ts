import { ChangeDetectionStrategy, Component, computed, inject, signal } from '@angular/core';
import { FormGroup, ReactiveFormsModule } from '@angular/forms';
import { MatButtonModule } from '@angular/material/button';
import { between, MAT_PATH } from '@tally-stone/contract';
import type { printScale } from '@tally-stone/core';
import { expanded, MOST_MATS, SCALE_BAR_MM } from '@tally-stone/core';
import { newId } from '../data/commands';
import { Days } from '../data/days';
import { passes, QuantityControl, text } from '../data/fields';
import { Shop } from '../data/shop';
import { inForm, submit } from '../data/submit';
import { Units } from '../data/units';
import { PickField } from '../parts/form/pick-field';
import { QuantityField } from '../parts/form/quantity-field';
import { Opened } from '../parts/form/opened';

const BAR = between(SCALE_BAR_MM / 2, SCALE_BAR_MM * 2, 'mm');
const PAPERS = [
  { paper: 'a4', words: 'A4' },
  { paper: 'letter', words: $localize`Letter` },
] as const;

/** Photo mats: to print, and to tell their true size once. */
@Component({
  selector: 'ts-photo-mats',
  imports: [MatButtonModule, PickField, QuantityField, ReactiveFormsModule, Opened],
  changeDetection: ChangeDetectionStrategy.OnPush,
  templateUrl: './photo-mats.html',
  styleUrl: '../shop/part.scss',
})
export class PhotoMats {
  private readonly shop = inject(Shop);
  protected readonly days = inject(Days);
  protected readonly units = inject(Units);
  protected readonly papers = PAPERS;
  protected readonly barMm = SCALE_BAR_MM;
  protected readonly mats = computed(() => this.shop.view()?.mats ?? []);
  protected readonly measuring = signal(false);
  protected readonly numbers = Array.from({ length: MOST_MATS }, (_, i) => ({
    value: String(i + 1),
    words: $localize`Mat ${i + 1}`,
  }));
  protected readonly form = new FormGroup({
    matNumber: text('1'),
    across: new QuantityControl('mm', BAR, this.units),
    down: new QuantityControl('mm', BAR, this.units),
  });
  private readonly write = submit({
    at: inForm(() => this.form),
    kept: () => this.shop.refresh(),
  });
  protected readonly trouble = this.write.words;

  constructor() {
    void this.shop.refresh();
  }

  protected pdf(matNumber: string, paper: string): string {
    return `${MAT_PATH.replace(':number', matNumber)}?paper=${paper}`;
  }

  /** A print's size as a share of its drawing: `across 99.87 %, down 100.04 %, ± 0.12 %`. */
  protected sizeWords({ across, down, u }: ReturnType<typeof printScale>): string {
    const percent = (share: number): string => `${this.units.number(100 * share, 2)} %`;
    return $localize`across ${percent(across)}, down ${percent(down)}, ± ${percent(expanded(u))}`;
  }

  protected async keep(): Promise<void> {
    if (!passes(this.form)) {
      this.write.showFirstWrong();
      return;
    }
    const { matNumber, across, down } = this.form.controls;
    const kept = await this.write.send({
      type: 'measure-mat',
      measureId: newId(),
      matNumber: Number(matNumber.value),
      across: across.entered,
      down: down.entered,
    });
    if (!kept) return;
    this.measuring.set(false);
    this.form.reset();
  }
}
