import type { CycleFacts, Quantity, SpecFigures } from '@tally-stone/contract';
import { marginOf, QUANTITIES, rss, type JudgedReading, type Measured } from '@tally-stone/core';
import { carriedToday, historyKey } from './facts.js';
import type { Place } from './place.js';

/** How far new blades of one spec differ from its figures. Common practice, no source. */
export const NEW_TOLERANCE: Readonly<Record<'mm' | 'g' | 'deg', number>> = {
  mm: 0.8,
  g: 15,
  deg: 2,
};

export function asNew(spec: SpecFigures, quantity: Quantity): number | undefined {
  const values: Partial<Record<Quantity, number>> = {
    mass: spec.newMassG,
    length: spec.newLengthMm,
    thickness: spec.thicknessMm,
    width: spec.newWidthMm,
    wing: spec.wingMm,
    bevel: spec.bevelDeg,
  };
  return values[quantity];
}

/**
 * A place that was never read of a blade known from new: the new blade's figure, a width less by what each grind since has
 * taken, less sure with each.
 */
export function reckonedFromNew(
  spec: SpecFigures,
  quantity: Quantity,
  grinds: number,
  recessionPerGrindMm: number,
): Measured | undefined {
  const figure = asNew(spec, quantity);
  const fresh =
    QUANTITIES[quantity].whenNew ??
    (figure === undefined
      ? undefined
      : { value: figure, u: NEW_TOLERANCE[QUANTITIES[quantity].unit] / 2 });
  return (
    fresh && {
      value: fresh.value - (quantity === 'width' ? grinds * recessionPerGrindMm : 0),
      u: rss(fresh.u, grinds * QUANTITIES[quantity].changePerCycle),
    }
  );
}

/** It was used when it came, or trimmed since: it is no new blade, whatever it came as. */
export const cameWorn = ({ knownFrom, trimmed }: CycleFacts['blade']): boolean =>
  knownFrom === 'used' || trimmed === true;

/** What is known of a place without reading it: the last reading, or the new blade's figure, less sure by now. */
export function carriedAt(
  facts: CycleFacts,
  place: Omit<Place, 'phase'>,
): (Measured & Pick<JudgedReading, 'fromSpec'>) | undefined {
  const { quantity } = place;
  const { last, blade, rules, spec } = facts;
  const read = last[historyKey(place)];
  if (read) return carriedToday(quantity, read, rules.recessionPerGrindMm);
  // Of a used blade nobody has measured nothing is known: it is no new one.
  if (quantity === 'bevel' || cameWorn(blade)) return undefined;
  const reckoned = reckonedFromNew(spec, quantity, blade.grinds, rules.recessionPerGrindMm);
  // After grinds of which this was not read it is reckoned, not new.
  return reckoned && { ...reckoned, ...(blade.grinds === 0 ? { fromSpec: true } : {}) };
}

/** Room inside the limit a place has, where it has one. */
export function marginAt(
  facts: CycleFacts,
  place: Omit<Place, 'phase'>,
  value: number,
): number | undefined {
  const { quantity, stationKey } = place;
  if (quantity === 'tip-height') {
    const limit = facts.spec.limits.find(({ kind }) => kind === 'bend');
    const A = carriedAt(facts, { quantity, end: 'A' });
    const B = carriedAt(facts, { quantity, end: 'B' });
    return limit && A && B ? limit.value - Math.abs(A.value - B.value) : undefined;
  }
  const limit = facts.spec.limits.find(
    (each) =>
      each.kind === QUANTITIES[quantity].limit && (each.stationKey ?? undefined) === stationKey,
  );
  return limit && marginOf(limit, value);
}
