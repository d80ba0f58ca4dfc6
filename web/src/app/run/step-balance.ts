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
import type { BalanceView, Phase } from '@tally-stone/contract';
import {
  BALANCE_DEVICES,
  correctionPasses,
  type BalanceDevice,
  type HeavyEnd,
  type ZoneKey,
} from '@tally-stone/core';
import { newId } from '../data/commands';
import { Keys } from '../data/keys';
import { Units } from '../data/units';
import { DropTimer } from './drop-timer';
import { ZONE_WORDS } from './plan-words';
import { RunStore } from './run-store';

const DEVICES = Object.entries(BALANCE_DEVICES).map(([value, { label }]) => ({
  value: value as BalanceDevice,
  label,
}));

/** How this bench tells the amount, kept for the next blade. */
const WAY = 'tally-stone.balance-way';
const WAYS = ['weight', 'drop', 'end'] as const;
type Way = (typeof WAYS)[number];

/** Which end hangs low and by how much: in g·mm, in grams at the edge, as force at speed. */
@Component({
  selector: 'ts-step-balance',
  imports: [DropTimer, MatButtonModule, MatButtonToggleModule, ReactiveFormsModule],
  changeDetection: ChangeDetectionStrategy.OnPush,
  templateUrl: './step-balance.html',
  styleUrl: './step-balance.scss',
})
export class StepBalance {
  protected readonly store = inject(RunStore);
  protected readonly units = inject(Units);
  protected readonly devices = DEVICES;
  protected readonly errors = signal<Readonly<Record<string, string>>>({});
  protected readonly form = new FormGroup({
    device: new FormControl<BalanceDevice>('bearing-shaft', { nonNullable: true }),
    heavyEnd: new FormControl<HeavyEnd | undefined>(undefined, { nonNullable: true }),
    weight: new FormControl('', { nonNullable: true }),
    radius: new FormControl('', { nonNullable: true }),
  });

  protected readonly rounds = computed(() => this.store.view()?.rounds ?? []);
  protected readonly newest = computed(() => this.rounds().at(-1));
  /** Before the first pass a reading is "before", after it "after"; with none to do it proves the blade. */
  protected readonly phase = computed<Phase>(() => {
    const view = this.store.view();
    const toGrind = view?.before.verdict === 'grind' && view.passes.length === 0;
    return toGrind ? 'before' : 'after';
  });
  protected readonly settled = computed(
    () => this.store.view()?.steps.find(({ key }) => key === 'balance')?.state === 'done',
  );

  constructor() {
    const pick = (heavyEnd: HeavyEnd) => (): void => {
      this.form.controls.heavyEnd.setValue(heavyEnd);
      if (this.way() === 'end') void this.keep();
      else this.store.kept$.next();
    };
    const stop = inject(Keys).use([
      { key: 'a', does: 'End A hangs low', run: pick('A') },
      { key: 'b', does: 'End B hangs low', run: pick('B') },
      { key: 'l', does: 'Hangs level', run: pick('level') },
    ]);
    inject(DestroyRef).onDestroy(stop);
    if (!this.store.plan()) void this.store.refreshPlan();
  }

  /** How the amount is told: by a weight on the light end, by the time of the drop, or not at all. */
  protected readonly way = signal<Way>(
    WAYS.find((way) => way === localStorage.getItem(WAY)) ?? 'weight',
  );
  protected readonly drops = signal<readonly number[]>([]);

  /** Ground and not deburred since; a pass that is still on its way counts already. */
  protected readonly burr = computed(() => {
    const under = this.store.passesUnderWay();
    return (this.store.view()?.burr ?? false) || under.A + under.B > 0;
  });

  protected async deburred(): Promise<void> {
    const trouble = await this.store.act({ type: 'deburr', done: true });
    this.errors.set(trouble ? { all: trouble.words } : {});
    if (!trouble) this.store.kept$.next();
  }

  protected pickEnd(): void {
    if (this.way() === 'end') void this.keep();
  }

  protected pickWay(way: Way): void {
    this.way.set(way);
    localStorage.setItem(WAY, way);
  }

  protected readonly markDeg = signal<30 | 90>(90);

  /** Drops to one mark are not mixed with drops to another. */
  protected pickMark(markDeg: 30 | 90): void {
    this.markDeg.set(markDeg);
    this.drops.set([]);
  }

  protected timed({ seconds, heavyEnd }: { seconds: number; heavyEnd: HeavyEnd }): void {
    this.drops.update((drops) => [...drops, Math.round(seconds * 1000) / 1000]);
    this.form.controls.heavyEnd.setValue(heavyEnd);
    this.store.kept$.next();
  }

  protected keepLevel(): void {
    this.form.controls.heavyEnd.setValue('level');
    void this.keep();
  }

  protected dropPossible(): boolean {
    return this.form.getRawValue().device === 'bearing-shaft';
  }

  protected weightNeeded(): boolean {
    const { heavyEnd } = this.form.getRawValue();
    return this.way() === 'weight' && (heavyEnd === 'A' || heavyEnd === 'B');
  }

  /** Passes of the plan's own zone that would take it off, for a first idea. */
  protected passesNeeded(round: BalanceView): string {
    const plan = this.store.plan();
    const zone = plan?.kind === 'asked' ? plan.situation.zones.at(-1) : undefined;
    if (!zone || plan?.kind !== 'asked' || round.within) return '';
    const passes = correctionPasses(round.unbalanceGmm, zone, plan.situation.tipRadiusMm);
    return `about ${passes} ${passes === 1 ? 'pass' : 'passes'} on the ${ZONE_WORDS[zone.key as ZoneKey]}`;
  }

  /** Enter in the first field goes on to the second; the second keeps the round. */
  protected onward(target: HTMLInputElement, event: Event): void {
    event.preventDefault();
    target.focus();
  }

  protected async keep(): Promise<void> {
    const { device, heavyEnd, weight, radius } = this.form.getRawValue();
    if (!heavyEnd) {
      this.errors.set({ heavyEnd: 'is not picked: which end hangs low, or is it level?' });
      return;
    }
    const byDrop = this.way() === 'drop' && this.dropPossible();
    const weighed =
      heavyEnd === 'level'
        ? {}
        : this.way() === 'end'
          ? { endOnly: true }
          : byDrop
            ? { drops: [...this.drops()], markDeg: this.markDeg() }
            : this.weighed(weight, radius);
    const trouble = await this.store.act({
      type: 'balance-round',
      roundId: newId(),
      phase: this.phase(),
      device,
      heavyEnd,
      ...weighed,
    });
    this.errors.set(trouble ? { all: trouble.words, ...trouble.fields } : {});
    if (trouble) return;
    this.form.patchValue({ heavyEnd: undefined, weight: '' });
    this.drops.set([]);
    this.store.kept$.next();
  }

  private weighed(weight: string, radius: string) {
    return {
      weight: { text: weight, unit: 'g' as const },
      radius: { text: radius, unit: this.units.length() },
    };
  }

  protected size(round: BalanceView): string {
    return Math.abs(round.unbalanceGmm).toFixed(0);
  }

  /** Share of the allowance used, in percent of the bar's width. */
  protected share(round: BalanceView): number {
    return Math.min(100, (50 * Math.abs(round.unbalanceGmm)) / round.permissibleGmm);
  }
}
