import type {
  CheckQuantity,
  InstrumentAct,
  InstrumentView,
  ReadingPlace,
} from '@tally-stone/contract';
import {
  BenchError,
  instrumentLine,
  readInstrumentLine,
  scannerLine,
  swingStep,
  type InstrumentSample,
  type ScannedCode,
  type SwingModel,
  type SwingState,
} from '@tally-stone/core';
import { cycleAt } from '../cycle/facts.js';
import type { Database } from '../database.js';
import {
  Refusal,
  refusalFromBench,
  wrongField,
  INSTRUMENTS,
  instrumentByKey,
  readsCheckBlade,
  type Instrument,
} from '@tally-stone/cycle';
import { shopOf } from '../shop/look-up.js';
import {
  benchTruth,
  checkBladeTruth,
  markTruthMm,
  offCentreGmm,
  type BenchTruth,
  type HungTruth,
} from './truth.js';

const SAMPLE_MS = 50;
/** A value settles with this time constant, s, from where the thing was put down. */
const SETTLE_S = 0.18;
/** Something left on an instrument goes quiet after a while, s. */
const LEFT_ALONE_S = 90;
/** A gauge that said nothing for so long, not even that it lives, is gone, ms. */
const GAUGE_GONE_MS = 30_000;
/** The simulated shaft's own figures. */
export const SHAFT_FRICTION_GMM = 8;
export const SHAFT_DAMPING_PER_S = 0.05;
const SWING_STEP_S = 0.0005;

/** A blade as this shaft holds it: a little off centre, the other way when it is turned half way round. */
const onShaft = (truth: HungTruth, turned: boolean): HungTruth => ({
  ...truth,
  unbalanceGmm: truth.unbalanceGmm + offCentreGmm(truth.massG, turned),
});

type Speak = (line: string) => void;

/** One instrument with something on it: what it says at a time since it was put there, s. */
interface Loaded {
  readonly instrument: Instrument;
  readonly startedAt: number;
  /** How often it has spoken: what stands on it is sampled evenly, however late a busy machine is. */
  samples: number;
  readonly say: (elapsedS: number) => number | undefined;
  release?: () => void;
}

/** What else the stand-ins may be told. */
interface BenchOptions {
  readonly report?: ((error: unknown) => void) | undefined;
  /** How much sooner than life things come to rest; a blade that swings is timed by a hand and takes its time. */
  readonly pace?: number | undefined;
}

/** What a line of a gauge says; refused where it is none, or another instrument's, or in another unit. */
function sampleIn(
  line: string,
  { key, unit }: Instrument,
  field: string,
): InstrumentSample | ScannedCode {
  try {
    const said = readInstrumentLine(line);
    if (said.key !== key) throw wrongField(field, $localize`is of ${said.key}, not of ${key}`);
    if ('unit' in said && said.unit !== unit)
      throw wrongField(field, $localize`is in ${said.unit}:ph0:: the ${key} speaks ${unit}`);
    return said;
  } catch (error) {
    if (error instanceof BenchError) throw refusalFromBench(error, field);
    throw error;
  }
}

/**
 * The simulated bench: stand-ins that speak the line protocol of the core with noise, settling and
 * resolution. Behind the same lines a real device could stand: the screens know nothing else of it.
 */
export class SimulatedBench {
  private readonly listeners = new Set<Speak>();
  private readonly loaded = new Map<string, Loaded>();
  private readonly unplugged = new Set<string>();
  private readonly began = performance.now();
  private timer: NodeJS.Timeout | undefined;
  /** When each real gauge was heard last. */
  private readonly gauges = new Map<string, number>();

  constructor(
    private readonly database: Database,
    private readonly options: BenchOptions = {},
  ) {}

  listen(listener: Speak): () => void {
    this.listeners.add(listener);
    return () => this.listeners.delete(listener);
  }

  async instruments(): Promise<InstrumentView[]> {
    const simulated = await this.standIns();
    return INSTRUMENTS.map((instrument) => ({
      ...instrument,
      plugged: !this.unplugged.has(instrument.key),
      by: this.isReal(instrument.key)
        ? 'gauge'
        : simulated.has(instrument.key)
          ? 'stand-in'
          : 'hand',
    }));
  }

