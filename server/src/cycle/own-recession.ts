import type { Quantity, SpecFigures } from '@tally-stone/contract';
import { recessionPerGrindMm, type End, type Measured } from '@tally-stone/core';
import { carriedToday, historyKey } from '@tally-stone/cycle';
import type { ReadHere } from './history.js';

/**
 * What a grind takes of a blade's widths, mm: by its own grinds, as far as its widths were read over them, and the shop's
 * usual figure. A blade counts from its spec's new width where it was not read before its first grind; one that came
 * worn from its first reading, since what it had lost by then no grind here took.
 */
export function ownRecession(
  { newWidthMm }: Pick<SpecFigures, 'newWidthMm'>,
  { last, first, cameWorn }: ReadHere,
  grinds: number,
  usualMm: number,
): number {
  const runs = [...last].flatMap(([key, { value, grindsSince: after = 0 }]) => {
    if (!key.startsWith('width:')) return [];
    const { value: firstMm = newWidthMm, grindsSince: since = 0 } = first.get(key) ?? {};
    const fromNew = !cameWorn && since < grinds;
    const over = (fromNew ? grinds : since) - after;
    return over > 0 ? [{ lostMm: (fromNew ? newWidthMm : firstMm) - value, over }] : [];
  });
  const mean = (of: (run: (typeof runs)[number]) => number): number =>
    runs.reduce((sum, run) => sum + of(run), 0) / Math.max(1, runs.length);
  return recessionPerGrindMm(
    mean(({ lostMm }) => lostMm),
    mean(({ over }) => over),
    usualMm,
  );
}

/** Whose widths are asked for: its spec, its grinds, how it was read, and what a grind of this shop usually takes, mm. */
export interface WidthsAsked {
  readonly spec: SpecFigures;
  readonly grinds: number;
  readonly read: ReadHere;
  readonly usualRecessionMm: number;
}

/**
 * A place that was read as it stands after the blade's last grind, mm: one that later grinds followed is carried over them.
 * Nothing of one that nobody read.
 */
export function standsAt(
  { spec, grinds, read, usualRecessionMm }: WidthsAsked,
  place: { readonly quantity: Quantity; readonly end?: End; readonly stationKey?: string },
): (Measured & { readonly carried: boolean }) | undefined {
  const found = read.last.get(historyKey(place));
  if (!found) return undefined;
  if (!found.grindsSince) return { value: found.value, u: found.u, carried: false };
  const takenMm = ownRecession(spec, read, grinds, usualRecessionMm);
  return { ...carriedToday(place.quantity, found, takenMm), carried: true };
}
