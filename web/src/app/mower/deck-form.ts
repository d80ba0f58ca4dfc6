import {
  ChangeDetectionStrategy,
  Component,
  computed,
  effect,
  inject,
  input,
  output,
} from '@angular/core';
import { toSignal } from '@angular/core/rxjs-interop';
import { FormArray, FormControl, FormGroup, ReactiveFormsModule } from '@angular/forms';
import { MatButtonModule } from '@angular/material/button';
import { MatCheckboxModule } from '@angular/material/checkbox';
import { DeckFigures, type DeckView, type Entered } from '@tally-stone/contract';
import { BenchError, deckPairs, judgeDeckFit } from '@tally-stone/core';
import { map } from 'rxjs';
import { Api } from '../data/api';
import { passes, QuantityControl, readsAs, text } from '../data/fields';
import { Fleet } from '../data/fleet';
import { shown } from '../data/shown';
import { inForm, submit, type Finder } from '../data/submit';
import { Units } from '../data/units';
import { optionsOf, PickField, type Option } from '../parts/form/pick-field';
import { QuantityField } from '../parts/form/quantity-field';
import { TextField } from '../parts/form/text-field';
import { boltStack, BoltStackField } from './bolt-stack';
import { DeckDrawing, deckPlan, usualGapMm } from './deck-drawing';
import { RAISING_WORDS } from './fleet-words';

type Raising = DeckFigures['raising'];
type Gap = FormGroup<{ across: QuantityControl; ahead: QuantityControl }>;

const SHAPE = DeckFigures.shape;
const SPINDLE = SHAPE.spindles.element.shape;
const TORQUE_UNITS = optionsOf(['N·m', 'lbf·ft', 'lbf·in', 'kgf·m']);
const USUAL_CLEARANCE_MM = 6;
const USUAL_OVERLAP_MM = 10;

/** As tall as the drawing of a deck is at most. */
const TALLEST_PX = 320;

type Size = { readonly lengthMm: number; readonly widthMm: number } | undefined;

/** Every pair of blades as they would stand; none while a size or a place is not known. */
function pairsOf({ spindles }: DeckFigures, sizes: readonly Size[]): DeckView['pairs'] {
  const known = sizes.flatMap((size) => size ?? []);
  if (known.length < spindles.length) return [];
  try {
    return deckPairs(spindles, known);
  } catch (error) {
    if (error instanceof BenchError) return [];
    throw error;
  }
}

/** Nearer or further than these shares of what is usual, a spindle is not drawn there: the figure is still being typed. */
const LEAST_DRAWN = 0.3;
const MOST_DRAWN = 3;
/** What is typed wrong counts as usual until it is right: nothing is kept meanwhile. */
const readOr = ({ valid, quantity }: QuantityControl, usual: number): number =>
  (valid ? quantity : undefined) ?? usual;
interface GapMm {
  readonly acrossMm: number;
  readonly aheadMm: number;
}

/** A deck as measured with a tape, and as its mower's manual says. Kept as one command. */
@Component({
  selector: 'ts-deck-form',
  imports: [
    BoltStackField,
    DeckDrawing,
    MatButtonModule,
    MatCheckboxModule,
    PickField,
    QuantityField,
    ReactiveFormsModule,
    TextField,
  ],
  changeDetection: ChangeDetectionStrategy.OnPush,
  templateUrl: './deck-form.html',
  styleUrl: './deck-form.scss',
})
export class DeckForm {
  private readonly api = inject(Api);
  private readonly fleet = inject(Fleet);
  private readonly units = inject(Units);
  readonly deck = input.required<DeckView>();
  readonly kept = output();
  private readonly shownSpecs = shown(() => this.api.specs(), { about: 'nothing' });
  protected readonly specs = computed((): readonly Option[] => [
    { value: '', words: $localize`not said yet` },
    ...(this.shownSpecs.value() ?? []).map(({ specId, figures }) => ({
      value: specId,
      words: figures.name,
    })),
  ]);
  protected readonly torqueUnits = TORQUE_UNITS;
  protected readonly raisings: readonly Option[] = (Object.keys(RAISING_WORDS) as Raising[]).map(
    (value) => ({ value, words: RAISING_WORDS[value] }),
  );
  protected readonly turfs = optionsOf(SHAPE.duty.shape.turf.options);
  protected readonly soils = optionsOf(SHAPE.duty.shape.soil.options);
  private readonly torqueUnit = text('N·m');
  protected readonly form = new FormGroup({
    specId: text(),
    gaps: new FormArray<Gap>([]),
    leastClearanceMm: new QuantityControl('mm', SHAPE.leastClearanceMm, this.units),
    leastOverlapMm: new QuantityControl('mm', SHAPE.leastOverlapMm, this.units),
    timed: new FormControl(false, { nonNullable: true }),
    boltTorque: new FormControl('', {
      nonNullable: true,
      validators: [readsAs(() => this.torqueUnit.value as Entered['unit'])],
    }),
    torqueUnit: this.torqueUnit,
    stack: boltStack([]),
    raising: text('front-up'),
    turf: text('soft'),
    soil: text('loam'),
  });
  private readonly write = submit({ at: this.fieldAt(), kept: () => this.fleet.refresh() });
  protected readonly error = computed(() => this.write.words() || this.shownSpecs.words());
  private readonly begun = computed(() => this.deck().deckId);

