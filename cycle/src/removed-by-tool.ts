import type { CycleFacts, CycleState } from '@tally-stone/contract';
import type { Measured } from '@tally-stone/core';
import { toolKey } from './facts.js';
import { passesIn } from './fold.js';
import { onEachTool } from './tools-used.js';
import { valueAt } from './values.js';

interface Weighing extends Measured {
  readonly passesBefore: number;
}

/** Every time the blade was weighed, in order: before the grind, between its tools, after it. */
function weighingsOf(state: CycleState, facts: CycleFacts): Weighing[] {
  const at = (phase: 'before' | 'after', passesBefore: number): Weighing[] => {
    const mass = valueAt(state, facts, { phase, quantity: 'mass' });
    return mass && !mass.carried ? [{ value: mass.value, u: mass.u, passesBefore }] : [];
  };
  return [...at('before', 0), ...(state.weighings ?? []), ...at('after', passesIn(state))];
}

/** The tools of the passes counted after the first `from` and not after the first `to`. */
function toolsBetween({ passes }: CycleState, from: number, to: number): string[] {
  let counted = 0;
  const keys = new Set<string>();
  for (const each of passes) {
    if (counted < to && counted + each.count > from) keys.add(toolKey(each));
    counted += each.count;
  }
  return [...keys];
}

/**
 * What the scale says each tool took of a blade that was ground on several, by its key. Only of tools whose passes all
 * lie between weighings with no other tool's among them; the common part of two weighings' doubt counts twice.
 */
export function removedByTool(state: CycleState, facts: CycleFacts): Record<string, Measured> {
  const tools = onEachTool(state);
  if (tools.length < 2) return {};
  const weighings = weighingsOf(state, facts);
  const removed: Record<string, Measured> = {};
  const unsure = new Set<string>();
  let to = 0;
  weighings.forEach((now, i) => {
    const before = weighings[i - 1];
    const between = toolsBetween(state, to, now.passesBefore);
    to = now.passesBefore;
    const [only] = between;
    if (!before || only === undefined || between.length > 1) {
      between.forEach((key) => unsure.add(key));
      return;
    }
    const earlier = removed[only] ?? { value: 0, u: 0 };
    removed[only] = {
      value: earlier.value + before.value - now.value,
      u: Math.hypot(earlier.u, before.u, now.u),
    };
  });
  toolsBetween(state, to, Infinity).forEach((key) => unsure.add(key));
  return Object.fromEntries(Object.entries(removed).filter(([key]) => !unsure.has(key)));
}
