import { BenchError, notNegative, strictlyBetween } from '../errors.js';

/** A nick this deep is dressed square before the bevel is brought back, mm. Common practice, no source. */
export const DEEP_NICK_MM = 1.5;

/** The schools of the trade, as a shop (or one blade) may follow them. Common practice, no source. */
export const FINISHES = ['razor', 'working', 'blunt'] as const;
export type Finish = (typeof FINISHES)[number];
/** The land a finish leaves, mm. */
export const FINISH_LAND_MM: Readonly<Record<Finish, number>> = {
  razor: 0,
  working: 0.15,
  blunt: 0.6,
};

export const BEVEL_POLICIES = ['spec', 'follow', 'fixed'] as const;
export type BevelPolicy = (typeof BEVEL_POLICIES)[number];

/** Clear every nick, leave those up to a depth, or leave all. */
export type NickPolicy =
  | { readonly kind: 'clear-all' }
  | { readonly kind: 'leave-to'; readonly depthMm: number }
  | { readonly kind: 'leave-all' };

/**
 * What has to come off at a nick: its depth to clear it ("the new edge passes the nick's bottom"), depth − d
 * where the last d may stay, nothing where it is left.
 * Example: a nick of 1.6 mm with up to 0.8 mm left asks for 0.8 mm.
 * @example nickRecessMm({ kind: 'leave-to', depthMm: 0.8 }, 1.6) // 0.8
 */
export function nickRecessMm(policy: NickPolicy, depthMm: number): number {
  notNegative('depthMm', depthMm);
  if (policy.kind === 'clear-all') return depthMm;
  if (policy.kind === 'leave-all') return 0;
  return Math.max(0, depthMm - notNegative('policy.depthMm', policy.depthMm));
}

/**
 * The bevel to grind: the spec's, the one that is there (mean of both ends as read), or one for all.
 * Errors: `measuredDeg` where the bevel is to be followed and nobody read it.
 * @example bevelToGrindDeg('follow', { specDeg: 30, fixedDeg: 28, measuredDeg: [31, 33] }) // 32
 */
export function bevelToGrindDeg(
  policy: BevelPolicy,
  angles: {
    readonly specDeg: number;
    readonly fixedDeg: number;
    readonly measuredDeg: readonly number[];
  },
): number {
  const { specDeg, fixedDeg, measuredDeg } = angles;
  if (policy === 'spec') return strictlyBetween('specDeg', specDeg, 0, 90);
  if (policy === 'fixed') return strictlyBetween('fixedDeg', fixedDeg, 0, 90);
  if (measuredDeg.length === 0)
    throw new BenchError('measuredDeg', $localize`must hold a reading of the bevel to follow it`);
  return measuredDeg.reduce((sum, each) => sum + each, 0) / measuredDeg.length;
}
