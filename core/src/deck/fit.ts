import { BenchError, finite, notNegative, positive } from '../errors.js';
import { sweptDiameterMm } from '../blade/shape.js';
import { propagate, type Measured } from '../reading/uncertainty.js';
import { omegaRadPerS } from '../units/angles.js';

/** Whether two neighbouring blades clear each other and leave no strip of grass between them. */
export interface NeighbouringBlades {
  /** Spindles apart across the deck, mm, and one behind the other, mm. */
  readonly spacingMm: number;
  readonly staggerMm: number;
  readonly lengthMm: readonly [number, number];
  readonly widthMm: readonly [number, number];
}

export interface DeckFit {
  readonly spindleDistanceMm: number;
  /** Room between the swept circles, mm; below zero they strike each other. */
  readonly clearanceMm: number;
  /** Overlap of the cut across the deck, mm; below zero a strip stays uncut. */
  readonly overlapMm: number;
}

/**
 * Spindle distance d = √(S² + s²); clearance d − (D₁ + D₂)/2 on swept diameters D = √(L² + W²); overlap of
 * the cut (L₁ + L₂)/2 − S. Plane geometry.
 *
 * Errors: `spacingMm` when not above zero.
 * Example: two 400 × 300 mm blades (swept 500) at 600 apart clear by 100 mm.
 * @example deckFit({ spacingMm: 600, staggerMm: 0, lengthMm: [400, 400], widthMm: [300, 300] }).clearanceMm // 100
 */
export function deckFit({ spacingMm, staggerMm, lengthMm, widthMm }: NeighbouringBlades): DeckFit {
  positive('spacingMm', spacingMm);
  const distance = Math.hypot(spacingMm, finite('staggerMm', staggerMm));
  const swept = [0, 1].map((i) => sweptDiameterMm(lengthMm[i as 0 | 1], widthMm[i as 0 | 1])) as [
    number,
    number,
  ];
  return {
    spindleDistanceMm: distance,
    clearanceMm: distance - (swept[0] + swept[1]) / 2,
    overlapMm: (lengthMm[0] + lengthMm[1]) / 2 - spacingMm,
  };
}

/** The same as measured: every size with its doubt. */
export interface MeasuredBlades {
  readonly spacingMm: Measured;
  readonly staggerMm: Measured;
  readonly lengthMm: readonly [Measured, Measured];
  readonly widthMm: readonly [Measured, Measured];
}

/**
 * {@link deckFit} with the doubt of the sizes carried into clearance and overlap (JCGM 100:2008, 5.1.2), mm.
 * Errors: `spacingMm` when not above zero.
 * Example: spacing to ± 0.5 mm and lengths to ± 0.5 mm (k = 1) make a clearance sure to ± 0.6 mm.
 * @example rounded(measuredDeckFit({ spacingMm: { value: 600, u: 0.5 }, staggerMm: { value: 0, u: 0 }, lengthMm: [{ value: 400, u: 0.5 }, { value: 400, u: 0.5 }], widthMm: [{ value: 300, u: 0 }, { value: 300, u: 0 }] }).clearanceMm) // { value: 100, u: 0.574 }
 */
export function measuredDeckFit({ spacingMm, staggerMm, lengthMm, widthMm }: MeasuredBlades): {
  readonly clearanceMm: Measured;
  readonly overlapMm: Measured;
} {
  const words = (of: 'clearanceMm' | 'overlapMm'): Measured =>
    propagate(
      ([spacing, stagger, l0, l1, w0, w1]) =>
        deckFit({
          spacingMm: spacing,
          staggerMm: stagger,
          lengthMm: [l0, l1],
          widthMm: [w0, w1],
        })[of],
      [spacingMm, staggerMm, lengthMm[0], lengthMm[1], widthMm[0], widthMm[1]],
    );
  return { clearanceMm: words('clearanceMm'), overlapMm: words('overlapMm') };
}