  private async standIns(): Promise<ReadonlySet<string>> {
    return new Set((await shopOf(this.database)).rules.standIns);
  }

  private isReal(key: string): boolean {
    return performance.now() - (this.gauges.get(key) ?? -Infinity) < GAUGE_GONE_MS;
  }

  /** Passes on what a real gauge says: while it does, nothing is simulated in its place. */
  heard(key: string, lines: readonly string[]): void {
    const instrument = instrumentByKey(key);
    if (!instrument) throw new Refusal('notFound', $localize`There is no such instrument.`);
    const samples = lines.map((line, i) => sampleIn(line, instrument, `lines.${i}`));
    this.loaded.delete(key);
    this.gauges.set(key, performance.now());
    if (samples.length === 0) this.unplugged.delete(key);
    for (const sample of samples) {
      if ('code' in sample) {
        this.unplugged.delete(key);
        this.speak(scannerLine({ ...sample, timeS: this.now() }));
        continue;
      }
      if (sample.state === 'ok') this.unplugged.delete(key);
      else this.unplugged.add(key);
      this.speak(instrumentLine(sample));
    }
  }

  close(): void {
    clearInterval(this.timer);
    this.loaded.clear();
  }

  async act(key: string, act: InstrumentAct): Promise<void> {
    const instrument = instrumentByKey(key);
    if (!instrument) throw new Refusal('notFound', $localize`There is no such instrument.`);
    // A hand puts things on a real gauge; nobody unplugs it from here.
    if (this.isReal(key)) {
      if (act.act.startsWith('put') || act.act === 'hang') this.needPlug(instrument);
      return;
    }
    if (!(await this.standIns()).has(key)) {
      this.loaded.delete(key);
      // Nobody asks for a figure by these.
      if (['take-off', 'plug', 'release'].includes(act.act)) return;
      throw new Refusal(
        'invalid',
        $localize`The ${instrument.name.toLowerCase()} is not simulated in this shop: type what it shows.`,
      );
    }
    switch (act.act) {
      case 'put':
        this.needPlug(instrument);
        this.load(await this.placed(instrument, act.cycleId, act.place));
        break;
      case 'put-mark':
        this.needPlug(instrument);
        this.load(await this.atMark(instrument, act));
        break;
      case 'hang':
        this.needPlug(instrument);
        this.load(this.hung(instrument, onShaft(await this.truthOf(act.cycleId), act.turned)));
        break;
      case 'put-check':
        this.needPlug(instrument);
        this.load(this.standing(instrument, await this.checkBlade(instrument, act.quantity)));
        break;
      case 'hang-check':
        this.needPlug(instrument);
        this.load(this.hung(instrument, checkBladeTruth(act)));
        break;
      case 'release':
        this.loaded.get(key)?.release?.();
        break;
      case 'take-off':
        this.loaded.delete(key);
        break;
      case 'unplug':
        this.unplugged.add(key);
        this.loaded.delete(key);
        this.speak(this.line(instrument, 0, 'unplugged'));
        break;
      case 'plug':
        this.unplugged.delete(key);
        break;
      case 'scan':
        this.needPlug(instrument);
        this.speak(scannerLine({ key, timeS: this.now(), code: act.code }));
        break;
    }
    this.keepTime();
  }

  private needPlug({ key, name }: Instrument): void {
    if (this.unplugged.has(key))
      throw new Refusal(
        'invalid',
        $localize`The ${name.toLowerCase()} is unplugged: plug it in, or type it.`,
      );
  }

  private readonly now = (): number => (performance.now() - this.began) / 1000;

  private load(loaded: Loaded): void {
    this.loaded.set(loaded.instrument.key, loaded);
  }

  private async truthOf(cycleId: string): Promise<BenchTruth> {
    const { state, facts } = await cycleAt(this.database, cycleId);
    return benchTruth(state, facts);
  }

  private async placed(
    instrument: Instrument,
    cycleId: string,
    place: ReadingPlace,
  ): Promise<Loaded> {
    if (!instrument.reads.includes(place.quantity)) {
      throw wrongField(
        'place.quantity',
        $localize`is not read with the ${instrument.name.toLowerCase()}`,
      );
    }
    const truth = await this.truthOf(cycleId);
    return this.standing(instrument, truth.valueAt(place));
  }

