/** Why something signed is corrected, in words; the key is what is stored. */
const OF_READINGS = {
  misread: () => $localize`Misread`,
  'wrong-place': () => $localize`Wrong end or station`,
  'wrong-unit': () => $localize`Wrong unit`,
  'wrong-blade': () => $localize`Another blade`,
  'instrument-off': () => $localize`The instrument was off`,
} as const;
const OF_CRACKS = {
  scratch: () => $localize`A scratch, looked at with a glass`,
  'paint-or-rust': () => $localize`A line in paint or rust, gone when cleaned`,
  'wrong-blade': () => $localize`Another blade`,
} as const;

export type ReadingCorrected = keyof typeof OF_READINGS;
export const READING_CORRECTED_FOR = Object.keys(OF_READINGS) as [
  ReadingCorrected,
  ...ReadingCorrected[],
];
export type CrackCorrected = keyof typeof OF_CRACKS;
export const CRACK_CORRECTED_FOR = Object.keys(OF_CRACKS) as [CrackCorrected, ...CrackCorrected[]];

const WORDS: ReadonlyMap<string, () => string> = new Map(
  Object.entries({ ...OF_READINGS, ...OF_CRACKS }),
);
/**
 * Why something was corrected, as whoever reads says it; a reason of no table as it stands.
 * @example correctedFor('misread') // 'Misread'
 */
export const correctedFor = (reason: string): string => WORDS.get(reason)?.() ?? reason;
