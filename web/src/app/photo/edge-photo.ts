import {
  afterNextRender,
  ChangeDetectionStrategy,
  Component,
  computed,
  effect,
  ElementRef,
  inject,
  Injector,
  input,
  output,
  signal,
  viewChild,
} from '@angular/core';
import { takeUntilDestroyed, toObservable } from '@angular/core/rxjs-interop';
import { MatButtonModule } from '@angular/material/button';
import { MatButtonToggleModule } from '@angular/material/button-toggle';
import { MatCheckboxModule } from '@angular/material/checkbox';
import { MatProgressBarModule } from '@angular/material/progress-bar';
import { RouterLink } from '@angular/router';
import type { Phase, StandPose, TakenEdge } from '@tally-stone/contract';
import {
  agreementEn,
  DAMAGE,
  edgeRecession,
  isRounded,
  isSameNotch,
  looksLikeOtherEnd,
  meanRecession,
  widthFromPhoto,
  type EdgePhoto,
  type End,
  type Measured,
} from '@tally-stone/core';
import { EMPTY, Subject, catchError, of, switchMap, type Observable } from 'rxjs';
import { Api } from '../data/api';
import { newId } from '../data/commands';
import { Days } from '../data/days';
import { troubleFrom } from '../data/problem';
import { Units } from '../data/units';
import { RunStore } from '../run/run-store';
import { drawOn } from './edge-canvas';
import { PhotoReader } from './photo-reader';
import { PHOTO_TROUBLES } from './photo-words';
import type { PhotoAnswer, SeenPhoto } from './photo.worker';

/** Damage the photo proposes; each is kept or thrown away by one touch. */
interface Proposal {
  readonly damageId: string;
  readonly kind: EdgePhoto['damage'][number]['kind'] | 'rounded-tip';
  readonly fromTipMm: number;
  readonly depthMm: number;
  readonly lengthMm?: number;
  readonly kept: boolean;
  /** It is on the drawing already, so deep, mm. */
  readonly knownMm: number | undefined;
}

/** Neither thrown away nor on the drawing already. */
const isNew = ({ kept, knownMm }: Proposal): boolean => kept && knownMm === undefined;

const POSES: readonly { readonly pose: StandPose; readonly words: string }[] = [
  { pose: 'well', words: 'Held well' },
  { pose: 'moved', words: 'Moved' },
  { pose: 'slanted', words: 'Slanted' },
  { pose: 'glare', words: 'In glare' },
  { pose: 'printed-small', words: 'Mat printed small' },
  { pose: 'other-end', words: 'Wrong end' },
];

/** The ends of an edge say little about how far it went back, mm. */
const LEFT_OUT_MM = 6;
/** A thousandth of a millimetre is more than any of it is sure. */
const fine = (mm: number): number => Number(mm.toFixed(3));

/** A station's width by the photo, and by hand where somebody read it. */
interface StationRow {
  readonly key: string;
  readonly name: string;
  readonly photo: Measured | undefined;
  readonly hand: Measured | undefined;
  /** How far they stand apart (ISO 13528); above 1 they disagree. */
  readonly en: number | undefined;
}

/** One end's edge from a picture on the photo mat: how to take it, what was seen, and what of it is kept. */
@Component({
  selector: 'ts-edge-photo',
  imports: [
    MatButtonModule,
    MatButtonToggleModule,
    MatCheckboxModule,
    MatProgressBarModule,
    RouterLink,
  ],
  changeDetection: ChangeDetectionStrategy.OnPush,
  templateUrl: './edge-photo.html',
  styleUrl: './edge-photo.scss',
})
export class EdgePhotoPanel {
  private readonly store = inject(RunStore);
  private readonly api = inject(Api);
  private readonly reader = inject(PhotoReader);
  private readonly days = inject(Days);
  private readonly injector = inject(Injector);
  private readonly host = inject<ElementRef<HTMLElement>>(ElementRef);
  protected readonly units = inject(Units);
  readonly end = input.required<End>();
  readonly phase = input.required<Phase>();
  readonly closed = output();
  protected readonly kindOf = DAMAGE;
  protected readonly poses = POSES;
  protected readonly pose = signal<StandPose>('well');

