import type { CycleView } from '@tally-stone/contract';
import type { Show } from '@tally-stone/core';

/** How far the count may be trusted, from this tool's own last grinds. */
export function toolWords(agreement: CycleView['agreement'], show: Show): string {
  if (!agreement) return '';
  const { tool, grinds, biasG, rmsG } = agreement;
  const off =
    Math.abs(biasG) < 0.05
      ? $localize`neither too high nor too low`
      : $localize`${show(Math.abs(biasG), 'g')} too ${biasG > 0 ? $localize`high` : $localize`low`} on the whole`;
  return $localize`${tool}, last ${grinds} grinds: the count foretold the scale within ± ${show(2 * rmsG, 'g')}, ${off}.`;
}

/** What the count foretold of this blade and what the scale found, with how that tool does usually. */
export function foretoldWords({ witnesses, corrected, agreement }: CycleView, show: Show): string {
  const { scale, passes } = witnesses.said;
  if (!scale || !passes) return '';
  const again = corrected?.witnesses.said.scale;
  const moved = again && again.value !== scale.value;
  const since = moved ? $localize`, ${show(again.value, 'g')} as corrected since` : '';
  return $localize`The count foretold ${show(passes.value, 'g')}, the scale found ${show(scale.value, 'g')}${since}. ${toolWords(agreement, show)}`.trim();
}
