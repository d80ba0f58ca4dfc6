import type { CycleView } from '@tally-stone/contract';

/** Ground and nothing read since: what was read before the grind says nothing about the edge it has now. */
export const isUnproved = (view: CycleView | undefined): boolean =>
  view !== undefined &&
  view.passes.length > 0 &&
  ['fine', 'watch'].includes(view.now.verdict) &&
  !view.slots.some(({ phase, taken }) => phase === 'after' && taken);