  private readonly bench = computed(() => this.store.view()?.bench);
  private readonly spec = computed(() => this.bench()?.facts.spec);
  protected readonly mats = computed(() => this.bench()?.facts.mats ?? []);
  /** How far the reading is; nothing while none goes on. */
  protected readonly share = signal<number | undefined>(undefined);
  protected readonly trouble = signal('');
  private readonly done = signal<SeenPhoto | undefined>(undefined);
  protected readonly picture = computed(() => this.done()?.shown);
  protected readonly found = computed(() => {
    const found = this.done()?.found;
    return found && !('refused' in found) ? found : undefined;
  });
  protected readonly proposals = signal<readonly Proposal[]>([]);
  /** Stations whose width is taken from the photo. */
  protected readonly taken = signal<ReadonlySet<string>>(new Set());
  private readonly canvas = viewChild<ElementRef<HTMLCanvasElement>>('canvas');
  private readonly asked = new Subject<Observable<Blob>>();

  protected readonly stations = computed((): readonly StationRow[] => {
    const found = this.found();
    const spec = this.spec();
    const readings = this.bench()?.state.readings ?? [];
    if (!found || !spec) return [];
    return spec.stations.map((station) => {
      const photo = widthFromPhoto(found, spec.newLengthMm / 2, station);
      const hand = readings.find(
        ({ phase, quantity, end, stationKey, edgeId }) =>
          phase === this.phase() &&
          quantity === 'width' &&
          end === this.end() &&
          stationKey === station.key &&
          edgeId === undefined,
      );
      const en = photo && hand ? agreementEn(photo, hand) : undefined;
      const name = station.name.charAt(0).toUpperCase() + station.name.slice(1);
      return { key: station.key, name, photo, hand, en };
    });
  });
  /** The photo before this one: of this cycle before its grind, else of an earlier cycle. */
  private readonly earlier = computed((): TakenEdge | undefined => {
    const { state, facts } = this.bench() ?? {};
    const before = state?.edges.find(({ end, phase }) => end === this.end() && phase === 'before');
    return (this.phase() === 'after' ? before : undefined) ?? facts?.lastEdges[this.end()];
  });
  protected readonly went = computed(() => {
    const [found, earlier, spec] = [this.found(), this.earlier(), this.spec()];
    if (!found || !earlier || !spec) return undefined;
    const mean = meanRecession(edgeRecession(earlier, found), [
      LEFT_OUT_MM,
      spec.edgeLengthMm - LEFT_OUT_MM,
    ]);
    return mean && { mean, since: this.days.short(earlier.at) };
  });
  /** Warned of, not refused: a person can see the stamp. */
  protected readonly mistaken = computed(() => {
    const [found, edges] = [this.found(), this.bench()?.facts.lastEdges];
    const otherEnd = this.end() === 'A' ? 'B' : 'A';
    const liker = found && looksLikeOtherEnd(found, edges?.[this.end()], edges?.[otherEnd]);
    return liker ? otherEnd : undefined;
  });
  protected readonly keepWords = computed(() => {
    const widths = this.taken().size;
    const marks = this.proposals().filter(isNew).length;
    const parts = [
      ...(widths > 0 ? [`${widths} ${widths === 1 ? 'width' : 'widths'}`] : []),
      ...(marks > 0 ? [`${marks} ${marks === 1 ? 'mark' : 'marks'}`] : []),
    ];
    return parts.length > 0 ? `Keep ${parts.join(' and ')}` : 'Keep the edge';
  });

  constructor() {
    this.asked
      .pipe(
        switchMap((file$) =>
          file$.pipe(
            switchMap((file) => this.read(file)),
            catchError((error: unknown) => {
              this.share.set(undefined);
              this.trouble.set(troubleFrom(error).words);
              return EMPTY;
            }),
          ),
        ),
        takeUntilDestroyed(),
      )
      .subscribe((answer) => {
        this.heard(answer);
      });
    toObservable(this.end)
      .pipe(takeUntilDestroyed())
      .subscribe(() => {
        this.again();
      });
    effect(() => {
      const [done, canvas] = [this.done(), this.canvas()];
      if (done && canvas) drawOn(canvas.nativeElement, done);
    });
    // The next thing to press has the focus: to take a picture, and to keep what was seen on it.
    effect(() => {
      this.found();
      afterNextRender(
        () => this.host.nativeElement.querySelector<HTMLElement>('[data-todo]')?.focus(),
        { injector: this.injector },
      );
    });
  }

  /** Back to the start; what was being read is given up. */
  protected again(): void {
    this.asked.next(EMPTY);
    this.share.set(undefined);
    this.trouble.set('');
    this.done.set(undefined);
  }

  protected picked(picker: HTMLInputElement): void {
    const [file] = picker.files ?? [];
    picker.value = '';
    if (file) this.ask(of(file));
  }

