import { shown } from '../data/shown';
import { submit } from '../data/submit';
import {
  ChangeDetectionStrategy,
  Component,
  computed,
  effect,
  ElementRef,
  inject,
  Injector,
  input,
  signal,
  viewChild,
} from '@angular/core';
import { MatButtonModule } from '@angular/material/button';
import { MatCheckboxModule } from '@angular/material/checkbox';
import { MatFormFieldModule } from '@angular/material/form-field';
import { MatSelectModule } from '@angular/material/select';
import { RouterLink } from '@angular/router';
import { takeUntilDestroyed } from '@angular/core/rxjs-interop';
import { filter, firstValueFrom } from 'rxjs';
import { makeSafeFor, PullSet, type DeckView, type MakeSafe } from '@tally-stone/contract';
import type { z } from 'zod';
import { Api } from '../data/api';
import { newId } from '../data/commands';
import { Instruments } from '../data/instruments';
import { troubleFrom } from '../data/problem';
import { passes, refuse, text } from '../data/fields';
import { Fleet } from '../data/fleet';
import { onceDrawn } from '../data/once-drawn';
import { Units } from '../data/units';
import { TextField } from '../parts/form/text-field';
import { BoltDrawing } from './bolt-drawing';
import { DeckDrawing } from './deck-drawing';
import { MeterReading, MeterReadingField } from './meter-reading';
import { safeWords } from './fleet-words';
import { STRUCK, STRUCK_HOW } from '@tally-stone/core/basics';
import { UpkeepList } from './upkeep';

type Found = z.infer<typeof PullSet>['found'][number];
type Step = 'safe' | 'hours' | 'off' | 'look' | 'strike' | 'on' | 'stopped' | 'done';

const CONDITIONS = [
  { value: 'sound', words: $localize`sound` },
  { value: 'worn', words: $localize`worn` },
  { value: 'replaced', words: $localize`replaced` },
] as const;

const FIELD_WORDS: Readonly<Record<string, string>> = {
  madeSafe: $localize`Making safe`,
  wingsToDeck: $localize`Wings to the deck`,
  stackInOrder: $localize`Washers in order`,
  torqued: $localize`The torque`,
  blades: $localize`The blades`,
};

/** Changing a set, hand over hand: make safe, read the meter, take off, look, put on, torque. */
@Component({
  selector: 'ts-change-set',
  imports: [
    Named,
    PageState,
    BoltDrawing,
    DeckDrawing,
    MatButtonModule,
    MatCheckboxModule,
    MatFormFieldModule,
    MatSelectModule,
    MeterReadingField,
    RouterLink,
    TextField,
    UpkeepList,
  ],
  providers: [Fleet],
  changeDetection: ChangeDetectionStrategy.OnPush,
  templateUrl: './change-set.html',
  styleUrl: './change-set.scss',
})
export class ChangeSet {
  protected readonly theMower = $localize`The mower`;
  protected readonly fleet = inject(Fleet);
  private readonly api = inject(Api);
  private readonly injector = inject(Injector);
  private readonly host = inject<ElementRef<HTMLElement>>(ElementRef).nativeElement;
  protected readonly units = inject(Units);
  readonly mowerId = input.required<string>();
  /** A blade that was let go over this deck at the wall. */
  readonly with = input<string>();
  protected readonly struck = STRUCK;
  protected readonly struckHow = STRUCK_HOW;
  protected readonly conditions = CONDITIONS;
  protected readonly parts = ['bolt', 'mount'] as const;

  protected readonly step = signal<Step>('safe');
  protected readonly safe = signal<readonly MakeSafe[]>([]);
  protected readonly meter = new MeterReading(() => this.mower()?.hoursH);
  protected readonly place = text('', PullSet.shape.place);
  protected readonly wings = signal(false);
  protected readonly stack = signal(false);
  protected readonly torqued = signal(false);
  /** What is wrong with the meter leads back to it; nothing typed is lost. */
  private readonly write = submit({
    names: FIELD_WORDS,
    at: (field) => ({ hoursH: this.meter.hours, place: this.place })[field],
    kept: () => this.fleet.refresh(),
    refused: ({ fields }) => {
      if ('hoursH' in fields) this.step.set('hours');
    },
  });
  /** Blades scanned or typed for the next set, in the order of the spindles. */
  protected readonly picked = signal<readonly string[]>([]);
  protected readonly code = text();
  /** Asked for once the next set is to go on. */
  private readonly shownOffer = shown(
    () => {
      const deckId = this.deckId();
      return this.step() === 'on' && deckId ? this.api.offer(deckId, this.picked()) : undefined;
    },
    { about: 'nothing' },
  );
  protected readonly offer = this.shownOffer.value;
  protected readonly error = computed(() => this.write.words() || this.shownOffer.words());
  private readonly partsSeen = signal<readonly string[]>([]);
  private readonly conditionsSeen = signal<readonly Found[]>([]);

