import {
  ChangeDetectionStrategy,
  Component,
  computed,
  DestroyRef,
  effect,
  ElementRef,
  inject,
  output,
  signal,
  viewChildren,
} from '@angular/core';
import { MatButtonModule } from '@angular/material/button';
import { MatIconModule } from '@angular/material/icon';
import { CountedAtOnce } from '@tally-stone/contract';
import { ENDS, lookPoints, otherEnd, ZONES, type End, type ZoneKey } from '@tally-stone/core';
import { passKey } from '@tally-stone/cycle';
import { Named } from '../parts/named';
import { Keys } from '../data/keys';
import { passes, QuantityControl, refuse } from '../data/fields';
import { Units } from '../data/units';
import { QuantityField } from '../parts/form/quantity-field';
import { Tally } from '../parts/tally';
import { Deburr } from './deburr';
import { deepest, liveForward } from './live';
import { OtherTools } from './other-tools';
import { targetOf, toolWords, ZONE_WORDS, zoneWords } from './plan-words';
import { Marks } from './marks';
import { RunStore } from './run-store';
import { WayToGrind } from './way-to-grind';

/** The key this device's foot switch sends, and those that do something else while grinding. */
const FOOT = 'tally-stone.foot-switch';
const TAKEN: readonly string[] = [' ', 'a', 'b', 'u', 'z', 'k', '[', ']', '?', 'enter'];

/** Count the passes, end by end: by the space bar, by a large target, or typed as a number. */
@Component({
  selector: 'ts-step-grind',
  imports: [
    Deburr,
    Named,
    MatButtonModule,
    MatIconModule,
    OtherTools,
    QuantityField,
    Tally,
    WayToGrind,
  ],
  changeDetection: ChangeDetectionStrategy.OnPush,
  templateUrl: './step-grind.html',
  styleUrl: './step-grind.scss',
})
export class StepGrind {
  /** The tool is to be changed. */
  readonly toSetUp = output();
  protected readonly store = inject(RunStore);
  protected readonly marks = inject(Marks);
  private readonly keys = inject(Keys);
  private readonly units = inject(Units);
  protected readonly ends = ENDS;
  protected readonly end = signal<End>('A');
  /** Counts that are typed, each end's in its own field; one that is left empty is no fault. */
  protected readonly afterwards: Readonly<Record<End, QuantityControl>> = {
    A: new QuantityControl('', CountedAtOnce, this.units, { optional: true }),
    B: new QuantityControl('', CountedAtOnce, this.units, { optional: true }),
  };
  protected readonly error = signal('');
  private readonly passButtons = viewChildren<unknown, ElementRef<HTMLElement>>('pass', {
    read: ElementRef,
  });

  /** What it is ground on. */
  protected readonly tool = computed(() => {
    const view = this.store.view();
    return view?.bench?.facts.grinders.find(({ grinderId }) => grinderId === view.setUp?.grinderId);
  });
  private readonly asked = computed(() => {
    const plan = this.store.plan();
    return plan?.kind === 'asked' ? plan : undefined;
  });
  private readonly plan = computed(() => {
    const plan = this.asked()?.answer.plan;
    return plan?.kind === 'plan' ? plan : undefined;
  });

  /** The light end first, only as far as sharp needs; the plan's own order. */
  protected readonly order = computed(() => {
    const plan = this.plan();
    const heavy = plan?.order[1];
    const situation = this.asked()?.situation;
    if (plan && heavy && (situation?.balance ?? situation?.heavyEnd)) {
      return $localize`End ${heavy} hangs low: clean up end ${plan.order[0] ?? ''} first, only as far as sharp needs, and spend the rest on end ${heavy}.`;
    }
    if (this.asked() && !plan)
      return $localize`No plan fits the blade as it stands: the verdict shows the ways on.`;
    return $localize`No heavy end known yet: hang the blade for five seconds first, or grind both ends alike.`;
  });

