import {
  ChangeDetectionStrategy,
  Component,
  computed,
  effect,
  ElementRef,
  inject,
  signal,
} from '@angular/core';
import { FormControl, FormGroup, ReactiveFormsModule } from '@angular/forms';
import { MatButtonModule } from '@angular/material/button';
import { MatButtonToggleModule } from '@angular/material/button-toggle';
import { MatIconModule } from '@angular/material/icon';
import {
  between,
  DamageKind,
  PHOTOS_PATH,
  type CycleView,
  type ReadingSlot,
} from '@tally-stone/contract';
import { ENDS, type End, DAMAGE } from '@tally-stone/core';
import { lastValueFrom, tap } from 'rxjs';
import { Named } from '../parts/named';
import { NamedPipe } from '../parts/named.pipe';
import { newId } from '../data/commands';
import { Instruments } from '../data/instruments';
import { troubleFrom, type Trouble } from '../data/problem';
import { passes, QuantityControl, refuse } from '../data/fields';
import { showsFirstWrong } from '../data/submit';
import { Units } from '../data/units';
import { QuantityField } from '../parts/form/quantity-field';
import { ReadingField } from './reading-field';
import { Marks } from './marks';
import { RunStore } from './run-store';

const CRACK_PLACES = [
  { value: 'near-tip', words: $localize`near the tip` },
  { value: 'wing-root', words: $localize`at the wing root` },
  { value: 'centre-hole', words: $localize`at the centre hole` },
  { value: 'elsewhere', words: $localize`elsewhere` },
] as const;

/** What a mark on a blade can be: where it is and how deep. */
const FROM_TIP = between(0, 1000, 'mm');
const DEPTH = between(0, 100, 'mm');

/** Look at the blade: cracks, bend by both tips, and damage where it is on the steel. */
@Component({
  selector: 'ts-step-inspect',
  imports: [
    Named,
    NamedPipe,
    MatButtonModule,
    MatButtonToggleModule,
    MatIconModule,
    QuantityField,
    ReactiveFormsModule,
    ReadingField,
  ],
  changeDetection: ChangeDetectionStrategy.OnPush,
  templateUrl: './step-inspect.html',
  styleUrl: './step-inspect.scss',
})
export class StepInspect {
  protected readonly store = inject(RunStore);
  protected readonly marks = inject(Marks);
  protected readonly units = inject(Units);
  protected readonly ends = ENDS;
  protected readonly kinds = DamageKind.options;
  protected readonly kindOf = DAMAGE;
  protected readonly crackPlaces = CRACK_PLACES;
  private readonly showFirstWrong = showsFirstWrong();

  protected readonly mark = new FormGroup({
    kind: new FormControl<DamageKind>('nick', { nonNullable: true }),
    end: new FormControl<End>('A', { nonNullable: true }),
    fromTip: new QuantityControl('mm', FROM_TIP, this.units),
    depth: new QuantityControl('mm', DEPTH, this.units),
  });

  private readonly host = inject<ElementRef<HTMLElement>>(ElementRef);

  constructor() {
    // A mark just put on the drawing is asked for its depth.
    effect(() => {
      const id = this.marks.justMarked();
      if (!id || !this.store.view()?.damage.some(({ damageId }) => damageId === id)) return;
      this.marks.justMarked.set('');
      this.focusOn('depth', id);
    });
  }

  protected readonly tips = computed(
    () => this.store.view()?.slots.filter(({ quantity }) => quantity === 'tip-height') ?? [],
  );
  protected readonly bend = computed(() => this.finding('bend'));
  protected readonly crack = computed(() => this.store.view()?.crack);

  private finding(id: string): CycleView['before']['findings'][number] | undefined {
    return this.store.view()?.before.findings.find((each) => each.id === id);
  }

  protected async noCrack(): Promise<void> {
    if (!(await this.store.act({ type: 'judge-crack', found: false })))
      this.store.focusNext$.next();
  }

  protected async cracked(where: (typeof CRACK_PLACES)[number]['value']): Promise<void> {
    if (!(await this.store.act({ type: 'judge-crack', found: true, where })))
      this.store.focusNext$.next();
  }

  protected async addMark(): Promise<void> {
    if (!passes(this.mark)) {
      this.showFirstWrong();
      return;
    }
    const { kind, end, fromTip, depth } = this.mark.controls;
    const trouble = await this.store.act({
      type: 'mark-damage',
      damageId: newId(),
      kind: kind.value,
      end: end.value,
      fromTip: fromTip.entered,
      depth: depth.entered,
    });
    if (trouble) {
      for (const [field, words] of Object.entries(trouble.fields))
        refuse(field.startsWith('fromTip') ? fromTip : depth, words);
      this.showFirstWrong();
      return;
    }
    fromTip.reset();
    depth.reset();
  }

  protected async erase(damageId: string): Promise<void> {
    await this.marks.erase(damageId);
  }

