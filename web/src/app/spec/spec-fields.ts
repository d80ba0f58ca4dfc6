import type { LimitReason, SpecFigures } from '@tally-stone/contract';
import { LIMITS, LIMIT_KINDS } from '@tally-stone/core';

export type Limit = SpecFigures['limits'][number];
export interface Draft {
  readonly limit: Limit;
  readonly text: string;
}
/** A field on the drawing: its short name there, its whole name for who cannot see where it stands. */
export interface DrawnField {
  readonly words: string;
  readonly name: string;
  readonly unit: string;
  readonly text: string;
  readonly wrong: string | undefined;
  readonly type: (text: string) => void;
}

export const REASONS: readonly { readonly value: LimitReason; readonly words: string }[] = [
  { value: 'maker-says', words: $localize`The maker says so` },
  { value: 'wear-seen', words: $localize`Wear as we saw it` },
  { value: 'after-an-accident', words: $localize`After an accident` },
  { value: 'typed-wrongly', words: $localize`It was typed wrongly` },
];

/** Limits a spec may do without; measured wear always has one. */
export const OPTIONAL: readonly Limit[] = LIMIT_KINDS.flatMap((kind) => {
  const { usual, unit } = LIMITS[kind];
  return usual
    ? [{ kind, value: usual.value, unit, source: 'shop', sourceText: usual.sourceText }]
    : [];
});

export type Size = (typeof SIZES)[number]['key'];
/** Sizes a spec can be changed in; a change makes another revision. */
export const SIZES = [
  { key: 'newLengthMm', words: $localize`Length`, base: 'mm' },
  { key: 'newWidthMm', words: $localize`Width`, base: 'mm' },
  { key: 'thicknessMm', words: $localize`Thickness`, base: 'mm' },
  { key: 'wingMm', words: $localize`Lift wing`, base: 'mm' },
  { key: 'holeMm', words: $localize`Hole`, base: 'mm' },
  { key: 'edgeLengthMm', words: $localize`Cutting edge`, base: 'mm' },
  { key: 'newMassG', words: $localize`Mass when new`, base: 'g' },
  { key: 'bevelDeg', words: $localize`Bevel`, base: '°' },
  { key: 'bladeSpeedRpm', words: $localize`Blade speed`, base: 'rpm' },
  { key: 'gradeMmPerS', words: $localize`Balance grade G`, base: 'mm/s' },
] as const;

export const NO_TEXTS = Object.fromEntries(SIZES.map(({ key }) => [key, ''])) as Record<
  Size,
  string
>;