  protected fromStand(): void {
    const mat = this.mats()[0]?.matNumber ?? 1;
    const [cycle, end, pose] = [this.store.id(), this.end(), this.pose()];
    this.ask(this.api.standPhoto({ cycle, end, mat, pose }));
  }

  private ask(file$: Observable<Blob>): void {
    this.again();
    this.share.set(0);
    this.asked.next(file$);
  }

  private read(file: Blob): Observable<PhotoAnswer> {
    const spec = this.spec();
    if (!spec) return EMPTY;
    const { hand, newLengthMm: lengthMm, newWidthMm, edgeLengthMm } = spec;
    const expected = { end: this.end(), hand, lengthMm, newWidthMm, edgeLengthMm };
    return this.reader.read({ file, mats: this.mats(), expected });
  }

  private heard(answer: PhotoAnswer): void {
    if ('share' in answer) {
      this.share.set(answer.share);
      return;
    }
    this.share.set(undefined);
    const otherEnd = this.end() === 'A' ? 'B' : 'A';
    if ('refused' in answer) {
      this.trouble.set(PHOTO_TROUBLES[answer.refused]({ otherEnd }));
      return;
    }
    this.done.set(answer);
    const { found } = answer;
    if ('refused' in found) {
      this.trouble.set(PHOTO_TROUBLES[found.refused]({ found: found.found, otherEnd }));
      return;
    }
    this.proposals.set(this.proposed(found));
    const unread = this.stations().filter(({ photo, hand }) => photo && !hand);
    this.taken.set(new Set(unread.map(({ key }) => key)));
  }

  private proposed(found: EdgePhoto): Proposal[] {
    const marks = this.store.view()?.damage.filter(({ end }) => end === this.end()) ?? [];
    const kept = this.phase() === 'before';
    const near = (fromTipMm: number): number | undefined =>
      marks.find((mark) => isSameNotch(mark.fromTipMm, fromTipMm))?.depthMm;
    const notches = found.damage.map(({ kind, fromTipMm, depthMm, lengthMm }) => ({
      damageId: newId(),
      kind,
      fromTipMm,
      depthMm,
      lengthMm,
      kept,
      knownMm: near(fromTipMm),
    }));
    if (!isRounded(found.tip)) return notches;
    const knownMm = marks.find(({ kind }) => kind === 'rounded-tip')?.depthMm;
    const tip = { kind: 'rounded-tip', fromTipMm: 0, depthMm: found.tip.roundedByMm } as const;
    return [...notches, { damageId: newId(), ...tip, kept, knownMm }];
  }

  protected turn(damageId: string): void {
    this.proposals.update((all) =>
      all.map((each) => (each.damageId === damageId ? { ...each, kept: !each.kept } : each)),
    );
  }

  protected take(key: string): void {
    this.taken.update((keys) => {
      const next = new Set(keys);
      if (!next.delete(key)) next.add(key);
      return next;
    });
  }

  /** Keeps the edge, the widths asked for and the marks that were not thrown away. */
  protected async keep(): Promise<void> {
    const [found, done] = [this.found(), this.done()];
    if (!found || !done) return;
    const { quality, widthsMm, placeU, sharedU, bodyWidthMm } = found;
    const trouble = await this.store.act(
      {
        type: 'read-edge',
        edgeId: newId(),
        file: '',
        end: this.end(),
        phase: this.phase(),
        edge: {
          matNumber: quality.matNumber,
          widthsMm: widthsMm.map((width) => (width === null ? null : fine(width))),
          placeU: fine(placeU),
          sharedU: fine(sharedU),
          ...(bodyWidthMm !== undefined && { bodyWidthMm: fine(bodyWidthMm) }),
          pxPerMm: fine(quality.pxPerMm),
          misfitMm: fine(quality.misfitMm),
          blurMm: fine(quality.blurMm),
        },
        readings: [...this.taken()].map((stationKey) => ({ readingId: newId(), stationKey })),
      },
      done.kept,
    );
    if (trouble) {
      this.trouble.set(trouble.words);
      return;
    }
    const mm = (value: number) => ({ text: value.toFixed(2), unit: 'mm' as const });
    for (const each of this.proposals().filter(isNew))
      await this.store.act({
        type: 'mark-damage',
        damageId: each.damageId,
        kind: each.kind,
        end: this.end(),
        fromTip: mm(each.fromTipMm),
        depth: mm(each.depthMm),
        ...(each.lengthMm !== undefined && { length: mm(each.lengthMm) }),
        instrument: 'photo-mat',
      });
    this.closed.emit();
    this.store.focusNext$.next();
  }
}
