import { ChangeDetectionStrategy, Component, inject, model, signal } from '@angular/core';
import { FormControl, FormGroup, ReactiveFormsModule } from '@angular/forms';
import { MatButtonModule } from '@angular/material/button';
import { MatButtonToggleModule } from '@angular/material/button-toggle';
import { MatCheckboxModule } from '@angular/material/checkbox';
import { between } from '@tally-stone/contract';
import { DAMAGE } from '@tally-stone/core';
import { Named } from '../parts/named';
import { passes, QuantityControl } from '../data/fields';
import { Units } from '../data/units';
import { QuantityField } from '../parts/form/quantity-field';
import type { Proposal } from './proposals';
import { Opened } from '../parts/form/opened';

/** What a notch can be. */
const KINDS = ['nick', 'chip', 'roll'] as const;
const DEPTH = between(0, 100, 'mm');

/** Damage a photo shows: each kept, changed or thrown away by one touch. */
@Component({
  selector: 'ts-damage-seen',
  imports: [
    Named,
    MatButtonModule,
    MatButtonToggleModule,
    MatCheckboxModule,
    QuantityField,
    ReactiveFormsModule,
    Opened,
  ],
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    <ul aria-label="Damage seen" i18n-aria-label>
      @for (each of proposals(); track each.damageId; let i = $index) {
        <li>
          <mat-checkbox [checked]="each.kept" (change)="turn(each)">
            @if (each.kind === 'rounded-tip') {
              <ng-container i18n
                >Tip rounded by {{ units.show(each.depthMm, 'mm', 1) }}</ng-container
              >
            } @else {
              <ng-container i18n
                >{{ i + 1 }} {{ kindOf[each.kind].words }},
                {{ units.show(each.depthMm, 'mm', 1) }} deep,
                {{ units.show(each.fromTipMm, 'mm', 0) }} from the tip</ng-container
              >
            }
            @if (each.known; as known) {
              <span i18n class="quiet">
                marked {{ units.show(known.depthMm, 'mm', 1) }} deep: tick to take this depth
              </span>
            }
          </mat-checkbox>
          <button
            i18n
            mat-button
            class="big"
            [attr.aria-expanded]="changing() === each.damageId"
            tsName="Change the {{ kindOf[each.kind].words }} {{ i + 1 }}"
            i18n-tsName
            (click)="change(each)"
          >
            Change
          </button>
          @if (changing() === each.damageId) {
            <form tsOpened [formGroup]="form" (ngSubmit)="keep(each)">
              @if (each.kind !== 'rounded-tip' && !each.known) {
                <mat-button-toggle-group
                  formControlName="kind"
                  aria-label="What it is"
                  i18n-aria-label
                  hideSingleSelectionIndicator
                >
                  @for (kind of kinds; track kind) {
                    <mat-button-toggle [value]="kind">{{ kindOf[kind].words }}</mat-button-toggle>
                  }
                </mat-button-toggle-group>
              }
              <ts-quantity
                [control]="form.controls.depth"
                [label]="kindOf[each.kind].depthWords"
                todo
              />
              <button i18n mat-stroked-button class="big" type="submit">Keep it so</button>
            </form>
          }
        </li>
      }
    </ul>
  `,
  styles: `
    ul {
      margin: 4px 0;
      padding: 0;
      list-style: none;
    }
    li {
      display: flex;
      flex-wrap: wrap;
      align-items: center;
      justify-content: space-between;
    }
    mat-checkbox {
      flex: 1;
      min-width: 0;
    }
    form {
      display: flex;
      flex: 1 0 100%;
      flex-wrap: wrap;
      gap: 10px;
      align-items: flex-start;
    }
  `,
})
export class DamageSeen {
  protected readonly units = inject(Units);
  readonly proposals = model.required<readonly Proposal[]>();
  protected readonly kindOf = DAMAGE;
  protected readonly kinds = KINDS;
  protected readonly changing = signal('');
  protected readonly form = new FormGroup({
    kind: new FormControl<Proposal['kind']>('nick', { nonNullable: true }),
    depth: new QuantityControl('mm', DEPTH, this.units),
  });

  protected turn({ damageId, kept }: Proposal): void {
    this.put(damageId, { kept: !kept });
  }

  protected change({ damageId, kind, depthMm }: Proposal): void {
    if (this.changing() === damageId) {
      this.changing.set('');
      return;
    }
    this.form.controls.kind.setValue(kind);
    this.form.controls.depth.put(Number(depthMm.toFixed(2)));
    this.changing.set(damageId);
  }

  protected keep({ damageId, depthMm }: Proposal): void {
    if (!passes(this.form)) return;
    const { kind, depth } = this.form.controls;
    const typedMm = depth.quantity ?? depthMm;
    const isTyped = Math.abs(typedMm - depthMm) > 0.005;
    this.put(damageId, {
      kind: kind.value,
      depthMm: typedMm,
      kept: true,
      ...(isTyped && { typed: depth.entered }),
    });
    this.changing.set('');
  }

  private put(damageId: string, changed: Partial<Proposal>): void {
    this.proposals.update((all) =>
      all.map((each) => (each.damageId === damageId ? { ...each, ...changed } : each)),
    );
  }
}
