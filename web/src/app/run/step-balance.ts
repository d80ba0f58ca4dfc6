import {
  ChangeDetectionStrategy,
  Component,
  computed,
  DestroyRef,
  inject,
  signal,
} from '@angular/core';
import { FormControl, FormGroup, ReactiveFormsModule } from '@angular/forms';
import { MatButtonModule } from '@angular/material/button';
import { MatButtonToggleModule } from '@angular/material/button-toggle';
import {
  between,
  TestRadiusMm,
  TestWeightG,
  type BalanceView,
  type Phase,
} from '@tally-stone/contract';
import {
  countedWords,
  isHungAsItStands,
  passesIn,
  splitAtRound,
  unlikeWords,
} from '@tally-stone/cycle';
import { correctionPasses, type HeavyEnd, type ZoneKey, counted } from '@tally-stone/core';
import { Named } from '../parts/named';
import { newId } from '../data/commands';
import { Days } from '../data/days';
import { GoesOn } from '../data/goes-on';
import { Keys } from '../data/keys';
import { Shop } from '../data/shop';
import { passes, QuantityControl, refuse } from '../data/fields';
import { showsFirstWrong } from '../data/submit';
import { Units } from '../data/units';
import { Source } from '../parts/source';
import { QuantityField } from '../parts/form/quantity-field';
import { Deburr } from './deburr';
import { isEnough } from './drop-advice';
import { DropTimer } from './drop-timer';
import {
  BALANCER,
  dropWords,
  NEEDS,
  shareOf,
  USUAL,
  WAY,
  WAY_WORDS,
  wayFor,
  WAYS,
  type Balancer,
  type Way,
  halfTurnWords,
} from './balance-ways';
import { ZONE_WORDS } from './plan-words';
import { RunStore } from './run-store';

/** How much lower a tip can stand. */
const TILT = between(0, 1000, 'mm');

/** Which end hangs low and by how much: in g·mm, in grams at the edge, as force at speed. */
@Component({
  selector: 'ts-step-balance',
  imports: [
    Deburr,
    Named,
    DropTimer,
    MatButtonModule,
    MatButtonToggleModule,
    QuantityField,
    ReactiveFormsModule,
    Source,
  ],
  changeDetection: ChangeDetectionStrategy.OnPush,
  templateUrl: './step-balance.html',
  styleUrl: './step-balance.scss',
})
export class StepBalance {
  protected readonly store = inject(RunStore);
  protected readonly counted = counted;
  protected readonly units = inject(Units);
  private readonly days = inject(Days);
  private readonly shop = inject(Shop);
  private readonly goesOn = inject(GoesOn);
  private readonly showFirstWrong = showsFirstWrong();
  protected readonly errors = signal<Readonly<Record<string, string>>>({});
  protected readonly form = new FormGroup({
    heavyEnd: new FormControl<HeavyEnd | undefined>(undefined, { nonNullable: true }),
    weight: new QuantityControl('g', TestWeightG, this.units),
    radius: new QuantityControl('mm', TestRadiusMm, this.units),
    tiltAlone: new QuantityControl('mm', TILT, this.units),
    tiltWithWeight: new QuantityControl('mm', TILT, this.units),
  });

  protected readonly balancers = computed<readonly Balancer[]>(() => {
    const own = this.shop.view()?.balancers ?? [];
    if (own.length === 0) return USUAL;
    return own.map(({ balancerId, name, device, calibration }) => ({
      key: balancerId,
      balancerId,
      label: name,
      device,
      sight: calibration
        ? $localize`friction ${this.units.show(calibration.frictionGmm, 'g·mm', 0)}, calibrated ${this.days.short(calibration.madeAt)}`
        : device === 'bearing-shaft'
          ? $localize`never calibrated: the usual figures apply`
          : '',
    }));
  });
  private readonly pickedBalancer = signal(localStorage.getItem(BALANCER) ?? '');
  protected readonly balancer = computed<Balancer | undefined>(() => {
    const all = this.balancers();
    const usual = this.shop.view()?.rules.balanceDevice;
    return (
      all.find(({ key }) => key === this.pickedBalancer()) ??
      all.find(({ device }) => device === usual) ??
      all[0]
    );
  });
  protected readonly picking = signal(false);
  protected readonly ways = computed(() =>
    WAYS.filter((way) => !NEEDS[way] || NEEDS[way] === this.balancer()?.device).map((way) => ({
      way,
      words: WAY_WORDS[way],
    })),
  );