  protected readonly mower = computed(() => this.fleet.mower(this.mowerId()));
  private readonly deckId = computed(() => this.mower()?.deck.deckId);
  protected readonly fitted = computed(() => this.mower()?.deck.fittedAt !== undefined);
  protected readonly points = computed(() => {
    const mower = this.mower();
    if (!mower) return [];
    return makeSafeFor(mower.energy).map((key) => ({
      key,
      words: safeWords(key, mower.deck.figures?.raising),
    }));
  });
  protected readonly heading = computed(() => {
    const name = this.mower()?.name ?? '';
    return {
      safe: $localize`${name}:ph0:: make it safe`,
      hours: $localize`${name}:ph0:: read the meter`,
      off: $localize`${name}:ph0:: the set comes off`,
      look: $localize`${name}:ph0:: while the blades are off`,
      strike: $localize`${name}:ph0:: look at spindle and mount`,
      on: $localize`${name}:ph0:: the next set goes on`,
      stopped: $localize`${name}:ph0:: out of use`,
      done: $localize`${name}:ph0:: the set is on`,
    }[this.step()];
  });

  constructor() {
    effect(() => {
      const code = this.with();
      if (code) this.picked.set([code]);
    });
    inject(Instruments)
      .codes$.pipe(
        filter(() => this.step() === 'on'),
        takeUntilDestroyed(),
      )
      .subscribe((code) => {
        this.code.setValue(code);
        void this.pick();
      });
    effect(() => {
      const mower = this.mower();
      if (mower && this.place.value === '') this.place.setValue($localize`Heap by ${mower.name}`);
    });
  }

  /** The deck as it will be with the offered blades, for the drawing. */
  protected readonly withOffer = computed<DeckView | undefined>(() => {
    const deck = this.mower()?.deck;
    const blades = this.offer()?.blades ?? [];
    return (
      deck && {
        ...deck,
        spindles: deck.spindles.map((spindle, i) => {
          const blade = blades[i];
          return blade ? { ...spindle, blade } : spindle;
        }),
      }
    );
  });
  protected readonly offerWords = computed(() => {
    const { spread, over = [] } = this.offer() ?? {};
    if (!spread || (this.offer()?.blades.length ?? 0) < 2) return $localize`From the rack.`;
    const those = this.picked().length > 0 ? $localize`With those you picked, the` : $localize`The`;
    const even = this.picked().length > 0 ? $localize`With those you picked even` : $localize`Even`;
    const { lengthMm, widthMm, massG } = spread;
    const apart = $localize`${this.units.show(lengthMm, 'mm')} in length, ${this.units.show(widthMm, 'mm')} in width, ${this.units.show(massG, 'g', 0)} in mass`;
    if (this.offer()?.own) return $localize`Its own set, apart by at most ${apart}.`;
    return over.length === 0
      ? $localize`${those} most alike of the rack, apart by at most ${apart}.`
      : $localize`${even} the most alike of the rack are apart by ${apart}:ph1:: it may cut in steps or shake.`;
  });
  protected readonly stackParts = computed(() => this.mower()?.deck.figures?.stack ?? []);
  protected readonly stackWords = computed(() => {
    const parts = this.stackParts();
    return parts.length === 0
      ? $localize`Washers and spacers back in their order`
      : $localize`From the spindle out: ${parts.join(', ')}`;
  });
  protected readonly torqueWords = computed(() => {
    const { figures } = this.mower()?.deck ?? {};
    return figures?.boltTorque
      ? $localize`Bolts to ${figures.boltTorque.text} ${figures.boltTorque.unit}, the manual's figure`
      : $localize`Bolts to the mower's own figure: see its manual`;
  });

  protected tick(point: MakeSafe): void {
    this.safe.update((done) =>
      done.includes(point) ? done.filter((each) => each !== point) : [...done, point],
    );
  }

  protected seen(spindleId: string, part: 'bolt' | 'mount', value: Found['bolt']): void {
    this.partsSeen.update((all) => [...new Set([...all, `${spindleId} ${part}`])]);
    this.conditionsSeen.update((all) => {
      const before = all.find((each) => each.spindleId === spindleId);
      const now: Found = { spindleId, bolt: 'sound', mount: 'sound', ...before, [part]: value };
      return [...all.filter((each) => each.spindleId !== spindleId), now];
    });
  }

  private wasSeen(spindleId: string): boolean {
    const seen = this.partsSeen().filter((each) => each.startsWith(spindleId));
    return seen.length === this.parts.length;
  }

