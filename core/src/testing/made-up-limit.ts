import type { Limit } from '../verdict/finding.js';

/** A limit of a test's own shop. */
export const limit = (kind: Limit['kind'], value: number, more: Partial<Limit> = {}): Limit => ({
  kind,
  value,
  unit: 'mm',
  source: 'shop',
  sourceText: 'test rule',
  ...more,
});
