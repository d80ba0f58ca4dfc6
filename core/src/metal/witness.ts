import { rss, type Measured, propagate, agreementEn } from '../reading/uncertainty.js';
import { metalRemoved, type EdgeStation } from './edge.js';

/**
 * Witnesses of metal removed. The scale says before − after; the caliper says what widths, land and bevel
 * account for. Without land readings on both sides the caliper abstains: a land taken from 0.5 to 0.15 mm
 * is grams without any change of width.
 */

/** Metal removed by the scale, g: before − after, u = √(u_b² + u_a²). Example: 812 − 806 g is 6 g. */
export function removedByScale(beforeG: Measured, afterG: Measured): Measured {
  return { value: beforeG.value - afterG.value, u: rss(beforeG.u, afterG.u) };
}

/** What a caliper read at one station of one end, before and after the grind. */
export interface CaliperStation {
  readonly radiusMm: number;
  readonly widthBeforeMm: Measured;
  readonly widthAfterMm: Measured;
}

export interface CaliperEnd {
  readonly stations: readonly CaliperStation[];
  readonly bevelBeforeDeg: Measured;
  readonly bevelAfterDeg: Measured;
  readonly landBeforeMm: Measured;
  readonly landAfterMm: Measured;
  /** Where the cutting edge starts and ends, mm from the hole centre; the outermost readings carry there. */
  readonly edgeFromMm: number;
  readonly edgeToMm: number;
}

/**
 * Metal removed by the caliper from one end, g, with every reading's uncertainty carried through
 * (JCGM 100:2008, 5.1.2). Recession is width before − width after; a small apparent gain counts as none.
 * Between stations recession is linear; beyond the first and last it is carried flat to the edge's ends.
 */
export function removedByCaliper(thicknessMm: number, end: CaliperEnd): Measured {
  const n = end.stations.length;
  const inputs: Measured[] = [
    end.bevelBeforeDeg,
    end.bevelAfterDeg,
    end.landBeforeMm,
    end.landAfterMm,
    ...end.stations.flatMap((station) => [station.widthBeforeMm, station.widthAfterMm]),
  ];
  return propagate((values: readonly number[]) => {
    const at = (i: number): number => values[i] ?? 0;
    const measured: EdgeStation[] = end.stations.map((station, i) => ({
      radiusMm: station.radiusMm,
      recessionMm: Math.max(0, at(4 + 2 * i) - at(5 + 2 * i)),
      beforeBevelDeg: at(0),
      afterBevelDeg: at(1),
      beforeLandMm: Math.max(0, at(2)),
      afterLandMm: Math.max(0, at(3)),
    }));
    const sorted = measured.sort((a, b) => a.radiusMm - b.radiusMm);
    const inner = sorted[0];
    const outer = sorted[n - 1];
    if (!inner || !outer) return 0;
    return metalRemoved(thicknessMm, [
      { ...inner, radiusMm: Math.min(end.edgeFromMm, inner.radiusMm) },
      ...sorted,
      { ...outer, radiusMm: Math.max(end.edgeToMm, outer.radiusMm) },
    ]).massG;
  }, inputs);
}

/** What two witnesses say of each other. Two can disagree but cannot name the culprit. */
export interface Agreement {
  readonly en: number;
  readonly agree: boolean;
}

/** E_n of two witnesses and whether they agree (E_n ≤ 1, ISO 13528). */
export function compareWitnesses(a: Measured, b: Measured): Agreement {
  const en = agreementEn(a, b);
  return { en, agree: en <= 1 };
}