/** Highest tip speed of a rotary mower blade, m/s: 19 000 ft/min (ANSI/OPEI B71.1, from memory). */
export const TIP_SPEED_LIMIT_M_PER_S = 96.52;

/**
 * Tip speed π·D·n, m/s. Example: 533 mm at 3000 rpm is 83.7 m/s.
 * @example tipSpeedMPerS(533, 3000) // 83.7
 */
export function tipSpeedMPerS(sweptMm: number, speedRpm: number): number {
  return (positive('sweptMm', sweptMm) / 2000) * omegaRadPerS(positive('speedRpm', speedRpm));
}

/**
 * What a fit says: clash, uncut strip, too fast, or fine; timed decks may overlap.
 * @example judgeDeckFit({ clearanceMm: 2, overlapMm: 20 }, { leastClearanceMm: 6, leastOverlapMm: 10, timed: false }) // [{ kind: 'clash', shortMm: 4 }]
 */
export function judgeDeckFit(
  fit: Pick<DeckFit, 'clearanceMm' | 'overlapMm'>,
  limits: {
    readonly leastClearanceMm: number;
    readonly leastOverlapMm: number;
    readonly timed: boolean;
  },
): readonly { readonly kind: 'clash' | 'uncut-strip'; readonly shortMm: number }[] {
  notNegative('leastClearanceMm', limits.leastClearanceMm);
  const clash = limits.leastClearanceMm - fit.clearanceMm;
  const strip = limits.leastOverlapMm - fit.overlapMm;
  return [
    ...(clash > 0 && !limits.timed ? [{ kind: 'clash' as const, shortMm: clash }] : []),
    ...(strip > 0 ? [{ kind: 'uncut-strip' as const, shortMm: strip }] : []),
  ];
}

/** A spindle's centre in plan view: across the deck, left negative, and ahead of the deck's centre, mm. */
export interface SpindleCentre {
  readonly acrossMm: number;
  readonly aheadMm: number;
}
/** A blade's outer sizes, mm. */
export interface BladeSize {
  readonly lengthMm: number;
  readonly widthMm: number;
}
/** Two spindles of a deck with the blades on them, as indices from the left. */
export interface DeckPair extends DeckFit {
  readonly left: number;
  readonly right: number;
  /** Nothing stands between them across the deck: their cuts must overlap. */
  readonly neighbours: boolean;
}

/**
 * Every pair of blades on a deck: the clearance of all, since blades in a staggered row may reach past the next,
 * and the overlap of neighbours across. Shapes: one blade a spindle, in any order.
 *
 * Errors: `blades` when not one a spindle; `spacingMm` when two spindles stand in one line.
 * @example deckPairs([{ acrossMm: 0, aheadMm: 0 }, { acrossMm: 600, aheadMm: 0 }], [{ lengthMm: 400, widthMm: 300 }, { lengthMm: 400, widthMm: 300 }])[0].clearanceMm // 100
 */
export function deckPairs(
  spindles: readonly SpindleCentre[],
  blades: readonly BladeSize[],
): DeckPair[] {
  if (spindles.length !== blades.length)
    throw new BenchError('blades', $localize`must be one for each spindle`, blades.length);
  const order = [...spindles.keys()].sort(
    (a, b) => (spindles[a]?.acrossMm ?? 0) - (spindles[b]?.acrossMm ?? 0),
  );
  return order.flatMap((left, i) =>
    order.slice(i + 1).flatMap((right, j): DeckPair[] => {
      const [one, two] = [spindles[left], spindles[right]];
      const [first, second] = [blades[left], blades[right]];
      if (!one || !two || !first || !second) return [];
      const fit = deckFit({
        spacingMm: two.acrossMm - one.acrossMm,
        staggerMm: two.aheadMm - one.aheadMm,
        lengthMm: [first.lengthMm, second.lengthMm],
        widthMm: [first.widthMm, second.widthMm],
      });
      return [{ ...fit, left, right, neighbours: j === 0 }];
    }),
  );
}

