import { solve } from '../math/least-squares.js';
import { median, robustDeviation } from '../math/median.js';
import type { DamageKind } from '../vocabulary/damage.js';
import type { ProfilePlace } from './profile.js';

/** Damage seen in a profile, to be proposed; a person decides. */
export interface SeenDamage {
  readonly kind: Extract<DamageKind, 'nick' | 'chip' | 'roll'>;
  readonly fromTipMm: number;
  readonly depthMm: number;
  readonly lengthMm: number;
  /** Standard uncertainty of the depth, mm. */
  readonly depthU: number;
}

export interface SeenTip {
  /** Radius of the arc that loses as much of the corner as is lost, mm. */
  readonly roundedByMm: number;
  readonly u: number;
}

/** An end's edge without its damage: what a straight grind would meet. */
export interface Smooth {
  readonly valueAt: (fromTipMm: number) => number;
}

/** A sound edge hardly bends within this much to either side, mm. */
const WINDOW_MM = 16;
/** Most nicks are nearer to a V than to a square: so much of what blur fills is given back. */
const FILLED_SHARE = 0.75;
/** How well the sound line is known at a drop, mm. Found with the pictures of the tests. */
const LINE_U_MM = 0.02;
/** The shallowest drop that is called damage, mm, and how many deviations of a place it must be. */
const LEAST_DEPTH_MM = 0.16;
const DEVIATIONS = 6;
/** Within so much of the tip a drop is its rounding, mm; further in if it is rounded more. */
const TIP_MM = 8;
/** The sound edge is carried on to the tip from so much of it, by middles every so far, mm. */
const TO_TIP_MM = 44;
const EVERY_MM = 2;
/** A middle so near to a line lies on it; a worn edge may bend so much from it, mm. */
const ON_LINE_MM = 0.08;
const BEND_MM = 0.14;
/** Deeper than this it is a chip; so many times as long as deep, a rolled spot. Common practice, no source. */
const CHIP_DEPTH_MM = 1.2;
const ROLL_LENGTH_TO_DEPTH = 14;

/**
 * A straight line through places about one of them, drops left out: weights fall off with
 * distance (tricube) and with the miss (biweight), as in robust local regression (Cleveland 1979; from memory). A place
 * above the line counts, one well below it does not. By its coefficients in the distance from there.
 */
function localFit(
  places: readonly ProfilePlace[],
  aboutMm: number,
  windowMm: number,
): readonly number[] | undefined {
  const degree = 1;
  const near = places
    .filter(({ fromTipMm }) => Math.abs(fromTipMm - aboutMm) < windowMm)
    .map(({ fromTipMm, widthMm }) => {
      const s = fromTipMm - aboutMm;
      return { s, widthMm, weight: (1 - (Math.abs(s) / windowMm) ** 3) ** 3 };
    });
  if (near.length < 12) return undefined;
  // A start that half of the places may miss.
  let values: readonly number[] = [median(near.map(({ widthMm }) => widthMm))];
  let misses = near.map(({ widthMm }) => widthMm - (values[0] ?? 0));
  let spread = Math.max(0.05, robustDeviation(misses));
  for (let round = 0; round < 7; round++) {
    const square = Array.from({ length: degree + 1 }, () => new Array<number>(degree + 1).fill(0));
    const right = new Array<number>(degree + 1).fill(0);
    near.forEach(({ s, widthMm, weight }, i) => {
      const share = (misses[i] ?? 0) / (4.685 * spread);
      const counts = Math.abs(share) < 1 ? weight * (1 - share * share) ** 2 : 0;
      for (let row = 0; row <= degree; row++) {
        right[row] = (right[row] ?? 0) + counts * s ** row * widthMm;
        const into = square[row];
        if (into)
          for (let column = 0; column <= degree; column++)
            into[column] = (into[column] ?? 0) + counts * s ** (row + column);
      }
    });
    const solved = solve(square, right);
    if (!solved) return undefined;
    values = solved;
    misses = near.map(({ s, widthMm }) => widthMm - along(solved, s));
    spread = Math.max(0.012, robustDeviation(misses));
  }
  return values;
}

const along = (values: readonly number[], s: number): number =>
  values.reduce((sum, value, power) => sum + value * s ** power, 0);

