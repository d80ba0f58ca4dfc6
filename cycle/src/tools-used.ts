import type { CountedPasses, CycleFacts, CycleState, ToolRemoval } from '@tally-stone/contract';
import { removalOf, toolKey } from './facts.js';

/** One name for the passes of a zone on a tool. */
export const passKey = (tool: Parameters<typeof toolKey>[0], zone: string): string =>
  `${toolKey(tool)} ${zone}`;

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
