import {
  ChangeDetectionStrategy,
  Component,
  computed,
  DestroyRef,
  inject,
  input,
  output,
  signal,
} from '@angular/core';
import { takeUntilDestroyed, toObservable, toSignal } from '@angular/core/rxjs-interop';
import { MatButtonModule } from '@angular/material/button';
import type { InstrumentActInput } from '@tally-stone/contract';
import { ENDS, type End, type HeavyEnd, type InstrumentSample } from '@tally-stone/core';
import { interval, map, of, switchMap } from 'rxjs';
import { DropTimes } from '../parts/drop-times';
import { Named } from '../parts/named';
import { Units } from '../data/units';
import { Instruments } from '../data/instruments';
import { Keys } from '../data/keys';
import { adviceOn, missedMark, pastMarkS, type Swing } from './drop-advice';

/** By hand it ends with which end hung low. */
type Moment = 'off' | 'falling' | 'hanging';

/** Hardly any movement for so long after the release: the balancer sees next to nothing. */
const STILL_MS = 8000;
const HARDLY_DEG = 10;

/**
 * Times the drop from level to hanging. A balancer that tells its swing is drawn, and stops the clock itself at the mark;
 * where nothing tells it, one key starts the clock at the release, the same key again stops it, and the timer asks
 * which end is low.
 */
@Component({
  selector: 'ts-drop-timer',
  imports: [DropTimes, Named, MatButtonModule],
  changeDetection: ChangeDetectionStrategy.OnPush,
  templateUrl: './drop-timer.html',
  styleUrl: './drop-timer.scss',
})
export class DropTimer {
  private readonly instruments = inject(Instruments);
  private readonly keys = inject(Keys);
  protected readonly units = inject(Units);
  readonly drops = input.required<readonly number[]>();
  /** What is hung on the simulated balancer: this cycle's blade, or the check blade with a weight. */
  readonly hung = input.required<InstrumentActInput>();
  /** Where the clock is stopped, degrees below level. */
  readonly markDeg = input<30 | 90>(90);
  /** What is still on its way to the server: a stand-in hangs the blade as it stands there. */
  readonly underWay = input<() => Promise<unknown>>(() => Promise.resolve());
  /** Another reading is still to be made. */
  readonly due = input(true);
  readonly timed = output<{ readonly seconds: number; readonly heavyEnd: HeavyEnd }>();
  readonly level = output();
  /** A drop that went wrong is taken out again, by its place. */
  readonly struck = output<number>();

  /** End A below level, degrees, as the balancer last said it. */
  protected readonly angle = signal(0);
  protected readonly moment = signal<Moment>('off');
  protected readonly nothing = signal(false);
  protected readonly error = signal('');
  private startedAt = 0;
  private still: ReturnType<typeof setTimeout> | undefined;

  /** Seconds since it was let go. */
  protected readonly runningS = toSignal(
    toObservable(this.moment).pipe(
      switchMap((moment) =>
        moment === 'falling'
          ? interval(100).pipe(map(() => (performance.now() - this.startedAt) / 1000))
          : of(undefined),
      ),
    ),
  );
  protected readonly advice = computed(() => adviceOn(this.drops()));
  protected readonly shownAngle = computed(() => $localize`${this.angle().toFixed(0)} degrees`);
  protected readonly byHand = computed(
    () => this.instruments.all().find(({ key }) => key === 'balancer')?.by === 'hand',
  );
  protected readonly ends = ENDS;
  protected readonly words = computed(
    () =>
      ({
        off: $localize`Let it go from level`,
        falling: !this.byHand()
          ? $localize`It falls: stops by itself`
          : this.markDeg() === 90
            ? $localize`It hangs: stop`
            : $localize`At the mark: stop`,
        hanging: $localize`Not that one: again`,
      })[this.moment()],
  );
  /** How long the drop took whose low end is asked for, and the end that was said for those before it. */
  private seconds = 0;
  private lowEnd: End | undefined;

  constructor() {
    if (this.instruments.all().length === 0) void this.instruments.refresh().catch(() => undefined);
    this.instruments
      .samples('balancer')
      .pipe(takeUntilDestroyed())
      .subscribe((sample) => {
        this.angle.set(sample.value);
        if (Math.abs(sample.value) > HARDLY_DEG) this.nothing.set(false);
        this.swung(sample);
      });
    const stop = this.keys.use([
      { key: 'd', does: $localize`Drop timer: let go, it hangs`, run: () => void this.press() },
    ]);
    inject(DestroyRef).onDestroy(() => {
      stop();
      this.stopAsking();
      clearTimeout(this.still);
      if ((this.moment() !== 'off' || this.lettingGo) && !this.byHand())
        void this.instruments.act('balancer', { act: 'take-off' }).catch(() => undefined);
    });
  }

