import type { Counted } from '../grinder/tools.js';
import type { PlanZone } from './problem.js';

/**
 * Over the whole edge of each end the tool that finishes goes at least so often, so that nothing of the coarser one's
 * scratches is left: passes, strokes, seconds. Common practice, no source.
 */
export const FINISHING: Readonly<Record<Counted, number>> = { pass: 1, stroke: 5, second: 3 };

/** Minutes to carry a blade from one tool to the next and clamp or lay it there. Common practice, no source. */
export const TOOL_CHANGE_MINUTES = 2;

/** A tool of the shop that could finish a blade after another, by what it takes. */
export interface FinishingTool {
  readonly tool: string;
  readonly counts: Counted;
  readonly zones: readonly PlanZone[];
}

const fullOf = (zones: readonly PlanZone[]): PlanZone | undefined => zones[0];

/**
 * What a finishing tool may be given after a first one: the whole edge, and the part nearest the tip for the balance.
 * Of either no more than one pass of the first tool takes, beside the finish itself: more than that is the first tool's
 * work. That keeps the choice small enough to be searched through.
 * @example finishingZones({ tool: 'file', counts: 'stroke', zones: usualZones(100, 0.06) }, usualZones(100, 0.6)).map(({ mostPasses }) => mostPasses) // [15, 10]
 */
export function finishingZones(
  { tool, counts, zones }: FinishingTool,
  first: readonly PlanZone[],
): PlanZone[] {
  const [full, tip] = [fullOf(zones), zones.length > 1 ? zones.at(-1) : undefined];
  const coarse = fullOf(first);
  if (!full || !coarse) return [];
  const leastPasses = FINISHING[counts];
  const stands = Math.max(1, Math.ceil(coarse.gramsPerPass / full.gramsPerPass - 1e-9));
  return [
    { ...full, tool, leastPasses, mostPasses: leastPasses + stands },
    ...(tip ? [{ ...tip, tool, mostPasses: stands }] : []),
  ];
}

/**
 * The zones of a tool that finishes what a coarser one began and was laid down: over the whole edge at least so often.
 * @example finishing({ tool: 'file', counts: 'stroke', zones: usualZones(100, 0.06) })[0].leastPasses // 5
 */
export const finishing = ({ counts, zones }: FinishingTool): PlanZone[] =>
  zones.map((zone, i) => (i === 0 ? { ...zone, leastPasses: FINISHING[counts] } : zone));

/**
 * Whether a tool takes finer steps than another, so that it could finish what the other began.
 * @example isFiner(usualZones(100, 0.06), usualZones(100, 0.6)) // true
 */
export const isFiner = (one: readonly PlanZone[], other: readonly PlanZone[]): boolean =>
  (fullOf(one)?.gramsPerPass ?? Infinity) < (fullOf(other)?.gramsPerPass ?? 0);
