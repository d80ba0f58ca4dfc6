import { submit } from '../data/submit';
import { ChangeDetectionStrategy, Component, computed, inject, input, signal } from '@angular/core';
import { takeUntilDestroyed } from '@angular/core/rxjs-interop';
import { FormControl, FormGroup, ReactiveFormsModule } from '@angular/forms';
import { MatButtonModule } from '@angular/material/button';
import { RouterLink } from '@angular/router';
import {
  GrinderFigures,
  ShopRules,
  type GrinderView,
  type InstrumentView,
  type Schools,
  type SpecRevision,
} from '@tally-stone/contract';
import { BALANCE_DEVICES, usuallyCounted, type BalanceDevice } from '@tally-stone/core';
import { newId } from '../data/commands';
import { COUNT_WORDS } from '../data/count-words';
import { Days } from '../data/days';
import { asShown, Instruments } from '../data/instruments';
import { Shop } from '../data/shop';
import { SchoolsForm } from '../run/schools-form';
import { DueRules } from './due-rules';
import { Prices } from './prices';
import { SchoolCosts } from './school-costs';
import { ShopSchools } from './shop-schools';

type Figure = Exclude<keyof ShopRules, 'schools'>;

/** What grinds: every tool learns its own grams a pass, so a shop may own any of them. */
const TOOL_WHY: Readonly<Record<GrinderFigures['kind'], string>> = {
  belt: 'flat face, cool and quick; the belt wears and its table corner wants checking',
  wheel:
    'holds its angle by its height; leaves a hollow face, and the height moves as the wheel wears',
  'flap-disc': 'goes to the mower; the angle is the hand’s, 40 coarse, 60 usual, 80 fine',
  'drill-stone':
    'small and slow, for a touch at the mower; wears hollow and rounds an edge that is not watched',
  file: 'no power, no heat; some 50 strokes an end, 200 where it is badly rounded',
};

/** Figures a shop may set for itself, with what each is. All are common practice, no source. */
const FIGURES: readonly { readonly key: Figure; readonly words: string; readonly unit: string }[] =
  [
    { key: 'dullLandMm', words: 'Dull above a flat of', unit: 'mm' },
    { key: 'usualRecessionMm', words: 'A grind usually takes', unit: 'mm' },
    { key: 'straightness', words: 'Edge straight within', unit: 'mm per mm' },
    { key: 'tipReachMm', words: 'Tip square over its outer', unit: 'mm' },
    { key: 'tipMostMm', words: 'falling back by at most', unit: 'mm' },
    { key: 'wearWeightG', words: 'Sparing the worst place is worth', unit: 'g' },
    { key: 'fullLookCycles', words: 'Full look after', unit: 'cycles' },
    { key: 'fullLookDays', words: 'or after', unit: 'days' },
    { key: 'checkMassG', words: 'The check blade weighs', unit: 'g' },
    { key: 'checkWidthMm', words: 'is wide at its mark', unit: 'mm' },
    { key: 'checkLevelG', words: 'and hangs level with', unit: 'g' },
  ];
const text = (start = '') => new FormControl(start, { nonNullable: true });

/** The shop's schools and figures, its grinders with what is on them, and its instruments. */
@Component({
  selector: 'ts-rules',
  imports: [
    DueRules,
    MatButtonModule,
    Prices,
    ReactiveFormsModule,
    RouterLink,
    SchoolCosts,
    SchoolsForm,
    ShopSchools,
  ],
  changeDetection: ChangeDetectionStrategy.OnPush,
  templateUrl: './rules.html',
  styleUrl: './shop-page.scss',
})
export class Rules {
  private readonly shop = inject(Shop);
  protected readonly instruments = inject(Instruments);
  protected readonly figures = FIGURES;
  protected readonly countWords = COUNT_WORDS;
  protected readonly view = this.shop.view;
  private readonly write = submit({ kept: () => this.load() });
  protected readonly trouble = this.write.words;
  protected readonly kept = signal(false);
  /** The grinder being changed; `new` for another one. */
  protected readonly editing = signal<string | undefined>(undefined);
  protected readonly newAbrasive = signal(false);
  protected readonly days = inject(Days);
  protected readonly devices = BALANCE_DEVICES;
  protected readonly deviceKeys = Object.keys(BALANCE_DEVICES) as BalanceDevice[];
  protected readonly addingBalancer = signal(false);
  protected readonly balancer = new FormGroup({ name: text(), device: text('bearing-shaft') });

  protected readonly values = new FormGroup(
    Object.fromEntries(FIGURES.map(({ key }) => [key, text()])),
  );
  protected readonly grinder = new FormGroup({
    name: text(),
    kind: text('belt'),
    counts: text('pass'),
    abrasive: text(),
    wheelDiameterMm: text(),
    ratedRpm: text(),
    spindleRpm: text(),
    aim: text('mean'),
    table: text('flat'),
  });
  protected toolWhy(): string {
    return TOOL_WHY[this.grinder.getRawValue().kind as GrinderFigures['kind']];
  }

  readonly specs = input<readonly SpecRevision[]>([]);
  protected readonly schools = computed(() => this.view()?.rules.schools);
  /** What each instrument with something on it shows now, as it says it. */
  protected readonly live = signal<Readonly<Record<string, string>>>({});

