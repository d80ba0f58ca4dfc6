import {
  ChangeDetectionStrategy,
  Component,
  computed,
  effect,
  inject,
  input,
  signal,
  untracked,
} from '@angular/core';
import { toObservable, toSignal } from '@angular/core/rxjs-interop';
import { MatButtonModule } from '@angular/material/button';
import { MatFormFieldModule } from '@angular/material/form-field';
import { MatInputModule } from '@angular/material/input';
import { RouterLink } from '@angular/router';
import type { LimitPreview, LimitReason, SpecFigures, SpecRevision } from '@tally-stone/contract';
import { BLADE_STATES, ENDS, LIMITS, named, placeSaid, unitIn } from '@tally-stone/core';
import { catchError, debounceTime, firstValueFrom, of, switchMap } from 'rxjs';
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
import { SpecLimits, type LimitRow } from './spec-limits';
import {
  limitShown,
  readAs,
  readSpec,
  shownSpec,
  turnedSpec,
  type ReadSpec,
  type ShownIn,
  type TypedSpec,
} from './typed-spec';
import { dimensionOfLimit, SpecSheet, type Dimension } from '../parts/spec-sheet';

/** Typing settles for so long before the server is asked what it would do, ms. */
const SETTLED_MS = 350;

const NOTHING_READ: ReadSpec = {
  figures: undefined,
  sizes: {},
  wrong: {},
  wrongSizes: {},
  wrongTrimming: '',
  trimmingMoved: false,
};

/** A blade spec's sizes and limits: the drawing lives as one types, and says whom a change would retire before it is kept. */
@Component({
  selector: 'ts-spec-page',
  imports: [
    BladeDrawing,
    MatButtonModule,
    MatFormFieldModule,
    MatInputModule,
    RouterLink,
    SpecLimits,
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
  protected readonly wholeName = signal($localize`another spec`);
  protected readonly sizeTexts = signal<Readonly<Record<Size, string>>>(NO_TEXTS);
  private readonly typed = computed((): TypedSpec => ({
    drafts: this.drafts(),
    sizes: this.sizeTexts(),
    trimTo: this.trimText(),
  }));

  constructor() {
    effect(() => void this.load(this.specId()));
    let shownIn = this.units.system();
    effect(() => {
      const now = this.units.system();
      const was = untracked(this.spec)?.figures;
      if (was && now !== shownIn) {
        const from: ShownIn = (base) => unitIn(shownIn, base);
        this.put(turnedSpec(untracked(this.typed), was, from, this.units));
      }
      shownIn = now;
    });
  }

  private put({ drafts, sizes, trimTo }: TypedSpec): void {
    this.drafts.set(drafts);
    this.sizeTexts.set(sizes);
    this.trimText.set(trimTo);
  }

  private async load(specId: string): Promise<void> {
    try {
      const specs = await firstValueFrom(this.api.specs());
      const spec = specs.find((each) => each.specId === specId);
      this.spec.set(spec);
      const { trimming, trimmedFrom } = spec?.figures ?? {};
      this.trimSource.set(trimming?.sourceText ?? '');
      const whole = specs.find((each) => each.specId === trimmedFrom);
      if (whole) this.wholeName.set(whole.figures.name);
      this.trouble.set(spec ? '' : $localize`There is no such blade spec.`);
      this.put(
        spec ? shownSpec(spec.figures, this.units) : { drafts: [], sizes: NO_TEXTS, trimTo: '' },
      );
      this.reason.set(undefined);
    } catch (error) {
      this.trouble.set(troubleFrom(error).words);
    }
  }

  protected readonly limits = LIMITS;
  private readonly isOptional = ({ kind }: Limit): boolean =>
    OPTIONAL.some((each) => each.kind === kind);
  protected readonly addable = computed(() =>
    OPTIONAL.filter(({ kind }) => !this.drafts().some(({ limit }) => limit.kind === kind)),
  );

  protected readonly rows = computed((): readonly LimitRow[] => {
    const drawn = new Set(this.onDrawing().values());
    return this.drafts().map(({ limit, text }, i) => ({
      limit,
      name: this.nameOf(limit),
      drawn: drawn.has(i) ? `${text} ${this.unitOf(limit)}` : undefined,
      optional: this.isOptional(limit),
    }));
  });

  /** The field at a place of the drawing, a size of the new blade or a limit; or of a limit that has no place there. */
  protected fieldAt(at: Dimension | number): DrawnField {
    const i = typeof at === 'number' ? at : this.onDrawing().get(at);
    const draft = i === undefined ? undefined : this.drafts()[i];
    if (i === undefined || !draft) {
      const { key, words, base } = SIZES.find((each) => each.key === at) ?? SIZES[0];
      const as = readAs(base);
      return {
        words,
        name: words,
        unit: as ? this.units.mark(as) : base,
        text: this.sizeTexts()[key],
        wrong: this.said(this.wrongSizes()[key]),
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
      wrong: this.said(this.wrong()[i]),
      type: (typed) => {
        this.type(i, typed);
      },
    };
  }

  /** A refusal with its bounds in the units shown. */
  private readonly said = (words: string | undefined): string | undefined =>
    words && this.units.resay(words);

  protected addLimit(limit: Limit): void {
    this.notice.set('');
    this.drafts.update((all) => [...all, { limit, text: limitShown(limit, this.units) }]);
  }

  protected dropLimit(index: number): void {
    this.notice.set('');
    this.drafts.update((all) => all.filter((_, i) => i !== index));
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
  private readonly read = computed((): ReadSpec => {
    const was = this.spec()?.figures;
    if (!was) return NOTHING_READ;
    return readSpec(was, { ...this.typed(), trimSource: this.trimSource() }, this.units);
  });

  protected readonly wrong = computed(() => this.read().wrong);
  protected readonly wrongSizes = computed(() => this.read().wrongSizes);
  private readonly faulty = computed(
    () =>
      Object.keys(this.wrong()).length + Object.keys(this.wrongSizes()).length > 0 ||
      this.wrongTrimming() !== '',
  );
  protected readonly wrongTrimming = computed(() => this.units.resay(this.read().wrongTrimming));
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
