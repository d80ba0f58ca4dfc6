import { ENDS } from '../blade/shape.js';
import { isTrailing, zoneRadiusMm } from './problem.js';
/**
 * Area taken at a station by so many passes of each zone, mm².
 * @example areaOfPasses({ perPassMm2: [0.5, 0.25] }, [4, 2]) // 2.5
 */
export function areaOfPasses(row, counts) {
    let area = 0;
    for (let z = 0; z < row.perPassMm2.length; z++)
        area += (row.perPassMm2[z] ?? 0) * (counts[z] ?? 0);
    return area;
}
/**
 * What a pass of a zone takes off the unbalance across the blade at end A (end B turns the sign), g·mm: metal
 * on the cutting edge stands at +w from the long axis, on the trailing edge at −w.
 * @example acrossPerPassGmm({ ...full, offAxisMm: 25 }) // 15
 */
export const acrossPerPassGmm = (zone) => (isTrailing(zone) ? -1 : 1) * zone.gramsPerPass * (zone.offAxisMm ?? 0);
/**
 * Simulates pass counts on the blade: areas, recessions, mass, moments, unbalance. Pure.
 * @example simulatePasses(plan, planRows(plan), { A: [4], B: [4] }).metalG // 4.8
 */
export function simulatePasses(input, rows, passes) {
    const grams = (end, z) => (passes[end][z] ?? 0) * (input.zones[z]?.gramsPerPass ?? 0);
    const moment = (end) => input.zones.reduce((sum, zone, z) => sum + grams(end, z) * zoneRadiusMm(zone, input.tipRadiusMm), 0);
    const momentGmm = { A: moment('A'), B: moment('B') };
    const across = (end) => input.zones.reduce((sum, zone, z) => sum + (passes[end][z] ?? 0) * acrossPerPassGmm(zone), 0);
    const acrossBefore = input.balance?.acrossGmm;
    const stations = rows.map((row) => {
        const areaMm2 = areaOfPasses(row, passes[row.end]);
        const recessionMm = row.curve.recessionMm(areaMm2);
        return {
            end: row.end,
            radiusMm: row.station.radiusMm,
            areaMm2,
            recessionMm,
            roomLeftMm: row.station.roomMm - recessionMm,
        };
    });
    return {
        metalG: ENDS.reduce((sum, end) => sum + input.zones.reduce((each, _, z) => each + grams(end, z), 0), 0),
        momentGmm,
        unbalanceGmm: input.balance && input.balance.unbalanceGmm - momentGmm.A + momentGmm.B,
        acrossGmm: acrossBefore === undefined ? undefined : acrossBefore - across('A') + across('B'),
        stations,
        share: rows.reduce((most, row, i) => Math.max(most, row.ceilingMm2 > 0 ? (stations[i]?.areaMm2 ?? 0) / row.ceilingMm2 : 0), 0),
    };
}
//# sourceMappingURL=forward.js.map