  constructor() {
    let shownFor = '';
    effect(() => {
      if (shownFor === this.begun()) return;
      shownFor = this.begun();
      this.start(this.deck());
    });
  }

  /** A spindle's place is refused at the gap that was measured to it. */
  private fieldAt(): Finder {
    const byName = inForm(() => this.form);
    return (field) => {
      const [, index, which] = /spindles\.(\d+)\.(across|ahead)Mm$/.exec(field) ?? [];
      const gap = index === undefined ? undefined : this.form.controls.gaps.at(Number(index) - 1);
      return which === 'across' || which === 'ahead' ? gap?.controls[which] : byName(field);
    };
  }

  private start({ figures, spindles }: DeckView): void {
    const { units } = this;
    const at = spindles.map(({ spindleId }) =>
      figures?.spindles.find((each) => each.spindleId === spindleId),
    );
    const gaps = at.slice(1).map((next, i): Gap => {
      const before = at[i];
      const [across, ahead] =
        before && next
          ? [next.acrossMm - before.acrossMm, next.aheadMm - before.aheadMm]
          : [undefined, 0];
      return new FormGroup({
        across: new QuantityControl('mm', SPINDLE.acrossMm, units, { start: across }),
        ahead: new QuantityControl('mm', SPINDLE.aheadMm, units, { start: ahead }),
      });
    });
    this.form.setControl('gaps', new FormArray(gaps));
    this.form.setControl('stack', boltStack(figures?.stack ?? []));
    this.form.patchValue({
      specId: figures?.specId ?? '',
      timed: figures?.timed ?? false,
      torqueUnit: figures?.boltTorque?.unit ?? 'N·m',
      boltTorque: figures?.boltTorque?.text ?? '',
      raising: figures?.raising ?? 'front-up',
      turf: figures?.duty.turf ?? 'soft',
      soil: figures?.duty.soil ?? 'loam',
    });
    this.form.controls.leastClearanceMm.put(figures?.leastClearanceMm ?? USUAL_CLEARANCE_MM);
    this.form.controls.leastOverlapMm.put(figures?.leastOverlapMm ?? USUAL_OVERLAP_MM);
  }

  protected readonly stackNames = toSignal(
    this.form.valueChanges.pipe(map(() => this.form.controls.stack.getRawValue())),
    { initialValue: [] },
  );
  /** Follows every key; a figure that cannot be read yet, or is still being typed, leaves its spindle where it was. */
  private readonly typed = toSignal(
    this.form.valueChanges.pipe(map(() => this.figures((i) => this.drawnGap(i)))),
  );

