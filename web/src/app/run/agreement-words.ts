import type { CycleView } from '@tally-stone/contract';

/** How far the count may be trusted, from this tool's own last grinds. */
export function toolWords(agreement: CycleView['agreement']): string {
  if (!agreement) return '';
  const { tool, grinds, biasG, rmsG } = agreement;
  const off =
    Math.abs(biasG) < 0.05
      ? 'neither too high nor too low'
      : `${Math.abs(biasG).toFixed(1)} g too ${biasG > 0 ? 'high' : 'low'} on the whole`;
  return `${tool}, last ${grinds} grinds: the count foretold the scale within ± ${(2 * rmsG).toFixed(1)} g, ${off}.`;
}

/** What the count foretold of this blade and what the scale found, with how that tool does usually. */
export function foretoldWords({ witnesses, corrected, agreement }: CycleView): string {
  const { scale, passes } = witnesses.said;
  if (!scale || !passes) return '';
  const again = corrected?.witnesses.said.scale;
  const moved = again && again.value !== scale.value;
  const since = moved ? `, ${again.value.toFixed(1)} g as corrected since` : '';
  return `The count foretold ${passes.value.toFixed(1)} g, the scale found ${scale.value.toFixed(1)} g${since}. ${toolWords(agreement)}`.trim();
}
