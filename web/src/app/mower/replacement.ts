import { shown } from '../data/shown';
import { submit } from '../data/submit';
import { ChangeDetectionStrategy, Component, computed, inject, input, signal } from '@angular/core';
import { MatButtonModule } from '@angular/material/button';
import { MatCheckboxModule } from '@angular/material/checkbox';
import { makeSafeFor, MeterHours, type FleetMower } from '@tally-stone/contract';
import { listed } from '@tally-stone/core/basics';
import { Api } from '../data/api';
import { newId } from '../data/commands';
import { Fleet } from '../data/fleet';
import { passes, QuantityControl } from '../data/fields';
import { Units } from '../data/units';
import { QuantityField } from '../parts/form/quantity-field';
import { safeWords } from './fleet-words';

/** A set with a blade missing: the best match for it out of the rack, and its fitting. */
@Component({
  selector: 'ts-replacement',
  imports: [MatButtonModule, MatCheckboxModule, QuantityField],
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    <section aria-label="A blade is missing" i18n-aria-label>
      <h2 i18n>{{ missing() }} without a blade</h2>
      @if (offer(); as found) {
        @if (found.refused) {
          <p class="bad">{{ found.refused }}</p>
        } @else {
          <p>
            <ng-container i18n>Best match of the rack:</ng-container>&ngsp;
            @for (each of pairs(); track each.spindleId) {
              <ng-container i18n
                ><strong>{{ each.code }}</strong> for {{ each.position }}.</ng-container
              >
            }
            {{ words() }}
          </p>
          @for (fault of found.faults; track fault) {
            <p class="bad">{{ units.resay(fault) }}</p>
          }
          <mat-checkbox i18n class="tick" [checked]="done()" (change)="done.set(!done())"
            >{{ safe() }}; wings to the deck, washers in order, bolt to torque</mat-checkbox
          >
          <ts-quantity
            [control]="hours"
            label="Hour meter"
            i18n-label
            [usual]="units.number(mower().hoursH, 1)"
          />
          <button i18n mat-stroked-button class="big" [disabled]="!done()" (click)="fit()">
            It is on
          </button>
        }
      } @else if (!error()) {
        <p i18n class="quiet">Looking through the rack …</p>
      }
      @if (error()) {
        <p class="bad" role="alert">{{ error() }}</p>
      }
    </section>
  `,
  styles: `
    section {
      margin: 12px 0;
      padding: 12px 20px;
      background: var(--slab);
      border-left: 6px solid var(--spark);
    }
    ts-quantity {
      margin: 12px 0;
    }
  `,
})
export class Replacement {
  private readonly api = inject(Api);
  private readonly fleet = inject(Fleet);
  protected readonly units = inject(Units);
  readonly mower = input.required<FleetMower>();
  private readonly shownOffer = shown(
    () => {
      this.key();
      return this.api.replacement(this.mower().deck.deckId);
    },
    { about: 'nothing' },
  );
  protected readonly offer = this.shownOffer.value;
  private readonly write = submit({
    at: (field) => (field === 'hoursH' ? this.hours : undefined),
  });
  protected readonly error = computed(() => this.write.words() || this.shownOffer.words());
  protected readonly done = signal(false);
  protected readonly hours = new QuantityControl('h', MeterHours, inject(Units), {
    optional: true,
  });

  private readonly open = computed(() =>
    this.mower().deck.spindles.filter(({ blade }) => blade === undefined),
  );
  private readonly key = computed(() =>
    [this.mower().deck.deckId, ...this.open().map(({ spindleId }) => spindleId)].join(),
  );
  protected readonly missing = computed(() => listed(this.open().map(({ position }) => position)));
  protected readonly pairs = computed(() =>
    this.open().flatMap(({ spindleId, position }, i) => {
      const blade = this.offer()?.blades[i];
      return blade ? [{ spindleId, position, bladeId: blade.bladeId, code: blade.code }] : [];
    }),
  );
  protected readonly safe = computed(() =>
    makeSafeFor(this.mower().energy)
      .map((key) => safeWords(key, this.mower().deck.figures?.raising))
      .join('; '),
  );
  protected readonly words = computed(() => {
    const { spread, over = [], oddCode } = this.offer() ?? {};
    if (!spread) return '';
    const { lengthMm, widthMm, massG } = spread;
    const apart = $localize`apart by ${this.units.show(lengthMm, 'mm')} in length, ${this.units.show(widthMm, 'mm')} in width, ${this.units.show(massG, 'g', 0)} in mass`;
    if (over.length === 0) return $localize`The whole set is then ${apart}.`;
    return $localize`Even so the set is ${apart}:ph0:: it may cut in steps or shake.${oddCode ? $localize` ${oddCode} is the odd one.` : ''}`;
  });

  protected async fit(): Promise<void> {
    if (!passes(this.hours)) {
      this.write.showFirstWrong();
      return;
    }
    const hoursH = this.hours.quantity ?? this.mower().hoursH;
    for (const { spindleId, bladeId } of this.pairs()) {
      const act = { type: 'fit-blade' as const, fitId: newId(), bladeId, spindleId, hoursH };
      if (!(await this.write.send(act))) return;
    }
    await this.fleet.refresh();
  }
}
