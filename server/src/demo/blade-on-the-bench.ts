import { ENDS, metalRemoved, type End } from '@tally-stone/core';
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
  widthMm: Record<End, Record<string, number>>;
  tipMm: Record<End, number>;
  /** Finished cycles, those since everything was read, and when that was (ms). */
  cycles: number;
  cyclesSinceLook: number;
  lookedAt: number;
}

const perEnd = <T>(make: (end: End) => T): Record<End, T> => ({ A: make('A'), B: make('B') });

export function newBlade(bladeId: string, code: string, spec: SpecFigures, dice: Dice): TrueBlade {
  return {
    bladeId,
    code,
    spec,
    massG: spec.newMassG + dice.normal(0, 4),
    thicknessMm: spec.thicknessMm,
    wingMm: perEnd(() => spec.wingMm),
    landMm: perEnd(() => dice.between(0.3, 0.5)),
    bevelDeg: perEnd(() => spec.bevelDeg + dice.normal(0, 0.6)),
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

/** Grinds one end by `recessionMm` at the tip, tapering inward, down to a working edge. */
export function grindEnd(blade: TrueBlade, end: End, recessionMm: number, dice: Dice): void {
  const { spec } = blade;
  const landAfter = dice.between(0.12, 0.18);
  const bevelAfter = spec.bevelDeg + dice.normal(0, 0.5);
  const taken = spec.stations.map((station, i) => ({
    ...station,
    recessionMm: recessionMm * ([1, 0.85, 0.6][Math.min(i, 2)] ?? 1),
  }));
  const stationAt = (radiusMm: number, recession: number) => ({
    radiusMm,
    recessionMm: recession,
    beforeBevelDeg: blade.bevelDeg[end],
    beforeLandMm: blade.landMm[end],
    afterBevelDeg: bevelAfter,
    afterLandMm: landAfter,
  });
  const tip = spec.newLengthMm / 2;
  const outer = taken[0]?.recessionMm ?? recessionMm;
  const inner = taken.at(-1)?.recessionMm ?? recessionMm;
  blade.massG -= metalRemoved(blade.thicknessMm, [
    stationAt(tip, outer),
    ...taken.map((station) => stationAt(station.radiusMm, station.recessionMm)),
    stationAt(tip - spec.edgeLengthMm, inner),
  ]).massG;
  for (const { key, recessionMm: gone } of taken) {
    blade.widthMm[end][key] = (blade.widthMm[end][key] ?? 0) - gone;
  }
  blade.landMm[end] = landAfter;
  blade.bevelDeg[end] = bevelAfter;
}
