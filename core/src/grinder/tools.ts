/**
 * What grinds: a machine with a table (belt, wheel), an angle grinder with a flap disc, a file, a stone in a
 * drill. Each learns its own grams of what is counted on it.
 */
export const GRINDER_KINDS = ['wheel', 'belt', 'flap-disc', 'file', 'drill-stone'] as const;
export type GrinderKind = (typeof GRINDER_KINDS)[number];

/** What its user counts: passes over the table, strokes, or the seconds a disc is held to the edge. */
export const COUNTED = ['pass', 'stroke', 'second'] as const;
export type Counted = (typeof COUNTED)[number];

/**
 * What a tool's user counts where nobody has said: passes on a machine, strokes of a file, seconds of what is
 * held by hand. Common practice, no source.
 * @example usuallyCounted('flap-disc') // 'second'
 */
export const usuallyCounted = (kind: GrinderKind): Counted =>
  kind === 'file' ? 'stroke' : kind === 'flap-disc' || kind === 'drill-stone' ? 'second' : 'pass';
