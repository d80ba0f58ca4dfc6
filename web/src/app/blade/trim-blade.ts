import { ChangeDetectionStrategy, Component, computed, inject, input, output } from '@angular/core';
import { toSignal } from '@angular/core/rxjs-interop';
import { FormControl, FormGroup, ReactiveFormsModule } from '@angular/forms';
import { MatButtonModule } from '@angular/material/button';
import { MatCheckboxModule } from '@angular/material/checkbox';
import { type BladeView, TrimBlade } from '@tally-stone/contract';
import {
  BenchError,
  cutOffG,
  ENDS,
  lengthsToCut,
  QUANTITIES,
  trimmedTo,
  unlikeHalvesGmm,
} from '@tally-stone/core';
import * as z from 'zod';
import { newId } from '../data/commands';
import { passes, QuantityControl, refuse } from '../data/fields';
import { Fleet } from '../data/fleet';
import { inForm, submit } from '../data/submit';
import { Units } from '../data/units';
import { Opened } from '../parts/form/opened';
import { QuantityField } from '../parts/form/quantity-field';

const HALF = z
  .number()
  .min(QUANTITIES.length.possible[0] / 2, $localize`is shorter than half of any blade`)
  .max(
    QUANTITIES.length.possible[1] / 2,
    $localize`is longer than half of any blade: read it again`,
  );

interface DeckLine {
  readonly mower: string;
  /** It takes blades of this spec. */
  readonly ours: boolean;
  readonly range: string;
  readonly words: string;
  readonly fits: boolean;
}

/** Trimming a blade at both ends, where its maker allows it: which length which deck takes, what goes, and the halves as measured after. */
@Component({
  selector: 'ts-trim-blade',
  imports: [MatButtonModule, MatCheckboxModule, Opened, QuantityField, ReactiveFormsModule],
  providers: [Fleet],
  changeDetection: ChangeDetectionStrategy.OnPush,
  templateUrl: './trim-blade.html',
  styleUrl: './trim-blade.scss',
})
export class TrimForm {
  private readonly fleet = inject(Fleet);
  protected readonly units = inject(Units);
  readonly life = input.required<BladeView>();
  readonly kept = output();
  readonly left = output();
  protected readonly ends = ENDS;
  protected readonly form = new FormGroup({
    toLengthMm: new QuantityControl('mm', TrimBlade.shape.toLengthMm, this.units),
    A: new QuantityControl('mm', HALF, this.units),
    B: new QuantityControl('mm', HALF, this.units),
    cold: new FormControl(false, { nonNullable: true }),
  });
  private readonly typed = toSignal(this.form.valueChanges);
  private readonly write = submit({
    at: (field) => inForm(() => this.form)(field.replace(/\.text$/, '')),
    kept: () => {
      this.kept.emit();
    },
  });
  protected readonly error = this.write.words;
  private readonly figures = computed(() => this.life().spec.figures);
  protected readonly allowed = computed(
    () => this.figures().trimming ?? { leastLengthMm: 0, sourceText: '' },
  );
  private readonly toMm = computed(() => {
    this.typed();
    return this.form.controls.toLengthMm.quantity;
  });

  /** What the cut takes and leaves, or why nobody makes it. */
  protected readonly cut = computed(() => {
    const toMm = this.toMm();
    if (toMm === undefined) return undefined;
    const figures = this.figures();
    const show = (mm: number): string => this.units.show(mm, 'mm');
    try {
      const after = trimmedTo(figures, toMm);
      const eachMm = (figures.newLengthMm - toMm) / 2;
      const least = after.limits.find(({ kind }) => kind === 'length');
      return {
        wrong: undefined,
        off: show(eachMm),
        metal: this.units.show(cutOffG(figures, eachMm), 'g'),
        limits: [
          $localize`Width limits keep their distance from the tip.`,
          ...(least ? [$localize`Its least length is ${show(least.value)}.`] : []),
        ].join(' '),
      };
    } catch (error) {
      if (!(error instanceof BenchError)) throw error;
      return { wrong: this.units.resay(error.rule) };
    }
  });

  protected readonly decks = computed((): DeckLine[] => {
    const { newWidthMm } = this.figures();
    const { specId } = this.life().spec;
    const toMm = this.toMm();
    const show = (mm: number): string => this.units.show(mm, 'mm');
    const lines = (this.fleet.view()?.mowers ?? []).flatMap(({ name, deck }): DeckLine[] => {
      const { figures } = deck;
      if (!figures || figures.spindles.length < 2) return [];
      const { leastMm = 0, mostMm } = lengthsToCut(figures.spindles, newWidthMm, figures);
      const none = mostMm !== undefined && mostMm < leastMm;
      const range = none
        ? $localize`no one length`
        : mostMm === undefined
          ? $localize`at least ${show(leastMm)}`
          : $localize`${show(leastMm)} to ${show(mostMm)}`;
      const long = toMm !== undefined && mostMm !== undefined && toMm > mostMm;
      const short = toMm !== undefined && toMm < leastMm;
      const words =
        toMm === undefined
          ? ''
          : long
            ? $localize`${show(toMm - mostMm)} too long: they come too near each other`
            : short
              ? $localize`${show(leastMm - toMm)} too short: they leave a strip`
              : $localize`fits`;
      const ours = figures.specId === specId;
      return [{ mower: name, ours, range, words, fits: !long && !short }];
    });
    const near = lines.filter(({ ours, fits }) => ours || (toMm !== undefined && fits));
    return near.sort((a, b) => Number(b.ours) - Number(a.ours));
  });

  /** One half longer than the other, and what that puts out of balance. */
  protected readonly unlike = computed(() => {
    this.typed();
    const [A, B] = ENDS.map((end) => this.form.controls[end].quantity);
    if (!A || !B || A === B) return '';
    const unbalance = this.units.show(unlikeHalvesGmm(this.figures(), A, B), 'g·mm', 0);
    return $localize`End ${A > B ? 'A' : 'B'} is ${this.units.show(Math.abs(A - B), 'mm')} longer: ${unbalance} out of balance before it is ground.`;
  });

  protected async keep(): Promise<void> {
    const { toLengthMm, A, B, cold } = this.form.controls;
    const fine = passes(this.form);
    const wrong = this.cut()?.wrong;
    if (wrong !== undefined) refuse(toLengthMm, wrong);
    const { quantity } = toLengthMm;
    if (!fine || wrong !== undefined || !cold.value || quantity === undefined) {
      this.write.showFirstWrong();
      return;
    }
    await this.write.send({
      type: 'trim-blade',
      trimId: newId(),
      bladeId: this.life().blade.bladeId,
      specId: newId(),
      specRevisionId: newId(),
      toLengthMm: quantity,
      halves: { A: A.entered, B: B.entered },
    });
  }
}
