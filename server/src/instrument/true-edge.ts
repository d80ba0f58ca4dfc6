import type { CycleFacts, CycleState } from '@tally-stone/contract';
import { interpolateMm, type End } from '@tally-stone/core';
import { benchTruth, fixedChance, markTruthMm } from './truth.js';

/** Fine enough for the flank of a nick. */
export const TRUTH_EVERY_MM = 0.1;
const SEEN_MM = 520;
/** Nicks nobody has marked: what a photo finds. Invented. */
const HIDDEN_NICKS = 2;

interface Notch {
  readonly atMm: number;
  readonly depthMm: number;
  readonly lengthMm: number;
}

/** The nicks of an end as they came to the bench: those that were marked, as they truly are, and those nobody saw. */
function notchesOf(state: CycleState, facts: CycleFacts, end: End): Notch[] {
  const chance = (about: string): number => (fixedChance(state.cycleId, `${end} ${about}`) + 1) / 2;
  const hidden = Array.from({ length: HIDDEN_NICKS }, (_, i): Notch => ({
    atMm: 14 + ((i + chance(`notch ${i}`)) / HIDDEN_NICKS) * (facts.spec.edgeLengthMm - 24),
    depthMm: 0.4 + 0.9 * chance(`depth ${i}`),
    lengthMm: 2 + 3 * chance(`length ${i}`),
  }));
  const marked = state.damage
    .filter((mark) => mark.end === end && (mark.kind === 'nick' || mark.kind === 'chip'))
    .map((mark) => ({
      atMm: mark.fromTipMm,
      depthMm: markTruthMm(mark, 'depth'),
      lengthMm: markTruthMm(mark, 'length'),
    }))
    .filter(({ atMm }) => hidden.every((each) => Math.abs(each.atMm - atMm) > 4));
  return [...hidden, ...marked];
}

/** True widths of an end, before its grind or as ground so far. */
export function trueWidthsMm(state: CycleState, facts: CycleFacts, end: End): number[] {
  const { spec } = facts;
  const tipMm = spec.newLengthMm / 2;
  const phase = state.passes.length > 0 ? 'after' : 'before';
  const at = (now: CycleState, of: typeof phase) => {
    const truth = benchTruth(now, facts);
    return spec.stations.map(({ key, radiusMm }) => ({
      radiusMm,
      valueMm: truth.valueAt({ phase: of, quantity: 'width', end, stationKey: key }),
    }));
  };
  const came = at({ ...state, passes: [] }, 'before');
  const is = at(state, phase);
  const notches = notchesOf(state, facts, end);
  const roundMm = 0.6 + 1.2 * ((fixedChance(state.cycleId, `${end} round`) + 1) / 2);
  return Array.from({ length: SEEN_MM / TRUTH_EVERY_MM }, (_, i) => {
    const fromTipMm = i * TRUTH_EVERY_MM;
    if (fromTipMm > spec.edgeLengthMm + 6) return spec.newWidthMm;
    const radiusMm = tipMm - Math.min(fromTipMm, spec.edgeLengthMm);
    const sound = interpolateMm(is, radiusMm);
    const groundMm = interpolateMm(came, radiusMm) - sound;
    const notch = Math.max(
      0,
      ...notches.map(
        ({ atMm, depthMm, lengthMm }) =>
          depthMm * (1 - Math.abs(fromTipMm - atMm) / (lengthMm / 2)) - groundMm,
      ),
    );
    const corner =
      fromTipMm < roundMm
        ? roundMm - Math.sqrt(Math.max(0, roundMm ** 2 - (roundMm - fromTipMm) ** 2))
        : 0;
    const edge = sound - notch - corner;
    const shoulder = Math.max(0, (fromTipMm - spec.edgeLengthMm) / 6);
    return edge + Math.min(1, shoulder) * (spec.newWidthMm - edge);
  });
}
