import {
  FormControl,
  type AbstractControl,
  type FormControlOptions,
  type FormGroup,
  type ValidatorFn,
} from '@angular/forms';
import type { Entered } from '@tally-stone/contract';
import { BenchError, parseQuantity, type Unit } from '@tally-stone/core';
import type { z } from 'zod';
import type { Base, Units } from './units';

/** A refusal is kept under this name, in words for whoever typed. */
const refusal = (words: string) => ({ words });

/** What is wrong with a field, in words to put under it; empty while all is well. */
export const wordsOf = ({ errors }: AbstractControl): string =>
  (errors?.['words'] as string | undefined) ?? (errors ? $localize`needs another look` : '');

/** What was refused elsewhere, with the value that was: Angular judges a control anew when its field is drawn again. */
const refused = new WeakMap<AbstractControl, { readonly value: unknown; readonly words: string }>();

const refusedBefore = (control: AbstractControl): { words: string } | undefined => {
  const before = refused.get(control);
  return before && before.value === control.value ? refusal(before.words) : undefined;
};

/** Puts a refusal from elsewhere, the server's above all, at the field it is about, until something else is typed. */
export function refuse(control: AbstractControl, words: string): void {
  refused.set(control, { value: control.value as unknown, words });
  control.setErrors(refusal(words));
  control.markAsTouched();
}

/** Every control under one, itself among them. */
const controlsOf = (control: AbstractControl): AbstractControl[] => [
  control,
  ...Object.values((control as Partial<FormGroup>).controls ?? {}).flatMap(controlsOf),
];

/** A validator out of the contract: what its schema refuses is said in the schema's words. */
export const fits =
  (schema: z.ZodType): ValidatorFn =>
  (control) => {
    const before = refusedBefore(control);
    if (before) return before;
    const parsed = schema.safeParse(control.value);
    return parsed.success
      ? null
      : refusal(parsed.error.issues[0]?.message ?? $localize`is not right`);
  };

/** A text that is typed or picked. */
export const text = (start = '', schema?: z.ZodType): FormControl<string> =>
  new FormControl(start, { nonNullable: true, validators: schema ? [fits(schema)] : [] });

/** A quantity that is kept as it was typed, in the unit picked beside it; may be empty. */
export const readsAs =
  (unit: () => Unit): ValidatorFn =>
  ({ value }) => {
    const typed = String(value).trim();
    if (typed === '') return null;
    try {
      parseQuantity(typed, unit());
      return null;
    } catch (error) {
      if (error instanceof BenchError) return refusal(error.rule);
      throw error;
    }
  };

/** A number typed without a unit: point or comma. */
const PLAIN = /^[+-]?(\d+([.,]\d*)?|[.,]\d+)(e[+-]?\d+)?$/i;

/** What is typed stands in this: a unit that has others of its kind, or one that has none. */
export type FieldUnit = Base | 'rpm' | 'W' | 'h' | 'days' | '%' | 's' | '';

const BASES: readonly FieldUnit[] = ['mm', 'g', 'deg', 'N·m', 'g·mm'];
const isBase = (unit: FieldUnit): unit is Base => BASES.includes(unit);

interface QuantityOptions {
  readonly start?: number | undefined;
  /** May be left empty. */
  readonly optional?: boolean;
}

/** Angular types its control's constructor so that nothing can extend it: this is the one that is extended here. */
const TextControl = FormControl as unknown as new (
  start: string,
  options: FormControlOptions & { nonNullable: true },
) => FormControl<string>;

/**
 * A quantity as it is typed: decimals with point or comma, fractions of an inch, with or without a unit. It is judged
 * in its base unit by the contract's schema.
 */
export class QuantityControl extends TextControl {
  /** The unit a bare number is typed in: it stays what it was typed in when the shop turns to inches. */
  private typedIn: Unit | undefined;
  /** What was put there and how it stood: as long as nobody types it keeps every digit, in whatever unit it is shown. */
  private shown: { readonly text: string; readonly value: number } | undefined;

  constructor(
    readonly unit: FieldUnit,
    schema: z.ZodType,
    private readonly units: Units,
    { start, optional = false }: QuantityOptions = {},
  ) {
    super('', {
      nonNullable: true,
      validators: (control) => {
        const quantity = control as QuantityControl;
        const before = refusedBefore(control);
        if (before) return before;
        if (optional && quantity.value.trim() === '') return null;
        try {
          return fits(schema)({ value: quantity.parsed() } as AbstractControl);
        } catch (error) {
          if (error instanceof BenchError) return refusal(error.rule);
          throw error;
        }
      },
    });
    this.put(start);
  }

  /** The unit that stands behind the field. */
  mark(): string {
    return isBase(this.unit) ? this.units.mark(this.unit) : this.unit;
  }

  /** In its base unit; nothing while it is empty or not a number. */
  get quantity(): number | undefined {
    try {
      return this.value.trim() === '' ? undefined : this.parsed();
    } catch (error) {
      if (error instanceof BenchError) return undefined;
      throw error;
    }
  }

  /** As it was typed, for a record that keeps what somebody wrote. */
  get entered(): Entered {
    const unit = isBase(this.unit) ? (this.typedIn ?? this.units.unitFor(this.unit)) : 'mm';
    return { text: this.value.trim(), unit };
  }

  /** Shows a value given in the base unit; nothing empties the field. */
  put(value: number | undefined): void {
    const text = value === undefined ? '' : this.asTyped(value);
    this.shown = value === undefined ? undefined : { text, value };
    this.setValue(text);
  }

  /** Says the same in the unit that is shown now; what is not a number stays as it was typed. */
  turn(): void {
    if (!isBase(this.unit) || this.typedIn === this.units.unitFor(this.unit)) return;
    const { quantity } = this;
    if (quantity !== undefined) this.put(quantity);
    this.typedIn = this.units.unitFor(this.unit);
  }

  private asTyped(value: number): string {
    if (!isBase(this.unit)) return this.units.typedNumber(value);
    this.typedIn = this.units.unitFor(this.unit);
    return this.units.typed(value, this.unit);
  }

  private parsed(): number {
    if (this.shown?.text === this.value) return this.shown.value;
    const typed = this.value.trim();
    if (isBase(this.unit)) {
      // The validator runs once before this class is made.
      this.typedIn ??= this.units.unitFor(this.unit);
      return parseQuantity(typed, this.typedIn).value;
    }
    if (typed === '') throw new BenchError('value', $localize`is empty: type a number`);
    if (!PLAIN.test(typed)) throw new BenchError('value', $localize`is not a number`, typed);
    return Number(typed.replace(',', '.'));
  }
}

/** Judges every field of a form anew, and shows at once what is wrong with each. True where nothing is. */
export function passes(form: AbstractControl): boolean {
  for (const control of controlsOf(form).reverse()) {
    refused.delete(control);
    control.updateValueAndValidity({ onlySelf: true });
  }
  form.markAllAsTouched();
  return form.valid;
}

const WRONG =
  'input.ng-invalid, textarea.ng-invalid, mat-select.ng-invalid, mat-checkbox.ng-invalid, mat-radio-group.ng-invalid, mat-button-toggle-group.ng-invalid';

/** The first field that is wrong takes the focus, in sight. */
export function showFirstWrong(within: HTMLElement): void {
  setTimeout(() => {
    const field = within.querySelector<HTMLElement>(WRONG);
    const target = field?.querySelector<HTMLElement>('input, button') ?? field;
    target?.focus({ preventScroll: true });
    target?.scrollIntoView({ block: 'center' });
  });
}