  private async atMark(
    instrument: Instrument,
    { cycleId, damageId, what }: Extract<InstrumentAct, { act: 'put-mark' }>,
  ): Promise<Loaded> {
    if (!instrument.reads.includes('width')) {
      throw wrongField('what', $localize`is not read with the ${instrument.name.toLowerCase()}`);
    }
    const { state } = await cycleAt(this.database, cycleId);
    const mark = state.damage.find((each) => each.damageId === damageId);
    if (!mark) throw wrongField('damageId', $localize`is not marked on this blade`);
    return this.standing(instrument, markTruthMm(mark, what));
  }

  /** What the simulated check blade truly measures: its own figures, and a little of this instrument's. */
  private async checkBlade(instrument: Instrument, quantity: CheckQuantity): Promise<number> {
    if (!readsCheckBlade(instrument, quantity)) {
      throw wrongField(
        'quantity',
        $localize`is not read with the ${instrument.name.toLowerCase()}`,
      );
    }
    const { rules } = await shopOf(this.database);
    return (quantity === 'mass' ? rules.checkMassG : rules.checkWidthMm) + instrument.u / 2;
  }

  /** A value that settles from where the thing touched down, with the instrument's own noise. */
  private standing(instrument: Instrument, value: number): Loaded {
    const touch = instrument.tolerance * 12 + value * 0.02;
    return {
      instrument,
      startedAt: this.now(),
      samples: 0,
      say: (elapsed) =>
        value +
        touch * Math.exp(-elapsed / SETTLE_S) * Math.cos(9 * elapsed) +
        this.noise(instrument.u),
    };
  }

  /** A blade hung level on the shaft; released, it swings as the physics says, frame by frame. */
  private hung(instrument: Instrument, truth: HungTruth): Loaded {
    const model: SwingModel = {
      inertiaGmm2: truth.inertiaGmm2,
      unbalanceGmm: truth.unbalanceGmm,
      massG: truth.massG,
      belowPivotMm: 0,
      frictionGmm: SHAFT_FRICTION_GMM,
      dampingPerS: SHAFT_DAMPING_PER_S,
    };
    let state: SwingState | undefined;
    let releasedAt = 0;
    return {
      instrument,
      startedAt: this.now(),
      samples: 0,
      release: () => {
        state = { timeS: 0, angleRad: 0, rateRadPerS: 0 };
        releasedAt = this.now();
      },
      say: () => {
        if (!state) return 0;
        const until = this.now() - releasedAt;
        while (state.timeS < until) state = swingStep(model, state, SWING_STEP_S);
        return (state.angleRad * 180) / Math.PI;
      },
    };
  }

  private readonly noise = (u: number): number =>
    u * Math.sqrt(-2 * Math.log(1 - Math.random())) * Math.cos(2 * Math.PI * Math.random());

  private line(
    { key, unit, resolution, u }: Instrument,
    value: number,
    state: 'ok' | 'unplugged',
    timeS = this.now(),
  ): string {
    return instrumentLine({ key, timeS, value, unit, resolution, u, state });
  }

  private speak(line: string): void {
    for (const listener of this.listeners) listener(line);
  }

  /** Speaks while anything is on an instrument, and is still otherwise. */
  private keepTime(): void {
    if (this.loaded.size === 0) {
      clearInterval(this.timer);
      this.timer = undefined;
      return;
    }
    this.timer ??= setInterval(
      () => {
        this.tick();
      },
      SAMPLE_MS / (this.options.pace ?? 1),
    ).unref();
  }

  private tick(): void {
    for (const [key, loaded] of this.loaded) {
      const { instrument, startedAt, say, release } = loaded;
      loaded.samples += 1;
      const elapsed = release ? this.now() - startedAt : (loaded.samples * SAMPLE_MS) / 1000;
      if (elapsed > LEFT_ALONE_S) this.loaded.delete(key);
      try {
        const value = say(elapsed);
        if (value !== undefined)
          this.speak(this.line(instrument, value, 'ok', startedAt + elapsed));
      } catch (error) {
        // Nobody can catch what a timer throws: the instrument falls silent, the shop goes on.
        this.loaded.delete(key);
        this.options.report?.(error);
      }
    }
    this.keepTime();
  }
}
