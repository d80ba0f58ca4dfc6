import { ChangeDetectionStrategy, Component, computed, inject, signal } from '@angular/core';
import { FormControl, FormGroup, ReactiveFormsModule } from '@angular/forms';
import { MatButtonModule } from '@angular/material/button';
import { MatCheckboxModule } from '@angular/material/checkbox';
import {
  MakeMachine,
  type MachineScope,
  type MachinesView,
  type MadeMachine,
} from '@tally-stone/contract';
import { listed } from '@tally-stone/core/basics';
import { firstValueFrom, type Observable } from 'rxjs';
import { Named } from '../parts/named';
import { Api } from '../data/api';
import { Days } from '../data/days';
import { passes, text } from '../data/fields';
import { troubleFrom } from '../data/problem';
import { shown } from '../data/shown';
import { showsFirstWrong } from '../data/submit';
import { TextField } from '../parts/form/text-field';

const SCOPE_WORDS = {
  read: $localize`reads what a technician may see`,
  hours: $localize`sends meter hours`,
  gauges: $localize`passes on what gauges say`,
} as const satisfies Record<MachineScope, string>;

/** Machines that may use the API, each by a token of its own for what it is to do. */
@Component({
  selector: 'ts-machines',
  imports: [Named, MatButtonModule, MatCheckboxModule, ReactiveFormsModule, TextField],
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    <section aria-label="Machines" i18n-aria-label>
      <h2 i18n>Machines that use the API</h2>
      @for (machine of machines(); track machine.machineId) {
        <p class="machine">
          <ng-container i18n
            ><strong>{{ machine.name }}</strong> {{ mayDo(machine) }}, since
            {{ days.short(machine.since) }},
            @if (machine.seenAt) {
              last heard {{ days.short(machine.seenAt) }}, {{ days.time(machine.seenAt) }}
            } @else {
              not heard yet
            }</ng-container
          >&ngsp;
          <button
            i18n
            mat-button
            class="big"
            tsName="End the token of {{ machine.name }}"
            i18n-tsName
            (click)="end(machine.machineId)"
          >
            End its token
          </button>
        </p>
      } @empty {
        <p i18n class="quiet">None. A meter box or a report program gets a token here.</p>
      }
      @if (token(); as text) {
        <p>
          <ng-container i18n>Give it to the machine now; it is not shown again:</ng-container>&ngsp;
          <output class="token">{{ text }}</output>
        </p>
      }
      <form [formGroup]="form" (ngSubmit)="make()">
        <ts-text [control]="form.controls.name" label="What machine" i18n-label />
        @for (scope of scopes; track scope.key) {
          <mat-checkbox i18n [formControl]="form.controls[scope.key]"
            >It {{ scope.words }}</mat-checkbox
          >
        }
        <button i18n mat-stroked-button class="big" type="submit">Make a token</button>
      </form>
      @if (trouble()) {
        <p class="bad" role="alert">{{ trouble() }}</p>
      }
    </section>
  `,
  styleUrl: './part.scss',
  styles: `
    .token {
      display: block;
      margin: 4px 0;
      font-weight: 600;
      overflow-wrap: anywhere;
    }
  `,
})
export class Machines {
  private readonly api = inject(Api);
  protected readonly days = inject(Days);
  private readonly showFirstWrong = showsFirstWrong();
  protected readonly scopes = Object.entries(SCOPE_WORDS).map(([key, words]) => ({
    key: key as MachineScope,
    words,
  }));
  private readonly asked = shown(() => this.api.machines(), { about: 'nothing' });
  private readonly changed = signal<MachinesView | MadeMachine | undefined>(undefined);
  private readonly refused = signal('');
  protected readonly machines = computed(
    () => (this.changed() ?? this.asked.value())?.machines ?? [],
  );
  protected readonly token = computed(() => {
    const made = this.changed();
    return made && 'token' in made ? made.token : undefined;
  });
  protected readonly trouble = computed(() => this.refused() || this.asked.words());
  protected readonly form = new FormGroup({
    name: text('', MakeMachine.shape.name),
    read: new FormControl(true, { nonNullable: true }),
    hours: new FormControl(false, { nonNullable: true }),
    gauges: new FormControl(false, { nonNullable: true }),
  });

  protected mayDo({ scopes }: MachinesView['machines'][number]): string {
    return listed(scopes.map((scope) => SCOPE_WORDS[scope]));
  }

  protected async make(): Promise<void> {
    if (!passes(this.form)) {
      this.showFirstWrong();
      return;
    }
    const { name, ...may } = this.form.getRawValue();
    const scopes = this.scopes.map(({ key }) => key).filter((key) => may[key]);
    if (scopes.length === 0) {
      this.refused.set($localize`Say what it may do: tick at least one.`);
      return;
    }
    if (await this.change(this.api.makeMachine({ name, scopes }))) this.form.reset();
  }

  protected end(machineId: string): Promise<boolean> {
    return this.change(this.api.endMachine(machineId));
  }

  private async change(asked: Observable<MachinesView | MadeMachine>): Promise<boolean> {
    try {
      this.changed.set(await firstValueFrom(asked));
      this.refused.set('');
      return true;
    } catch (error) {
      this.refused.set(troubleFrom(error).words);
      return false;
    }
  }
}
