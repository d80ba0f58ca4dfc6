import { between, notNegative, positive } from '../errors.js';
import type { Finding, Limit } from './finding.js';

/**
 * By what a shop retires: measured wear limits, a count of grinds on top of them, or also when a blade no longer
 * holds an edge. Measured limits count in every school: a crack, a bend or a thin wing is no matter of schools.
 */
export type RetireSchool =
  | { readonly kind: 'limits' }
  | { readonly kind: 'count'; readonly grinds: number }
  | { readonly kind: 'wont-hold'; readonly share: number };

/**
 * A spec's limits under the shop's school: a count of grinds is added where the spec has none of its own, since the
 * maker's or the spec's figure wins. Errors: `grinds` below one.
 * @example limitsUnder({ kind: 'count', grinds: 4 }, []).map(({ kind, value }) => [kind, value]) // [['grinds', 4]]
 */
export function limitsUnder(school: RetireSchool, limits: readonly Limit[]): Limit[] {
  if (school.kind !== 'count' || limits.some(({ kind }) => kind === 'grinds')) return [...limits];
  return [
    ...limits,
    {
      kind: 'grinds',
      value: positive('grinds', school.grinds),
      unit: 'grinds',
      source: 'shop',
      sourceText: $localize`retire after ${school.grinds} grinds, whatever is left`,
    },
  ];
}

/** How long a blade's last edge was on, and how long edges of its spec usually are, mowing hours. */
export interface EdgeHeld {
  readonly lastH: number;
  readonly usualH: number;
}

/**
 * Does a blade still hold an edge: worth a watch where its last edge came in after less than a share of what its spec
 * usually holds. The technician decides; hours on the edge are no measurement of steel. Common practice, no source.
 * Errors: hours negative, `share` outside 0 to 1.
 * @example holdsEdge({ lastH: 4, usualH: 12 }, 0.5)?.severity // 'watch'
 */
export function holdsEdge({ lastH, usualH }: EdgeHeld, share: number): Finding | undefined {
  between('share', share, 0, 1);
  notNegative('lastH', lastH);
  if (lastH >= share * notNegative('usualH', usualH)) return undefined;
  return {
    id: 'holds-edge',
    reason: 'holds-edge',
    severity: 'watch',
    usual: usualH,
    value: lastH,
    limit: share * usualH,
    unit: 'h',
    margin: lastH - share * usualH,
    source: { by: 'wont-hold' },
  };
}
