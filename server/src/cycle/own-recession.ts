import type { SpecFigures } from '@tally-stone/contract';
import { recessionPerGrindMm } from '@tally-stone/core';
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
