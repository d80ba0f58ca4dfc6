import { computed, DestroyRef, inject, Injectable, signal } from '@angular/core';
import { takeUntilDestroyed } from '@angular/core/rxjs-interop';
import {
  type CycleAct,
  type CycleView,
  type Entered,
  type LeaveOutReason,
  type PlanView,
  type ReadingSlot,
  type Schools,
  StepKey,
  type StepView,
  type AcceptedCommand,
  type CycleCommand,
  type StreamEvent,
} from '@tally-stone/contract';
import {
  passesAt,
  withNickChoice,
  toolKey,
  zonePassesAt,
  foldWaiting,
  standingOf,
} from '@tally-stone/cycle';
import { askPlan, type End, type NickChoice, type ZoneKey, COUNT_WORDS } from '@tally-stone/core';
import { firstValueFrom, Subject } from 'rxjs';
import { Api } from '../data/api';
import { Commands, isWaiting, newId } from '../data/commands';
import { Planner } from '../data/planner';
import { Presses } from '../data/presses';
import { Shop } from '../data/shop';
import { troubleWords } from './trouble-words';
import { Units } from '../data/units';
import { inUnits, troubleFrom, type Trouble } from '../data/problem';

export const placeOf = ({ phase, quantity, end, stationKey }: ReadingSlot) => ({
  phase,
  quantity,
  ...(end ? { end } : {}),
  ...(stationKey ? { stationKey } : {}),
});

/** Acts after which the plan that is shown still stands: it is carried out, or was tried before the act was sent. */
const PLAN_STANDS: readonly CycleAct['type'][] = [
  'count-passes',
  'undo-passes',
  'choose-schools',
  'choose-nick',
];

/** Pressed twice before it is through it is one: two hangings that agree would be believed. */
const ONCE: readonly CycleAct['type'][] = ['take-reading', 'balance-round'];
/** What may still be sent of a blade that is signed off; the server says whether it is right. */
const ON_A_RECORD: readonly CycleAct['type'][] = ['sign-off', 'undo-retirement'];

const sameJson = (a: unknown, b: unknown): boolean => JSON.stringify(a) === JSON.stringify(b);

/** The cycle in hand: what the server knows of it, and every act on it. One per run screen. */
@Injectable()
export class RunStore {
  private readonly api = inject(Api);
  private readonly commands = inject(Commands);
  private readonly planner = inject(Planner);
  private readonly shop = inject(Shop);
  private readonly units = inject(Units);
  private readonly destroyRef = inject(DestroyRef);
  private readonly cycleId = signal('');
  private zoneUnderWay: ZoneKey = 'full';
  private revision = 0;
  /** The newest of this window's own writes, in the server's order: what it tells of itself is no news. */
  private sequence = 0;

