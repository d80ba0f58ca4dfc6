import { ChangeDetectionStrategy, Component, computed, inject, signal } from '@angular/core';
import { MatButtonModule } from '@angular/material/button';
import { MatButtonToggleModule } from '@angular/material/button-toggle';
import type { CycleAct } from '@tally-stone/contract';
import { preUseChecks } from '@tally-stone/core';
import { firstValueFrom } from 'rxjs';
import { Commands, newId } from '../data/commands';
import { checkWords, setUpLines, WITHOUT_CHECK_WORDS } from '../data/grinder-words';
import { troubleFrom } from '../data/problem';
import { Shop } from '../data/shop';
import { RunStore } from './run-store';

type Reason = keyof typeof WITHOUT_CHECK_WORDS;

/** The card for this blade on this grinder, and the day's look over the machine before the first blade. */
@Component({
  selector: 'ts-step-set-up',
  imports: [MatButtonModule, MatButtonToggleModule],
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    @if (grinders().length > 1) {
      <mat-button-toggle-group
        [value]="grinder()?.grinderId"
        (change)="picked.set($event.value)"
        aria-label="Grinder"
        hideSingleSelectionIndicator
      >
        @for (each of grinders(); track each.grinderId) {
          <mat-button-toggle [value]="each.grinderId">{{ each.figures.name }}</mat-button-toggle>
        }
      </mat-button-toggle-group>
    }
    @if (grinder(); as machine) {
      <div class="grid">
        <dl aria-label="Set-up card">
          @for (line of lines(); track line.name) {
            <div>
              <dt>{{ line.name }}</dt>
              <dd>
                {{ line.value }}
                @if (line.note) {
                  <span class="note">{{ line.note }}</span>
                }
              </dd>
            </div>
          }
        </dl>
        <section aria-label="Before the first blade of the day">
          @if (machine.checkedToday) {
            <h3>{{ machine.figures.name }} was looked over today</h3>
          } @else {
            <h3>
              Before the first blade of the day on the {{ machine.figures.name.toLowerCase() }}
            </h3>
            <ul>
              @for (line of looks(); track line) {
                <li>{{ line }}</li>
              }
            </ul>
            <button mat-stroked-button class="big" [attr.data-todo]="true" (click)="checkAll()">
              All of it looked at and in order
            </button>
            <p class="quiet">Going on without it asks for a reason:</p>
            <div class="row">
              @for (reason of reasons; track reason) {
                <button mat-button class="big" (click)="setUp(reason)">{{ why[reason] }}</button>
              }
            </div>
          }
          @if (done()) {
            <p>
              <strong>Set up on the {{ done() }}.</strong>
            </p>
          } @else if (machine.checkedToday) {
            <button mat-stroked-button class="big" [attr.data-todo]="true" (click)="setUp()">
              Set up as on the card
            </button>
          }
          @if (error()) {
            <p class="bad" role="alert">{{ error() }}</p>
          }
        </section>
      </div>
    } @else if (loaded()) {
      <p>
        This shop has no grinder yet: add one on the shop page, and each tool learns what it takes.
      </p>
    }
  `,
  styles: `
    .grid {
      display: grid;
      grid-template-columns: 1fr 1fr;
      gap: 12px 40px;
      margin-top: 6px;
    }
    dl {
      margin: 0;
    }
    dl > div {
      display: grid;
      grid-template-columns: 150px 1fr;
      gap: 12px;
      align-items: baseline;
      padding: 5px 0;
      border-bottom: 1px solid var(--rule);
    }
    dt {
      color: var(--steel);
    }
    dd {
      margin: 0;
      font-size: 22px;
      font-weight: 600;
      line-height: 1.15;
    }
    .note {
      display: block;
      font-size: 15px;
      font-weight: 400;
      color: var(--steel);
    }
    ul {
      margin: 6px 0 12px;
      padding-left: 20px;
    }
    li {
      padding: 2px 0;
    }
    .row {
      display: flex;
      flex-wrap: wrap;
    }
    @media (max-width: 1000px) {
      .grid {
        grid-template-columns: 1fr;
      }
    }
  `,
})
export class StepSetUp {
  private readonly store = inject(RunStore);
  private readonly shop = inject(Shop);
  private readonly commands = inject(Commands);
  protected readonly why = WITHOUT_CHECK_WORDS;
  protected readonly reasons = Object.keys(WITHOUT_CHECK_WORDS) as Reason[];
  protected readonly picked = signal<string | undefined>(undefined);
  protected readonly error = signal('');
  protected readonly loaded = signal(false);

  protected readonly grinders = computed(() => this.shop.view()?.grinders ?? []);
  /** The one picked, else the one it is set up on, else the shop's first. */
  protected readonly grinder = computed(() => {
    const id = this.picked() ?? this.store.view()?.setUp?.grinderId;
    return this.grinders().find(({ grinderId }) => grinderId === id) ?? this.grinders()[0];
  });
  protected readonly looks = computed(() => {
    const kind = this.grinder()?.figures.kind;
    return kind ? preUseChecks(kind).map((point) => checkWords(point, kind)) : [];
  });
  protected readonly lines = computed(() => {
    const machine = this.grinder();
    const view = this.store.view();
    if (!machine || !view) return [];
    const { thicknessMm, hand, kind } = view.spec.figures;
    return setUpLines(machine.figures, { bevelDeg: view.bevelAimDeg, thicknessMm, hand, kind });
  });
  protected readonly done = computed(() => {
    const setUp = this.store.view()?.setUp;
    const machine = this.grinder();
    return setUp && setUp.grinderId === machine?.grinderId
      ? machine.figures.name.toLowerCase()
      : '';
  });

  constructor() {
    void this.refresh();
  }

  protected async checkAll(): Promise<void> {
    const machine = this.grinder();
    if (!machine) return;
    try {
      await firstValueFrom(
        this.commands.shop({
          type: 'check-grinder',
          checkId: newId(),
          grinderId: machine.grinderId,
          checked: [...preUseChecks(machine.figures.kind)],
        }),
      );
      await this.refresh();
      await this.setUp();
    } catch (error) {
      this.error.set(troubleFrom(error).words);
    }
  }

  protected async setUp(withoutCheck?: Reason): Promise<void> {
    const machine = this.grinder();
    if (!machine) return;
    const act: CycleAct = {
      type: 'set-up',
      grinderId: machine.grinderId,
      ...(withoutCheck ? { withoutCheck } : {}),
    };
    const trouble = await this.store.act(act);
    this.error.set(trouble ? (Object.values(trouble.fields)[0] ?? trouble.words) : '');
    if (!trouble) this.store.kept$.next();
  }

  private async refresh(): Promise<void> {
    try {
      await this.shop.refresh();
      this.loaded.set(true);
      if (!this.done()) this.store.kept$.next();
    } catch (error) {
      this.error.set(troubleFrom(error).words);
    }
  }
}