  protected readonly rounds = computed(() => this.store.view()?.rounds ?? []);
  protected readonly newest = computed(() => this.rounds().at(-1));
  /** Before the first pass a reading is "before", after it "after"; with none to do it proves the blade. */
  protected readonly phase = computed<Phase>(() => {
    const view = this.store.view();
    const toGrind = view?.before.verdict === 'grind' && view.passes.length === 0;
    return toGrind ? 'before' : 'after';
  });
  /** Nothing is to be hung now: it is in balance, or was hung as it stands and is to be ground first. */
  protected readonly settled = computed(() => {
    const view = this.store.view();
    const newest = this.newest();
    if (view?.steps.find(({ key }) => key === 'balance')?.state === 'done') return true;
    if (!view || !newest || newest.expected || !isHungAsItStands(view)) return false;
    return this.phase() === 'before' || !newest.within;
  });
  /** Passes counted since it was hung: what the reading says is of a blade that is no more. */
  protected readonly passesSince = computed(() => {
    const view = this.store.view();
    const newest = this.newest();
    return view && newest ? passesIn(view) - newest.passesBefore : 0;
  });
  /** The same in words, each tool in what is counted on it. */
  protected readonly sinceWords = computed(() => {
    const view = this.store.view();
    return view ? countedWords(splitAtRound(view).since, view.bench?.facts.grinders ?? []) : '';
  });

  constructor() {
    const pick = (heavyEnd: HeavyEnd) => (): void => {
      this.form.controls.heavyEnd.setValue(heavyEnd);
      if (this.way() === 'end') void this.keep();
      else this.store.focusNext$.next();
    };
    const stop = inject(Keys).use([
      { key: 'a', does: $localize`End A hangs low`, run: pick('A') },
      { key: 'b', does: $localize`End B hangs low`, run: pick('B') },
      { key: 'l', does: $localize`Hangs level`, run: pick('level') },
      { key: 'd', does: $localize`Time a drop`, run: () => this.timeDrop() },
      { key: 'y', does: $localize`Keep this reading`, run: () => void this.keep() },
      { key: 'h', does: $localize`Turned half way round: hang it again`, run: () => this.turn() },
    ]);
    inject(DestroyRef).onDestroy(stop);
    if (!this.store.plan()) void this.store.refreshPlan();
    void this.shop.refresh();
  }

  private readonly picked = signal<Partial<Record<Phase, Way>>>({});
  private readonly pickedWay = computed(() => this.picked()[this.phase()] ?? wayFor(this.phase()));
  /** How the amount is told; a way this balancer has not gives place to the test weight. */
  protected readonly way = computed<Way>(() =>
    this.ways().some(({ way }) => way === this.pickedWay()) ? this.pickedWay() : 'weight',
  );
  /** The round the blade was turned half way round after; the next reading makes the mean of both. */
  protected readonly turnedAfter = signal<string | undefined>(undefined);
  protected readonly hung = computed(() => ({
    act: 'hang' as const,
    cycleId: this.store.id(),
    turned: this.turnedAfter() !== undefined,
  }));
  /** A half turn is worth it after an amount that no grinding has made old and that is no mean yet. */
  protected readonly turnable = computed(() => {
    const round = this.newest();
    return (
      round !== undefined &&
      !round.endOnly &&
      !round.halfTurn &&
      this.turnedAfter() === undefined &&
      this.passesSince() === 0 &&
      !round.burr &&
      !this.store.burr()
    );
  });
  protected readonly underWay = (): Promise<void> => this.store.settled();
  protected readonly drops = signal<readonly number[]>([]);

