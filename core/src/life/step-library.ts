import type { End } from '../blade/shape.js';
import { ownWearIn, specWear, type LibraryStep, type WearFigures } from './fleet-wear.js';
import { wearSeries, type BladeWear, type WearKind } from './wear.js';

/** With fewer steps than this the library is filled up with made ones. */
const FULL = 40;
/** Even spreads of a lognormal and a normal, for the steps that are made: mean 1. Common practice, no source. */
const MADE: readonly LibraryStep[] = [
  [0.52, -0.12, 0.8],
  [0.64, 0.05, 1.1],
  [0.72, -0.02, 0.95],
  [0.8, 0.1, 1.25],
  [0.88, -0.06, 0.75],
  [0.96, 0.02, 1.0],
  [1.05, 0.14, 1.05],
  [1.17, -0.1, 0.9],
  [1.36, 0.06, 1.3],
  [1.9, -0.07, 0.9],
].map(([both = 1, apart = 0, hours = 1]) => ({
  edge: { A: both + apart, B: both - apart },
  wing: { A: both - apart, B: both + apart },
  hours,
}));

interface Seen {
  readonly both: number;
  readonly apart: number;
  /** Variance of each of the two by reading error. */
  readonly noise: number;
}

/** Each step's loss at both ends relative to the blade's own level; nothing where an end was not read. */
function seenSteps(blade: BladeWear, kind: WearKind, fleet: WearFigures): (Seen | undefined)[] {
  const { rates } = specWear(fleet, kind, blade.specId);
  const { spreads } = fleet.kinds[kind];
  const spread = spreads[spreads.length >> 1];
  if (!spread) return [];
  const level = Math.max(0.3, ownWearIn(fleet, kind, blade, spread).level);
  const [A, B] = (['A', 'B'] as const).map((end) =>
    wearSeries(blade, kind, rates, fleet.hoursPerGrind, end),
  );
  if (!A || !B) return [];
  return blade.steps.map((_, i) => {
    const e = (A.exposure[i] ?? 0) * level;
    const a = ((A.lost[i] ?? NaN) - (i > 0 ? (A.lost[i - 1] ?? NaN) : 0)) / e;
    const b = ((B.lost[i] ?? NaN) - (i > 0 ? (B.lost[i - 1] ?? NaN) : 0)) / e;
    if (!Number.isFinite(a) || !Number.isFinite(b)) return undefined;
    const noise = ((A.noise[i] ?? 0) + (B.noise[i] ?? 0)) / 2 / (e * e);
    return { both: (a + b) / 2, apart: (a - b) / 2, noise };
  });
}

const mean = (values: readonly number[]): number =>
  values.reduce((sum, each) => sum + each, 0) / Math.max(1, values.length);

/** No grind, and no interval, is nothing. */
const LEAST = 0.02;

/** Values about their mean as values about 1, drawn in until they scatter no more than so much. */
function drawnIn(values: readonly number[], scatterSd: number): (value: number) => number {
  const middle = Math.max(0.05, mean(values));
  const spread = Math.sqrt(mean(values.map((each) => (each / middle - 1) ** 2)));
  const inward = spread > 0 ? Math.min(1, scatterSd / spread) : 1;
  return (value) => 1 + inward * (value / middle - 1);
}

/** A function that takes reading error, and duty, out of the steps: they are drawn in toward their mean. */
function cleaned(
  seen: readonly Seen[],
  scatterSd: number,
): (step: Seen | undefined) => Record<End, number> {
  const middle = Math.max(0.05, mean(seen.map(({ both }) => both)));
  const bothOf = drawnIn(
    seen.map(({ both }) => both),
    scatterSd,
  );
  const apartSeen = mean(seen.map(({ apart }) => apart ** 2));
  const apartTrue = Math.max(0, apartSeen - mean(seen.map(({ noise }) => noise)));
  const apartInward = apartSeen > 0 ? Math.sqrt(Math.max(0.02, apartTrue / apartSeen)) : 1;
  return (step) => {
    if (!step) return { A: 1, B: 1 };
    const both = bothOf(step.both);
    const apart = (apartInward * step.apart) / middle;
    return { A: Math.max(LEAST, both + apart), B: Math.max(LEAST, both - apart) };
  };
}

/** Ends are names: what came to one comes to the other as often, though it is the worse one that is read. */
const turnedRound = ({ edge, wing, hours }: LibraryStep): LibraryStep => ({
  edge: { A: edge.B, B: edge.A },
  wing: { A: wing.B, B: wing.A },
  hours,
});

/** Every step of these histories as a library, either way round, filled up with made steps while it is short. */
export function stepLibrary(blades: readonly BladeWear[], fleet: WearFigures): LibraryStep[] {
  const steps = blades.flatMap((blade) => {
    const edge = seenSteps(blade, 'edge', fleet);
    const wing = seenSteps(blade, 'wing', fleet);
    const usual = Math.max(0.1, mean(blade.steps.map(({ hours }) => hours)));
    return blade.steps.flatMap(({ hours }, i) => {
      const on = edge[i];
      return on ? [{ edge: on, wing: wing[i], hours: hours / usual }] : [];
    });
  });
  const scatterOf = (kind: WearKind): number =>
    mean(fleet.kinds[kind].spreads.map(({ scatterSd }) => scatterSd));
  const edgeOf = cleaned(
    steps.map(({ edge }) => edge),
    scatterOf('edge'),
  );
  const wingOf = cleaned(
    steps.flatMap(({ wing }) => (wing ? [wing] : [])),
    scatterOf('wing'),
  );
  const hoursOf = drawnIn(
    steps.map(({ hours }) => hours),
    mean(fleet.intervals.spreads.map(({ scatterSd }) => scatterSd)),
  );
  const seen = steps.map(({ edge, wing, hours }) => ({
    edge: edgeOf(edge),
    wing: wingOf(wing),
    hours: Math.max(LEAST, hoursOf(hours)),
  }));
  const made = Array.from(
    { length: Math.max(0, FULL - seen.length) },
    (_, i) => MADE[i % MADE.length],
  );
  const library = [...seen, ...made.flatMap((step) => (step ? [step] : []))];
  return [...library, ...library.map(turnedRound)];
}