  constructor() {
    void this.load();
    void this.instruments.refresh().catch(() => undefined);
    this.instruments.samples$
      .pipe(takeUntilDestroyed())
      .subscribe(({ key, value, unit, resolution, state }) => {
        const shown = state === 'ok' ? `${asShown(value, resolution)} ${unit}` : '';
        this.live.update((all) => ({ ...all, [key]: shown }));
      });
  }

  protected async chooseSchools(change: Partial<Schools>): Promise<void> {
    const rules = this.view()?.rules;
    if (rules) await this.keepRules({ ...rules, schools: { ...rules.schools, ...change } });
  }

  protected async keepFigures(): Promise<void> {
    const rules = this.view()?.rules;
    if (!rules) return;
    const typed = Object.fromEntries(
      FIGURES.map(({ key }) => [key, Number((this.values.value[key] ?? '').replace(',', '.'))]),
    );
    const parsed = ShopRules.safeParse({ ...rules, ...typed });
    if (!parsed.success) {
      const [issue] = parsed.error.issues;
      const figure = FIGURES.find(({ key }) => key === issue?.path[0]);
      this.write.say(`${figure?.words ?? 'A figure'}: ${issue?.message ?? 'is not a number'}`);
      return;
    }
    await this.keepRules(parsed.data);
  }

  protected change(machine: GrinderView): void {
    const { figures } = machine;
    this.grinder.reset({
      ...figures,
      wheelDiameterMm: String(figures.wheelDiameterMm ?? ''),
      ratedRpm: String(figures.ratedRpm ?? ''),
      spindleRpm: String(figures.spindleRpm ?? ''),
    });
    this.newAbrasive.set(false);
    this.grinder.controls.kind.disable();
    this.grinder.controls.counts.disable();
    this.editing.set(machine.grinderId);
  }

  protected another(): void {
    this.grinder.reset();
    this.grinder.enable();
    this.editing.set('new');
  }

  /** What such a tool's user counts, until it is said otherwise. */
  protected kindPicked(): void {
    const { kind, counts } = this.grinder.controls;
    counts.setValue(usuallyCounted(kind.value as GrinderFigures['kind']));
  }

  protected async keepGrinder(): Promise<void> {
    const { wheelDiameterMm, ratedRpm, spindleRpm, ...plain } = this.grinder.getRawValue();
    const number = (name: string, typed: string) =>
      typed.trim() === '' ? {} : { [name]: Number(typed.replace(',', '.')) };
    const parsed = GrinderFigures.safeParse({
      ...plain,
      ...number('wheelDiameterMm', wheelDiameterMm),
      ...number('ratedRpm', ratedRpm),
      ...number('spindleRpm', spindleRpm),
    });
    if (!parsed.success) {
      const [issue] = parsed.error.issues;
      this.write.say(`${String(issue?.path[0] ?? 'A figure')} ${issue?.message ?? ''}`);
      return;
    }
    const id = this.editing();
    const machine = this.view()?.grinders.find(({ grinderId }) => grinderId === id);
    const abrasiveId = machine && !this.newAbrasive() ? machine.abrasiveId : newId();
    const done = await this.write.send(
      machine
        ? {
            type: 'change-grinder',
            grinderId: machine.grinderId,
            abrasiveId,
            figures: parsed.data,
          }
        : { type: 'add-grinder', grinderId: newId(), abrasiveId, figures: parsed.data },
    );
    if (done) this.editing.set(undefined);
  }

  protected async keepBalancer(): Promise<void> {
    const { name, device } = this.balancer.getRawValue();
    const act = {
      type: 'add-balancer' as const,
      balancerId: newId(),
      name,
      device: device as BalanceDevice,
    };
    if (!(await this.write.send(act))) return;
    this.balancer.reset();
    this.addingBalancer.set(false);
  }

  protected async plug(key: string, plugged: boolean): Promise<void> {
    await this.instruments.act(key, { act: plugged ? 'unplug' : 'plug' });
  }

  /** What of the check blade an instrument reads; nothing where it reads none of it. */
  protected checkOn({ reads, plugged }: InstrumentView): 'mass' | 'width' | undefined {
    return plugged ? (['mass', 'width'] as const).find((each) => reads.includes(each)) : undefined;
  }

  protected async putCheck(key: string, quantity: 'mass' | 'width'): Promise<void> {
    await this.instruments.act(key, { act: 'put-check', quantity });
  }

  protected async takeOff(key: string): Promise<void> {
    await this.instruments.act(key, { act: 'take-off' });
    this.live.update((all) => ({ ...all, [key]: '' }));
  }

  protected async scan(code: string): Promise<void> {
    if (code.trim()) await this.instruments.act('scanner', { act: 'scan', code: code.trim() });
  }

  protected async keepRules(rules: ShopRules): Promise<void> {
    this.kept.set((await this.write.send({ type: 'set-rules', rules })) !== undefined);
  }

  private async load(): Promise<void> {
    await this.shop.refresh();
    this.write.say(this.shop.trouble());
    const rules = this.view()?.rules;
    if (rules)
      this.values.setValue(Object.fromEntries(FIGURES.map(({ key }) => [key, String(rules[key])])));
  }
}
