import { NgTemplateOutlet } from '@angular/common';
import {
  ChangeDetectionStrategy,
  Component,
  computed,
  effect,
  inject,
  input,
  signal,
} from '@angular/core';
import { toObservable, toSignal } from '@angular/core/rxjs-interop';
import { MatButtonModule } from '@angular/material/button';
import { MatFormFieldModule } from '@angular/material/form-field';
import { MatInputModule } from '@angular/material/input';
import { MatSelectModule } from '@angular/material/select';
import { RouterLink } from '@angular/router';
import {
  SpecFigures,
  type LimitPreview,
  type LimitReason,
  type SpecRevision,
} from '@tally-stone/contract';
import {
  BenchError,
  ENDS,
  parseQuantity,
  type Unit,
  LIMITS,
  named,
  placeSaid,
  BLADE_STATES,
} from '@tally-stone/core';
import { catchError, debounceTime, firstValueFrom, of, switchMap } from 'rxjs';
import { Named } from '../parts/named';
import { Api } from '../data/api';
import { Commands, newId } from '../data/commands';
import { troubleFrom } from '../data/problem';
import { Units } from '../data/units';
import { BladeDrawing } from '../parts/blade-drawing';
import {
  NO_TEXTS,
  OPTIONAL,
  REASONS,
  SIZES,
  type Draft,
  type DrawnField,
  type Limit,
  type Size,
} from './spec-fields';
import { dimensionOfLimit, SpecSheet, type Dimension } from '../parts/spec-sheet';

/** Typing settles for so long before the server is asked what it would do, ms. */
const SETTLED_MS = 350;

/** A blade spec's sizes and limits: the drawing lives as one types, and says whom a change would retire before it is kept. */
@Component({
  selector: 'ts-spec-page',
  imports: [
    Named,
    BladeDrawing,
    MatButtonModule,
    MatFormFieldModule,
    MatInputModule,
    MatSelectModule,
    NgTemplateOutlet,
    RouterLink,
    SpecSheet,
  ],
  changeDetection: ChangeDetectionStrategy.OnPush,
  templateUrl: './spec-page.html',
  styleUrl: './spec-page.scss',
})
export class SpecPage {
  private readonly api = inject(Api);
  private readonly commands = inject(Commands);
  protected readonly units = inject(Units);
  readonly specId = input.required<string>();
  protected readonly spec = signal<SpecRevision | undefined>(undefined);
  protected readonly drafts = signal<readonly Draft[]>([]);
  protected readonly reason = signal<LimitReason | undefined>(undefined);
  protected readonly trouble = signal('');
  protected readonly notice = signal('');
  protected readonly reasons = REASONS;
  /** Which limits have their field on the drawing, by where they stand in the list. */
  private readonly onDrawing = computed(
    () =>
      new Map(
        this.drafts().flatMap(({ limit }, i) => {
          const dimension = dimensionOfLimit(limit, this.spec()?.figures.stations ?? []);
          return dimension ? [[dimension, i] as const] : [];
        }),
      ),
  );
  protected readonly dimensions = computed((): readonly Dimension[] => [
    ...SIZES.map(({ key }) => key),
    ...this.onDrawing().keys(),
  ]);
  /** The length the maker lets its blades be trimmed to; empty where nobody trims them. */
  protected readonly trimText = signal('');
  protected readonly trimSource = signal('');
  protected readonly wholeName = signal('');
  protected readonly sizeTexts = signal<Readonly<Record<Size, string>>>(NO_TEXTS);
  protected readonly sources = [
    { value: 'maker', words: $localize`the maker` },
    { value: 'shop', words: $localize`this shop` },
  ] as const;

  constructor() {
    effect(() => void this.load(this.specId()));
  }

  private async load(specId: string): Promise<void> {
    try {
      const specs = await firstValueFrom(this.api.specs());
      const spec = specs.find((each) => each.specId === specId);
      this.spec.set(spec);
      const { trimming, trimmedFrom } = spec?.figures ?? {};
      this.trimText.set(trimming ? this.length(trimming.leastLengthMm) : '');
      this.trimSource.set(trimming?.sourceText ?? '');
      this.wholeName.set(specs.find((each) => each.specId === trimmedFrom)?.figures.name ?? '');
      this.trouble.set(spec ? '' : $localize`There is no such blade spec.`);
      this.drafts.set(
        (spec?.figures.limits ?? []).map((limit) => ({ limit, text: this.shown(limit) })),
      );
      this.sizeTexts.set(
        spec
          ? (Object.fromEntries(
              SIZES.map(({ key }) => [key, this.sizeShown(spec.figures, key)]),
            ) as Record<Size, string>)
          : NO_TEXTS,
      );
      this.reason.set(undefined);
    } catch (error) {
      this.trouble.set(troubleFrom(error).words);
    }
  }

  private shown({ value, unit }: Limit): string {
    return unit === 'mm' ? this.units.show(value, 'mm').replace(/[^\d.-]/g, '') : String(value);
  }

