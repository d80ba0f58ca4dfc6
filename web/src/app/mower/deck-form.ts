import {
  ChangeDetectionStrategy,
  Component,
  computed,
  effect,
  inject,
  input,
  output,
  signal,
} from '@angular/core';
import { MatButtonModule } from '@angular/material/button';
import type { DeckFigures, DeckView, Entered } from '@tally-stone/contract';
import { BenchError, parseQuantity, type Unit } from '@tally-stone/core';
import { Api } from '../data/api';
import { Fleet } from '../data/fleet';
import { shown } from '../data/shown';
import { submit } from '../data/submit';
import { Units } from '../data/units';
import { RAISING_WORDS } from './fleet-words';

type Raising = DeckFigures['raising'];
interface Typed {
  readonly specId: string;
  /** From the spindle before, across and ahead, as typed. */
  readonly apart: readonly { readonly across: string; readonly ahead: string }[];
  readonly clearance: string;
  readonly overlap: string;
  readonly timed: boolean;
  readonly torque: string;
  readonly torqueUnit: Entered['unit'];
  readonly stack: string;
  readonly raising: Raising;
  readonly turf: DeckFigures['duty']['turf'];
  readonly soil: DeckFigures['duty']['soil'];
}

const TORQUE_UNITS = ['N·m', 'lbf·ft', 'lbf·in', 'kgf·m'] as const;

/** A deck as measured with a tape, and as its mower's manual says. Kept as one command. */
@Component({
  selector: 'ts-deck-form',
  imports: [MatButtonModule],
  changeDetection: ChangeDetectionStrategy.OnPush,
  templateUrl: './deck-form.html',
  styleUrl: './deck-form.scss',
})
export class DeckForm {
  private readonly api = inject(Api);
  private readonly fleet = inject(Fleet);
  protected readonly units = inject(Units);
  readonly deck = input.required<DeckView>();
  readonly kept = output();
  private readonly shownSpecs = shown(() => this.api.specs(), { about: 'nothing' });
  protected readonly specs = computed(() => this.shownSpecs.value() ?? []);
  private readonly write = submit({
    names: {
      boltTorque: 'The bolt torque',
      text: 'The bolt torque',
      specId: 'This blade',
      spindles: 'A spindle',
      figures: 'The deck',
    },
    kept: () => this.fleet.refresh(),
  });
  protected readonly typed = signal<Typed | undefined>(undefined);
  protected readonly error = computed(() => this.write.words() || this.shownSpecs.words());
  protected readonly torqueUnits = TORQUE_UNITS;
  protected readonly raisings = (Object.keys(RAISING_WORDS) as Raising[]).map((value) => ({
    value,
    words: RAISING_WORDS[value],
  }));
  private readonly begun = computed(() => this.deck().deckId);

  constructor() {
    let shownFor = '';
    effect(() => {
      if (shownFor === this.begun()) return;
      shownFor = this.begun();
      this.typed.set(this.asTyped(this.deck()));
    });
  }

  private asTyped({ figures, spindles }: DeckView): Typed {
    const shown = (mm: number): string => this.units.show(mm, 'mm', 0).replace(/[^\d.-]/g, '');
    const at = spindles.map(({ spindleId }) =>
      figures?.spindles.find((each) => each.spindleId === spindleId),
    );
    return {
      specId: figures?.specId ?? '',
      apart: at.slice(1).map((next, i) => {
        const before = at[i];
        return before && next
          ? {
              across: shown(next.acrossMm - before.acrossMm),
              ahead: shown(next.aheadMm - before.aheadMm),
            }
          : { across: '', ahead: '0' };
      }),
      clearance: shown(figures?.leastClearanceMm ?? 6),
      overlap: shown(figures?.leastOverlapMm ?? 10),
      timed: figures?.timed ?? false,
      torque: figures?.boltTorque?.text ?? '',
      torqueUnit: figures?.boltTorque?.unit ?? 'N·m',
      stack: figures?.stack.join(', ') ?? '',
      raising: figures?.raising ?? 'front-up',
      turf: figures?.duty.turf ?? 'soft',
      soil: figures?.duty.soil ?? 'loam',
    };
  }

  protected set(change: Partial<Typed>): void {
    this.typed.update((now) => now && { ...now, ...change });
  }

  protected setGap(index: number, change: Partial<Typed['apart'][number]>): void {
    this.typed.update(
      (now) =>
        now && {
          ...now,
          apart: now.apart.map((gap, i) => (i === index ? { ...gap, ...change } : gap)),
        },
    );
  }

  private mm(text: string, field: string): number {
    return parseQuantity(text, this.units.unitFor('mm') as Unit, field).value;
  }

  private figures(now: Typed): DeckFigures {
    let acrossMm = 0;
    let aheadMm = 0;
    const spindles = this.deck().spindles.map(({ spindleId, position }, i) => {
      const gap = now.apart[i - 1];
      if (gap) {
        acrossMm += this.mm(gap.across, `The spacing before ${position}`);
        aheadMm += this.mm(gap.ahead, `The stagger before ${position}`);
      }
      return { spindleId, acrossMm, aheadMm };
    });
    const stack = now.stack
      .split(',')
      .map((part) => part.trim())
      .filter((part) => part !== '');
    return {
      ...(now.specId ? { specId: now.specId } : {}),
      spindles,
      leastClearanceMm: this.mm(now.clearance, 'The least clearance'),
      leastOverlapMm: this.mm(now.overlap, 'The least overlap'),
      timed: now.timed,
      ...(now.torque.trim() === ''
        ? {}
        : { boltTorque: { text: now.torque, unit: now.torqueUnit } }),
      stack,
      raising: now.raising,
      duty: { turf: now.turf, soil: now.soil },
    };
  }

  protected async keep(event: Event): Promise<void> {
    event.preventDefault();
    const now = this.typed();
    if (!now) return;
    try {
      const act = {
        type: 'set-deck' as const,
        deckId: this.deck().deckId,
        figures: this.figures(now),
      };
      if (await this.write.send(act)) this.kept.emit();
    } catch (error) {
      if (!(error instanceof BenchError)) throw error;
      this.write.say(`${error.field} ${error.rule}.`);
    }
  }
}
