import { ENDS } from '../blade/shape.js';
import { BenchError, finite, notNegative, positive } from '../errors.js';
import { wheelFace } from '../grinder/wheel.js';
import { STEEL_G_PER_MM3 } from '../metal/edge.js';
import { recessionCurve } from '../metal/recession.js';
import { flatSection } from '../metal/section.js';
/**
 * @example isTrailing({ ...full, edge: 'trailing' }) // true
 */
export const isTrailing = (zone) => zone.edge === 'trailing';
/**
 * Weight of a zone at a radius, 1/mm: flat from the tip, falling linearly over the feather at its inner end.
 * @example zoneWeightPerMm(full, 260, 250) // 0.010526
 */
export function zoneWeightPerMm(zone, tipRadiusMm, radiusMm) {
    const inward = tipRadiusMm - radiusMm;
    const flat = zone.reachMm - zone.featherMm;
    const area = flat + zone.featherMm / 2;
    if (inward < 0 || inward > zone.reachMm)
        return 0;
    return (inward <= flat ? 1 : (zone.reachMm - inward) / zone.featherMm) / area;
}
/**
 * Mean radius of a zone's metal, mm: where its grams act.
 * @example zoneRadiusMm(full, 260) // 212.46
 */
export function zoneRadiusMm(zone, tipRadiusMm) {
    const flat = zone.reachMm - zone.featherMm;
    const area = flat + zone.featherMm / 2;
    const first = (flat * flat) / 2 + (zone.featherMm / 2) * (flat + zone.featherMm / 3);
    return tipRadiusMm - first / area;
}
/** The new face as it is ground, foot at zero recession: a plane, or the wheel's arc above the land. */
function groundSection({ thicknessMm, rules }) {
    const { wheel, finishLandMm, newBevelDeg } = rules;
    return wheel
        ? wheelFace(thicknessMm, wheel, finishLandMm)
        : flatSection(thicknessMm, { bevelDeg: newBevelDeg, landMm: finishLandMm, recessionMm: 0 });
}
/**
 * ΔA against recession at a station: what the plan's floors, ceilings and forward simulation all use.
 * @example stationCurve(plan, stations[0]).sharpenMm2 // 2.479
 */
export function stationCurve(input, station) {
    const before = station.section ??
        flatSection(input.thicknessMm, {
            bevelDeg: station.bevelDeg,
            landMm: station.landMm,
            recessionMm: 0,
        });
    return recessionCurve(before, groundSection(input));
}
/**
 * ΔA at a station for a recession, mm². Increasing in the recession.
 * @example areaForMm2(plan, stations[0], 1) // 8.479
 */
export const areaForMm2 = (input, station, recessionMm) => stationCurve(input, station).areaMm2(recessionMm);
/**
 * Recession for an area taken at a station, mm: ΔA inverted. Less than the sharpening's own area is 0.
 * @example recessionForMm(plan, stations[0], areaForMm2(plan, stations[0], 1)) // 1.000000
 */
export const recessionForMm = (input, station, areaMm2) => stationCurve(input, station).recessionMm(areaMm2);
function checkInput(input) {
    positive('thicknessMm', input.thicknessMm);
    positive('tipRadiusMm', input.tipRadiusMm);
    if (input.zones.length === 0)
        throw new BenchError('zones', 'must hold at least one zone');
    input.zones.forEach((zone, i) => {
        positive(`zones[${i}].gramsPerPass`, zone.gramsPerPass);
        positive(`zones[${i}].reachMm`, zone.reachMm);
        notNegative(`zones[${i}].featherMm`, zone.featherMm);
        if (zone.featherMm > zone.reachMm) {
            throw new BenchError(`zones[${i}].featherMm`, 'must not be longer than the zone', zone.featherMm);
        }
    });
    for (const end of ENDS) {
        if (input.stations[end].length < 2)
            throw new BenchError(`stations.${end}`, 'must hold at least two');
        input.stations[end].forEach((station, i) => {
            finite(`stations.${end}[${i}].roomMm`, station.roomMm);
        });
    }
    input.nicks.forEach((nick, i) => notNegative(`nicks[${i}].recessMm`, nick.recessMm));
}
/**
 * Everything the programme needs, station by station. Errors name the field.
 * @example planRows(plan).length // 10
 */
export function planRows(input) {
    checkInput(input);
    return ENDS.flatMap((end) => [...input.stations[end]]
        .sort((a, b) => b.radiusMm - a.radiusMm)
        .map((station) => {
        const here = input.nicks.filter((nick) => nick.end === end &&
            Math.abs(nick.radiusMm - station.radiusMm) <= nick.lengthMm / 2 + 1e-9);
        const deepest = here.reduce((most, nick) => (nick.recessMm > (most?.recessMm ?? 0) ? nick : most), undefined);
        const curve = stationCurve(input, station);
        return {
            end,
            station,
            curve,
            sharpenMm2: curve.sharpenMm2,
            floorMm2: curve.areaMm2(deepest?.recessMm ?? 0),
            ceilingMm2: curve.areaMm2(Math.max(0, station.roomMm)),
            nickId: deepest?.id,
            perPassMm2: input.zones.map((zone) => isTrailing(zone)
                ? 0
                : (zone.gramsPerPass * zoneWeightPerMm(zone, input.tipRadiusMm, station.radiusMm)) /
                    STEEL_G_PER_MM3),
        };
    }));
}
//# sourceMappingURL=problem.js.map