  protected readonly limits = LIMITS;
  protected readonly isOptional = ({ kind }: Limit): boolean =>
    OPTIONAL.some((each) => each.kind === kind);
  protected readonly addable = computed(() =>
    OPTIONAL.filter(({ kind }) => !this.drafts().some(({ limit }) => limit.kind === kind)),
  );

  protected readonly isDrawn = (index: number): boolean =>
    [...this.onDrawing().values()].includes(index);

  /** The field at a place of the drawing, a size of the new blade or a limit; or of a limit that has no place there. */
  protected fieldAt(at: Dimension | number): DrawnField {
    const i = typeof at === 'number' ? at : this.onDrawing().get(at);
    const draft = i === undefined ? undefined : this.drafts()[i];
    if (i === undefined || !draft) {
      const { key, words, base } = SIZES.find((each) => each.key === at) ?? SIZES[0];
      return {
        words,
        name: words,
        unit: base === 'mm' ? this.units.mark('mm') : base,
        text: this.sizeTexts()[key],
        wrong: this.wrongSizes()[key],
        type: (text) => {
          this.typeSize(key, text);
        },
      };
    }
    const { limit, text } = draft;
    return {
      words: limit.stationKey ? $localize`Least, ${this.stationOf(limit)}` : this.nameOf(limit),
      name: this.nameOf(limit),
      unit: this.unitOf(limit),
      text,
      wrong: this.wrong()[i],
      type: (typed) => {
        this.type(i, typed);
      },
    };
  }

  protected addLimit(limit: Limit): void {
    this.notice.set('');
    this.drafts.update((all) => [...all, { limit, text: this.shown(limit) }]);
  }

  protected dropLimit(index: number): void {
    this.notice.set('');
    this.drafts.update((all) => all.filter((_, i) => i !== index));
  }

  private sizeShown(figures: SpecFigures, key: Size): string {
    const { base } = SIZES.find((each) => each.key === key) ?? { base: 'mm' };
    return base === 'mm' ? this.length(figures[key]) : String(figures[key]);
  }

  /** A length as its field shows it. */
  private readonly length = (mm: number): string =>
    String(Number(this.units.show(mm, 'mm', 2).replace(/[^\d.-]/g, '')));

  private typedTrimming(
    was: SpecFigures['trimming'],
    wrong: (words: string) => void,
  ): SpecFigures['trimming'] {
    const [text, sourceText] = [this.trimText().trim(), this.trimSource().trim()];
    if (text === '') return undefined;
    const leastLengthMm =
      was && text === this.length(was.leastLengthMm)
        ? was.leastLengthMm
        : this.number(text, true, wrong);
    return leastLengthMm === undefined ? was : { leastLengthMm, sourceText };
  }

  protected typeSize(key: Size, text: string): void {
    this.notice.set('');
    this.sizeTexts.update((all) => ({ ...all, [key]: text }));
  }

  private stationOf({ stationKey }: Limit): string {
    const stations = this.spec()?.figures.stations ?? [];
    return named(stations.find(({ key }) => key === stationKey)?.name ?? '');
  }

  protected nameOf(limit: Limit): string {
    const station = this.stationOf(limit);
    const { words } = LIMITS[limit.kind];
    return station ? `${words}, ${station}` : words;
  }

  protected unitOf({ unit }: Limit): string {
    return unit === 'mm' ? this.units.mark('mm') : named(unit);
  }

  protected type(index: number, text: string): void {
    this.notice.set('');
    this.drafts.update((all) => all.map((each, i) => (i === index ? { ...each, text } : each)));
  }

  protected change(index: number, change: Partial<Limit>): void {
    this.notice.set('');
    this.drafts.update((all) =>
      all.map((each, i) => (i === index ? { ...each, limit: { ...each.limit, ...change } } : each)),
    );
  }

  /** What was typed as sizes and limits, and where something is wrong with it. */
  private readonly read = computed(() => {
    const wrong: Record<number, string> = {};
    const wrongSizes: Partial<Record<Size, string>> = {};
    const spec = this.spec();
    const limits = this.drafts().map(({ limit, text }, i): Limit => {
      // What nobody touched keeps every digit it had.
      if (text === this.shown(limit)) return limit;
      const value = this.number(text, limit.unit === 'mm', (words) => (wrong[i] = words));
      return value === undefined ? limit : { ...limit, value };
    });
    const sizes: Partial<Record<Size, number>> = {};
    for (const { key, base } of spec ? SIZES : []) {
      const text = this.sizeTexts()[key];
      if (!spec || text === this.sizeShown(spec.figures, key)) continue;
      const value = this.number(text, base === 'mm', (words) => (wrongSizes[key] = words));
      if (value !== undefined) sizes[key] = value;
    }
    const { trimming: trimmingWas, ...rest } = spec?.figures ?? { trimming: undefined };
    let wrongTrimming = '';
    const trimming = this.typedTrimming(trimmingWas, (words) => (wrongTrimming = words));
    const figures =
      spec && ({ ...rest, ...sizes, limits, ...(trimming ? { trimming } : {}) } as SpecFigures);
    // What is no figure stands as it was before; the rest is judged with it.
    for (const { path, message } of (figures && SpecFigures.safeParse(figures).error?.issues) ??
      []) {
      if (path[0] === 'limits') wrong[Number(path[1])] ??= message;
      else if (path[0] === 'trimming') wrongTrimming ||= message;
      else wrongSizes[path[0] as Size] ??= message;
    }
    const trimmingMoved = JSON.stringify(trimming) !== JSON.stringify(trimmingWas);
    return { figures, sizes, wrong, wrongSizes, wrongTrimming, trimmingMoved };
  });

