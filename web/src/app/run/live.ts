import type { AskedPlan } from '@tally-stone/contract';
import {
  planRows,
  simulatePasses,
  type End,
  type Forward,
  type PlanInput,
  type Row,
  type ZoneKey,
} from '@tally-stone/core';
import { inputOf, keyOf, toolOfZone } from './plan-words';

interface Ready {
  readonly input: PlanInput;
  readonly rows: readonly Row[];
}
/** The rows of a plan are the same for all its passes. */
const ready = new WeakMap<AskedPlan, Ready>();

function readyFor(asked: AskedPlan): Ready {
  const known = ready.get(asked);
  if (known) return known;
  const input = inputOf(asked);
  const made = { input, rows: planRows(input) };
  ready.set(asked, made);
  return made;
}

/**
 * What the passes counted so far should have done to the blade by what this tool takes: the plan's own forward
 * simulation, from the balance reading it starts at. `counted` is all passes of this cycle.
 */
export function liveForward(
  asked: AskedPlan,
  counted: (end: End, zone: ZoneKey, tool: string) => number,
): Forward {
  const { input, rows } = readyFor(asked);
  const since = (end: End): number[] =>
    input.zones.map((zone) =>
      Math.max(
        0,
        counted(end, zone.key as ZoneKey, toolOfZone(zone)) - (asked.behind[end][keyOf(zone)] ?? 0),
      ),
    );
  return simulatePasses(input, rows, { A: since('A'), B: since('B') });
}

/** Furthest the edge of an end has gone back, mm. */
export const deepest = ({ stations }: Forward, end: End): number =>
  Math.max(0, ...stations.filter((each) => each.end === end).map((each) => each.recessionMm));