  private readonly list = viewChild(UpkeepList);
  /** What was looked at is kept, and the next set goes on. */
  protected async lookedOver(): Promise<void> {
    if ((await this.list()?.keep()) ?? true) this.go(this.after());
  }

  /** Where it goes once the old set is off: a strike is looked into first. */
  protected after(): Step {
    return this.mower()?.deck.strike ? 'strike' : 'on';
  }

  protected go(step: Step): void {
    this.write.say('');
    this.step.set(step);
    onceDrawn(this.injector, () => this.toWhatIsNext());
  }

  /** A step that begins by typing has the focus in its field; where one looks first, what it asks is read first. */
  private toWhatIsNext(): void {
    const first = this.host.querySelector<HTMLElement>('form input');
    (first ?? this.host.querySelector<HTMLElement>('h1'))?.focus();
  }

  /** The meter is looked at as it is read: one that shows less says why, before a blade comes off. */
  protected async readMeter(): Promise<void> {
    const { hours } = this.meter;
    const hoursH = hours.quantity;
    if (!passes(hours) || hoursH === undefined) {
      this.write.showFirstWrong();
      return;
    }
    const because = this.meter.because();
    const mower = this.mower();
    if (this.meter.backward() && mower) {
      if (!because) {
        refuse(hours, $localize`is less than last time: read it again, or say why`);
        this.write.showFirstWrong();
        return;
      }
      const { mowerId } = mower;
      if (!(await this.write.send({ type: 'read-hours', mowerId, hoursH, because }))) return;
    }
    this.go(this.fitted() ? 'off' : this.after());
  }

  /** A spindle or mount that is not sound: the strike stands, and with it the mower. */
  protected keepStopped(): void {
    this.go('stopped');
  }

  private hoursH(): number {
    return this.meter.hours.quantity ?? NaN;
  }

  protected async pull(): Promise<void> {
    const mower = this.mower();
    if (!mower) return;
    if (!passes(this.place)) {
      this.write.showFirstWrong();
      return;
    }
    const { deckId, spindles } = mower.deck;
    const fitted = spindles.filter(({ blade }) => blade);
    const unseen = fitted.find(({ spindleId }) => !this.wasSeen(spindleId));
    if (mower.deck.strike && unseen) {
      this.write.say(
        $localize`Look at bolt and mount of ${unseen.position} first: it struck something.`,
      );
      return;
    }
    const found = fitted.map(
      ({ spindleId }): Found =>
        this.conditionsSeen().find((each) => each.spindleId === spindleId) ?? {
          spindleId,
          bolt: 'sound',
          mount: 'sound',
        },
    );
    const kept = await this.write.send({
      type: 'pull-set',
      deckId,
      hoursH: this.hoursH(),
      place: this.place.value,
      madeSafe: [...this.safe()],
      found,
    });
    if (kept) this.go('look');
  }

  protected async clear(strikeId: string): Promise<void> {
    const kept = await this.write.send({
      type: 'clear-strike',
      strikeId,
      spindleSound: true,
      mountSound: true,
    });
    if (kept) this.go('on');
  }

  /** A blade in hand at the deck: taken into the set, or refused on the spot. */
  protected async pick(): Promise<void> {
    const deckId = this.deckId();
    const code = this.code.value.trim().toUpperCase();
    if (!deckId || code === '') return;
    try {
      await firstValueFrom(this.api.offer(deckId, [...this.picked(), code]));
      this.picked.update((all) => [...all, code]);
      this.code.reset('');
    } catch (error) {
      const { words, fields } = troubleFrom(error);
      refuse(this.code, this.units.resay(fields['with'] ?? words));
      this.write.showFirstWrong();
    }
  }

  protected unpick(code: string): void {
    this.picked.update((all) => all.filter((each) => each !== code));
  }

  protected async fit(): Promise<void> {
    const mower = this.mower();
    const blades = this.offer()?.blades ?? [];
    if (!mower) return;
    const kept = await this.write.send({
      type: 'fit-set',
      deckId: mower.deck.deckId,
      hoursH: this.hoursH(),
      madeSafe: [...this.safe()],
      blades: mower.deck.spindles.flatMap(({ spindleId }, i) => {
        const blade = blades[i];
        return blade ? [{ fitId: newId(), spindleId, bladeId: blade.bladeId }] : [];
      }),
      wingsToDeck: this.wings(),
      stackInOrder: this.stack(),
      torqued: this.torqued(),
    });
    if (kept) this.step.set('done');
    else void this.shownOffer.again();
  }
}
import { PageState } from '../parts/state';
import { Named } from '../parts/named';