  /** Every zone an end has passes in or is to get some, with the count and what the plan wants. */
  protected readonly zones = computed(() => {
    const asked = this.asked();
    const plan = this.plan();
    const of = (end: End) => {
      const rows = ZONES.map((zone) => ({
        zone,
        words: this.units.resay(asked ? zoneWords(asked, zone) : ZONE_WORDS[zone]),
        count: this.store.passesIn(end, zone),
        wanted: asked && plan ? targetOf(asked, plan, end, { zone, tool: this.store.inHand() }) : 0,
      }));
      const used = rows.filter(({ count, wanted }) => count > 0 || wanted > 0);
      return used.length > 0 ? used : rows.filter(({ zone }) => zone === 'full');
    };
    return { A: of('A'), B: of('B') };
  });

  private readonly picked = signal<Readonly<Partial<Record<End, ZoneKey>>>>({});

  /** Where the next pass at an end goes: the zone picked, else the first that is not full yet. */
  protected zone(end: End): ZoneKey {
    const rows = this.zones()[end];
    const picked = this.picked()[end];
    if (picked) return picked;
    return rows.find(({ count, wanted }) => count < wanted)?.zone ?? rows.at(-1)?.zone ?? 'full';
  }

  protected pick(end: End, zone: ZoneKey): void {
    this.end.set(end);
    this.picked.update((picked) => ({ ...picked, [end]: zone }));
  }

  /** What the passes so far should have done, by what this tool takes. */
  private readonly forward = computed(() => {
    const asked = this.asked();
    return asked && liveForward(asked, (end, zone, tool) => this.store.passesIn(end, zone, tool));
  });
  protected soFar(end: End): string {
    const forward = this.forward();
    if (!forward || this.sinceHung(end) === 0) return '';
    const back = deepest(forward, end);
    const since = this.sinceHung(end) < this.store.passes(end) ? $localize` since it was hung` : '';
    return back < 0.005
      ? $localize`in the bevel${since || $localize` so far`}:ph0:: the edge itself has not moved`
      : $localize`edge back about ${this.units.show(back, 'mm', 2)} at most${since}`;
  }
  /** Passes at an end that the newest balance reading has not behind it: what the estimates are of. */
  private sinceHung(end: End): number {
    const behind = this.asked()?.behind[end] ?? {};
    return ZONES.reduce(
      (sum, zone) => sum - (behind[passKey(this.store.inHand(), zone)] ?? 0),
      this.store.passes(end),
    );
  }

  private readonly finishName = computed(() => {
    const asked = this.asked();
    const tool = this.plan() && asked?.situation.then?.tool;
    return asked && tool ? toolWords(asked, tool).name : undefined;
  });
  private readonly afterThis = computed(() => this.finishName() ?? 'balancer');

  /** What this tool is to take is taken. */
  private readonly isTaken = computed(() =>
    ENDS.every((end) => this.zones()[end].every(({ count, wanted }) => count >= wanted)),
  );
  /** It is finished on another tool. */
  private readonly changesNow = computed(() => (this.isTaken() ? this.finishName() : undefined));
  /** Ground as planned: it is deburred before anything else. */
  protected readonly deburrs = computed(
    () => this.isTaken() && this.plan() !== undefined && !this.finishName(),
  );

  /** To the set-up of the tool it is finished on. */
  protected change(): void {
    this.store.changingTo.set(this.store.view()?.finishOn?.grinderId);
    this.toSetUp.emit();
  }
  protected readonly balanceNow = computed(() => {
    const gmm = this.forward()?.unbalanceGmm;
    const u = this.asked()?.situation.balance?.uGmm ?? 0;
    if (gmm === undefined || ENDS.every((end) => this.sinceHung(end) === 0)) return '';
    const heavy = gmm > 0 ? 'A' : 'B';
    return $localize`By now end ${heavy} should be about ${this.units.plusMinus({ value: Math.abs(gmm), u }, 'g·mm', 0)} heavy, ${this.units.show(this.forward()?.metalG ?? 0, 'g')} off since it was hung: an estimate.`;
  });

