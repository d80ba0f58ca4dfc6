import type {
  CountedPasses,
  CycleFacts,
  CycleState,
  GrinderView,
  ToolRemoval,
} from '@tally-stone/contract';
import { COUNT_WORDS, counted, type Counted } from '@tally-stone/core';
import { removalOf, toolKey } from './facts.js';
import { passesIn } from './fold.js';

/** One name for the passes of a zone on a tool. */
export const passKey = (tool: string, zone: string): string => `${tool} ${zone}`;

/** What was counted on one tool. */
export interface OnTool {
  readonly key: string;
  readonly grinderId?: string | undefined;
  readonly abrasiveId?: string | undefined;
  readonly passes: readonly CountedPasses[];
}

/** A cycle's passes tool by tool, the tools in the order they were taken up first. */
export function onEachTool({ passes }: Pick<CycleState, 'passes'>): OnTool[] {
  const keys = [...new Set(passes.map(toolKey))];
  return keys.map((key) => {
    const own = passes.filter((each) => toolKey(each) === key);
    const { grinderId, abrasiveId } = own[0] as CountedPasses;
    return { key, grinderId, abrasiveId, passes: own };
  });
}

/** Passes as they were counted, each tool in its own: `9 passes, 12 strokes`. */
export function countedWords(
  passes: CycleState['passes'],
  grinders: readonly Pick<GrinderView, 'grinderId' | 'figures'>[],
): string {
  const unitOf = (each: CountedPasses): Counted =>
    grinders.find(({ grinderId }) => grinderId === each.grinderId)?.figures.counts ?? 'pass';
  const units = [...new Set(passes.map(unitOf))];
  return (units.length > 0 ? units : (['pass'] as const))
    .map((unit) => {
      const own = passes.filter((each) => unitOf(each) === unit);
      return counted(passesIn({ passes: own }), COUNT_WORDS[unit]);
    })
    .join(', ');
}

/** The counted passes that the newest balance reading has behind it, so many of the first ones, and those since. */
export function splitAtRound<Passes extends { readonly count: number }>({
  passes,
  rounds,
}: {
  readonly passes: readonly Passes[];
  readonly rounds: readonly { readonly passesBefore: number }[];
}): { readonly behind: readonly Passes[]; readonly since: readonly Passes[] } {
  let left = rounds.at(-1)?.passesBefore ?? 0;
  const at = passes.findIndex(({ count }) => {
    if (left <= 0) return true;
    left -= count;
    return false;
  });
  return at < 0
    ? { behind: passes, since: [] }
    : { behind: passes.slice(0, at), since: passes.slice(at) };
}

/** The same with what each tool takes; nothing before the first pass, or where one of them is not known. */
export function removalsInUse(
  state: Pick<CycleState, 'passes'>,
  facts: Pick<CycleFacts, 'removals'>,
): readonly (OnTool & { readonly removal: ToolRemoval })[] | undefined {
  const tools = onEachTool(state).flatMap((tool) => {
    const removal = removalOf(tool, facts);
    return removal ? [{ ...tool, removal }] : [];
  });
  return tools.length > 0 && tools.length === onEachTool(state).length ? tools : undefined;
}