  /** The deck as typed so far, with what that leaves between its blades. */
  protected readonly drawn = computed((): DeckView => {
    const deck = this.deck();
    const figures = this.typed() ?? deck.figures;
    if (!figures) return deck;
    const spec = this.shownSpecs.value()?.find(({ specId }) => specId === figures.specId)?.figures;
    const sizes = deck.spindles.map(({ blade }) =>
      blade
        ? { lengthMm: blade.lengthMm, widthMm: blade.widthMm }
        : spec && { lengthMm: spec.newLengthMm, widthMm: spec.newWidthMm },
    );
    return { ...deck, figures, pairs: pairsOf(figures, sizes) };
  });
  private readonly plan = computed(() => deckPlan(this.drawn(), true));
  /** So wide at most, that the drawing fills its place and the dimensions lie under it. */
  protected readonly widestPx = computed(() => {
    const { width, height } = this.plan().view;
    return (TALLEST_PX * width) / height;
  });
  /** The stretches between spindles, per cent of the drawing's width, and whether the blades there fit. */
  protected readonly gapsAt = computed(() => {
    const { drawn, view } = this.plan();
    const { figures, pairs } = this.drawn();
    const at = (x: number): number => (100 * (x - view.x)) / view.width;
    return drawn.slice(1).map(({ x }, i) => {
      const pair = pairs.find(({ left, right }) => left === i && right === i + 1);
      return {
        from: at(drawn[i]?.x ?? 0),
        to: at(x),
        bad: pair && figures ? judgeDeckFit(pair, figures).length > 0 : false,
      };
    });
  });

  /** From spindle i to the next as it is drawn. */
  private drawnGap(i: number): GapMm {
    const { spindles, figures } = this.deck();
    const [from, to] = [i, i + 1].map((at) =>
      figures?.spindles.find(({ spindleId }) => spindleId === spindles[at]?.spindleId),
    );
    const usualMm = usualGapMm(spindles[i]?.blade?.lengthMm);
    const { across, ahead } = this.form.controls.gaps.at(i).controls;
    const readMm = (control: QuantityControl, least: number, most: number): number | undefined => {
      const { valid, quantity } = control;
      const share = (quantity ?? Infinity) / usualMm;
      return valid && share >= least && share <= most ? quantity : undefined;
    };
    return {
      acrossMm:
        readMm(across, LEAST_DRAWN, MOST_DRAWN) ??
        (from && to ? to.acrossMm - from.acrossMm : usualMm),
      aheadMm:
        readMm(ahead, -MOST_DRAWN, MOST_DRAWN) ?? (from && to ? to.aheadMm - from.aheadMm : 0),
    };
  }

  private typedGap(i: number): GapMm {
    const { across, ahead } = this.form.controls.gaps.at(i).controls;
    return { acrossMm: across.quantity ?? 0, aheadMm: ahead.quantity ?? 0 };
  }

  private figures(gapAfter = (i: number): GapMm => this.typedGap(i)): DeckFigures {
    const typed = this.form.getRawValue();
    const { leastClearanceMm, leastOverlapMm } = this.form.controls;
    let acrossMm = 0;
    let aheadMm = 0;
    const spindles = this.deck().spindles.map(({ spindleId }, i) => {
      if (i > 0) {
        const gap = gapAfter(i - 1);
        acrossMm += gap.acrossMm;
        aheadMm += gap.aheadMm;
      }
      return { spindleId, acrossMm, aheadMm };
    });
    return {
      ...(typed.specId ? { specId: typed.specId } : {}),
      spindles,
      leastClearanceMm: readOr(leastClearanceMm, USUAL_CLEARANCE_MM),
      leastOverlapMm: readOr(leastOverlapMm, USUAL_OVERLAP_MM),
      timed: typed.timed,
      ...(typed.boltTorque.trim() === ''
        ? {}
        : { boltTorque: { text: typed.boltTorque, unit: typed.torqueUnit as Entered['unit'] } }),
      stack: typed.stack.map((part) => part.trim()),
      raising: typed.raising as Raising,
      duty: {
        turf: typed.turf as DeckFigures['duty']['turf'],
        soil: typed.soil as DeckFigures['duty']['soil'],
      },
    };
  }

  protected async keep(): Promise<void> {
    if (!passes(this.form)) {
      this.write.showFirstWrong();
      return;
    }
    const act = {
      type: 'set-deck' as const,
      deckId: this.deck().deckId,
      figures: this.figures(),
    };
    if (await this.write.send(act)) this.kept.emit();
  }
}
