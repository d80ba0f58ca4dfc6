import type { GrinderKind, Counted } from '../grinder/tools.js';

/** Tools that take metal at about the same pace: what one has shown says something of the next. */
const FAMILY: Readonly<Record<GrinderKind, 'machine' | 'disc' | 'file' | 'stone'>> = {
  belt: 'machine',
  wheel: 'machine',
  'flap-disc': 'disc',
  file: 'file',
  'drill-stone': 'stone',
};

/** Grams one pass of a machine takes along the whole edge. Common practice, no source. */
export const USUAL_PASS_G = 0.6;

/**
 * What one of what is counted takes along the whole edge before anything is learned, g. An ordinary grind takes
 * some 3 g an end: 5 passes on a machine, some 50 strokes of a file, about 25 s of a flap disc, a minute of a
 * stone in a drill; a pass on a machine lasts two or three seconds. Common practice, no source.
 */
const USUAL_GRAMS: Readonly<
  Record<(typeof FAMILY)[GrinderKind], Readonly<Record<Counted, number>>>
> = {
  machine: { pass: USUAL_PASS_G, stroke: USUAL_PASS_G, second: 0.25 },
  disc: { pass: 0.6, stroke: 0.6, second: 0.12 },
  file: { pass: 0.06, stroke: 0.06, second: 0.05 },
  stone: { pass: 0.2, stroke: 0.2, second: 0.05 },
};

export interface CountedTool {
  readonly kind: GrinderKind;
  readonly counts: Counted;
}

/**
 * Grams that one pass, stroke or second of a tool usually takes along the whole edge: where its learning starts.
 * Common practice, no source.
 * @example usualGramsPer({ kind: 'file', counts: 'stroke' }) // 0.06
 */
export const usualGramsPer = ({ kind, counts }: CountedTool): number =>
  USUAL_GRAMS[FAMILY[kind]][counts];

/**
 * Whether what one tool has shown says anything of another: the same pace, counted in the same way. Passes on a
 * belt tell nothing of strokes of a file.
 * @example teachesOf({ kind: 'belt', counts: 'pass' }, { kind: 'file', counts: 'stroke' }) // false
 */
export const teachesOf = (one: CountedTool, other: CountedTool): boolean =>
  FAMILY[one.kind] === FAMILY[other.kind] && one.counts === other.counts;
