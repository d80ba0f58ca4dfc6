import { severityRank, worst, type Finding } from './finding.js';
import type { Judgement, JudgeInput } from './judged.js';
import { judgeBend } from './judges/bend.js';
import { judgeCrack } from './judges/crack.js';
import { judgeDamage } from './judges/damage.js';
import { judgeEdges } from './judges/edge.js';
import { judgeLastGrind } from './judges/last-grind.js';
import { judgePlainReadings } from './judges/plain-reading.js';
import { judgeWholeBlade } from './judges/whole-blade.js';
import { judgeWidths } from './judges/width.js';
import { judgeWings } from './judges/wing.js';
import { holdsEdge } from './retire-by.js';

function judgeEdgeHeld({ edgeHeld }: Pick<JudgeInput, 'edgeHeld'>): Finding[] {
  const found = edgeHeld && holdsEdge(edgeHeld, edgeHeld.share);
  return found ? [found] : [];
}

/**
 * The verdict on a blade: a list of findings, each with severity (retire · hold · grind · watch · fine),
 * value, limit, its source, margin and expanded uncertainty (k = 2); the verdict is the worst of them. A crack
 * always retires. Readings not there yet give no finding. {@link inWords} says them.
 * @example judge(usual).verdict // 'retire'
 */
export function judge(input: JudgeInput): Judgement {
  const found = [
    ...judgeCrack(input),
    ...judgeBend(input),
    ...judgeWings(input),
    ...judgePlainReadings(input),
    ...judgeWidths(input),
    ...judgeWholeBlade(input),
    ...judgeDamage(input),
    ...judgeEdges(input),
    ...judgeEdgeHeld(input),
  ];
  const findings = [...found, ...judgeLastGrind(input, found)].sort(
    (a, b) =>
      severityRank(a.severity) - severityRank(b.severity) || (a.margin ?? 0) - (b.margin ?? 0),
  );
  return { verdict: worst(findings), findings };
}