  /** The next thing here is to say which end hangs low; a timed drop says it by itself. */
  protected endDue(): boolean {
    const { heavyEnd } = this.form.getRawValue();
    return !this.settled() && !this.store.burr() && !this.dropping() && !heavyEnd;
  }

  protected pickEnd(): void {
    if (this.way() === 'end') void this.keep();
  }

  protected pickWay(way: Way): void {
    this.picked.update((picked) => ({ ...picked, [this.phase()]: way }));
    localStorage.setItem(`${WAY}.${this.phase()}`, way);
    // Drops to one mark are not mixed with drops to another.
    this.drops.set([]);
  }

  /** The key of the timer brings it up, where the balancer turns freely. */
  protected timeDrop(): void {
    if (!this.ways().some(({ way }) => way === 'drop')) return;
    if (!this.dropping()) this.pickWay('drop');
    this.store.focusNext$.next();
  }

  protected pickBalancer(key: string): void {
    this.pickedBalancer.set(key);
    localStorage.setItem(BALANCER, key);
    this.picking.set(false);
    this.drops.set([]);
  }

  /** Turned half way round on the adapter, to be hung again. */
  protected turn(): void {
    const round = this.newest();
    if (!this.turnable() || !round) return;
    this.turnedAfter.set(round.roundId);
    this.form.patchValue({ heavyEnd: undefined });
    this.drops.set([]);
    this.store.focusNext$.next();
  }

  protected turnBack(): void {
    this.turnedAfter.set(undefined);
  }

  /** Where the clock is stopped: a slow drop is timed to hanging, a slower one to a mark before it. */
  protected readonly weightWords = computed(() =>
    this.way() === 'tilt' ? $localize`Known weight` : $localize`Test weight`,
  );
  protected readonly markDeg = computed<30 | 90>(() => (this.way() === 'drop-30' ? 30 : 90));
  protected readonly dropping = computed(() => this.way() === 'drop' || this.way() === 'drop-30');

  protected strike(index: number): void {
    this.drops.update((drops) => drops.filter((_, i) => i !== index));
  }

  protected timed({ seconds, heavyEnd }: { seconds: number; heavyEnd: HeavyEnd }): void {
    const before = this.form.controls.heavyEnd.value;
    if (this.drops().length > 0 && before !== heavyEnd) {
      this.errors.set({
        otherEnd: $localize`End ${heavyEnd} hung low this time, end ${before ?? ''} before: that drop is not counted. Strike out what was wrong, or hang it again.`,
      });
      return;
    }
    this.errors.set({});
    this.drops.update((drops) => [...drops, Math.round(seconds * 1000) / 1000]);
    this.form.controls.heavyEnd.setValue(heavyEnd);
    if (this.goesOn.on() && isEnough(this.drops(), this.markDeg())) void this.keep();
    else this.store.focusNext$.next();
  }

  protected keepLevel(): void {
    this.form.controls.heavyEnd.setValue('level');
    void this.keep();
  }

  protected weightNeeded(): boolean {
    const { heavyEnd } = this.form.getRawValue();
    const byWeight = this.way() === 'weight' || this.way() === 'tilt';
    return byWeight && (heavyEnd === 'A' || heavyEnd === 'B');
  }

  /** The kept amount as it was read, the mean's own readings in brackets. */
  protected readonly halfTurnWords = (turn: NonNullable<BalanceView['halfTurn']>): string =>
    halfTurnWords(turn, (gmm) => this.units.show(gmm, 'g·mm', 0));

  /** What it should be by the hanging before, in this bench's units. */
  protected readonly unlikeWords = (expected: NonNullable<BalanceView['expected']>): string =>
    this.units.resay(unlikeWords(expected));

