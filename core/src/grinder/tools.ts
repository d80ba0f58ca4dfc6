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

/** What is counted on a grinder, in words. */
export interface CountWords {
  readonly one: string;
  readonly many: string;
}
export const COUNT_WORDS: Readonly<Record<Counted, CountWords>> = {
  pass: {
    get one() {
      return $localize`pass`;
    },
    get many() {
      return $localize`passes`;
    },
  },
  stroke: {
    get one() {
      return $localize`stroke`;
    },
    get many() {
      return $localize`strokes`;
    },
  },
  second: {
    get one() {
      return $localize`second`;
    },
    get many() {
      return $localize`seconds`;
    },
  },
};

/**
 * So many of what is counted.
 * @example counted(12, COUNT_WORDS.stroke) // '12 strokes'
 */
export const counted = (count: number, { one, many }: CountWords): string =>
  `${count} ${count === 1 ? one : many}`;

/** Points of the look over a tool before the first blade of the day. */
export type PreUseCheck =
  | 'guards'
  | 'gaps'
  | 'ring-test'
  | 'abrasive-whole'
  | 'speed'
  | 'clamped'
  | 'fuel-and-flame'
  | 'extinguisher'
  | 'protection';

const AROUND = ['fuel-and-flame', 'extinguisher', 'protection'] as const;
const CHECKS: Readonly<Record<GrinderKind, readonly PreUseCheck[]>> = {
  wheel: ['guards', 'gaps', 'ring-test', 'speed', ...AROUND],
  belt: ['guards', 'gaps', 'abrasive-whole', ...AROUND],
  'flap-disc': ['guards', 'abrasive-whole', 'speed', 'clamped', ...AROUND],
  'drill-stone': ['abrasive-whole', 'speed', 'clamped', ...AROUND],
  file: ['abrasive-whole', 'clamped', 'protection'],
};

/**
 * What is looked at on a tool of this kind before the first blade of the day: a wheel is sounded, a belt is not; a
 * file throws no sparks. Common practice; the maker's manual comes first.
 * @example preUseChecks('file').length // 3
 */
export const preUseChecks = (kind: GrinderKind): readonly PreUseCheck[] => CHECKS[kind];

/**
 * Whether the blade is brought to the tool and lies on its table, or is clamped and the tool brought to it.
 * @example hasTable('flap-disc') // false
 */
export const hasTable = (kind: GrinderKind): boolean => kind === 'belt' || kind === 'wheel';

/** What is to be minded while grinding on a tool. Common practice, no source; the maker's manual comes first. */
export type GrindingPoint =
  | 'up-the-face'
  | 'keep-it-cool'
  | 'stop-short'
  | 'into-the-corner'
  | 'never-reverse'
  | 'spacer-before-nut'
  | 'keep-moving'
  | 'whole-strokes';

const GRINDING_POINTS: Readonly<Record<GrinderKind, readonly GrindingPoint[]>> = {
  wheel: ['up-the-face', 'keep-it-cool', 'into-the-corner', 'never-reverse', 'spacer-before-nut'],
  belt: ['up-the-face', 'keep-it-cool', 'stop-short', 'never-reverse'],
  'flap-disc': ['up-the-face', 'keep-it-cool', 'keep-moving'],
  'drill-stone': ['keep-it-cool', 'keep-moving', 'never-reverse'],
  file: ['whole-strokes'],
};

/**
 * Which way to grind on a tool of this kind, and what not to do: a belt cuts on its face only, a wheel goes into the
 * inner corner too.
 * @example grindingPoints('file') // ['whole-strokes']
 */
export const grindingPoints = (kind: GrinderKind): readonly GrindingPoint[] =>
  GRINDING_POINTS[kind];

/**
 * Marker ink laid over the face before the first pass shows where the abrasive touched: where it is left after one
 * pass, and what that says of the set-up. Common practice, no source.
 */
export const INK_LEFT = [
  'nowhere',
  'at-the-back',
  'at-the-edge',
  'to-one-side',
  'in-a-strip',
] as const;
export type InkLeft = (typeof INK_LEFT)[number];
export type InkTells = 'contact-right' | 'too-steep' | 'too-flat' | 'tilted' | 'not-held-flat';

const INK_TELLS: Readonly<Record<InkLeft, InkTells>> = {
  nowhere: 'contact-right',
  'at-the-back': 'too-steep',
  'at-the-edge': 'too-flat',
  'to-one-side': 'tilted',
  'in-a-strip': 'not-held-flat',
};

/**
 * What ink left after a pass says: gone only at the edge, the blade meets the abrasive too steeply; only at the back,
 * too flat.
 * @example inkTells('at-the-back') // 'too-steep'
 */
export const inkTells = (left: InkLeft): InkTells => INK_TELLS[left];
