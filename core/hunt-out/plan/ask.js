import { permissibleGmm } from '../balance/unbalance.js';
import { heightForEdgeBevelMm, heightForMeanBevelMm } from '../grinder/wheel.js';
import { nearestChoices } from './choices.js';
import { nickCost, planGrind } from './plan.js';
import { bevelToGrindDeg, FINISH_LAND_MM, nickRecessMm, } from './schools.js';
/** The grades a shop may turn to, mm/s. */
export const GRADES_MM_PER_S = [16, 40];
/**
 * Where the centre of a wheel stands for a bevel aimed at, by the edge or over the face; nothing for a plane.
 * @example wheelSet({ radiusMm: 101.6, aim: 'edge' }, 30, 6.35).centreHeightMm // 87.99
 */
export function wheelSet(wheel, bevelDeg, thicknessMm) {
    if (!wheel)
        return undefined;
    const { radiusMm, aim } = wheel;
    const centreHeightMm = aim === 'mean'
        ? heightForMeanBevelMm(radiusMm, bevelDeg, thicknessMm)
        : heightForEdgeBevelMm(radiusMm, bevelDeg);
    return { radiusMm, centreHeightMm };
}
/**
 * Puts the schools to the blade: what comes off at each nick, the bevel and land to grind, the zones that may
 * be used, the balance allowed. Pure; the screen asks again with another school without asking the server.
 * @example rounded(askPlan(situation, schools).input.nicks[0].recessMm) // 0.8
 */
export function askPlan(situation, schools, chosen = {}) {
    const newBevelDeg = bevelToGrindDeg(schools.bevel, {
        specDeg: situation.specBevelDeg,
        fixedDeg: schools.fixedBevelDeg,
        measuredDeg: situation.measuredBevelsDeg,
    });
    const nicks = situation.nicks.map((nick) => {
        const choice = chosen[nick.id];
        const policy = choice === 'clear'
            ? { kind: 'clear-all' }
            : choice === 'leave'
                ? { kind: 'leave-all' }
                : schools.nicks;
        return { ...nick, recessMm: nickRecessMm(policy, nick.depthMm) };
    });
    const allowed = (grade) => permissibleGmm(situation.massG, situation.speedRpm, grade);
    const { balance } = situation;
    return {
        input: {
            thicknessMm: situation.thicknessMm,
            tipRadiusMm: situation.tipRadiusMm,
            edgeLengthMm: situation.edgeLengthMm,
            stations: situation.stations,
            nicks,
            zones: schools.balancePlace === 'cutting'
                ? situation.zones
                : [...situation.zones, situation.trailing],
            rules: {
                ...situation.shape,
                newBevelDeg,
                finishLandMm: FINISH_LAND_MM[schools.finish],
                wheel: wheelSet(situation.wheel, newBevelDeg, situation.thicknessMm),
            },
            balance: balance && {
                ...balance,
                permissibleGmm: allowed(schools.gradeMmPerS ?? situation.specGradeMmPerS),
            },
            heavyEnd: situation.heavyEnd,
            wear: situation.wear,
        },
        turned: Object.fromEntries(nicks.map(({ id, recessMm, depthMm }) => [id, recessMm < depthMm ? depthMm : 0])),
        grades: GRADES_MM_PER_S.map((grade) => ({
            name: `G ${grade}`,
            gradeMmPerS: grade,
            permissibleGmm: allowed(grade),
        })),
    };
}
/**
 * Answers a question whole; the same function in the screen's worker and in the server's.
 * @example answerPlan(askPlan(situation, schools), solve).plan.kind // 'plan'
 */
export function answerPlan({ input, turned, grades }, solve) {
    const plan = planGrind(input, solve);
    if (plan.kind === 'no-plan') {
        return { plan, nicks: [], choices: nearestChoices(input, plan, grades, solve) };
    }
    return {
        plan,
        nicks: input.nicks.map((nick) => nickCost(input, plan, nick, turned[nick.id] ?? 0, solve)),
        choices: [],
    };
}
/**
 * HiGHS as a plan's solver, with no gap left open.
 * @example highsSolver({ solve: () => ({ Status: 'Optimal', ObjectiveValue: 2, Columns: {} }) })('').objective // 2
 */
export const highsSolver = (highs) => (text) => {
    const { Status, ObjectiveValue, Columns } = highs.solve(text, { mip_rel_gap: 0 });
    return {
        status: Status,
        objective: ObjectiveValue,
        values: Object.fromEntries(Object.entries(Columns).map(([name, column]) => [
            name,
            'Primal' in column ? Number(column.Primal) : 0,
        ])),
    };
};
//# sourceMappingURL=ask.js.map