import {
  ChangeDetectionStrategy,
  Component,
  computed,
  DestroyRef,
  effect,
  inject,
  signal,
} from '@angular/core';
import { MatButtonModule } from '@angular/material/button';
import { MatButtonToggleModule } from '@angular/material/button-toggle';
import type { CycleAct } from '@tally-stone/contract';
import { preUseChecks } from '@tally-stone/core';
import { newId } from '../data/commands';
import { checkWords, setUpLines, WITHOUT_CHECK_WORDS } from '../data/grinder-words';
import { Units } from '../data/units';
import { Shop } from '../data/shop';
import { submit } from '../data/submit';
import { Source } from '../parts/source';
import { RunStore } from './run-store';

type Reason = keyof typeof WITHOUT_CHECK_WORDS;

/** The card for this blade on this grinder, and the day's look over the machine before the first blade. */
@Component({
  selector: 'ts-step-set-up',
  imports: [MatButtonModule, MatButtonToggleModule, Source],
  changeDetection: ChangeDetectionStrategy.OnPush,
  templateUrl: './step-set-up.html',
  styleUrl: './step-set-up.scss',
})
export class StepSetUp {
  private readonly store = inject(RunStore);
  private readonly shop = inject(Shop);
  private readonly units = inject(Units);
  private readonly check = submit({ kept: () => this.refresh() });
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
    return kind ? preUseChecks(kind).map((point) => this.units.resay(checkWords(point, kind))) : [];
  });
  protected readonly lines = computed(() => {
    const machine = this.grinder();
    const view = this.store.view();
    if (!machine || !view) return [];
    const { thicknessMm, hand, kind } = view.spec.figures;
    return setUpLines(
      machine.figures,
      { bevelDeg: view.bevelAimDeg, thicknessMm, hand, kind },
      this.units,
    );
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
    // The big button keeps the set-up before it goes on.
    effect(() => {
      const machine = this.grinder();
      this.store.first.set(
        !machine || !this.loaded() || this.done()
          ? undefined
          : machine.checkedToday
            ? { words: 'Set up as on the card', act: () => this.setUp() }
            : { words: 'All of it looked at and in order', act: () => this.checkAll() },
      );
    });
    inject(DestroyRef).onDestroy(() => {
      this.store.first.set(undefined);
    });
  }

  private async checkAll(): Promise<boolean> {
    const machine = this.grinder();
    if (!machine) return false;
    const checked = await this.check.send({
      type: 'check-grinder',
      checkId: newId(),
      grinderId: machine.grinderId,
      checked: [...preUseChecks(machine.figures.kind)],
    });
    this.error.set(this.check.words());
    return checked !== undefined && this.setUp();
  }

  protected async setUp(withoutCheck?: Reason): Promise<boolean> {
    const machine = this.grinder();
    if (!machine) return false;
    const act: CycleAct = {
      type: 'set-up',
      grinderId: machine.grinderId,
      ...(withoutCheck ? { withoutCheck } : {}),
    };
    const trouble = await this.store.act(act);
    this.error.set(trouble ? (Object.values(trouble.fields)[0] ?? trouble.words) : '');
    if (!trouble) this.store.focusNext$.next();
    return !trouble;
  }

  private async refresh(): Promise<void> {
    await this.shop.refresh();
    this.error.set(this.shop.trouble());
    if (this.shop.trouble()) return;
    this.loaded.set(true);
    if (!this.done()) this.store.focusNext$.next();
  }
}
