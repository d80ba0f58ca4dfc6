import {
  ENDS,
  flatSection,
  fromItsFoot,
  hollowFace,
  permissibleGmm,
  recessionCurve,
  resultingSection,
  STEEL_G_PER_MM3,
  withLand,
  type End,
  type Section,
  type Wheel,
} from '@tally-stone/core';
import type { SpecFigures } from '@tally-stone/contract';
import type { Dice } from './dice.js';

/** The true state of an invented blade, which the demo's technician reads with small errors. */
export interface TrueBlade {
  readonly bladeId: string;
  readonly code: string;
  readonly spec: SpecFigures;
  massG: number;
  thicknessMm: number;
  wingMm: Record<End, number>;
  landMm: Record<End, number>;
  bevelDeg: Record<End, number>;
  /** The edge's own section without its land, foot at zero. */
  face: Record<End, Section>;
  widthMm: Record<End, Record<string, number>>;
  tipMm: Record<End, number>;
  /** Finished cycles, those since everything was read, and when that was (ms). */
  cycles: number;
  cyclesSinceLook: number;
  lookedAt: number;
}

const perEnd = <T>(make: (end: End) => T): Record<End, T> => ({ A: make('A'), B: make('B') });

export function newBlade(bladeId: string, code: string, spec: SpecFigures, dice: Dice): TrueBlade {
  const bevelDeg = perEnd(() => spec.bevelDeg + dice.normal(0, 0.6));
  return {
    bladeId,
    code,
    spec,
    massG: spec.newMassG + dice.normal(0, 4),
    thicknessMm: spec.thicknessMm,
    wingMm: perEnd(() => spec.wingMm),
    landMm: perEnd(() => dice.between(0.3, 0.5)),
    bevelDeg,
    face: perEnd((end) =>
      flatSection(spec.thicknessMm, { bevelDeg: bevelDeg[end], landMm: 0, recessionMm: 0 }),
    ),
    widthMm: perEnd(() =>
      Object.fromEntries(
        spec.stations.map(({ key }) => [key, spec.newWidthMm - dice.between(0, 0.2)]),
      ),
    ),
    tipMm: perEnd(() => 40 + dice.normal(0, 0.2)),
    cycles: 0,
    cyclesSinceLook: 0,
    lookedAt: 0,
  };
}

/** A spell of mowing: edges go blunt, the tip wears most, wings thin, sand takes a little mass. */
export function mow(blade: TrueBlade, dice: Dice): void {
  for (const end of ENDS) {
    blade.landMm[end] = dice.between(0.4, 0.75);
    blade.wingMm[end] -= dice.between(0.02, 0.08);
    blade.spec.stations.forEach(({ key }, i) => {
      blade.widthMm[end][key] = (blade.widthMm[end][key] ?? 0) - dice.between(0.02, 0.12) / (i + 1);
    });
  }
  blade.massG -= dice.between(0.5, 1.5);
}

/** Grinds one end by `recessionMm` at the tip, tapering inward, down to a working edge: a plane, or a wheel's arc. */
export function grindEnd(
  blade: TrueBlade,
  end: End,
  recessionMm: number,
  dice: Dice,
  wheel?: Wheel,
): void {
  const { spec } = blade;
  const { thicknessMm } = spec;
  const landMm = dice.between(0.12, 0.18);
  const bevelDeg = spec.bevelDeg + dice.normal(0, 0.5);
  const taken = spec.stations.map(({ key, radiusMm }, i) => ({
    key,
    radiusMm,
    gone: recessionMm * ([1, 0.85, 0.6][Math.min(i, 2)] ?? 1),
  }));
  const before = withLand(blade.face[end], blade.landMm[end]);
  const ground = wheel
    ? hollowFace(thicknessMm, { bevelDeg, landMm, wheel })
    : flatSection(thicknessMm, { bevelDeg, landMm, recessionMm: 0 });
  const { meanAreaMm2 } = recessionCurve(before, ground);
  const tip = spec.newLengthMm / 2;
  const along = [
    { radiusMm: tip, gone: taken[0]?.gone ?? recessionMm },
    ...taken,
    { radiusMm: tip - spec.edgeLengthMm, gone: taken.at(-1)?.gone ?? recessionMm },
  ];
  along.slice(1).forEach(({ radiusMm, gone }, i) => {
    const outer = along[i];
    if (!outer) return;
    blade.massG -=
      STEEL_G_PER_MM3 * meanAreaMm2(outer.gone, gone) * Math.abs(outer.radiusMm - radiusMm);
  });
  for (const { key, gone } of taken) {
    blade.widthMm[end][key] = (blade.widthMm[end][key] ?? 0) - gone;
  }
  const mean = taken.reduce((sum, { gone }) => sum + gone, 0) / taken.length;
  const moved = ground.map(({ yMm, sMm }) => ({ yMm, sMm: sMm + mean }));
  blade.face[end] = fromItsFoot(resultingSection(before, moved));
  blade.landMm[end] = landMm;
  blade.bevelDeg[end] = bevelDeg;
}

/** What a blade is out by, g·mm, heavy at A above zero, once it is ground so that it is within what is allowed. */
export function leftUnbalanced({ massG, spec }: TrueBlade, dice: Dice): number {
  const allowedGmm = permissibleGmm(massG, spec.bladeSpeedRpm, spec.gradeMmPerS);
  return (dice.chance(0.5) ? 1 : -1) * dice.between(0.1, 0.85) * allowedGmm;
}

/** What it was out by before so much was ground from either end, g·mm, heavy at A above zero. */
export const unbalanceBefore = (
  { spec }: TrueBlade,
  afterGmm: number,
  groundG: Record<End, number>,
): number => afterGmm + (groundG.A - groundG.B) * (spec.newLengthMm / 2 - spec.edgeLengthMm / 2);
