import { inject, Injectable, signal } from '@angular/core';
import type { InstrumentActInput, InstrumentView, ReadingPlace } from '@tally-stone/contract';
import {
  decimalsOf,
  BenchError,
  readInstrumentLine,
  steadiness,
  type InstrumentSample,
  type Sample,
  type ScannedCode,
} from '@tally-stone/core/basics';
import type { Observable } from 'rxjs';
import { takeUntilDestroyed } from '@angular/core/rxjs-interop';
import {
  catchError,
  defer,
  EMPTY,
  exhaustMap,
  filter,
  finalize,
  firstValueFrom,
  from,
  ignoreElements,
  map,
  merge,
  scan,
  share,
  switchMap,
  takeWhile,
  throwError,
  timeout,
} from 'rxjs';
import { Api } from './api';
import { Changes } from './changes';
import { troubleFrom } from './problem';
import { Region } from './region';

/** A reading on its way: what the instrument shows now, and the figures to keep once it stands still. */
export interface Taking {
  readonly shown: string;
  readonly figures: string;
  readonly steady: boolean;
}

/** How the thing comes onto the instrument: a blade at one place of it, or the check blade. */
export type Putting = Extract<InstrumentActInput, { act: 'put' | 'put-mark' | 'put-check' }>;

/** Longer than this and something holds the jaws, or the bench shakes. */
const PATIENCE_MS = 12_000;

const isSample = (parsed: InstrumentSample | ScannedCode): parsed is InstrumentSample =>
  'value' in parsed;

/** A value in its instrument's own decimals. */
export const figuresOf = (value: number, resolution: number): string =>
  (Math.round(value / resolution) * resolution).toFixed(decimalsOf(resolution));

function readable(line: string): (InstrumentSample | ScannedCode)[] {
  try {
    return [readInstrumentLine(line)];
  } catch (error) {
    if (error instanceof BenchError) return [];
    throw error;
  }
}

/** The bench instruments: what they say as it comes, and a reading once it stands still. */
@Injectable({ providedIn: 'root' })
export class Instruments {
  private readonly api = inject(Api);
  private readonly region = inject(Region);
  readonly all = signal<readonly InstrumentView[]>([]);

  private readonly lines$ = inject(Changes).lines$.pipe(
    map(readable),
    switchMap((lines) => lines),
    share(),
  );

  /** Codes as the scanner reads them. */
  readonly codes$: Observable<string> = this.lines$.pipe(
    filter((parsed): parsed is ScannedCode => !isSample(parsed)),
    map(({ code }) => code),
  );

  async refresh(): Promise<void> {
    this.all.set((await firstValueFrom(this.api.instruments())).instruments);
  }

  async act(key: string, act: InstrumentActInput): Promise<void> {
    this.all.set((await firstValueFrom(this.api.instrument(key, act))).instruments);
  }

  /** Everything the instruments measure, as it comes. */
  readonly samples$: Observable<InstrumentSample> = this.lines$.pipe(filter(isSample));

  constructor() {
    // A gauge that was plugged in meanwhile: from now on it tells what it shows.
    this.samples$
      .pipe(
        filter(({ key }) => this.all().some((each) => each.key === key && each.by === 'hand')),
        exhaustMap(() => from(this.refresh()).pipe(catchError(() => EMPTY))),
        takeUntilDestroyed(),
      )
      .subscribe();
  }

  samples(key: string): Observable<InstrumentSample> {
    return this.samples$.pipe(filter((sample) => sample.key === key));
  }

  /** The instrument that reads a quantity, plugged in or not. */
  forQuantity(quantity: ReadingPlace['quantity']): InstrumentView | undefined {
    return this.all().find(({ reads }) => reads.includes(quantity));
  }

  /** The same where it tells what it shows, by itself or simulated; without it somebody types that. */
  speaking(quantity: ReadingPlace['quantity']): InstrumentView | undefined {
    const instrument = this.forQuantity(quantity);
    return instrument?.by === 'hand' ? undefined : instrument;
  }

  /**
   * Takes a reading: the thing is put on, the samples run until they stand still over the instrument's own
   * window, and the value is what it shows then. Never an average of something moving.
   */
  take(instrument: InstrumentView, put: Putting): Observable<Taking> {
    const { key, name, resolution, tolerance, windowS } = instrument;
    if (!instrument.plugged) {
      return throwError(
        () => new Error($localize`The ${name.toLowerCase()} is unplugged: plug it in, or type it.`),
      );
    }
    return defer(() => {
      const samples$ = this.samples(key).pipe(
        map((sample) => {
          if (sample.state === 'unplugged')
            throw new Error(
              $localize`The ${name.toLowerCase()} was unplugged: plug it in, or type it.`,
            );
          return { timeS: sample.timeS, value: sample.value };
        }),
        scan<Sample, Sample[]>((kept, sample) => [...kept.slice(-80), sample], []),
        map((kept): Taking => {
          const { steady, value } = steadiness(kept, { windowS, tolerance });
          const now = value ?? kept.at(-1)?.value ?? 0;
          const figures = figuresOf(now, resolution);
          return { shown: this.region.signed(figures), figures, steady };
        }),
        takeWhile(({ steady }) => !steady, true),
        timeout({
          first: PATIENCE_MS,
          each: PATIENCE_MS,
          with: () =>
            throwError(
              () =>
                new Error(
                  $localize`Nothing comes from the ${name.toLowerCase()}:instrument:: type it.`,
                ),
            ),
        }),
        finalize(() => void this.act(key, { act: 'take-off' }).catch(() => undefined)),
      );
      const started = Date.now();
      const putOn$ = from(this.act(key, put)).pipe(
        ignoreElements(),
        catchError((error: unknown) => throwError(() => new Error(troubleFrom(error).words))),
      );
      return merge(samples$, putOn$).pipe(
        map((taking) => {
          if (!taking.steady && Date.now() - started > PATIENCE_MS)
            throw new Error(
              $localize`The ${name.toLowerCase()} does not stand still: hold it quiet and take it again, or type it.`,
            );
          return taking;
        }),
      );
    });
  }
}