/** What is wrong between two blades of a deck, and by how much. */
export interface DeckFault {
  readonly kind: 'clash' | 'uncut-strip';
  readonly left: number;
  readonly right: number;
  readonly shortMm: number;
}

/**
 * All faults of a deck. Overlap is asked of neighbours only; on a timed deck blades may reach into each other's
 * circles.
 * @example deckFaults([{ left: 0, right: 1, neighbours: true, spindleDistanceMm: 600, clearanceMm: 2, overlapMm: 20 }], { leastClearanceMm: 6, leastOverlapMm: 10, timed: false })[0].shortMm // 4
 */
export function deckFaults(
  pairs: readonly DeckPair[],
  limits: Parameters<typeof judgeDeckFit>[1],
): DeckFault[] {
  return pairs.flatMap((pair) =>
    judgeDeckFit(pair, limits)
      .filter(({ kind }) => kind === 'clash' || pair.neighbours)
      .map((fault) => ({ ...fault, left: pair.left, right: pair.right })),
  );
}

/**
 * Lengths a deck takes when all its blades are alike, mm. The longest keeps the least clearance between any two, from
 * L = √((d − c)² − W²); a timed deck sets none. The shortest keeps the least overlap between neighbours, L = S + o.
 * Where the shortest is above the longest, no one length does. Plane geometry, {@link deckFit} turned round.
 *
 * Shapes: one centre a spindle, in any order. Errors: `widthMm` when not above zero.
 * Example: spindles 500 apart, 300 mm blades, nothing else asked: 400 mm sweeps 500, and the strip asks for 500.
 * @example lengthsThatFit([{ acrossMm: 0, aheadMm: 0 }, { acrossMm: 500, aheadMm: 0 }], 300, { leastClearanceMm: 0, leastOverlapMm: 0, timed: false }) // { leastMm: 500, mostMm: 400 }
 */
export function lengthsThatFit(
  spindles: readonly SpindleCentre[],
  widthMm: number,
  limits: Parameters<typeof judgeDeckFit>[1],
): { readonly leastMm?: number; readonly mostMm?: number } {
  positive('widthMm', widthMm);
  const sorted = [...spindles].sort((a, b) => a.acrossMm - b.acrossMm);
  const pairs = sorted.flatMap((one, i) => sorted.slice(i + 1).map((two, j) => ({ one, two, j })));
  if (pairs.length === 0) return {};
  const longest = pairs.map(({ one, two }) => {
    const apartMm = Math.hypot(two.acrossMm - one.acrossMm, two.aheadMm - one.aheadMm);
    const sweptMm = Math.max(0, apartMm - limits.leastClearanceMm);
    return Math.sqrt(Math.max(0, sweptMm ** 2 - widthMm ** 2));
  });
  const shortest = pairs
    .filter(({ j }) => j === 0)
    .map(({ one, two }) => two.acrossMm - one.acrossMm + limits.leastOverlapMm);
  return {
    leastMm: Math.max(...shortest),
    ...(limits.timed ? {} : { mostMm: Math.min(...longest) }),
  };
}

/**
 * {@link lengthsThatFit} in tenths of a millimetre, each to the safe side: what may be cut to.
 * @example lengthsToCut([{ acrossMm: 0, aheadMm: 0 }, { acrossMm: 500.01, aheadMm: 0 }], 300, { leastClearanceMm: 0, leastOverlapMm: 0, timed: false }) // { leastMm: 500.1, mostMm: 400 }
 */
export function lengthsToCut(
  ...deck: Parameters<typeof lengthsThatFit>
): ReturnType<typeof lengthsThatFit> {
  const { leastMm, mostMm } = lengthsThatFit(...deck);
  return {
    ...(leastMm === undefined ? {} : { leastMm: Math.ceil(leastMm * 10 - 1e-6) / 10 }),
    ...(mostMm === undefined ? {} : { mostMm: Math.floor(mostMm * 10 + 1e-6) / 10 }),
  };
}
