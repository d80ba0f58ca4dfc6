import type { RegisterColumn, RegisterQuery } from '@tally-stone/contract';

export type Sort = RegisterQuery['sort'];
export type Key = 'code' | RegisterColumn;

/** A column of the table of all blades. */
export interface Column {
  readonly key: Key;
  readonly words: string;
  /** Its width in the grid. */
  readonly track: string;
  /** Shown where nobody has chosen. */
  readonly usual: boolean;
  /** What its figures mean, where its name does not say it. */
  readonly means?: string;
}
export const COLUMNS: readonly Column[] = [
  { key: 'code', words: $localize`Code`, track: '5.625rem', usual: true },
  { key: 'spec', words: $localize`Spec`, track: 'minmax(6.875rem, 1.2fr)', usual: true },
  { key: 'state', words: $localize`State`, track: '5.625rem', usual: true },
  { key: 'place', words: $localize`Where`, track: 'minmax(6.875rem, 1.2fr)', usual: true },
  { key: 'grinds', words: $localize`Grinds`, track: '4.75rem', usual: true },
  {
    key: 'left',
    words: $localize`Grinds left`,
    track: '5.75rem',
    usual: true,
    means: $localize`Grinds until the first limit: as many as likely, and the range it falls in four times out of five`,
  },
  {
    key: 'first',
    words: $localize`First limit`,
    track: 'minmax(8.125rem, 1.5fr)',
    usual: true,
    means: $localize`The limit that most likely ends this blade`,
  },
  { key: 'last-grind', words: $localize`Last ground`, track: '5.75rem', usual: true },
  { key: 'waiting', words: $localize`Waiting since`, track: '6.875rem', usual: false },
];
/** The columns this screen shows, kept for the next time. */
export const KEPT = 'tally-stone.register-columns';
export const keptColumns = (): ReadonlySet<Key> => {
  const kept = localStorage.getItem(KEPT)?.split(',');
  const shown = COLUMNS.filter(({ key, usual }) => (kept ? kept.includes(key) : usual));
  return new Set<Key>(['code', ...shown.map(({ key }) => key)]);
};