  protected keepLevel(): void {
    this.nothing.set(false);
    this.moment.set('off');
    if (!this.byHand())
      void this.instruments.act('balancer', { act: 'take-off' }).catch(() => undefined);
    this.level.emit();
  }

  /** The clock alone: from the release to the mark, then which end is low, asked once for several drops. */
  private pressByHand(now: number): void {
    this.nothing.set(false);
    clearTimeout(this.still);
    this.stopAsking();
    if (this.moment() === 'off') {
      this.startedAt = now;
      this.moment.set('falling');
      this.still = setTimeout(() => {
        this.nothing.set(true);
      }, STILL_MS);
      return;
    }
    if (this.moment() === 'hanging') {
      this.moment.set('off');
      return;
    }
    this.seconds = (now - this.startedAt) / 1000;
    const hung = this.hung();
    const known = hung.act === 'hang-check' ? hung.end : this.drops().length > 0 && this.lowEnd;
    if (known) {
      this.hungLow(known);
      return;
    }
    this.moment.set('hanging');
    this.stopAsking = this.keys.use(
      ENDS.map((end) => ({
        key: end.toLowerCase(),
        does: $localize`End ${end} hung low`,
        run: () => this.hungLow(end),
      })),
    );
  }
  private stopAsking: () => void = () => undefined;

  protected hungLow(end: End): void {
    this.stopAsking();
    this.lowEnd = end;
    this.moment.set('off');
    this.timed.emit({ seconds: this.seconds, heavyEnd: end });
  }

  protected async press(): Promise<void> {
    const now = performance.now();
    if (this.lettingGo) return;
    this.error.set('');
    if (this.byHand()) {
      this.pressByHand(now);
      return;
    }
    try {
      if (this.moment() === 'off') await this.letGo();
      else await this.stopAt(now);
    } catch {
      this.moment.set('off');
      this.error.set($localize`The balancer does not answer: plug it in, or use a test weight.`);
    }
  }
  private lettingGo = false;

  /** Hangs the blade level on the stand-in and lets it go. */
  private async letGo(): Promise<void> {
    this.lettingGo = true;
    try {
      // Not before the last one is off it.
      await this.takenOff.catch(() => undefined);
      await this.underWay()();
      await this.instruments.act('balancer', this.hung());
      const asked = performance.now();
      await this.instruments.act('balancer', { act: 'release' });
      // It let go somewhere between the asking and its answer.
      this.startedAt = (asked + performance.now()) / 2;
    } finally {
      this.lettingGo = false;
    }
    this.moment.set('falling');
    this.still = setTimeout(() => {
      if (Math.abs(this.angle()) < HARDLY_DEG) this.nothing.set(true);
    }, STILL_MS);
  }

  /** The swing as it was told last. */
  private before: Swing | undefined;

  /** Stops the clock as the swing passes the mark, which lies between two of the balancer's samples. */
  private swung({ timeS, value }: InstrumentSample): void {
    const { before } = this;
    this.before = { timeS, angleDeg: Math.abs(value) };
    if (this.moment() !== 'falling' || this.byHand() || !before) return;
    const pastS = pastMarkS(before, this.before, this.markDeg());
    if (pastS === undefined) return;
    clearTimeout(this.still);
    this.moment.set('off');
    const seconds = (performance.now() - this.startedAt) / 1000 - pastS;
    this.timed.emit({ seconds, heavyEnd: value >= 0 ? 'A' : 'B' });
    void this.takeOff().catch(() => undefined);
  }

  private async takeOff(): Promise<void> {
    this.takenOff = this.instruments.act('balancer', { act: 'take-off' });
    await this.takenOff;
    this.angle.set(0);
  }

  private async stopAt(now: number): Promise<void> {
    clearTimeout(this.still);
    const angleDeg = this.angle();
    const heavyEnd = angleDeg >= 0 ? 'A' : 'B';
    this.moment.set('off');
    // A finger was too early: the balancer itself says that it was not there yet.
    const missed = missedMark(angleDeg, this.markDeg());
    const at = `${Math.abs(angleDeg).toFixed(0)}°`;
    if (missed === 'before')
      this.error.set(
        $localize`Stopped at ${at}:at:, before the mark at ${this.markDeg()}:mark:°: that drop does not count.`,
      );
    else if (missed)
      this.error.set(
        $localize`Stopped at ${at}:at:, past the mark at ${this.markDeg()}:mark:°: that drop does not count.`,
      );
    else this.timed.emit({ seconds: (now - this.startedAt) / 1000, heavyEnd });
    await this.takeOff();
  }
  private takenOff: Promise<unknown> = Promise.resolve();
}