  /** As the server last said it. */
  private readonly fromServer = signal<CycleView | undefined>(undefined);
  /** Answered, though the outbox may still hold them for a moment. */
  private readonly answered = signal<readonly string[]>([]);
  /** Done in this browser and not yet seen by the server. */
  private readonly pending = computed(() =>
    this.commands
      .waitingOf(this.cycleId())
      .filter(({ id }) => !this.answered().includes(id))
      .map((command) => command as CycleCommand),
  );
  /** As the server last said it, gone on with by what waits here, through the rules it will decide that by. */
  readonly view = computed((): CycleView | undefined => {
    const fromServer = this.fromServer();
    const pending = this.pending();
    if (!fromServer?.bench || pending.length === 0) return fromServer;
    const { state, facts } = fromServer.bench;
    return { ...fromServer, ...standingOf(foldWaiting(state, facts, pending), facts) };
  });
  /** Who has the blade in hand at another screen; nothing is written from here meanwhile. */
  readonly watching = signal('');
  readonly away = computed(() => this.pending().length > 0);
  /** Signed off here while the server is away: it judges it when it is back. */
  readonly waitingSignOff = computed(
    () =>
      this.pending().findLast(
        (each): each is Extract<CycleCommand, { type: 'sign-off' }> => each.type === 'sign-off',
      )?.outcome,
  );
  /** Signed off, here or anywhere: a record from now on, in which nothing is entered. */
  readonly closed = computed(
    () => this.view()?.signedOff !== undefined || this.waitingSignOff() !== undefined,
  );
  /** Photos kept here until the server is back. */
  readonly waitingPhotos = computed(() => this.pending().filter((each) => 'file' in each).length);
  readonly step = signal<StepKey>('clean');
  /** The step after the one that is open. */
  readonly following = computed(() => StepKey.options[StepKey.options.indexOf(this.step()) + 1]);
  /** What to grind, as far as it is known; nothing is drawn anew where the server says what stands here. */
  readonly plan = signal<PlanView | undefined>(undefined, { equal: sameJson });
  /** Counts up whenever the cycle moved on in what a plan is made from; passes only carry one out. */
  readonly planTurn = signal(0);
  private plansAsked = 0;
  /** What went wrong last, for the line under the steps. */
  readonly trouble = signal<Trouble | undefined>(undefined);
  /** What the big button of the step does before it goes on, where something is to be kept first. */
  readonly first = signal<
    { readonly words: string; readonly act: () => Promise<boolean> } | undefined
  >(undefined);
  /** Passes pressed but not yet answered for. */
  readonly passesUnderWay = signal<Readonly<Record<End, number>>>({ A: 0, B: 0 });
  /** Ground and not deburred since; a pass that is still on its way counts already. */
  readonly burr = computed(() => {
    const { A, B } = this.passesUnderWay();
    return (this.view()?.burr ?? false) || A + B > 0;
  });
  /** The station whose field has the focus, as `A:tip`, for the drawing. */
  readonly here = signal('');
  /** The cycle's id, for what is asked about it elsewhere. */
  readonly id = this.cycleId.asReadonly();
  /** Fires when something was kept and the focus should go to the next thing. */
  readonly focusNext$ = new Subject<void>();
  /** How many acts were kept here: what was only picked is none. */
  keptActs = 0;
  /** Where the focus was when the newest act was sent, until it is answered. */
  private actedFrom: Element | null = null;

  /** Has somebody gone on to type in another field while the answer was awaited? There they are left. */
  hasGoneOn(panel: HTMLElement): boolean {
    const at = document.activeElement;
    if (this.actedFrom === null || at === this.actedFrom) return false;
    return at instanceof HTMLInputElement && at.value !== '' && panel.contains(at);
  }

  stateOf(step: StepKey): StepView['state'] {
    return this.view()?.steps.find(({ key }) => key === step)?.state ?? 'todo';
  }

  async open(cycleId: string): Promise<void> {
    this.cycleId.set(cycleId);
    await this.refresh();
    const view = this.view();
    if (view) this.step.set(view.nextStep);
  }

  /** Shows a cycle as the server said it. */
  show(view: CycleView): void {
    if (view.revision < (this.fromServer()?.revision ?? 0)) return;
    this.revision = Math.max(this.revision, view.revision);
    this.fromServer.set(view);
  }

  /** Acts sent and not answered yet. */
  private readonly underWay = new Set<Promise<unknown>>();
  private readonly presses = new Presses();
  /** Resolves once everything under way is answered, so that what is heard of meanwhile can be told from it. */
  async settled(): Promise<void> {
    await Promise.allSettled(this.underWay);
  }

  /** Is this somebody else's doing? What this window wrote itself it knows from the answer. */
  isNews(event: StreamEvent | 'resumed'): boolean {
    return event === 'resumed' || event.sequence > this.sequence;
  }

  async refresh(): Promise<void> {
    try {
      const view = await firstValueFrom(this.api.cycle(this.cycleId()));
      if (view.revision !== this.fromServer()?.revision) this.planTurn.update((turn) => turn + 1);
      this.show(view);
      if (this.trouble()?.kind === 'offline') this.trouble.set(undefined);
    } catch (error) {
      // A refusal that is being read is not wiped away by a failed look at the newest state.
      if (this.trouble()?.kind !== 'problem') this.trouble.set(troubleFrom(error));
    }
  }

