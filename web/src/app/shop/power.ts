import {
  ChangeDetectionStrategy,
  Component,
  computed,
  effect,
  inject,
  input,
  output,
} from '@angular/core';
import { FormGroup, ReactiveFormsModule } from '@angular/forms';
import { MatButtonModule } from '@angular/material/button';
import { GrinderFigures, ShopRules, type GrinderView } from '@tally-stone/contract';
import { passes, QuantityControl, refuse, text } from '../data/fields';
import { switchingLine } from '../data/grinder-words';
import { showsFirstWrong } from '../data/submit';
import { Units } from '../data/units';
import { QuantityField } from '../parts/form/quantity-field';
import { TextField } from '../parts/form/text-field';

const WATTS = GrinderFigures.shape.runW;
const ROWS = [0, 1, 2] as const;

/** What the grinders are plugged into, what runs beside them, and in which order they are switched on so that it holds. */
@Component({
  selector: 'ts-power',
  imports: [MatButtonModule, QuantityField, ReactiveFormsModule, TextField],
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    <h2 i18n>Power</h2>
    <p i18n class="quiet">
      A motor asks for two to three times its running power as it starts. A generator's surge must
      cover that with the lamp and the collector on: a supply that trips is a wheel that stops in
      the cut. The plates say what each may be asked for; a doubtful supply is an electrician's.
    </p>
    @for (line of lines(); track line.value) {
      <p>
        <strong>{{ line.value }}</strong>: {{ line.note }}.
      </p>
    }
    <form [formGroup]="form" (ngSubmit)="keep()" aria-label="Power" i18n-aria-label>
      <ts-quantity
        [control]="form.controls.ratedW"
        label="The supply gives"
        i18n-label
        hint="On and on"
        i18n-hint
      />
      <ts-quantity
        [control]="form.controls.surgeW"
        label="For a moment"
        i18n-label
        hint="Its surge"
        i18n-hint
      />
      @for (row of rows; track row) {
        <div class="wide load">
          <ts-text [control]="beside[row].controls.name" label="Runs beside" i18n-label />
          <ts-quantity [control]="beside[row].controls.runW" label="Running" i18n-label />
          <ts-quantity [control]="beside[row].controls.startW" label="At its start" i18n-label />
        </div>
      }
      <button i18n mat-stroked-button class="big" type="submit">Keep what is plugged in</button>
    </form>
  `,
  styleUrl: './part.scss',
  styles: `
    .load {
      display: flex;
      flex-wrap: wrap;
      gap: 12px 16px;
    }
  `,
})
export class Power {
  private readonly units = inject(Units);
  private readonly showFirstWrong = showsFirstWrong();
  readonly rules = input.required<ShopRules>();
  readonly grinders = input.required<readonly GrinderView[]>();
  readonly chosen = output<ShopRules>();
  protected readonly rows = ROWS;
  protected readonly beside = [this.row(), this.row(), this.row()] as const;
  protected readonly form = new FormGroup({
    ratedW: this.watts(),
    surgeW: this.watts(),
    first: this.beside[0],
    second: this.beside[1],
    third: this.beside[2],
  });
  protected readonly lines = computed(() =>
    this.grinders().flatMap(({ figures }) => switchingLine(figures, this.rules().supply) ?? []),
  );

  constructor() {
    effect(() => {
      const { supply } = this.rules();
      this.form.controls.ratedW.put(supply?.ratedW);
      this.form.controls.surgeW.put(supply?.surgeW);
      this.beside.forEach(({ controls }, i) => {
        const load = supply?.beside[i];
        controls.name.setValue(load?.name ?? '');
        controls.runW.put(load?.runW);
        controls.startW.put(load?.startW);
      });
    });
  }

  private watts(): QuantityControl {
    return new QuantityControl('W', WATTS, this.units, { optional: true });
  }
  private row() {
    return new FormGroup({ name: text(''), runW: this.watts(), startW: this.watts() });
  }

  protected keep(): void {
    const { ratedW, surgeW } = this.form.controls;
    if (!passes(this.form)) {
      this.showFirstWrong();
      return;
    }
    const named = this.beside.filter(({ controls }) => controls.name.value.trim() !== '');
    const nameless = this.beside.find(
      ({ controls: { name, runW } }) => !name.value.trim() && runW.quantity !== undefined,
    );
    const powerless = named.find(({ controls }) => controls.runW.quantity === undefined);
    if (nameless)
      return this.refused(nameless.controls.name, $localize`is empty: name what runs beside`);
    if (powerless)
      return this.refused(powerless.controls.runW, $localize`is empty: read its plate`);
    const [rated, surge] = [ratedW.quantity, surgeW.quantity];
    if (rated === undefined && surge === undefined && named.length === 0) {
      this.chosen.emit({ ...this.rules(), supply: undefined });
      return;
    }
    if (rated === undefined)
      return this.refused(ratedW, $localize`is empty: read the plate of the supply`);
    const beside = named.map(({ controls: { name, runW, startW } }) => ({
      name: name.value.trim(),
      runW: runW.quantity ?? 0,
      ...(startW.quantity === undefined ? {} : { startW: startW.quantity }),
    }));
    const supply = { ratedW: rated, surgeW: surge ?? rated, beside };
    const judged = ShopRules.shape.supply.safeParse(supply);
    const [wrong] = judged.error?.issues ?? [];
    if (wrong) return this.refused(surgeW, wrong.message);
    this.chosen.emit({ ...this.rules(), supply });
  }

  private refused(control: Parameters<typeof refuse>[0], words: string): void {
    refuse(control, words);
    this.showFirstWrong();
  }
}
