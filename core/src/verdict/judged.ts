import type { End, Station } from '../blade/shape.js';
import type { Measured } from '../reading/uncertainty.js';
import type { DamageKind } from '../vocabulary/damage.js';
import type { LimitKind } from '../vocabulary/limits.js';
import type { BenchQuantity } from '../vocabulary/quantities.js';
import type { Finding, Limit, Severity } from './finding.js';
import type { EdgeHeld } from './retire-by.js';

/** A reading as the verdict sees it: the mean of its repeats, and whether it was taken this time. */
export interface JudgedReading extends Measured {
  readonly repeated: boolean;
  readonly carried: boolean;
  /** Nobody has measured it yet: the spec's figure of a new blade stands for it. */
  readonly fromSpec?: boolean | undefined;
  /** Worked out from the counted passes rather than carried from an earlier cycle. */
  readonly predicted?: boolean | undefined;
}

export interface JudgedWidth extends JudgedReading {
  readonly end: End;
  readonly stationKey: string;
}

export interface JudgedDamage {
  readonly id: string;
  readonly kind: DamageKind;
  readonly end: End;
  readonly fromTipMm: number;
  readonly depthMm: number;
  /** Told by itself to be cleared whole or left, against the shop's policy. */
  readonly choice?: 'clear' | 'leave' | undefined;
}

/** The spec revision as far as judging needs it. Lengths mm, mass g. */
export interface JudgedSpec {
  readonly newMassG: number;
  readonly newLengthMm: number;
  readonly newWidthMm: number;
  readonly wingMm: number;
  readonly bevelDeg: number;
  readonly bevelToleranceDeg: number;
  readonly edgeLengthMm: number;
  readonly stations: readonly Station[];
  readonly limits: readonly Limit[];
}

/** The schools a shop has chosen, as far as judging needs them. */
export interface JudgedRules {
  /** Nicks and chips up to this depth are left standing, mm; nothing where all are left. */
  readonly leaveNicksToMm: number | undefined;
  /** The flat a working edge may keep, mm; above it the edge counts as dull. */
  readonly dullLandMm: number;
  /** What one ordinary grind takes from the width here, mm: the blade's own history, else the shop's guess. */
  readonly recessionPerGrindMm: number;
}

/** Everything a verdict is made from. Readings not there yet give no finding. */
export interface JudgeInput {
  readonly spec: JudgedSpec;
  readonly rules: JudgedRules;
  readonly crack?: { readonly found: boolean; readonly where?: string | undefined } | undefined;
  /** What stands for a quantity, of the blade or of one end; widths stand by themselves below. */
  readonly read: (quantity: BenchQuantity, end?: End) => JudgedReading | undefined;
  readonly widths: readonly JudgedWidth[];
  readonly damage: readonly JudgedDamage[];
  readonly grinds: number;
  /** Used when it came: of the grinds before nobody knows. */
  readonly cameUsed?: boolean | undefined;
  /** Judged before the grind: a blade that needs one and has had all it may have is at its end now, not after the work. */
  readonly beforeGrind?: boolean | undefined;
  /** Hours its last edge was on, in the school that looks at them, with the share that is too short. */
  readonly edgeHeld?: (EdgeHeld & { readonly share: number }) | undefined;
}

export interface Judgement {
  readonly verdict: Severity;
  /** Worst first. */
  readonly findings: readonly Finding[];
}

/** The first limit of a kind, and of a station where it has one. */
export const limitOf = (
  { limits }: Pick<JudgedSpec, 'limits'>,
  kind: LimitKind,
  stationKey?: string,
): Limit | undefined =>
  limits.find(
    (limit) => limit.kind === kind && (stationKey === undefined || limit.stationKey === stationKey),
  );
