import { createHash } from 'node:crypto';
import {
  type CycleState,
  type DamageKind,
  type ReadingPlace,
  type CycleFacts,
} from '@tally-stone/contract';
import {
  carriedAt,
  placeKey,
  schoolsOf,
  bevelAimDeg,
  predictedAt,
  removalOf,
  zonesOfTool,
  historyKey,
} from '@tally-stone/cycle';
import {
  barInertiaGmm2,
  DAMAGE,
  QUANTITIES,
  FINISH_LAND_MM,
  outer50RadiusMm,
  permissibleGmm,
  USUAL_PASS_G,
  zoneRadiusMm,
  type End,
} from '@tally-stone/core';

/**
 * The blade that lies on the simulated instruments: what it truly is, which no screen is told. Made from its
 * last readings and a mower's work since, the same every time for one cycle, changed by each counted pass.
 */
export interface BenchTruth {
  readonly valueAt: (place: ReadingPlace) => number;
  /** Signed, positive end A heavy. */
  readonly unbalanceGmm: number;
  readonly massG: number;
  readonly inertiaGmm2: number;
}

/** A number in −1…1 that belongs to one cycle and one question for good. */
export function fixedChance(cycleId: string, question: string): number {
  const digest = createHash('sha256').update(`${cycleId} ${question}`).digest();
  return digest.readUInt32BE(0) / 2 ** 31 - 1;
}

/** A used blade that nobody has measured yet. Invented. */
const HALF_WORN = 0.95;

export function benchTruth(state: CycleState, facts: CycleFacts): BenchTruth {
  const { spec } = facts;
  const chance = (question: string): number => fixedChance(state.cycleId, question);
  const last = (place: Omit<ReadingPlace, 'phase'>): number | undefined =>
    facts.last[historyKey(place)]?.value;
  /** What came to the bench: the last reading, and what mowing has taken since. */
  const brought = (place: ReadingPlace): number => {
    const before = last(place);
    const about = chance(placeKey({ ...place, phase: 'before' }));
    switch (place.quantity) {
      case 'mass':
        return (before ?? spec.newMassG) - 1 - 0.4 * about;
      case 'width':
        return (
          (carriedAt(facts, place)?.value ?? HALF_WORN * spec.newWidthMm) - 0.06 - 0.04 * about
        );
      case 'bevel':
        return (before ?? spec.bevelDeg) + 0.3 * about;
      case 'face':
        return (spec.thicknessMm - 0.4) / Math.sin(((before ?? spec.bevelDeg) * Math.PI) / 180);
      case 'land':
        return 0.5 + 0.12 * about;
      case 'tip-height':
        return 40 + 0.4 * about;
      case 'length':
        return (before ?? spec.newLengthMm) - 0.1;
      case 'thickness':
        return before ?? spec.thicknessMm - 0.02;
      case 'wing':
        return (before ?? spec.wingMm) - 0.05 - 0.03 * about;
      case 'hole-wear':
        return (before ?? 0.05) + 0.01;
      case 'straightedge-gap':
        return 0.5 + 0.2 * about;
      default: {
        const { whenNew, changePerCycle } = QUANTITIES[place.quantity];
        return (before ?? whenNew?.value ?? 0) - changePerCycle * (0.4 + 0.2 * about);
      }
    }
  };
  /** This tool, today: a little off what it has taught us. */
  const eager = 1 + 0.08 * chance('tool');
  const ground = (end: End): boolean => state.passes.some((passes) => passes.end === end);
  const valueAt = (place: ReadingPlace): number => {
    const before = brought(place);
    if (state.passes.length === 0 || (place.end && !ground(place.end))) return before;
    const about = chance(placeKey({ ...place, phase: 'after' }));
    if (place.quantity === 'land')
      return FINISH_LAND_MM[schoolsOf(state, facts).finish] + 0.02 * about;
    if (place.quantity === 'bevel') return bevelAimDeg(state, facts) + 0.6 * about;
    if (place.quantity === 'mass') return before - removedG(state, facts) * eager;
    if (place.quantity !== 'width') return before;
    const start = predictedAt({ ...state, passes: [] }, facts, { ...place, phase: 'after' });
    const end = predictedAt(state, facts, { ...place, phase: 'after' });
    return before - eager * Math.max(0, (start?.value ?? 0) - (end?.value ?? 0));
  };
  const massG = valueAt({ phase: 'before', quantity: 'mass' });
  const allowed = permissibleGmm(massG, facts.speedRpm, spec.gradeMmPerS);
  const came =
    allowed * (0.6 + 1.4 * Math.abs(chance('unbalance'))) * Math.sign(chance('heavy end'));
  const moved = state.passes.reduce(
    (sum, passes) =>
      sum +
      (passes.end === 'A' ? -1 : 1) *
        passes.count *
        gramsOf(facts, passes) *
        eager *
        radiusOf(facts, passes),
    0,
  );
  const inertiaGmm2 = BAR_SHARE * barInertiaGmm2(massG, spec.newLengthMm, spec.newWidthMm);
  return { valueAt, unbalanceGmm: came + moved, massG, inertiaGmm2 };
}

