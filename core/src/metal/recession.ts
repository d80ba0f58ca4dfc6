import { notNegative } from '../errors.js';
import { setbackAtMm, type Section } from './section.js';

/**
 * Area taken as a function of the recession Δ, for one ground shape pushed into one old section:
 * A(Δ) = ∫ max(0, s₁ + Δ − s₀) dy. Its slope m(Δ) is the height over which the new face has reached steel;
 * for two polylines m is piecewise linear, so A is piecewise quadratic and both directions are closed form.
 */
export interface RecessionCurve {
  /** Area of the sharpening alone, A(0), mm². */
  readonly sharpenMm2: number;
  readonly areaMm2: (recessionMm: number) => number;
  /** The inverse; an area below the sharpening's is no recession yet. */
  readonly recessionMm: (areaMm2: number) => number;
  /** Height reached by the new face at a recession, dA/dΔ, mm. */
  readonly reachMm: (recessionMm: number) => number;
  /** Mean of A over a stretch of edge along which the recession runs evenly from one value to another, mm². */
  readonly meanAreaMm2: (fromMm: number, toMm: number) => number;
}

interface Piece {
  readonly from: number;
  readonly area: number;
  readonly reach: number;
  readonly slope: number;
  /** ∫A from no recession to here. */
  readonly sum: number;
}

/** What no caliper, and no number of this size, tells from nothing. */
const LEAST_GAP_MM = 1e-12;

/** Gap s₀ − s₁ at the ends of every straight stretch of both polylines, with the stretch's height. */
function stretches(before: Section, ground: Section): { low: number; high: number; dy: number }[] {
  const heights = [...new Set([...before, ...ground].map(({ yMm }) => yMm))].sort((a, b) => a - b);
  const gap = (yMm: number): number => setbackAtMm(before, yMm) - setbackAtMm(ground, yMm);
  return heights.slice(1).map((y, i) => {
    const below = heights[i] ?? 0;
    const [a, b] = [gap(below), gap(y)];
    const [low, high] = [Math.min(a, b), Math.max(a, b)];
    // A slope over next to nothing is a step: dividing by it has no bound.
    return { low, high: high - low < LEAST_GAP_MM ? low : high, dy: y - below };
  });
}

/**
 * Builds the curve. `ground` is the new face with its foot at zero recession; both sections run from the
 * underside to the same height. Geometry, no published source needed.
 * Example: 6 mm steel ground at its own bevel loses 6 mm² per mm of recession.
 * @example recessionCurve(flatSection(6, plane(30)), flatSection(6, plane(30))).areaMm2(1) // 6.000
 */
export function recessionCurve(before: Section, ground: Section): RecessionCurve {
  const parts = stretches(before, ground);
  const knots = [...new Set([0, ...parts.flatMap(({ low, high }) => [low, high])])]
    .filter((knot) => knot >= 0)
    .sort((a, b) => a - b);
  const areaAt = (delta: number): number =>
    parts.reduce((sum, { low, high, dy }) => {
      if (delta <= low) return sum;
      if (delta >= high) return sum + (delta - (low + high) / 2) * dy;
      return sum + ((delta - low) ** 2 / (2 * (high - low))) * dy;
    }, 0);
  /** Just above a knot. */
  const reachAt = (delta: number): number =>
    parts.reduce((sum, { low, high, dy }) => {
      if (delta < low) return sum;
      return sum + (delta >= high ? dy : ((delta - low) / (high - low)) * dy);
    }, 0);
  /** ∫A over x from a piece's start: A is quadratic there. */
  const sumOver = ({ area, reach, slope }: Omit<Piece, 'sum'>, x: number): number =>
    x * (area + x * (reach / 2 + (x * slope) / 6));
  const pieces: Piece[] = [];
  for (const from of knots) {
    const slope = parts.reduce(
      (sum, { low, high, dy }) => (from >= low && from < high ? sum + dy / (high - low) : sum),
      0,
    );
    const last = pieces.at(-1);
    const sum = last ? last.sum + sumOver(last, from - last.from) : 0;
    pieces.push({ from, area: areaAt(from), reach: reachAt(from), slope, sum });
  }
  const pieceFor = (value: number, of: 'from' | 'area'): Piece => {
    let found = pieces[0] as Piece;
    for (const piece of pieces) {
      if (piece[of] > value) break;
      found = piece;
    }
    return found;
  };
  const areaMm2 = (recessionMm: number): number => {
    const { from, area, reach, slope } = pieceFor(notNegative('recessionMm', recessionMm), 'from');
    const x = recessionMm - from;
    return area + reach * x + (slope * x * x) / 2;
  };
  const sumTo = (recessionMm: number): number => {
    const piece = pieceFor(recessionMm, 'from');
    return piece.sum + sumOver(piece, recessionMm - piece.from);
  };
  return {
    sharpenMm2: pieces[0]?.area ?? 0,
    areaMm2,
    meanAreaMm2(fromMm, toMm) {
      notNegative('fromMm', fromMm);
      notNegative('toMm', toMm);
      // Too close together for a difference of sums: A changes evenly there.
      if (Math.abs(toMm - fromMm) < 1e-4) return (areaMm2(fromMm) + areaMm2(toMm)) / 2;
      return (sumTo(toMm) - sumTo(fromMm)) / (toMm - fromMm);
    },
    reachMm(recessionMm) {
      const { from, reach, slope } = pieceFor(notNegative('recessionMm', recessionMm), 'from');
      return reach + slope * (recessionMm - from);
    },
    recessionMm(areaMm2) {
      const { from, area, reach, slope } = pieceFor(areaMm2, 'area');
      const more = areaMm2 - area;
      if (more <= 0) return from;
      // reach·x + slope·x²/2 = more, in the form that does not cancel.
      const root = Math.sqrt(reach * reach + 2 * slope * more);
      return from + (2 * more) / (reach + root);
    },
  };
}
