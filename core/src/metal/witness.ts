import { notNegative, positive } from '../errors.js';
import { hollowFace, type Wheel } from '../grinder/wheel.js';
import type { KeptEdge } from '../photo/kept-edge.js';
import { edgeRecession, meanRecession } from '../photo/recession.js';
import { rss, type Measured, propagate, agreementEn } from '../reading/uncertainty.js';
import { toRad } from '../units/angles.js';
import { WITNESSES, type Witness } from '../vocabulary/keys.js';
import { metalRemoved, STEEL_G_PER_MM3, type EdgeStation } from './edge.js';
import { recessionCurve, type RecessionCurve } from './recession.js';
import { flatSection, withLand, type Section } from './section.js';

/**
 * Witnesses of metal removed. The scale says before − after; the caliper says what widths, land and bevel
 * account for. Without land readings on both sides the caliper abstains: a land taken from 0.5 to 0.15 mm
 * is grams without any change of width.
 */

/**
 * Metal removed by the scale, g: before − after, u = √(u_b² + u_a²). Example: 812 − 806 g is 6 g.
 * @example removedByScale({ value: 812, u: 3 }, { value: 806, u: 4 }) // { value: 6, u: 5 }
 */
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
  /** The face as the last grind left it where that was no plane (hollow, compound), foot at zero. */
  readonly faceBefore?: Section | undefined;
  /** The wheel it was ground with this time: it leaves an arc. */
  readonly wheel?: Wheel | undefined;
}

interface CaliperSays {
  readonly beforeBevelDeg: number;
  readonly afterBevelDeg: number;
  readonly beforeLandMm: number;
  readonly afterLandMm: number;
}

const cot = (bevelDeg: number): number => 1 / Math.tan(toRad(bevelDeg));

/**
 * Area against recession where a face is not a plane. A face known from its grinds keeps its shape; the bevel
 * read today only leans it, so that the reading's doubt is carried.
 */
function curveOf(thicknessMm: number, end: CaliperEnd, said: CaliperSays): RecessionCurve {
  const lean = cot(said.beforeBevelDeg) - cot(end.bevelBeforeDeg.value);
  const before = end.faceBefore
    ? withLand(
        end.faceBefore.map(({ yMm, sMm }) => ({ yMm, sMm: sMm + yMm * lean })),
        said.beforeLandMm,
      )
    : flatSection(thicknessMm, {
        bevelDeg: said.beforeBevelDeg,
        landMm: said.beforeLandMm,
        recessionMm: 0,
      });
  const face = { bevelDeg: said.afterBevelDeg, landMm: said.afterLandMm };
  const ground =
    end.wheel === undefined
      ? flatSection(thicknessMm, { ...face, recessionMm: 0 })
      : hollowFace(thicknessMm, { ...face, wheel: end.wheel });
  return recessionCurve(before, ground);
}

/** Metal of one end, g: recession linear between stations, flat beyond the first and last. */
function alongTheEdge(
  thicknessMm: number,
  end: CaliperEnd,
  stations: readonly EdgeStation[],
  curve: RecessionCurve | undefined,
): number {
  const sorted = [...stations].sort((a, b) => a.radiusMm - b.radiusMm);
  const inner = sorted[0];
  const outer = sorted.at(-1);
  if (!inner || !outer) return 0;
  const along = [
    { ...inner, radiusMm: Math.min(end.edgeFromMm, inner.radiusMm) },
    ...sorted,
    { ...outer, radiusMm: Math.max(end.edgeToMm, outer.radiusMm) },
  ];
  if (!curve) return metalRemoved(thicknessMm, along).massG;
  return along.slice(1).reduce((sum, to, i) => {
    const from = along[i] ?? to;
    const areaMm2 = curve.meanAreaMm2(from.recessionMm, to.recessionMm);
    return sum + STEEL_G_PER_MM3 * areaMm2 * (to.radiusMm - from.radiusMm);
  }, 0);
}

/**
 * Metal removed by the caliper from one end, g, with every reading's uncertainty carried through
 * (JCGM 100:2008, 5.1.2). Recession is width before − width after; a small apparent gain is the readings' own
 * error and counts against the loss elsewhere, or the mean of many such figures would be too high.
 * Between stations recession is linear; beyond the first and last it is carried flat to the edge's ends.
 * Where the tool is a wheel its arc is what is taken, and a face that an earlier grind left hollow or with a
 * break in it counts as it stands.
 * Example: a flat 30° face ground for the first time on a 101.6 mm wheel to 30° over the face loses 1.3 g more
 * on 100 mm of 6.35 mm steel than the plane says.
 * @example removedByCaliper(6, END).value // 2.355
 */