/** What damage is truly like, beside its usual depth: the middle and the most it lies about it. Invented. */
const TRUE_DEPTH = [1.4, 0.6] as const;
const DAMAGE_LENGTH_MM = [7, 4] as const;

/** How deep or long a mark on the simulated blade truly is, mm: the same for good, told to no screen. */
export function markTruthMm(
  { damageId, kind }: { readonly damageId: string; readonly kind: DamageKind },
  what: 'depth' | 'length',
): number {
  const [middle, spread] = what === 'depth' ? TRUE_DEPTH : DAMAGE_LENGTH_MM;
  const scale = what === 'depth' ? DAMAGE[kind].usualDepthMm : 1;
  return scale * (middle + spread * fixedChance(damageId, what));
}

type Passes = CycleState['passes'][number];

const zoneOf = (facts: CycleFacts, passes: Passes) => {
  const removal = removalOf(passes, facts);
  return removal && zonesOfTool(removal).find(({ key }) => key === passes.zone);
};
const gramsOf = (facts: CycleFacts, passes: Passes): number =>
  zoneOf(facts, passes)?.gramsPerPass ?? USUAL_PASS_G;
const radiusOf = (facts: CycleFacts, passes: Passes): number => {
  const tip = facts.spec.newLengthMm / 2;
  const found = zoneOf(facts, passes);
  return found ? zoneRadiusMm(found, tip) : outer50RadiusMm(tip);
};
const removedG = (state: CycleState, facts: CycleFacts): number =>
  state.passes.reduce((sum, passes) => sum + passes.count * gramsOf(facts, passes), 0);

/** What a blade on the shaft truly is. */
export type HungTruth = Pick<BenchTruth, 'unbalanceGmm' | 'massG' | 'inertiaGmm2'>;

/** The simulated check blade is not quite in balance, and the shaft holds it a little off centre. */
export const CHECK_BLADE_GMM = 45;
export const SHAFT_OFF_CENTRE_MM = 0.015;
/** Real blades taper: a little less than a bar of the same size. */
export const BAR_SHARE = 0.983;

export const offCentreGmm = (massG: number, turned: boolean): number =>
  massG * SHAFT_OFF_CENTRE_MM * (turned ? -1 : 1);

/** The check blade with a known weight at one end. */
export function checkBladeTruth(hung: {
  readonly massG: number;
  readonly lengthMm: number;
  readonly widthMm: number;
  readonly weightG: number;
  readonly radiusMm: number;
  readonly end: End;
  readonly turned: boolean;
}): HungTruth {
  const { massG, lengthMm, widthMm, weightG, radiusMm, end, turned } = hung;
  return {
    unbalanceGmm:
      CHECK_BLADE_GMM + offCentreGmm(massG, turned) + (end === 'A' ? 1 : -1) * weightG * radiusMm,
    massG: massG + weightG,
    inertiaGmm2: BAR_SHARE * barInertiaGmm2(massG, lengthMm, widthMm) + weightG * radiusMm ** 2,
  };
}
