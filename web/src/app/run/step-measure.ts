import {
  ChangeDetectionStrategy,
  Component,
  computed,
  DestroyRef,
  effect,
  inject,
  input,
  signal,
} from '@angular/core';
import { MatButtonModule } from '@angular/material/button';
import type { Phase, ReadingSlot } from '@tally-stone/contract';
import { ENDS, named, otherEnd, type End } from '@tally-stone/core';
import { edgesOf, PHOTO_MAT } from '@tally-stone/cycle';
import { Named } from '../parts/named';
import { capital } from '../data/capital';
import { Keys } from '../data/keys';
import { EdgePhotoPanel } from '../photo/edge-photo';
import { ReadingField } from './reading-field';
import { RunStore } from './run-store';

/** Kept on a device whose last edge was read by photo: the next one is offered so at once. */
const BY_PHOTO = 'tally-stone.edge-by-photo';

/** The readings of one phase: the whole blade's above, each end's under that end of the drawing. */
@Component({
  selector: 'ts-step-measure',
  imports: [Named, EdgePhotoPanel, MatButtonModule, ReadingField],
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    <div class="whole">
      @for (slot of whole(); track slot.key) {
        <ts-reading-field [slot]="slot" [again]="again(slot)" />
      }
    </div>
    @if (onMat(); as end) {
      @defer {
        <ts-edge-photo
          [end]="end"
          [phase]="phase()"
          [other]="stillToRead(end)"
          (kept)="photographed(end)"
          (closed)="photograph('none')"
        />
      }
    }
    <div class="ends">
      @for (end of ends; track end) {
        <section tsName="End {{ end }}" i18n-tsName>
          <h3 i18n>End {{ end }}</h3>
          @if (widthsAsked() && onMat() !== end) {
            <button mat-button class="big" (click)="photograph(end)">
              {{ edgeWords(end) }} <kbd>P</kbd>
            </button>
          }
          @for (slot of at(end); track slot.key) {
            <ts-reading-field [slot]="slot" [name]="shortName(slot)" [again]="again(slot)" />
          }
        </section>
      }
    </div>
    @if (rest().length > 0) {
      <p i18n class="quiet rest">
        {{ rest().length }} not asked for: they cannot change the verdict or the plan.
        @if (phase() === 'before') {
          They stand as carried forward.
        } @else {
          They stand as the passes should have left them.
        }
      </p>
      <div class="more">
        <button i18n mat-button class="big" (click)="all.set(!all())" [attr.aria-expanded]="all()">
          @if (all()) {
            Only what is worth reading
          } @else {
            Show them
          }
        </button>
        @if (phase() === 'before') {
          <button i18n mat-button class="big" (click)="fullLook()">
            Full look: read everything
          </button>
        }
      </div>
    }
  `,
  styles: `
    .ends {
      display: grid;
      grid-template-columns: 1fr 1fr;
      gap: 4px 40px;
      margin-top: 6px;
    }
    .whole {
      display: grid;
      grid-template-columns: 1fr 1fr;
      gap: 0 40px;
    }
    .rest {
      margin: 10px 0 0;
    }
    .more {
      display: flex;
      flex-wrap: wrap;
      gap: 8px;
    }
    @media (max-width: 62.5em) {
      .ends,
      .whole {
        grid-template-columns: 1fr;
      }
    }
  `,
})
export class StepMeasure {
  private readonly store = inject(RunStore);
  protected readonly ends = ENDS;
  protected readonly all = signal(false);
  readonly phase = input.required<Phase>();
  private readonly picked = signal<End | 'none' | undefined>(undefined);
  private readonly edges = computed(() => {
    const state = this.store.view()?.bench?.state;
    return state ? edgesOf(state) : [];
  });
  private readonly isRead = (of: End, phase: Phase): boolean =>
    this.edges().some((edge) => edge.end === of && edge.phase === phase);
  /** The end that is being read from a photo: the one asked for, or usual here; at the proof, one photographed before. */
  protected readonly onMat = computed((): End | undefined => {
    const picked = this.picked();
    if (picked) return picked === 'none' ? undefined : picked;
    if (this.phase() === 'before') return this.nextByHabit();
    return ENDS.find((end) => this.isRead(end, 'before') && !this.isRead(end, 'after'));
  });

  /** The next edge to photograph, where this device reads edges so and nobody has begun otherwise with this blade. */
  private nextByHabit(): End | undefined {
    const view = this.store.view();
    const usual = this.byHabit && (view?.bench?.facts.mats.length ?? 0) > 0;
    const begun = this.slots().some(
      ({ quantity, taken }) => quantity === 'width' && taken && taken.instrument !== PHOTO_MAT,
    );
    if (!usual || begun || (view?.passes.length ?? 0) > 0) return undefined;
    return ENDS.find((end) => !this.isRead(end, 'before'));
  }
  private readonly byHabit = localStorage.getItem(BY_PHOTO) !== null;

  constructor() {
    // An end once begun stays on the mat until all that was seen of it is kept.
    effect(() => {
      const end = this.onMat();
      if (end) this.picked.set(end);
    });
    const stop = inject(Keys).use([
      {
        key: 'p',
        does: $localize`Read an edge by photo`,
        // No figure has a P.
        inFields: true,
        run: () => {
          const next = ENDS.find((end) => !this.isRead(end, this.phase())) ?? 'A';
          if (this.widthsAsked()) this.photograph(next);
        },
      },
    ]);
    inject(DestroyRef).onDestroy(stop);
  }

  private readonly slots = computed(
    () =>
      this.store
        .view()
        ?.slots.filter(
          ({ phase, quantity }) => phase === this.phase() && quantity !== 'tip-height',
        ) ?? [],
  );
  private readonly wanted = (slot: ReadingSlot): boolean =>
    slot.needed || slot.taken !== undefined || this.again(slot);
  /** Left to stand without reading. */
  protected readonly rest = computed(() => this.slots().filter((slot) => !this.wanted(slot)));
  private readonly shown = computed(() =>
    this.slots().filter((slot) => this.all() || this.wanted(slot)),
  );
  protected readonly whole = computed(() => this.shown().filter(({ end }) => end === undefined));

  protected async fullLook(): Promise<void> {
    if (!(await this.store.act({ type: 'ask-full-look', wanted: true })))
      this.store.focusNext$.next();
  }

  /** Only where widths are read is a photo of any use. */
  protected readonly widthsAsked = computed(() =>
    this.slots().some(({ quantity }) => quantity === 'width'),
  );

  protected photograph(end: End | 'none'): void {
    if (end === 'none') localStorage.removeItem(BY_PHOTO);
    this.picked.set(end);
  }

  /** The other end, unless it is read already; at the proof only where it was photographed before. */
  protected stillToRead(end: End): End | undefined {
    const other = otherEnd(end);
    const compares = this.phase() === 'before' || this.isRead(other, 'before');
    return compares && !this.isRead(other, this.phase()) ? other : undefined;
  }

  protected photographed(end: End): void {
    localStorage.setItem(BY_PHOTO, 'yes');
    const next = this.stillToRead(end);
    this.picked.set(next ?? 'none');
    if (!next) this.store.focusNext$.next();
  }

  protected edgeWords(end: End): string {
    return this.isRead(end, this.phase())
      ? $localize`Edge read by photo: take it again`
      : $localize`Read the edge by photo`;
  }

  protected at(end: End): ReadingSlot[] {
    return this.shown().filter((slot) => slot.end === end);
  }

  protected shortName(slot: ReadingSlot): string {
    const station = this.store
      .view()
      ?.spec.figures.stations.find(({ key }) => key === slot.stationKey);
    if (!station) return slot.label.split(',')[0] ?? slot.label;
    const words = named(station.name);
    return capital(words);
  }

  /** A verdict too close to call asks for this reading once more. */
  protected again(slot: ReadingSlot): boolean {
    const view = this.store.view();
    const judged = slot.phase === 'before' ? view?.before : view?.now;
    const id = [slot.quantity === 'mass' ? 'mass-loss' : slot.quantity, slot.end, slot.stationKey]
      .filter(Boolean)
      .join(':');
    return (
      slot.taken !== undefined &&
      slot.repeats < 2 &&
      (judged?.findings.some((finding) => finding.id === id && finding.severity === 'hold') ??
        false)
    );
  }
}