interface Middle {
  readonly at: number;
  readonly width: number;
}

/** The curve of a degree that lies nearest to some middles, about the first of them (least squares). */
function curveThrough(
  middles: readonly Middle[],
  degree: 1 | 2,
): ((at: number) => number) | undefined {
  const about = middles[0]?.at ?? 0;
  const powers = Array.from({ length: degree + 1 }, (_, power) => power);
  const sum = (of: (each: Middle) => number): number =>
    middles.reduce((all, each) => all + of(each), 0);
  const values = solve(
    powers.map((row) => powers.map((column) => sum(({ at }) => (at - about) ** (row + column)))),
    powers.map((row) => sum(({ at, width }) => width * (at - about) ** row)),
  );
  return values && ((at) => along(values, at - about));
}

/**
 * The sound edge carried on to the tip. Of the lines through any two middles near the tip the one that most of the
 * others lie on and hardly any above: notches only ever lie below a sound edge, and a wide one must not bend it. Then a
 * curve through what lies on that line, for a worn edge bends.
 */
function lineToTip(sure: readonly ProfilePlace[]): ((fromTipMm: number) => number) | undefined {
  const middles: Middle[] = [];
  for (let at = TIP_MM; at < TIP_MM + TO_TIP_MM; at += EVERY_MM) {
    const widths = sure
      .filter(({ fromTipMm }) => fromTipMm >= at && fromTipMm < at + EVERY_MM)
      .map(({ widthMm }) => widthMm);
    if (widths.length >= 3) middles.push({ at: at + EVERY_MM / 2, width: median(widths) });
  }
  let best: { readonly line: (at: number) => number; readonly score: number } | undefined;
  middles.forEach((one, i) => {
    for (const other of middles.slice(i + 3)) {
      const slope = (other.width - one.width) / (other.at - one.at);
      const line = (at: number): number => one.width + slope * (at - one.at);
      const score = middles.reduce((all, { at, width }) => {
        const off = width - line(at);
        return (
          all + (Math.abs(off) < ON_LINE_MM ? 1 - Math.abs(off) / ON_LINE_MM / 4 : off > 0 ? -2 : 0)
        );
      }, 0);
      if (!best || score > best.score) best = { line, score };
    }
  });
  if (!best) return undefined;
  const { line } = best;
  const on = middles.filter(({ at, width }) => Math.abs(width - line(at)) < BEND_MM);
  const reach = (on.at(-1)?.at ?? 0) - (on[0]?.at ?? 0);
  return curveThrough(on, reach > TO_TIP_MM / 2 && on.length > 8 ? 2 : 1) ?? line;
}

/** The sound edge along its length, every millimetre, and straight between. */
export function smoothEdge(places: readonly ProfilePlace[], edgeLengthMm: number): Smooth {
  const sure = places.filter(
    ({ sure, fromTipMm }) => sure && fromTipMm > TIP_MM && fromTipMm < edgeLengthMm,
  );
  const known: { readonly at: number; readonly value: number }[] = [];
  for (let at = TIP_MM; at <= edgeLengthMm; at += 1) {
    const [value] = localFit(sure, at, WINDOW_MM) ?? [];
    if (value !== undefined) known.push({ at, value });
  }
  const toTip = lineToTip(sure);
  return {
    valueAt: (fromTipMm) => {
      if (fromTipMm < TIP_MM + 4 && toTip) return toTip(fromTipMm);
      const index = Math.min(Math.max(0, Math.floor(fromTipMm - TIP_MM)), known.length - 1);
      const here = known[index];
      const next = known[index + 1];
      if (!here) return NaN;
      if (!next) return here.value;
      return here.value + (fromTipMm - here.at) * (next.value - here.value);
    },
  };
}

/** What the picture was like and how far the edge goes; all mm. */
export interface Seen {
  readonly edgeLengthMm: number;
  readonly roundedByMm: number;
  /** Standard uncertainty of a single place. */
  readonly placeU: number;
  /** Standard deviation of the picture's blur. */
  readonly blurMm: number;
}

/**
 * Drops of the edge below its sound line: place, depth and length of each, deepest first. A drop that reaches the tip is
 * its rounding and told apart. Blur fills the bottom of a notch: of a V of slope s by s·σ·√(2/π), of a square one by
 * nothing [M]; most of it is given back, and the doubt covers both.
 */
