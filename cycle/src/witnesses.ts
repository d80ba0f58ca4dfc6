import type { CycleFacts, CycleState } from '@tally-stone/contract';
import {
  ENDS,
  hearWitnesses,
  removedByCaliper,
  removedByPhoto,
  removedByScale,
  rss,
  type CaliperEnd,
  type End,
  type JudgedReading,
  type Measured,
  type Testimony,
  type Witness,
} from '@tally-stone/core';
import { wheelOf } from './facts.js';
import { removedByCount } from './predicted.js';
import { edgesOf, readingsAt } from './fold.js';
import type { Place } from './place.js';
import { valueAt } from './values.js';

/** Metal removed as each witness saw it, and what they say of each other. */
export interface Witnesses extends Testimony {
  readonly said: Readonly<Partial<Record<Witness, Measured>>>;
  readonly caliperAbstains?: string;
}

/** The photos of an end's edge before and after the grind, where there are both. */
function photosOf(state: CycleState, end: End): Pick<Photos, 'before' | 'after'> | undefined {
  const at = (phase: 'before' | 'after') =>
    edgesOf(state).find((edge) => edge.end === end && edge.phase === phase);
  const [before, after] = [at('before'), at('after')];
  return before && after && { before, after };
}

type Photos = Parameters<typeof removedByPhoto>[2];

/** Is a width the photo's own? Then it is no second witness beside it. */
const fromPhoto = (state: CycleState, end: End, stationKey: string): boolean =>
  photosOf(state, end) !== undefined &&
  (['before', 'after'] as const).some((phase) =>
    readingsAt(state, { phase, quantity: 'width', end, stationKey }).some(
      ({ edgeId }) => edgeId !== undefined,
    ),
  );

/** What the face of an end was like before and after; or what is missing for it. */
function faceOf(
  state: CycleState,
  facts: CycleFacts,
  end: End,
): Omit<CaliperEnd, 'stations'> | string {
  const bevel = pairOf(state, facts, { quantity: 'bevel', end });
  const land = pairOf(state, facts, { quantity: 'land', end });
  if (!bevel) return $localize`no bevel before and after at end ${end}`;
  if (!land)
    return $localize`no land before and after at end ${end}:ph0:: a land taken off is grams without width`;
  const tip = facts.spec.newLengthMm / 2;
  return {
    bevelBeforeDeg: bevel[0],
    bevelAfterDeg: bevel[1],
    landBeforeMm: land[0],
    landAfterMm: land[1],
    edgeFromMm: tip - facts.spec.edgeLengthMm,
    edgeToMm: tip,
    faceBefore: facts.faces[end],
    wheel: wheelOf(state, facts),
  };
}

/** A reading before and after. What was worked out from the passes is no second witness of them. */
function pairOf(
  state: CycleState,
  facts: CycleFacts,
  place: Omit<Place, 'phase'>,
): readonly [JudgedReading, JudgedReading] | undefined {
  const before = valueAt(state, facts, { ...place, phase: 'before' });
  const after = valueAt(state, facts, { ...place, phase: 'after' });
  return before && after && !after.carried ? [before, after] : undefined;
}

function caliperEnd(state: CycleState, facts: CycleFacts, end: End): CaliperEnd | string {
  const face = faceOf(state, facts, end);
  if (typeof face === 'string') return face;
  const stations = facts.spec.stations.flatMap((station) => {
    if (fromPhoto(state, end, station.key)) return [];
    const width = pairOf(state, facts, { quantity: 'width', end, stationKey: station.key });
    return width
      ? [{ radiusMm: station.radiusMm, widthBeforeMm: width[0], widthAfterMm: width[1] }]
      : [];
  });
  if (stations.length > 0) return { ...face, stations };
  return photosOf(state, end)
    ? $localize`the widths at end ${end} are the photo’s`
    : $localize`no widths before and after at end ${end}`;
}

/** By the photos of both ends, where each was taken before and after. */
function byPhotos(state: CycleState, facts: CycleFacts, thicknessMm: number): Measured | undefined {
  const ends = ENDS.flatMap((end) => {
    const [photos, face] = [photosOf(state, end), faceOf(state, facts, end)];
    if (!photos || typeof face === 'string') return [];
    const tipRadiusMm = facts.spec.newLengthMm / 2;
    return removedByPhoto(thicknessMm, face, { ...photos, tipRadiusMm }) ?? [];
  });
  if (ends.length < ENDS.length) return undefined;
  return {
    value: ends.reduce((sum, { value }) => sum + value, 0),
    u: rss(...ends.map(({ u }) => u)),
  };
}

export function witnesses(state: CycleState, facts: CycleFacts): Witnesses {
  const before = valueAt(state, facts, { phase: 'before', quantity: 'mass' });
  const after = valueAt(state, facts, { phase: 'after', quantity: 'mass' });
  const byScale =
    before && after && !before.carried && !after.carried
      ? removedByScale(before, after)
      : undefined;
  const thickness =
    valueAt(state, facts, { phase: 'before', quantity: 'thickness' })?.value ??
    facts.spec.thicknessMm;
  const ends = ENDS.map((end) => caliperEnd(state, facts, end));
  const abstains = ends.find((end) => typeof end === 'string');
  const perEnd = ends.flatMap((end) =>
    typeof end === 'string' ? [] : [removedByCaliper(thickness, end)],
  );
  const byCaliper: Measured | undefined =
    abstains === undefined
      ? {
          value: perEnd.reduce((sum, { value }) => sum + value, 0),
          u: rss(...perEnd.map(({ u }) => u)),
        }
      : undefined;
  const byPhoto = byPhotos(state, facts, thickness);
  // Once signed, what the count foretold is what it foretold then, whatever the tool has taught since.
  const byCount = facts.frozen?.witnesses?.said.passes ?? removedByCount(state, facts);
  const said = {
    ...(byScale ? { scale: byScale } : {}),
    ...(byCaliper ? { caliper: byCaliper } : {}),
    ...(byPhoto ? { photo: byPhoto } : {}),
    ...(byCount ? { passes: byCount } : {}),
  };
  return {
    said,
    ...(typeof abstains === 'string' ? { caliperAbstains: abstains } : {}),
    ...hearWitnesses(said),
  };
}
