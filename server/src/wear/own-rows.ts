import type { SpecFigures } from '@tally-stone/contract';
import type { BladeRowStored } from '../blade/blade.model.js';
import type { BladeHistory } from '../cycle/history.js';
import type { StandingReadingRow } from '../cycle/standing-reading.model.js';
import { groupedBy } from '../db/grouped.js';
import type { WearRow } from './histories.js';

type WornBlade = Pick<BladeRowStored, 'id' | 'specId' | 'knownFrom' | 'trimmedAt'>;

/** A blade's own finished cycles as the fleet's are read: the last reading of each place. */
export function wearRows(
  { id: bladeId, specId, knownFrom, trimmedAt }: WornBlade,
  spec: SpecFigures,
  { cycles, readings, trimmings }: BladeHistory,
  fits: readonly { readonly to: string | null; readonly hoursH: number | null }[],
): WearRow[] {
  const rank = ({ phase, takenAt }: StandingReadingRow): string =>
    `${phase === 'after' ? 1 : 0} ${takenAt}`;
  const readingsOf = groupedBy(readings, ({ cycleId }) => cycleId);
  const sinceTrimmed = cycles.filter(({ openedAt }) => openedAt >= (trimmings.at(-1)?.at ?? ''));
  return sinceTrimmed.flatMap(({ id: cycleId, signedAt, ground }): WearRow[] => {
    const places = new Map<string, StandingReadingRow>();
    for (const reading of readingsOf.get(cycleId) ?? []) {
      const { quantity, end, stationKey, source } = reading;
      if (source === 'carried' || !end || (quantity !== 'width' && quantity !== 'wing')) continue;
      const place = [quantity, end, stationKey].filter(Boolean).join(':');
      const known = places.get(place);
      if (!known || rank(known) <= rank(reading)) places.set(place, reading);
    }
    const hours = fits.reduce(
      (sum, { to, hoursH }) => (to && to <= signedAt ? sum + (hoursH ?? 0) : sum),
      0,
    );
    const cameWorn = knownFrom === 'used' || trimmedAt !== null;
    const of = { bladeId, specId, cameWorn, signedAt, ground, wornOut: false, hours };
    const read = [...places].map(([place, { quantity, value }]) => ({
      ...of,
      place,
      lostMm: (quantity === 'width' ? spec.newWidthMm : spec.wingMm) - value,
    }));
    return read.length > 0 ? read : [{ ...of, place: null, lostMm: null }];
  });
}
