import { ChangeDetectionStrategy, Component, inject, output, signal } from '@angular/core';
import { FormControl, FormGroup, ReactiveFormsModule } from '@angular/forms';
import { MatButtonModule } from '@angular/material/button';
import type { BladeRow, MowerView } from '@tally-stone/contract';
import { BenchError, parseQuantity, BLADE_STATES } from '@tally-stone/core';
import { catchError, debounceTime, of, startWith, switchMap } from 'rxjs';
import { takeUntilDestroyed } from '@angular/core/rxjs-interop';
import { Api } from '../data/api';
import { Units } from '../data/units';

/** A blade whose stamp cannot be read, found by its mower, its place and its size. */
@Component({
  selector: 'ts-find-blade',
  imports: [MatButtonModule, ReactiveFormsModule],
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    <section aria-label="Find a blade without its code">
      <header>
        <h2>Find it by mower, place and size</h2>
        <button mat-button class="big" (click)="closed.emit()">Close</button>
      </header>
      <form [formGroup]="form">
        <label
          >Came off
          <select formControlName="mowerId">
            <option value="">any mower</option>
            @for (mower of mowers(); track mower.mowerId) {
              <option [value]="mower.mowerId">{{ mower.name }}</option>
            }
          </select>
        </label>
        <label>Place or spindle <input formControlName="place" autocomplete="off" /></label>
        <label
          >Length <input formControlName="length" inputmode="decimal" autocomplete="off" />
          {{ units.mark('mm') }}
          @if (error()) {
            <span class="bad" role="alert">{{ error() }}</span>
          }
        </label>
      </form>
      <p class="quiet" aria-live="polite">
        @if (blades().length === 0) {
          No blade fits. Leave one of the three open.
        } @else {
          Blades that fit: {{ blades().length }}.
        }
      </p>
      <div class="found">
        @for (blade of blades().slice(0, 12); track blade.bladeId) {
          <button type="button" (click)="found.emit(blade)">
            <strong>{{ blade.code }}</strong>
            <span>{{ blade.specName }}, {{ states[blade.state].words }}</span>
            <span class="quiet">{{ blade.place }}</span>
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
      justify-content: flex-start;
    }
    select,
    input {
      width: 150px;
      margin-left: 6px;
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
    @media (max-width: 900px) {
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
  protected readonly error = signal('');
  protected readonly form = new FormGroup({
    mowerId: new FormControl('', { nonNullable: true }),
    place: new FormControl('', { nonNullable: true }),
    length: new FormControl('', { nonNullable: true }),
  });

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
    const { mowerId, place, length } = this.form.getRawValue();
    const query: Record<string, string> = {};
    if (mowerId) query['mowerId'] = mowerId;
    if (place.trim()) query['place'] = place.trim();
    this.error.set('');
    if (length.trim()) {
      try {
        query['lengthMm'] = String(parseQuantity(length, this.units.length(), 'Length').value);
      } catch (error) {
        if (!(error instanceof BenchError)) throw error;
        this.error.set(error.message);
      }
    }
    return query;
  }
}