  /** Stop and look: the plan's break points of the zone in hand. */
  protected look(end: End): string {
    const asked = this.asked();
    const zone = this.zones()[end].find((each) => each.zone === this.zone(end));
    if (!asked || !zone) return '';
    const newest = this.newest();
    const row =
      newest?.end === end ? this.zones()[end].find((each) => each.zone === newest.zone) : undefined;
    if (!row || row.wanted === 0) return '';
    const over = row.count - row.wanted;
    if (over > 0)
      return $localize`${over} more than planned here: look along the edge before the next one. Metal cannot be put back.`;
    const { value, u } = asked.gramsPerPass;
    const points = lookPoints(row.wanted, value > 0 ? u / value : 0);
    if (!points.includes(row.count)) return '';
    if (row.count < row.wanted)
      return $localize`Look now: is the whole face bright, down to the last millimetre at the edge?`;
    const next = this.zones()[end].find((each) => each.count < each.wanted);
    if (next && this.changesTable(row.zone, next.zone)) return this.tableWords(end);
    return next
      ? $localize`Look now. Then the ${next.words}.`
      : $localize`As planned: look along the edge, then the other end or the ${this.afterThis()}.`;
  }
  /** From the flat table to the rounded one: once, after both ends. */
  private changesTable(from: ZoneKey, to: ZoneKey): boolean {
    return from !== 'inner' && to === 'inner' && this.asked()?.schools.secondTable === true;
  }
  private tableWords(end: End): string {
    const other = otherEnd(end);
    const isOpen = this.zones()[other].some(
      ({ zone, count, wanted }) => zone !== 'inner' && count < wanted,
    );
    return isOpen
      ? $localize`Look now. Then end ${other} on the flat table, before the table is changed.`
      : $localize`Look now. Change to the rounded table for the inner half of both ends.`;
  }

  private readonly newest = computed(() => this.store.view()?.passes.at(-1));

  /** The edge turned blue: a mark on the drawing, to be moved to its place. */
  protected async blued(end: End): Promise<void> {
    const trouble = await this.marks.markHeat(end);
    this.error.set(trouble?.words ?? '');
  }

  /** A foot switch is a key of a keyboard: any one key of one's own. */
  protected readonly footKey = signal(localStorage.getItem(FOOT) ?? '');
  protected readonly learning = signal(false);
  protected footWords(): string {
    if (this.learning()) return $localize`Press the switch once`;
    return this.footKey()
      ? $localize`Foot switch: ${this.keys.nameOf(this.footKey())}`
      : $localize`Set a foot switch`;
  }
  protected learnFoot(event: KeyboardEvent): void {
    if (!this.learning() || event.key === 'Tab') return;
    event.preventDefault();
    event.stopPropagation();
    this.learning.set(false);
    if (event.key === 'Escape') return;
    const key = event.key.toLowerCase();
    if (TAKEN.includes(key)) {
      this.error.set(
        $localize`${this.keys.nameOf(key)} does something else here: send another key.`,
      );
      return;
    }
    localStorage.setItem(FOOT, key);
    this.footKey.set(key);
    this.error.set('');
    this.bindFoot();
  }
  private unbindFoot = (): void => undefined;
  private bindFoot(): void {
    this.unbindFoot();
    const key = this.footKey();
    if (!key) return;
    this.unbindFoot = this.keys.use([
      {
        key,
        does: $localize`One pass, by the foot switch`,
        inFields: true,
        run: () => void this.press(this.end()),
      },
    ]);
  }

