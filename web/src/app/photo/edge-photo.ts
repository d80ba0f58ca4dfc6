import {
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
import { readingsAt } from '@tally-stone/cycle';
import {
  agreementEn,
  edgeRecession,
  looksLikeOtherEnd,
  meanRecession,
  named,
  otherEnd,
  ONE_MAT_HOLDS_MM,
  widthFromPhoto,
  type End,
  type Measured,
  listed,
} from '@tally-stone/core';
import { EMPTY, Subject, catchError, from, of, switchMap, type Observable } from 'rxjs';
import { Fold } from '../parts/fold';
import { Named } from '../parts/named';
import { Api } from '../data/api';
import { capital } from '../data/capital';
import { newId } from '../data/commands';
import { Days } from '../data/days';
import { onceDrawn } from '../data/once-drawn';
import { Presses } from '../data/presses';
import { troubleFrom } from '../data/problem';
import { Units } from '../data/units';
import { RunStore } from '../run/run-store';
import { DamageSeen } from './damage-seen';
import { drawOn } from './edge-canvas';
import { MatLie } from './mat-lie';
import { PhotoReader } from './photo-reader';
import { PHOTO_TROUBLES } from './photo-words';
import type { PhotoAnswer, SeenPhoto } from './photo.worker';
import { asMark, proposedBy, type Proposal } from './proposals';

const POSES: readonly { readonly pose: StandPose; readonly words: string }[] = [
  { pose: 'well', words: $localize`Held well` },
  { pose: 'moved', words: $localize`Moved` },
  { pose: 'slanted', words: $localize`Slanted` },
  { pose: 'glare', words: $localize`In glare` },
  { pose: 'printed-small', words: $localize`Mat printed small` },
  { pose: 'other-end', words: $localize`Wrong end` },
  { pose: 'covered', words: $localize`Rag on the mat` },
  { pose: 'creased', words: $localize`Mat creased` },
  { pose: 'two-blades', words: $localize`Two blades` },
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
    Fold,
    Named,
    DamageSeen,
    MatLie,
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
  /** The end still to be photographed after this one. */
  readonly other = input<End>();
  readonly kept = output();
  readonly closed = output();
  protected readonly poses = POSES;
  protected readonly pose = signal<StandPose>('well');

  private readonly bench = computed(() => this.store.view()?.bench);
  protected readonly spec = computed(() => this.bench()?.facts.spec);
  protected readonly mats = computed(() => this.bench()?.facts.mats ?? []);
  /** Edges longer than one mat lie on two, side by side. */
  protected readonly matsNeeded = computed(() =>
    (this.spec()?.edgeLengthMm ?? 0) > ONE_MAT_HOLDS_MM ? 2 : 1,
  );
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
    const state = this.bench()?.state;
    if (!found || !spec || !state) return [];
    return spec.stations.map((station) => {
      const photo = widthFromPhoto(found, spec.edgeLengthMm, spec.newLengthMm / 2, station);
      const place = { phase: this.phase(), quantity: 'width', end: this.end() } as const;
      const hand = readingsAt(state, { ...place, stationKey: station.key }).find(
        ({ edgeId }) => edgeId === undefined,
      );
      const en = photo && hand ? agreementEn(photo, hand) : undefined;
      const words = named(station.name);
      const name = capital(words);
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
    const other = otherEnd(this.end());
    const liker = found && looksLikeOtherEnd(found, edges?.[this.end()], edges?.[other]);
    return liker ? other : undefined;
  });
  protected readonly keepWords = computed(() => {
    const widths = this.taken().size;
    const marks = this.proposals().filter(({ kept }) => kept).length;
    const parts = [
      ...(widths > 0 ? [`${widths} ${widths === 1 ? $localize`width` : $localize`widths`}`] : []),
      ...(marks > 0 ? [`${marks} ${marks === 1 ? $localize`mark` : $localize`marks`}`] : []),
    ];
    const words = parts.length > 0 ? $localize`Keep ${listed(parts)}` : $localize`Keep the edge`;
    const next = this.following();
    return next ? $localize`${words}, picture of end ${next}` : words;
  });
  /** The end whose picture is taken with the same touch, unless something here wants a second look. */
  protected readonly following = computed(() => {
    const doubted = this.mistaken() ?? this.stations().find(({ en }) => (en ?? 0) > 1);
    return doubted ? undefined : this.other();
  });
  private goesOn = false;
  private readonly picker = viewChild<ElementRef<HTMLInputElement>>('picker');

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
        if (this.goesOn) this.begin();
      });
    effect(() => {
      const [done, canvas] = [this.done(), this.canvas()];
      if (done && canvas) drawOn(canvas.nativeElement, done);
    });
    // The next thing to press has the focus: to take a picture, and to keep what was seen on it.
    effect(() => {
      this.found();
      onceDrawn(this.injector, () =>
        this.host.nativeElement.querySelector<HTMLElement>('[data-todo="true"]')?.focus(),
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

  /** Pictures can be had of a simulated stand. */
  protected readonly stand = computed(
    () => this.bench()?.facts.shopRules.standIns.includes('photo-stand') ?? false,
  );
  protected fromStand(): void {
    const mat = this.mats()[0]?.matNumber ?? 1;
    const [cycle, end, pose] = [this.store.id(), this.end(), this.pose()];
    // It renders the blade as the server has it: what was counted just now arrives first.
    const settled$ = from(this.store.settled());
    this.ask(settled$.pipe(switchMap(() => this.api.standPhoto({ cycle, end, mat, pose }))));
  }

  /** The picture of the next end, once the panel is drawn for it. */
  private begin(): void {
    this.goesOn = false;
    if (this.stand()) this.fromStand();
    else onceDrawn(this.injector, () => this.picker()?.nativeElement.click());
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
    const about = {
      otherEnd: otherEnd(this.end()),
      percent: (share: number) => `${this.units.number(100 * share, 1)} %`,
    } as const;
    if ('refused' in answer) {
      this.trouble.set(PHOTO_TROUBLES[answer.refused](about));
      return;
    }
    this.done.set(answer);
    const { found } = answer;
    if ('refused' in found) {
      this.trouble.set(PHOTO_TROUBLES[found.refused]({ found: found.found, ...about }));
      return;
    }
    this.proposals.set(
      proposedBy(found, this.end(), this.phase(), this.store.view()?.damage ?? []),
    );
    const unread = this.stations().filter(({ photo, hand }) => photo && !hand);
    this.taken.set(new Set(unread.map(({ key }) => key)));
  }

  protected take(key: string): void {
    this.taken.update((keys) => {
      const next = new Set(keys);
      if (!next.delete(key)) next.add(key);
      return next;
    });
  }

  /** Keeps the edge, the widths asked for and the marks that were not thrown away. */
  protected keep(): Promise<void> {
    return this.presses.once({}, () => this.keepSeen());
  }
  private readonly presses = new Presses();

  private async keepSeen(): Promise<void> {
    const goesOn = this.following() !== undefined;
    // The panel may turn to the other end while these are on their way.
    const end = this.end();
    const [found, done] = [this.found(), this.done()];
    if (!found || !done) return;
    const { quality, widthsMm, placeU, sharedU, bodyWidthMm } = found;
    const trouble = await this.store.act(
      {
        type: 'read-edge',
        edgeId: newId(),
        file: '',
        end,
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
    for (const each of this.proposals().filter(({ kept }) => kept)) {
      const refused = await this.store.act(asMark(each, end));
      if (refused) {
        this.trouble.set(refused.words);
        return;
      }
      this.proposals.update((all) => all.filter((proposal) => proposal !== each));
    }
    this.goesOn = goesOn;
    this.kept.emit();
  }
}