export function seenDamage(
  places: readonly ProfilePlace[],
  smooth: Smooth,
  { edgeLengthMm, roundedByMm, placeU, blurMm }: Seen,
): SeenDamage[] {
  const from = Math.max(1.5, roundedByMm * 1.1);
  const drops = places
    .filter(({ fromTipMm }) => fromTipMm > from && fromTipMm < edgeLengthMm - 1)
    .map(({ fromTipMm, widthMm, sure }) => ({
      fromTipMm,
      drop: smooth.valueAt(fromTipMm) - widthMm,
      sure,
    }));
  const least = Math.max(LEAST_DEPTH_MM, DEVIATIONS * placeU);
  const shoulder = Math.max(0.05, 3 * placeU);
  const found: SeenDamage[] = [];
  for (let i = 0; i < drops.length;) {
    if (!((drops[i]?.drop ?? 0) > shoulder)) {
      i += 1;
      continue;
    }
    let end = i;
    while (end + 1 < drops.length && (drops[end + 1]?.drop ?? 0) > shoulder) end += 1;
    const run = drops.slice(i, end + 1);
    const deep = run.filter(({ drop }) => drop > least);
    const first = run[0];
    const last = run.at(-1);
    const sureShare = run.filter(({ sure }) => sure).length / run.length;
    if (first && last && deep.length >= 2 && sureShare > 0.5) {
      const lengthMm = last.fromTipMm - first.fromTipMm;
      const deepest = run.reduce((best, each) => (each.drop > best.drop ? each : best));
      const filled =
        ((2 * deepest.drop) / Math.max(lengthMm, 0.5)) * blurMm * Math.sqrt(2 / Math.PI);
      const depthMm = deepest.drop + FILLED_SHARE * filled;
      found.push({
        kind:
          depthMm >= CHIP_DEPTH_MM
            ? 'chip'
            : lengthMm > ROLL_LENGTH_TO_DEPTH * depthMm
              ? 'roll'
              : 'nick',
        fromTipMm: deepest.fromTipMm,
        depthMm,
        lengthMm,
        depthU: Math.hypot(placeU, filled / 2 / Math.sqrt(3), LINE_U_MM),
      });
    }
    i = end + 1;
  }
  return found.sort((a, b) => b.depthMm - a.depthMm);
}

/**
 * Rounding of the tip's corner: the area missing between the sound edge carried on to the tip and the edge as it is,
 * as the radius of the arc that would lose as much, r = √(A / (1 − π/4)) [M].
 */
export function seenTip(places: readonly ProfilePlace[], smooth: Smooth, placeU: number): SeenTip {
  const drop = ({ fromTipMm, widthMm }: ProfilePlace): number =>
    Math.max(0, smooth.valueAt(fromTipMm) - widthMm);
  const here = places.filter(({ fromTipMm }) => fromTipMm >= 0 && fromTipMm <= TIP_MM + 2);
  // The rounding ends where the edge is sound for the first time: what comes after is a notch of its own.
  const soundFrom = here.findIndex((place) => drop(place) < 3 * placeU);
  const near = soundFrom < 0 ? here : here.slice(0, soundFrom + 1);
  let area = 0;
  for (let i = 0; i + 1 < near.length; i++) {
    const [a, b] = [near[i], near[i + 1]];
    if (a && b) area += ((drop(a) + drop(b)) / 2) * (b.fromTipMm - a.fromTipMm);
  }
  const [first] = near;
  // No column sees what is missing beyond the first place: there the corner has gone as deep as the tip's face shows.
  if (first) area += drop(first) * Math.max(0, first.fromTipMm);
  const share = 1 - Math.PI / 4;
  // What the line's doubt alone would add up to over the stretch is no rounding.
  const doubt = 3 * placeU * Math.max(2, near.at(-1)?.fromTipMm ?? 0);
  const roundedByMm = area > doubt / 2 ? Math.sqrt(area / share) : 0;
  return {
    roundedByMm,
    u: Math.max(0.15, roundedByMm > 0 ? doubt / (2 * share * roundedByMm) : 0.5),
  };
}
