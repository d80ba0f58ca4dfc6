import { ENDS, type End } from '../blade/shape.js';
import { isTrailing, squareDepth, zoneRadiusMm, type PlanInput, type Row } from './problem.js';

export type Passes = Readonly<Record<End, readonly number[]>>;

export interface ForwardStation {
  readonly end: End;
  readonly radiusMm: number;
  readonly areaMm2: number;
  readonly recessionMm: number;
  readonly roomLeftMm: number;
}

/** What a plan does, simulated exactly: the linear programme's own promises are checked against it. */
export interface Forward {
  readonly metalG: number;
  readonly momentGmm: Readonly<Record<End, number>>;
  /** Signed; undefined where no balance reading is there. */
  readonly unbalanceGmm?: number | undefined;
  /** Across the blade, where it was read. */
  readonly acrossGmm?: number | undefined;
  readonly stations: readonly ForwardStation[];
  /** Largest share of the remaining wear any station uses. */
  readonly share: number;
}

/**
 * Area taken at a station by so many passes of each zone, mm².
 * @example areaOfPasses({ perPassMm2: [0.5, 0.25] }, [4, 2]) // 2.5
 */
export function areaOfPasses(row: Row, counts: readonly number[]): number {
  let area = 0;
  for (let z = 0; z < row.perPassMm2.length; z++)
    area += (row.perPassMm2[z] ?? 0) * (counts[z] ?? 0);
  return area;
}

/**
 * How deep the passes of an upright tool have ground an edge square at a station, mm; 0 where none were.
 * @example squareDepthMm(plan, planRows(plan)[0], [4]) // 0
 */
export const squareDepthMm = (
  { zones }: Pick<PlanInput, 'zones'>,
  row: Row,
  counts: readonly number[],
): number =>
  squareDepth(
    row,
    zones.map(({ square }, z) => (square ? (counts[z] ?? 0) : 0)),
  );

/**
 * What a pass of a zone takes off the unbalance across the blade at end A (end B turns the sign), g·mm: metal
 * on the cutting edge stands at +w from the long axis, on the trailing edge at −w.
 * @example acrossPerPassGmm({ ...full, offAxisMm: 25 }) // 15
 */
export const acrossPerPassGmm = (zone: PlanInput['zones'][number]): number =>
  (isTrailing(zone) ? -1 : 1) * zone.gramsPerPass * (zone.offAxisMm ?? 0);

/**
 * Simulates pass counts on the blade: areas, recessions, mass, moments, unbalance. Pure.
 * @example simulatePasses(plan, planRows(plan), { A: [4], B: [4] }).metalG // 4.8
 */
export function simulatePasses(input: PlanInput, rows: readonly Row[], passes: Passes): Forward {
  const grams = (end: End, z: number): number =>
    (passes[end][z] ?? 0) * (input.zones[z]?.gramsPerPass ?? 0);
  const moment = (end: End): number =>
    input.zones.reduce(
      (sum, zone, z) => sum + grams(end, z) * zoneRadiusMm(zone, input.tipRadiusMm),
      0,
    );
  const momentGmm = { A: moment('A'), B: moment('B') };
  const across = (end: End): number =>
    input.zones.reduce((sum, zone, z) => sum + (passes[end][z] ?? 0) * acrossPerPassGmm(zone), 0);
  const acrossBefore = input.balance?.acrossGmm;
  const stations = rows.map((row): ForwardStation => {
    const areaMm2 = areaOfPasses(row, passes[row.end]);
    // An edge ground square stands as deep as that went until the bevel has come back to it.
    const recessionMm = Math.max(
      row.curve.recessionMm(areaMm2),
      squareDepthMm(input, row, passes[row.end]),
    );
    return {
      end: row.end,
      radiusMm: row.station.radiusMm,
      areaMm2,
      recessionMm,
      roomLeftMm: row.station.roomMm - recessionMm,
    };
  });
  return {
    metalG: ENDS.reduce(
      (sum, end) => sum + input.zones.reduce((each, _, z) => each + grams(end, z), 0),
      0,
    ),
    momentGmm,
    unbalanceGmm: input.balance && input.balance.unbalanceGmm - momentGmm.A + momentGmm.B,
    acrossGmm: acrossBefore === undefined ? undefined : acrossBefore - across('A') + across('B'),
    stations,
    share: rows.reduce(
      (most, row, i) =>
        Math.max(most, row.ceilingMm2 > 0 ? (stations[i]?.areaMm2 ?? 0) / row.ceilingMm2 : 0),
      0,
    ),
  };
}
