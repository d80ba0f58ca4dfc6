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
const LEAST_WEIGHT = 1e-3;
/** The shallowest drop that is called damage, mm, and how many deviations of a place it must be. */
const LEAST_DEPTH_MM = 0.16;
const DEVIATIONS = 6;
/** Within so much of the tip a drop is its rounding, mm; further in if it is rounded more. */
const TIP_MM = 8;
const TIP_LINE_MM = 25;
/** Deeper than this it is a chip; so many times as long as deep, a rolled spot. Common practice, no source. */
const CHIP_DEPTH_MM = 1.2;
const ROLL_LENGTH_TO_DEPTH = 14;

/**
 * A straight line through places about one of them, drops left out: weights fall off with distance (tricube) and with
 * the miss (biweight), as in robust local regression (Cleveland 1979; from memory). A place above the line counts, one
 * well below it does not.
 */
function localLine(
  places: readonly ProfilePlace[],
  aboutMm: number,
  windowMm: number,
): { readonly value: number; readonly slope: number; readonly spread: number } | undefined {
  const near = places.filter(({ fromTipMm }) => Math.abs(fromTipMm - aboutMm) < windowMm);
  if (near.length < 12) return undefined;
  const distance = near.map(
    ({ fromTipMm }) => (1 - (Math.abs(fromTipMm - aboutMm) / windowMm) ** 3) ** 3,
  );
  // A start that half of the places may miss.
  let value = median(near.map(({ widthMm }) => widthMm));
  let slope = 0;
  let spread = Math.max(0.05, robustDeviation(near.map(({ widthMm }) => widthMm - value)));
  for (let round = 0; round < 7; round++) {
    let [w0, ws, wt, wss, wst] = [0, 0, 0, 0, 0];
    near.forEach(({ fromTipMm, widthMm }, i) => {
      const s = fromTipMm - aboutMm;
      const share = (widthMm - value - slope * s) / (4.685 * spread);
      const weight = Math.abs(share) < 1 ? (distance[i] ?? 0) * (1 - share * share) ** 2 : 0;
      w0 += weight;
      ws += weight * s;
      wt += weight * widthMm;
      wss += weight * s * s;
      wst += weight * s * widthMm;
    });
    const below = w0 * wss - ws * ws;
    if (!(below > LEAST_WEIGHT)) return undefined;
    slope = (w0 * wst - ws * wt) / below;
    value = (wt - slope * ws) / w0;
    spread = Math.max(
      0.012,
      robustDeviation(
        near.map(({ fromTipMm, widthMm }) => widthMm - value - slope * (fromTipMm - aboutMm)),
      ),
    );
  }
  return { value, slope, spread };
}

/** The sound edge along its length, every millimetre, and straight between. */
export function smoothEdge(places: readonly ProfilePlace[], edgeLengthMm: number): Smooth {
  const sure = places.filter(
    ({ sure, fromTipMm }) => sure && fromTipMm > TIP_MM && fromTipMm < edgeLengthMm,
  );
  const known: { readonly at: number; readonly value: number }[] = [];
  for (let at = TIP_MM; at <= edgeLengthMm; at += 1) {
    const line = localLine(sure, at, WINDOW_MM);
    if (line) known.push({ at, value: line.value });
  }
  const tipLine = localLine(sure, TIP_MM + TIP_LINE_MM / 2, TIP_LINE_MM);
  return {
    valueAt: (fromTipMm) => {
      if (fromTipMm < TIP_MM + 4 && tipLine)
        return tipLine.value + tipLine.slope * (fromTipMm - TIP_MM - TIP_LINE_MM / 2);
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
  const near = places.filter(({ fromTipMm }) => fromTipMm >= 0 && fromTipMm <= TIP_MM + 2);
  let area = 0;
  for (let i = 0; i + 1 < near.length; i++) {
    const [a, b] = [near[i], near[i + 1]];
    if (!a || !b) continue;
    const drop = (place: ProfilePlace): number =>
      Math.max(0, smooth.valueAt(place.fromTipMm) - place.widthMm);
    area += ((drop(a) + drop(b)) / 2) * (b.fromTipMm - a.fromTipMm);
  }
  const [first] = near;
  // No column sees what is missing beyond the first place: there the corner has gone as deep as the tip's face shows.
  if (first) area += Math.max(0, smooth.valueAt(0) - first.widthMm) * Math.max(0, first.fromTipMm);
  const share = 1 - Math.PI / 4;
  // What the line's doubt alone would add up to over the stretch is no rounding.
  const doubt = 3 * placeU * (TIP_MM + 2);
  const roundedByMm = area > doubt / 2 ? Math.sqrt(area / share) : 0;
  return {
    roundedByMm,
    u: Math.max(0.15, roundedByMm > 0 ? doubt / (2 * share * roundedByMm) : 0.5),
  };
}