export function removedByCaliper(thicknessMm: number, end: CaliperEnd): Measured {
  const inputs: Measured[] = [
    end.bevelBeforeDeg,
    end.bevelAfterDeg,
    end.landBeforeMm,
    end.landAfterMm,
    ...end.stations.flatMap((station) => [station.widthBeforeMm, station.widthAfterMm]),
  ];
  const planes = end.faceBefore === undefined && end.wheel === undefined;
  return propagate((values: readonly number[]) => {
    const at = (i: number): number => values[i] ?? 0;
    const said: CaliperSays = {
      beforeBevelDeg: at(0),
      afterBevelDeg: at(1),
      beforeLandMm: Math.max(0, at(2)),
      afterLandMm: Math.max(0, at(3)),
    };
    const lost = end.stations.map((station, i) => ({
      ...said,
      radiusMm: station.radiusMm,
      recessionMm: at(4 + 2 * i) - at(5 + 2 * i),
    }));
    const curve = planes ? undefined : curveOf(thicknessMm, end, said);
    const taken = (of: (recessionMm: number) => number): number =>
      alongTheEdge(
        thicknessMm,
        end,
        lost.map((station) => ({ ...station, recessionMm: of(station.recessionMm) })),
        curve,
      );
    const gains = lost.some(({ recessionMm }) => recessionMm < 0);
    const losses = taken((mm) => Math.max(0, mm));
    return gains ? losses - taken((mm) => Math.max(0, -mm)) + taken(() => 0) : losses;
  }, inputs);
}

/** Less of the edge than this in both photos, and they do not speak. */
const LEAST_SHOWN = 0.8;
/** A stretch of a photographed edge that is taken as one station, mm. */
const PHOTO_EVERY_MM = 5;

/**
 * Metal removed by two photos of one end, before and after the grind, g: the recession along the whole edge, notches
 * and all, in place of a caliper's few stations; bevel and land are read as for the caliper. What all places of the two
 * photos share moves them together and is carried as one (JCGM 100:2008, 5.2.2, for r = 1). Nothing where the photos
 * show too little of the edge in common.
 * @example removedByPhoto(6, END, { before: { widthsMm: new Array(200).fill(60), placeU: 0.01, sharedU: 0.04 }, after: { widthsMm: new Array(200).fill(59.8), placeU: 0.01, sharedU: 0.04 }, tipRadiusMm: END.edgeToMm })?.value > 0 // true
 */
export function removedByPhoto(
  thicknessMm: number,
  end: Omit<CaliperEnd, 'stations'>,
  photos: {
    readonly before: KeptEdge;
    readonly after: KeptEdge;
    readonly tipRadiusMm: number;
  },
): Measured | undefined {
  const recession = edgeRecession(photos.before, photos.after);
  const edgeLengthMm = end.edgeToMm - end.edgeFromMm;
  const places = Array.from({ length: Math.floor(edgeLengthMm / PHOTO_EVERY_MM) }, (_, i) => {
    const fromMm = i * PHOTO_EVERY_MM;
    const mean = meanRecession({ ...recession, sharedU: 0 }, [fromMm, fromMm + PHOTO_EVERY_MM]);
    return mean && { radiusMm: photos.tipRadiusMm - fromMm - PHOTO_EVERY_MM / 2, mean };
  });
  const known = places.flatMap((place) => place ?? []);
  if (known.length < LEAST_SHOWN * places.length) return undefined;
  const taken = (moreMm: number): Measured =>
    removedByCaliper(thicknessMm, {
      ...end,
      stations: known.map(({ radiusMm, mean }) => ({
        radiusMm,
        widthBeforeMm: { value: mean.value + moreMm, u: mean.u },
        widthAfterMm: { value: 0, u: 0 },
      })),
    });
  const found = taken(0);
  const together = taken(recession.sharedU).value - found.value;
  return { value: found.value, u: rss(found.u, Math.abs(together)) };
}

/** What two witnesses say of each other. Two can disagree but cannot name the culprit. */
export interface Agreement {
  readonly en: number;
  readonly agree: boolean;
}

/**
 * E_n of two witnesses and whether they agree (E_n ≤ 1, ISO 13528).
 * @example compareWitnesses({ value: 6, u: 0.3 }, { value: 7, u: 0.4 }) // { en: 1, agree: true }
 */