  /**
   * Tries a school or a nick's switch: the worker answers at once from the situation at hand, then the choice
   * is kept on the server. What the server says in the end stands.
   */
  async choose(change: {
    readonly schools?: Partial<Schools>;
    readonly nick?: { readonly damageId: string; readonly choice: NickChoice | 'policy' };
  }): Promise<void> {
    const asked = this.plan();
    this.plansAsked += 1;
    if (asked?.kind === 'asked') {
      const schools = { ...asked.schools, ...change.schools };
      const { nick } = change;
      const nickChoices = nick
        ? withNickChoice(asked.nickChoices, nick.damageId, nick.choice)
        : asked.nickChoices;
      try {
        const question = askPlan(asked.situation, schools, nickChoices);
        const answer = await firstValueFrom(this.planner.plan(question));
        this.plan.set({ ...asked, schools, nickChoices, answer });
      } catch (error) {
        this.trouble.set(troubleFrom(error));
      }
    }
    const act: CycleAct = change.nick
      ? { type: 'choose-nick', ...change.nick }
      : { type: 'choose-schools', schools: change.schools ?? {} };
    // Refused, the trial is taken back: what stands on the server is shown again. Without one it is asked for.
    if ((await this.act(act)) || asked?.kind !== 'asked') await this.refreshPlan();
  }

  /** Asks what to grind; a failure leaves the last plan standing, and an answer that came too late is dropped. */
  async refreshPlan(): Promise<void> {
    const nth = ++this.plansAsked;
    try {
      const plan = await firstValueFrom(this.api.plan(this.cycleId()));
      if (nth !== this.plansAsked) return;
      this.plan.set(plan);
      if (plan.kind === 'asked') this.planner.warm();
    } catch (error) {
      const { kind, words } = troubleFrom(error);
      if (kind === 'problem') this.plan.set({ kind: 'not-yet', words });
    }
  }

  /**
   * Sends one act; answers with what is wrong, or nothing when it was kept: by the server, or, while that is
   * away, in this browser.
   */
  act(act: CycleAct, file?: Blob): Promise<Trouble | undefined> {
    if (this.watching()) {
      return this.refused(
        $localize`${this.watching()} has this blade in hand: take it over first, or watch.`,
      );
    }
    // What was still under way when the blade was left is no more entered: it may be another one by now.
    if (this.destroyRef.destroyed) return this.refused('');
    if (this.closed() && !ON_A_RECORD.includes(act.type)) {
      return this.refused(
        $localize`This blade is signed off: nothing more is entered. A reading is corrected under Sign off.`,
      );
    }
    const send = async (): Promise<Trouble | undefined> => {
      const trouble = await this.send(act, file);
      if (!trouble) this.keptActs += 1;
      return trouble;
    };
    return ONCE.includes(act.type) ? this.presses.once(act, send) : send();
  }

  private send(act: CycleAct, file?: Blob): Promise<Trouble | undefined> {
    const answered = new Promise<Trouble | undefined>((resolve) => {
      this.commands
        .cycle(this.cycleId(), () => this.revision, act, file)
        .pipe(takeUntilDestroyed(this.destroyRef))
        .subscribe({
          next: (accepted) => {
            this.trouble.set(undefined);
            if (!isWaiting(accepted)) this.accepted(act, accepted);
            resolve(undefined);
          },
          error: (error: unknown) => void this.failed(act, error).then(resolve),
        });
    });
    this.underWay.add(answered);
    const from = document.activeElement;
    this.actedFrom = from;
    return answered.finally(() => {
      this.underWay.delete(answered);
      // What follows the answer still asks where the act came from.
      setTimeout(() => {
        if (this.actedFrom === from) this.actedFrom = null;
      });
    });
  }

  /** Says what is wrong with an act that is not even sent. */
  refused(words: string, fields: Trouble['fields'] = {}): Promise<Trouble> {
    const trouble: Trouble = { kind: 'problem', type: '', words, fields };
    this.trouble.set(trouble);
    return Promise.resolve(trouble);
  }

