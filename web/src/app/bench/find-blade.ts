import {
  ChangeDetectionStrategy,
  Component,
  computed,
  inject,
  output,
  signal,
} from '@angular/core';
import { FormGroup, ReactiveFormsModule } from '@angular/forms';
import { MatButtonModule } from '@angular/material/button';
import { BladeLengthMm, type BladeRow, type MowerView } from '@tally-stone/contract';
import { BLADE_STATES } from '@tally-stone/core';
import { catchError, debounceTime, of, startWith, switchMap } from 'rxjs';
import { takeUntilDestroyed } from '@angular/core/rxjs-interop';
import { PlacePipe } from '../parts/named.pipe';
import { Api } from '../data/api';
import { QuantityControl, text } from '../data/fields';
import { Units } from '../data/units';
import { PickField, type Option } from '../parts/form/pick-field';
import { QuantityField } from '../parts/form/quantity-field';
import { TextField } from '../parts/form/text-field';

/** A blade whose stamp cannot be read, found by its mower, its place and its size. */
@Component({
  selector: 'ts-find-blade',
  imports: [PlacePipe, MatButtonModule, PickField, QuantityField, ReactiveFormsModule, TextField],
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    <section aria-label="Find a blade without its code" i18n-aria-label>
      <header>
        <h2 i18n>Find it by mower, place and size</h2>
        <button i18n mat-button class="big" (click)="closed.emit()">Close</button>
      </header>
      <form [formGroup]="form">
        <ts-pick
          [control]="form.controls.mowerId"
          label="Came off"
          i18n-label
          [options]="offered()"
        />
        <ts-text [control]="form.controls.place" label="Place or spindle" i18n-label />
        <ts-quantity [control]="form.controls.length" label="Length" i18n-label />
      </form>
      <p class="quiet" aria-live="polite">
        @if (blades().length === 0) {
          <ng-container i18n>No blade fits. Leave one of the three open.</ng-container>
        } @else {
          <ng-container i18n>Blades that fit: {{ blades().length }}.</ng-container>
        }
      </p>
      <div class="found">
        @for (blade of blades().slice(0, 12); track blade.bladeId) {
          <button type="button" (click)="found.emit(blade)">
            <strong>{{ blade.code }}</strong>
            <span>{{ blade.specName }}, {{ states[blade.state].words }}</span>
            <span class="quiet">{{ blade.place | placeSaid }}</span>
          </button>
        }
      </div>
    </section>
  `,
  styles: `
    section {
      margin: 0 24px;
      padding: 12px 20px 16px;
      background: var(--slab);
      border: 2px solid var(--steel);
    }
    header,
    form {
      display: flex;
      flex-wrap: wrap;
      justify-content: space-between;
      align-items: center;
      gap: 8px 24px;
    }
    form {
      align-items: flex-start;
      justify-content: flex-start;
      gap: 12px 16px;
    }
    .found {
      display: grid;
      grid-template-columns: repeat(3, 1fr);
      gap: 4px;
    }
    .found button {
      display: flex;
      flex-direction: column;
      min-height: 64px;
      padding: 6px 10px;
      text-align: left;
      font: inherit;
      line-height: 1.2;
      color: var(--ink);
      background: var(--chalk);
      border: 0;
      border-left: 5px solid var(--rule);
      cursor: pointer;
    }
    @media (max-width: 56.25em) {
      .found {
        grid-template-columns: 1fr;
      }
    }
  `,
})
export class FindBlade {
  private readonly api = inject(Api);
  protected readonly units = inject(Units);
  protected readonly states = BLADE_STATES;
  readonly found = output<BladeRow>();
  readonly closed = output();

  protected readonly mowers = signal<readonly MowerView[]>([]);
  protected readonly blades = signal<readonly BladeRow[]>([]);
  protected readonly form = new FormGroup({
    mowerId: text(),
    place: text(),
    length: new QuantityControl('mm', BladeLengthMm, this.units, { optional: true }),
  });
  protected readonly offered = computed((): readonly Option[] => [
    { value: '', words: $localize`any mower` },
    ...this.mowers().map(({ mowerId, name }) => ({ value: mowerId, words: name })),
  ]);

  constructor() {
    this.api
      .mowers()
      .pipe(
        catchError(() => of([])),
        takeUntilDestroyed(),
      )
      .subscribe((mowers) => {
        this.mowers.set(mowers);
      });
    this.form.valueChanges
      .pipe(
        startWith(undefined),
        debounceTime(150),
        switchMap(() =>
          this.api.blades(this.query()).pipe(catchError(() => of({ blades: [], total: 0 }))),
        ),
        takeUntilDestroyed(),
      )
      .subscribe(({ blades }) => {
        this.blades.set(blades);
      });
  }

  private query(): Record<string, string> {
    const { mowerId, place, length } = this.form.controls;
    const query: Record<string, string> = {};
    if (mowerId.value) query['mowerId'] = mowerId.value;
    if (place.value.trim()) query['place'] = place.value.trim();
    // What is wrong with a length is said at its field as it is typed.
    length.markAsTouched();
    if (length.valid && length.quantity !== undefined) query['lengthMm'] = String(length.quantity);
    return query;
  }
}