  private number(
    text: string,
    isLength: boolean,
    wrong: (words: string) => void,
  ): number | undefined {
    if (text.trim() === '') {
      wrong($localize`is empty: type the figure`);
      return undefined;
    }
    try {
      const value = isLength
        ? parseQuantity(text, this.units.unitFor('mm') as Unit, 'limit').value
        : Number(text.replace(',', '.'));
      if (Number.isFinite(value)) return value;
      wrong($localize`is not a number: type the figure`);
    } catch (error) {
      if (!(error instanceof BenchError)) throw error;
      wrong(error.rule);
    }
    return undefined;
  }

  protected readonly wrong = computed(() => this.read().wrong);
  protected readonly wrongSizes = computed(() => this.read().wrongSizes);
  private readonly faulty = computed(
    () =>
      Object.keys(this.wrong()).length + Object.keys(this.wrongSizes()).length > 0 ||
      this.wrongTrimming() !== '',
  );
  protected readonly wrongTrimming = computed(() => this.read().wrongTrimming);
  protected readonly sizesChanged = computed(
    () => Object.keys(this.read().sizes).length > 0 || this.read().trimmingMoved,
  );
  protected readonly draft = computed(() => (this.faulty() ? undefined : this.read().figures));
  protected readonly changed = computed(
    () =>
      this.faulty() || JSON.stringify(this.read().figures) !== JSON.stringify(this.spec()?.figures),
  );
  protected readonly drawn = computed<SpecFigures | undefined>(() => this.draft());
  protected readonly wrongDimensions = computed(
    () =>
      new Set([
        ...Object.keys(this.wrongSizes()),
        ...[...this.onDrawing()].flatMap(([key, i]) =>
          this.wrong()[i] === undefined ? [] : [key],
        ),
      ]),
  );
  protected readonly asNew = computed(() => {
    const figures = this.drawn() ?? this.spec()?.figures;
    const widths = (figures?.stations ?? []).map(({ radiusMm }) => ({
      radiusMm,
      widthMm: figures?.newWidthMm ?? 0,
    }));
    const [A, B] = ENDS.map(() => widths);
    return { A: A ?? [], B: B ?? [] };
  });

  protected readonly preview = toSignal<LimitPreview | undefined>(
    toObservable(this.draft).pipe(
      debounceTime(SETTLED_MS),
      switchMap((figures) =>
        figures && this.changed()
          ? this.api.specPreview(this.specId(), figures).pipe(
              catchError((error: unknown) => {
                this.trouble.set(troubleFrom(error).words);
                return of(undefined);
              }),
            )
          : of(undefined),
      ),
    ),
  );

  protected headline({ judged, retires }: LimitPreview): string {
    const count = retires.length;
    if (count === 0) return $localize`It would retire none of ${judged}`;
    return $localize`It would retire ${count} of ${judged}`;
  }

  protected fate({ state, place }: LimitPreview['retires'][number]): string {
    if (state === 'ready') return $localize`ready, ${placeSaid(place)}:ph0:: goes on hold`;
    if (state === 'on-mower') return $localize`on ${placeSaid(place)}:ph0:: pull it`;
    return $localize`${BLADE_STATES[state].words}, ${placeSaid(place)}:ph1:: judged at the bench`;
  }

  protected async keep(): Promise<void> {
    const figures = this.draft();
    const reason = this.reason();
    if (!figures || !reason) return;
    const of = { specId: this.specId(), specRevisionId: newId(), reason };
    try {
      await firstValueFrom(
        this.commands.shop(
          this.sizesChanged()
            ? { type: 'change-spec', ...of, figures }
            : { type: 'change-limits', ...of, limits: [...figures.limits] },
        ),
      );
      this.trouble.set('');
      await this.load(this.specId());
      this.notice.set($localize`Kept: they count from now on.`);
    } catch (error) {
      const { words, fields } = troubleFrom(error);
      const [first] = Object.entries(fields);
      const size = SIZES.find(({ key }) => first?.[0] === `figures.${key}`);
      this.trouble.set(size && first ? `${size.words} ${first[1]}` : words);
    }
  }
}
