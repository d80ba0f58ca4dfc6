import {
  ChangeDetectionStrategy,
  Component,
  computed,
  DestroyRef,
  effect,
  inject,
  signal,
  viewChild,
} from '@angular/core';
import { MatButtonModule } from '@angular/material/button';
import { MatButtonToggleModule } from '@angular/material/button-toggle';
import type { CycleAct } from '@tally-stone/contract';
import { preUseChecks } from '@tally-stone/core';
import { schoolsOf } from '@tally-stone/cycle';
import { newId } from '../data/commands';
import { checkWords, setUpLines, switchingLine, WITHOUT_CHECK_WORDS } from '../data/grinder-words';
import { Units } from '../data/units';
import { Shop } from '../data/shop';
import { submit } from '../data/submit';
import { Source } from '../parts/source';
import { ChangeOfTool } from './change-of-tool';
import { RunStore } from './run-store';

type Reason = keyof typeof WITHOUT_CHECK_WORDS;

/** The card for this blade on this grinder, and the day's look over the machine before the first blade. */
@Component({
  selector: 'ts-step-set-up',
  imports: [ChangeOfTool, MatButtonModule, MatButtonToggleModule, Source],
  changeDetection: ChangeDetectionStrategy.OnPush,
  templateUrl: './step-set-up.html',
  styleUrl: './step-set-up.scss',
})
export class StepSetUp {
  protected readonly store = inject(RunStore);
  private readonly shop = inject(Shop);
  private readonly units = inject(Units);
  private readonly check = submit({ kept: () => this.refresh() });
  protected readonly why = WITHOUT_CHECK_WORDS;
  protected readonly reasons = Object.keys(WITHOUT_CHECK_WORDS) as Reason[];
  protected readonly picked = signal(this.store.changingTo());
  private readonly between = viewChild(ChangeOfTool);
  protected readonly error = signal('');
  protected readonly loaded = signal(false);

  protected readonly grinders = computed(() => this.shop.view()?.grinders ?? []);
  /** The one picked, else the one it is set up on, else the shop's first. */
  protected readonly grinder = computed(() => {
    const id = this.picked() ?? this.store.view()?.setUp?.grinderId;
    return this.grinders().find(({ grinderId }) => grinderId === id) ?? this.grinders()[0];
  });
  /** Ground already, and now to another tool: it may be weighed between them. */
  protected readonly changes = computed(() => {
    const view = this.store.view();
    const grinderId = this.grinder()?.grinderId;
    const last = view?.passes.at(-1);
    return last !== undefined && last.grinderId !== grinderId && !view?.weighedNow;
  });
  protected readonly weighs = computed(
    () =>
      this.changes() &&
      !this.done() &&
      this.store
        .view()
        ?.slots.some(
          ({ phase, quantity, taken }) => phase === 'before' && quantity === 'mass' && taken,
        ),
  );
  /** What else it could be finished on. */
  protected readonly others = computed(() => {
    const inHand = this.grinder()?.grinderId;
    return this.done() && !this.changes()
      ? this.grinders().filter(({ grinderId }) => grinderId !== inHand)
      : [];
  });
  protected async finishOn(grinderId: string): Promise<void> {
    const trouble = await this.store.act({
      type: 'finish-on',
      ...(grinderId ? { grinderId } : {}),
    });
    this.error.set(trouble?.words ?? '');
  }

  protected readonly looks = computed(() => {
    const kind = this.grinder()?.figures.kind;
    return kind ? preUseChecks(kind).map((point) => this.units.resay(checkWords(point, kind))) : [];
  });
  protected readonly lines = computed(() => {
    const machine = this.grinder();
    const view = this.store.view();
    if (!machine || !view) return [];
    const { thicknessMm, hand, kind } = view.spec.figures;
    const power = switchingLine(machine.figures, this.shop.view()?.rules.supply);
    const lines = setUpLines(
      machine.figures,
      { bevelDeg: view.bevelAimDeg, thicknessMm, hand, kind, secondTable: this.secondTable() },
      this.units,
    );
    return power ? [...lines, power] : lines;
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
            ? { words: $localize`Set up as on the card`, act: () => this.setUp() }
            : { words: $localize`All checked and in order`, act: () => this.checkAll() },
      );
    });
    inject(DestroyRef).onDestroy(() => {
      this.store.first.set(undefined);
    });
  }

  private secondTable(): boolean | undefined {
    const { state, facts } = this.store.view()?.bench ?? {};
    return state && facts && schoolsOf(state, facts).secondTable;
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
    const weighed = this.between()?.weighed() ?? {};
    if (!machine || weighed === false) return false;
    const act: CycleAct = {
      type: 'set-up',
      grinderId: machine.grinderId,
      ...(withoutCheck ? { withoutCheck } : {}),
      ...weighed,
    };
    const trouble = await this.store.act(act);
    const ofMass = trouble?.fields['mass.text'];
    if (ofMass) this.between()?.refuse(ofMass);
    this.error.set(trouble && !ofMass ? (Object.values(trouble.fields)[0] ?? trouble.words) : '');
    if (!trouble) {
      this.store.changingTo.set(undefined);
      this.store.focusNext$.next();
    }
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