  private accepted(act: CycleAct, { commandId, sequence, revision, view }: AcceptedCommand): void {
    this.answered.update((ids) => [...ids, commandId]);
    this.sequence = Math.max(this.sequence, sequence);
    this.revision = Math.max(this.revision, revision ?? 0);
    if (!PLAN_STANDS.includes(act.type)) this.planTurn.update((turn) => turn + 1);
    if (view) this.show(view);
  }

  private async failed(act: CycleAct, error: unknown): Promise<Trouble> {
    const trouble = inUnits(troubleFrom(error), (said) => this.units.resay(said));
    this.trouble.set({ ...trouble, words: troubleWords(act, trouble, this.view()?.slots ?? []) });
    if (trouble.kind === 'problem') await this.refreshRevision();
    return trouble;
  }

  take(
    slot: ReadingSlot,
    entered: Entered,
    repeat = false,
    instrument?: string,
  ): Promise<Trouble | undefined> {
    return this.act({
      type: 'take-reading',
      readingId: newId(),
      place: placeOf(slot),
      entered,
      repeat,
      ...(instrument ? { instrument } : {}),
    });
  }

  takeFace(slot: ReadingSlot, entered: Entered): Promise<Trouble | undefined> {
    return this.act({
      type: 'take-reading',
      readingId: newId(),
      place: { ...placeOf(slot), quantity: 'face' },
      entered,
    });
  }

  leaveOut(slot: ReadingSlot, reason: LeaveOutReason): Promise<Trouble | undefined> {
    return this.act({ type: 'leave-out-reading', place: placeOf(slot), reason });
  }

  async countPasses(end: End, count: number, zone: ZoneKey): Promise<Trouble | undefined> {
    this.zoneUnderWay = zone;
    this.passesUnderWay.update((under) => ({ ...under, [end]: under[end] + count }));
    try {
      return await this.act({
        type: 'count-passes',
        passId: newId(),
        end,
        zone,
        count,
      });
    } finally {
      this.passesUnderWay.update((under) => ({ ...under, [end]: under[end] - count }));
    }
  }

  /** What is counted on the grinder in use: passes, strokes, or the seconds it is held to the edge. */
  readonly unit = computed(() => {
    const view = this.view();
    // Set up here while the server is away: what it said last is of another grinder.
    const machine = this.shop
      .view()
      ?.grinders.find(({ grinderId }) => grinderId === view?.setUp?.grinderId);
    return machine?.figures.counts ?? view?.counts ?? 'pass';
  });
  readonly unitWords = computed(() => COUNT_WORDS[this.unit()]);

  /** The key of the tool it is set up on. */
  readonly inHand = computed(() => toolKey(this.view()?.setUp ?? {}));
  private onTool(tool: string) {
    const passes = this.view()?.passes ?? [];
    return { passes: passes.filter((each) => toolKey(each) === tool) };
  }

  /** Passes counted at an end on the tool in hand. */
  passes(end: End): number {
    return passesAt(this.onTool(this.inHand()), end) + this.passesUnderWay()[end];
  }

  /** Passes in one zone of an end on a tool; those pressed and not answered for yet count where the newest went. */
  passesIn(end: End, zone: ZoneKey, tool = this.inHand()): number {
    const isNewest = this.zoneUnderWay === zone && tool === this.inHand();
    const under = isNewest ? this.passesUnderWay()[end] : 0;
    return zonePassesAt(this.onTool(tool), end, zone) + under;
  }

  /** The tool that somebody goes to the set-up for. */
  readonly changingTo = signal<string | undefined>(undefined);

  /** Takes back the newest pass of an end. */
  async undoPass(end: End): Promise<void> {
    const last = this.view()?.passes.findLast((passes) => passes.end === end);
    if (last) await this.act({ type: 'undo-passes', passId: last.passId });
  }

  /**
   * Somebody else wrote, or our own write was refused: stand on what the server has now. Until it has said so the
   * revision known stays: a refused write has not moved it.
   */
  private async refreshRevision(): Promise<void> {
    await this.refresh();
    this.revision = this.fromServer()?.revision ?? this.revision;
  }
}