  protected readonly dropWords = dropWords;
  /** Passes of the plan's own zone that would take it off, for a first idea. */
  protected passesNeeded(round: BalanceView): string {
    const plan = this.store.plan();
    const zone = plan?.kind === 'asked' ? plan.situation.zones.at(-1) : undefined;
    if (!zone || plan?.kind !== 'asked' || round.within) return '';
    const passes = correctionPasses(round.unbalanceGmm, zone, plan.situation.tipRadiusMm);
    return $localize`about ${counted(passes, this.store.unitWords())} on the ${this.units.resay(ZONE_WORDS[zone.key as ZoneKey])}`;
  }

  /** Enter in the first field goes on to the second; the second keeps the round. */
  protected onward(target: QuantityField, event: Event): void {
    event.preventDefault();
    target.focus();
  }

  protected async keep(): Promise<void> {
    const { heavyEnd } = this.form.getRawValue();
    const balancer = this.balancer();
    if (!heavyEnd || !balancer) {
      this.errors.set({ heavyEnd: $localize`is not picked: which end hangs low, or is it level?` });
      return;
    }
    const typed = this.typed(heavyEnd);
    if (!typed.map(passes).every(Boolean)) {
      this.showFirstWrong();
      return;
    }
    const turned = this.turnedAfter();
    const trouble = await this.store.act({
      type: 'balance-round',
      roundId: newId(),
      phase: this.phase(),
      device: balancer.device,
      ...(balancer.balancerId ? { balancerId: balancer.balancerId } : {}),
      ...(turned ? { halfTurnOf: turned } : {}),
      heavyEnd,
      ...(heavyEnd === 'level' ? {} : this.amount()),
    });
    this.errors.set(trouble ? { all: trouble.words, ...trouble.fields } : {});
    if (trouble) {
      this.placed(trouble.fields);
      return;
    }
    const { weight, tiltAlone, tiltWithWeight } = this.form.controls;
    this.form.controls.heavyEnd.setValue(undefined);
    for (const field of [weight, tiltAlone, tiltWithWeight]) field.reset();
    this.drops.set([]);
    this.turnedAfter.set(undefined);
    this.store.focusNext$.next();
  }

  /** The fields that are asked for, the way the amount is told. */
  private typed(heavyEnd: HeavyEnd): QuantityControl[] {
    if (heavyEnd === 'level' || !this.weightNeeded()) return [];
    const { weight, radius, tiltAlone, tiltWithWeight } = this.form.controls;
    return this.way() === 'tilt' ? [tiltAlone, tiltWithWeight, weight, radius] : [weight, radius];
  }

  /** Says at each field what the server refuses of it. */
  private placed(fields: Readonly<Record<string, string>>): void {
    const { weight, radius, tiltAlone, tiltWithWeight } = this.form.controls;
    const controls: Readonly<Record<string, QuantityControl>> = {
      weight,
      radius,
      'tilt.alone': tiltAlone,
      'tilt.withWeight': tiltWithWeight,
    };
    for (const [field, words] of Object.entries(fields)) {
      const control = controls[field.replace(/\.text$/, '')];
      if (control) refuse(control, words);
    }
    this.showFirstWrong();
  }

  private amount() {
    const { weight, radius, tiltAlone, tiltWithWeight } = this.form.controls;
    const weighed = () => ({ weight: weight.entered, radius: radius.entered });
    switch (this.way()) {
      case 'end':
        return { endOnly: true };
      case 'drop':
      case 'drop-30':
        return { drops: [...this.drops()], markDeg: this.markDeg() };
      case 'tilt':
        return {
          ...weighed(),
          tilt: { alone: tiltAlone.entered, withWeight: tiltWithWeight.entered },
        };
      case 'weight':
        return weighed();
    }
  }

  protected wasWords(round: BalanceView): string {
    if (round.heavyEnd === 'level') return $localize`it hung level`;
    if (round.endOnly) return $localize`end ${round.heavyEnd} hung low`;
    return $localize`end ${round.heavyEnd} was heavy by ${this.size(round)} of ${this.units.show(round.permissibleGmm, 'g·mm', 0)} allowed`;
  }

  protected size(round: BalanceView): string {
    return this.units.figure(Math.abs(round.unbalanceGmm), 'g·mm', 0);
  }

  protected readonly share = shareOf;
}