export function compareWitnesses(a: Measured, b: Measured): Agreement {
  const en = agreementEn(a, b);
  return { en, agree: en <= 1 };
}

/**
 * Metal removed by the count: passes × learned g/pass, u from the next grind's own scatter.
 * @example removedByPasses(10, { value: 0.5, nextU: 0.1 }) // { value: 5, u: 1 }
 */
export function removedByPasses(
  passes: number,
  gramsPerPass: { readonly value: number; readonly nextU: number },
): Measured {
  notNegative('passes', passes);
  return {
    value: passes * positive('gramsPerPass', gramsPerPass.value),
    u: passes * notNegative('nextU', gramsPerPass.nextU),
  };
}

export interface Testimony {
  readonly pairs: readonly {
    readonly a: Witness;
    readonly b: Witness;
    readonly en: number;
    readonly agree: boolean;
  }[];
  readonly agree: boolean;
  /** What to read again: named by three, only suggested by two. */
  readonly repeat?:
    { readonly witness: Witness; readonly sure: boolean; readonly cause: string } | undefined;
}

/** Usual causes when a witness says more, or less, than the others. Common practice, no source. */
const CAUSE: Readonly<Record<Witness, Readonly<Record<'more' | 'less', string>>>> = {
  scale: {
    get more() {
      return $localize`weighed dirty before, or the scale not zeroed after`;
    },
    get less() {
      return $localize`weighed dirty after, or the scale not zeroed before`;
    },
  },
  caliper: {
    get more() {
      return $localize`a width at the wrong station or end, or a land read too wide before`;
    },
    get less() {
      return $localize`a width over a burr after, or at the wrong end`;
    },
  },
  photo: {
    get more() {
      return $localize`the picture after taken of another mat, or dirt on the edge before`;
    },
    get less() {
      return $localize`a burr on the edge after, or the pictures taken of other ends`;
    },
  },
  passes: {
    get more() {
      return $localize`something counted twice, or a worn abrasive that takes less`;
    },
    get less() {
      return $localize`something not counted, or a fresh abrasive that takes more`;
    },
  },
};

/**
 * Compares every pair of witnesses. With three or more, one that disagrees with all others while those agree is
 * named; with two, nobody can be, and the quickest to repeat (the scale) is suggested. Fewer than two: no
 * disagreement.
 * @example hearWitnesses({ scale: { value: 12, u: 0.4 }, caliper: { value: 6, u: 0.5 }, passes: { value: 6.4, u: 0.9 } }).repeat.witness // 'scale'
 */
export function hearWitnesses(said: Readonly<Partial<Record<Witness, Measured>>>): Testimony {
  const present = WITNESSES.flatMap((witness) => {
    const value = said[witness];
    return value ? [{ witness, value }] : [];
  });
  const pairs = present.flatMap((first, i) =>
    present.slice(i + 1).map((second) => ({
      a: first.witness,
      b: second.witness,
      ...compareWitnesses(first.value, second.value),
    })),
  );
  const agree = pairs.every((pair) => pair.agree);
  if (agree) return { pairs, agree };
  const odd = present.filter(({ witness }) =>
    pairs.every(({ a, b, agree: same }) => (a === witness || b === witness ? !same : same)),
  );
  const [only] = odd;
  const named = present.length >= 3 && odd.length === 1 ? only : undefined;
  const suspect = named ?? present[0];
  if (!suspect) return { pairs, agree };
  const others = present.filter(({ witness }) => witness !== suspect.witness);
  const mean = others.reduce((sum, { value }) => sum + value.value, 0) / others.length;
  return {
    pairs,
    agree,
    repeat: {
      witness: suspect.witness,
      sure: named !== undefined,
      cause: CAUSE[suspect.witness][suspect.value.value > mean ? 'more' : 'less'],
    },
  };
}

/**
 * May this grind teach the tool's g/pass? Only after another witness has confirmed the scale: the photos or the caliper
 * agreeing with it, or, where both abstain, the count not standing apart from it.
 * @example mayTeach(hearWitnesses({ scale: { value: 6, u: 0.4 } })) // false
 */
export function mayTeach({ pairs }: Testimony): boolean {
  const pair = (one: Witness, other: Witness): boolean | undefined =>
    pairs.find(({ a, b }) => a === one && b === other)?.agree;
  return pair('scale', 'photo') ?? pair('scale', 'caliper') ?? pair('scale', 'passes') ?? false;
}
