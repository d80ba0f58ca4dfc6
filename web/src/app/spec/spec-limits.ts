import { NgTemplateOutlet } from '@angular/common';
import { ChangeDetectionStrategy, Component, input, output, type TemplateRef } from '@angular/core';
import { MatButtonModule } from '@angular/material/button';
import { MatFormFieldModule } from '@angular/material/form-field';
import { MatInputModule } from '@angular/material/input';
import { MatSelectModule } from '@angular/material/select';
import { Named } from '../parts/named';
import type { Limit } from './spec-fields';

/** A limit as it stands in the list. */
export interface LimitRow {
  readonly limit: Limit;
  readonly name: string;
  /** Its figure, where it is typed on the drawing. */
  readonly drawn: string | undefined;
  /** A spec may do without it. */
  readonly optional: boolean;
}

/** Whose each limit of a spec is, and where it says so; its figure too where the drawing has no place for it. */
@Component({
  selector: 'ts-spec-limits',
  imports: [
    MatButtonModule,
    MatFormFieldModule,
    MatInputModule,
    MatSelectModule,
    Named,
    NgTemplateOutlet,
  ],
  changeDetection: ChangeDetectionStrategy.OnPush,
  templateUrl: './spec-limits.html',
  styleUrl: './spec-limits.scss',
})
export class SpecLimits {
  readonly rows = input.required<readonly LimitRow[]>();
  /** Draws the field of a limit by its place in the list. */
  readonly field = input.required<TemplateRef<{ $implicit: number }>>();
  readonly changed = output<{ readonly at: number; readonly change: Partial<Limit> }>();
  readonly takenAway = output<number>();
  protected readonly sources = [
    { value: 'maker', words: $localize`the maker` },
    { value: 'shop', words: $localize`this shop` },
  ] as const;
}
