import { ChangeDetectionStrategy, Component, computed, inject } from '@angular/core';
import { MatButtonModule } from '@angular/material/button';
import { ENDS, type End } from '@tally-stone/core';
import { RunStore } from './run-store';
import { StepMeasure } from './step-measure';

const plusMinus = ({ value, u }: { value: number; u: number }): string =>
  `${value.toFixed(1)} ± ${(2 * u).toFixed(1)} g`;

/** The proof: readings after, the light test, and what two witnesses say was taken off. */
@Component({
  selector: 'ts-step-prove',
  imports: [MatButtonModule, StepMeasure],
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    @if (ground()) {
      <ts-step-measure phase="after" />
    } @else {
      <p>Nothing was ground, so the readings before stand. Only the light test is left.</p>
    }
    <div class="lights">
      @for (end of ends; track end) {
        <section [attr.aria-label]="'Light test, end ' + end">
          <h3>Light test, end {{ end }}</h3>
          <div class="row">
            <button
              mat-stroked-button
              class="big"
              [attr.data-todo]="test(end) === undefined"
              [class.chosen]="test(end) === false"
              (click)="light(end, false)"
            >
              No line: sharp
            </button>
            <button
              mat-button
              class="big"
              [class.chosen]="test(end) === true"
              (click)="light(end, true)"
            >
              Bright line: dull
            </button>
          </div>
        </section>
      }
    </div>
    <section class="witnesses" aria-label="Metal removed">
      <h3>Metal removed</h3>
      <dl>
        <div>
          <dt>By the scale</dt>
          <dd>{{ scale() }}</dd>
        </div>
        <div>
          <dt>By the caliper</dt>
          <dd>{{ caliper() }}</dd>
        </div>
      </dl>
      <p [class.bad]="agree() === false">{{ agreement() }}</p>
    </section>
  `,
  styles: `
    .lights {
      display: grid;
      grid-template-columns: 1fr 1fr;
      gap: 4px 40px;
      margin-top: 10px;
    }
    .row {
      display: flex;
      gap: 12px;
      margin-top: 4px;
    }
    .chosen.mat-mdc-button-base {
      background: var(--ink);
      color: var(--chalk);
    }
    .witnesses {
      display: grid;
      grid-template-columns: auto auto 1fr;
      align-items: baseline;
      gap: 4px 28px;
      margin-top: 14px;
      padding-top: 8px;
      border-top: 2px solid var(--rule);
    }
    dl {
      display: flex;
      gap: 28px;
      margin: 0;
    }
    dt {
      color: var(--steel);
    }
    dd {
      margin: 0;
      font-size: 22px;
      font-weight: 600;
    }
    p {
      margin: 0;
    }
  `,
})
export class StepProve {
  private readonly store = inject(RunStore);
  protected readonly ends = ENDS;
  protected readonly ground = computed(() => (this.store.view()?.passes.length ?? 0) > 0);
  private readonly seen = computed(() => this.store.view()?.witnesses);
  protected readonly agree = computed(() => this.seen()?.agree);
  protected readonly scale = computed(() => {
    const reading = this.seen()?.byScale;
    return reading ? plusMinus(reading) : 'no mass before and after';
  });
  protected readonly caliper = computed(() => {
    const { byCaliper, caliperAbstains } = this.seen() ?? {};
    return byCaliper ? plusMinus(byCaliper) : `abstains: ${caliperAbstains ?? 'not read yet'}`;
  });
  protected readonly agreement = computed(() => {
    const { en, agree } = this.seen() ?? {};
    if (en === undefined) return '';
    return agree
      ? `They agree (E_n ${en.toFixed(1)}, at most 1).`
      : `They disagree (E_n ${en.toFixed(1)}, above 1). Two witnesses cannot name the culprit: weigh again with the scale zeroed, and measure the land and the tip station again.`;
  });

  protected test(end: End): boolean | undefined {
    return this.store.view()?.lightTest[end];
  }

  protected async light(end: End, brightLine: boolean): Promise<void> {
    const trouble = await this.store.act({ type: 'light-test', end, brightLine });
    if (!trouble) this.store.kept$.next();
  }
}