  protected pickKind(kind: DamageKind): void {
    this.marks.markKind.set(kind);
    this.mark.controls.kind.setValue(kind);
  }

  /** A depth or length typed at a mark of the list. */
  protected async measured(
    mark: CycleView['damage'][number],
    what: 'depth' | 'length',
    text: string,
  ): Promise<void> {
    if (text.trim() === '') return;
    // Enter has kept it already where leaving the field tells it again.
    if (text.trim() === this.shownAt(mark, what)) return;
    const unit = this.units.length();
    this.remarked(mark, await this.marks.remark(mark, { [what]: { text, unit } }));
  }

  /** Enter keeps it and goes on: from the depth to the length, from the length to what is to be done next. */
  protected async entered(
    mark: CycleView['damage'][number],
    what: 'depth' | 'length',
    text: string,
  ): Promise<void> {
    await this.measured(mark, what, text);
    if (this.markErrors()[mark.damageId]) return;
    this.goOnFrom(what, mark.damageId);
  }

  private goOnFrom(what: 'depth' | 'length', damageId: string): void {
    if (what === 'depth') this.focusOn('length', damageId);
    else this.store.focusNext$.next();
  }

  private focusOn(what: 'depth' | 'length', damageId: string): void {
    setTimeout(() => {
      const field = this.host.nativeElement.querySelector<HTMLInputElement>(`#${what}-${damageId}`);
      field?.focus();
      field?.select();
    });
  }

  private readonly instruments = inject(Instruments);
  protected readonly caliper = computed(() => this.instruments.speaking('width'));
  /** The mark's depth or length that the caliper is at, as `id:depth`, and what it shows. */
  protected readonly taking = signal<{ readonly at: string; readonly shown: string } | undefined>(
    undefined,
  );

  /** Takes a depth or length with the caliper once it stands still, and keeps it. */
  protected async takeMark(
    mark: CycleView['damage'][number],
    what: 'depth' | 'length',
  ): Promise<void> {
    const caliper = this.caliper();
    if (!caliper || this.taking()) return;
    const { damageId } = mark;
    const at = `${damageId}:${what}`;
    this.taking.set({ at, shown: '…' });
    this.markErrors.set({});
    try {
      const { shown } = await lastValueFrom(
        this.instruments
          .take(caliper, { act: 'put-mark', cycleId: this.store.id(), damageId, what })
          .pipe(tap((seen) => this.taking.set({ at, shown: seen.shown }))),
      );
      const read = { [what]: { text: shown, unit: caliper.unit } };
      this.remarked(mark, await this.marks.remark(mark, read, caliper.key));
      if (!this.markErrors()[damageId]) this.goOnFrom(what, damageId);
    } catch (error) {
      const words = error instanceof Error ? error.message : troubleFrom(error).words;
      this.markErrors.set({ [damageId]: words });
    } finally {
      this.taking.set(undefined);
    }
  }

  protected readonly sizes = ['depth', 'length'] as const;

  protected tipAt(end: ReadingSlot['end']): string {
    return $localize`Tip ${end}`;
  }
  protected shownAt(mark: CycleView['damage'][number], what: 'depth' | 'length'): string {
    const taking = this.taking();
    if (taking?.at === `${mark.damageId}:${what}`) return taking.shown;
    return this.inUnit(what === 'depth' ? mark.depthMm : mark.lengthMm);
  }

  protected pressed(
    event: KeyboardEvent,
    mark: CycleView['damage'][number],
    what: 'depth' | 'length',
  ): void {
    if (event.key.toLowerCase() !== 't' || event.ctrlKey || event.metaKey) return;
    event.preventDefault();
    void this.takeMark(mark, what);
  }

  private remarked({ damageId }: CycleView['damage'][number], trouble: Trouble | undefined): void {
    const words = trouble && (Object.values(trouble.fields)[0] ?? trouble.words);
    this.markErrors.set(words ? { [damageId]: words } : {});
  }

  /** The mark the next photo is of; none for the blade as a whole. */
  protected readonly photoOf = signal<string | undefined>(undefined);
  protected readonly photoPath = PHOTOS_PATH;

  protected async photo(picker: HTMLInputElement): Promise<void> {
    const [file] = picker.files ?? [];
    picker.value = '';
    if (file) await this.marks.attachPhoto(file, this.photoOf());
  }

  protected async takeOff(photoId: string): Promise<void> {
    await this.store.act({ type: 'remove-photo', photoId });
  }

  protected photoWords(damageId: string | undefined): string {
    const mark = this.store.view()?.damage.find((each) => each.damageId === damageId);
    return mark ? $localize`${DAMAGE[mark.kind].words}, end ${mark.end}` : $localize`The blade`;
  }

  protected readonly markErrors = signal<Readonly<Record<string, string>>>({});

  protected inUnit(value: number | undefined): string {
    return value === undefined ? '' : this.units.typed(value, 'mm');
  }
}