  constructor() {
    this.bindFoot();
    // The big button goes to the next tool before it goes to the balancer.
    effect(() => {
      const name = this.changesNow();
      this.store.first.set(
        name
          ? {
              words: $localize`Change to the ${name}`,
              act: () => {
                this.change();
                return Promise.resolve(false);
              },
            }
          : undefined,
      );
    });
    inject(DestroyRef).onDestroy(() => {
      this.unbindFoot();
      this.store.first.set(undefined);
      void this.stopClock?.();
    });
    const stop = this.keys.use([
      {
        key: ' ',
        does: $localize`One pass at the end in hand; by seconds, start and stop the clock`,
        overButtons: true,
        run: () => void this.press(this.end()),
      },
      { key: 'a', does: $localize`End A in hand`, run: () => this.take('A') },
      { key: 'b', does: $localize`End B in hand`, run: () => this.take('B') },
      { key: 'u', does: $localize`Take the last pass back`, run: () => void this.undo() },
      { key: 'z', does: $localize`Next zone of the end in hand`, run: () => this.nextZone() },
    ]);
    inject(DestroyRef).onDestroy(stop);
  }

  private nextZone(): void {
    const end = this.end();
    const rows = this.zones()[end];
    const at = rows.findIndex(({ zone }) => zone === this.zone(end));
    const next = rows[(at + 1) % rows.length];
    if (next) this.pick(end, next.zone);
  }

  /** The end to take up now: the plan's first, the other once that has passes. */
  protected isNext(end: End): boolean {
    const heavy = this.store.view()?.rounds.at(-1)?.heavyEnd;
    const first: End =
      this.plan()?.order[0] ?? (heavy === 'A' || heavy === 'B' ? otherEnd(heavy) : 'A');
    return this.store.passes(end) === 0 && (end === first || this.store.passes(first) > 0);
  }

  protected wanted(end: End): number {
    return this.zones()[end].reduce((sum, { wanted }) => sum + wanted, 0);
  }

  /** Seconds the disc has been at the edge since it was set to it; at the end in hand. */
  protected readonly atEdgeS = signal<number | undefined>(undefined);
  private stopClock: (() => Promise<void>) | undefined;

  /** One more of what is counted; of seconds, the clock is started, and stopped by the next press. */
  protected async press(end: End): Promise<void> {
    if (this.store.unit() !== 'second') return this.count(end, 1);
    if (this.stopClock) return this.stopClock();
    this.end.set(end);
    const from = performance.now();
    const elapsedS = (): number => (performance.now() - from) / 1000;
    this.atEdgeS.set(0);
    const beat = setInterval(() => {
      this.atEdgeS.set(Math.floor(elapsedS()));
    }, 200);
    this.stopClock = async () => {
      clearInterval(beat);
      this.stopClock = undefined;
      this.atEdgeS.set(undefined);
      const seconds = Math.round(elapsedS());
      // Longer than that it was forgotten.
      if (seconds > 0) await this.count(end, Math.min(seconds));
    };
  }

  protected take(end: End): void {
    if (end !== this.end()) void this.stopClock?.();
    this.end.set(end);
    this.passButtons()[this.ends.indexOf(end)]?.nativeElement.focus();
  }

  protected async count(end: End, count: number): Promise<void> {
    this.end.set(end);
    const zone = this.zone(end);
    const trouble = await this.store.countPasses(end, count, zone);
    const row = this.zones()[end].find((each) => each.zone === zone);
    // A zone that has its passes hands over to the next one.
    if (row && row.wanted > 0 && row.count >= row.wanted) {
      this.picked.update((picked) =>
        Object.fromEntries(Object.entries(picked).filter(([each]) => each !== end)),
      );
    }
    this.error.set(trouble?.words ?? '');
  }

  protected undo(): Promise<void> {
    return this.store.undoPass(this.end());
  }

  protected async tell(end: End): Promise<void> {
    const field = this.afterwards[end];
    const count = field.quantity;
    if (!passes(field)) return;
    if (count === undefined) {
      refuse(field, $localize`is empty: type a number`);
      return;
    }
    await this.count(end, count);
    if (!this.error()) field.reset();
  }
}
