import { barInertiaGmm2, calibrateShaft, simulatedDropS, unbalanceFromDrops, } from '../index.js';
/** A small repeatable generator, so that every run sees the same readings. */
function chances(seed) {
    let state = seed;
    return () => {
        state = (Math.imul(state, 1664525) + 1013904223) >>> 0;
        return (state + 0.5) / 2 ** 32;
    };
}
const normal = (chance) => Math.sqrt(-2 * Math.log(chance())) * Math.cos(2 * Math.PI * chance());
const bladeMassG = 1600;
const barGmm2 = barInertiaGmm2(bladeMassG, 533, 63.5);
/** One timed group on a shaft as the physics integrates it, with a hand's reaction at start and stop. */
function timed(shaft, weightG, end, turned, handS, drops = 3) {
    const radiusMm = 200;
    const own = shaft.ownGmm + (turned ? -shaft.offsetGmm : shaft.offsetGmm);
    const time = simulatedDropS({
        inertiaGmm2: barGmm2 * shaft.factor + weightG * radiusMm ** 2,
        unbalanceGmm: weightG * radiusMm + (end === 'A' ? own : -own),
        massG: bladeMassG,
        belowPivotMm: 0,
        frictionGmm: shaft.frictionGmm,
        dampingPerS: 0,
    }, 90, 2e-3) ?? 0;
    return {
        weightG,
        radiusMm,
        end,
        turned,
        timesS: Array.from({ length: drops }, () => time + handS()),
    };
}
const allDrops = (shaft, handS = () => 0) => [
    timed(shaft, 1.5, 'A', false, handS),
    timed(shaft, 1.5, 'B', false, handS),
    timed(shaft, 6, 'A', false, handS),
    timed(shaft, 6, 'B', false, handS),
    timed(shaft, 1.5, 'A', true, handS),
    timed(shaft, 1.5, 'B', true, handS),
];
describe('calibrating a shaft with known weights', () => {
    const shaft = { frictionGmm: 14, factor: 1.03, ownGmm: 70, offsetGmm: 40 };
    it('finds friction, inertia, the blade’s own unbalance and the centring of an integrated swing', () => {
        const found = calibrateShaft({ bladeMassG, inertiaGmm2: barGmm2, drops: allDrops(shaft) });
        expect(found.frictionGmm.value).toBeCloseTo(14, 1);
        expect(found.inertiaFactor.value).toBeCloseTo(1.03, 3);
        expect(found.bladeGmm.value).toBeCloseTo(70, 1);
        expect(found.centringMm?.value).toBeCloseTo(40 / bladeMassG, 4);
        expect(found.misfit).toBeLessThan(0.05);
    });
    it('says its doubt honestly: 2u holds the truth in 90 to 99 of 100 calibrations by hand', () => {
        const chance = chances(7);
        const rounds = 100;
        let held = 0;
        for (let i = 0; i < rounds; i++) {
            const found = calibrateShaft({
                bladeMassG,
                inertiaGmm2: barGmm2,
                drops: allDrops(shaft, () => 0.07 * normal(chance)),
            });
            if (Math.abs(found.frictionGmm.value - 14) < 2 * found.frictionGmm.u)
                held += 1;
        }
        expect(held).toBeGreaterThanOrEqual(90);
        expect(held).toBeLessThanOrEqual(100);
    });
    it('makes a drop of another blade true that is read low without it', () => {
        const found = calibrateShaft({ bladeMassG, inertiaGmm2: barGmm2, drops: allDrops(shaft) });
        const unbalanceGmm = 90;
        const time = simulatedDropS({
            inertiaGmm2: barGmm2 * shaft.factor,
            unbalanceGmm,
            massG: bladeMassG,
            belowPivotMm: 0,
            frictionGmm: shaft.frictionGmm,
            dampingPerS: 0,
        }, 90, 1e-3) ?? 0;
        const read = (frictionGmm, factor) => unbalanceFromDrops([time], { inertiaGmm2: barGmm2 * factor, markDeg: 90, frictionGmm }, { bladeMassG, centringMm: 0 }).unbalance.value;
        expect(read(found.frictionGmm.value, found.inertiaFactor.value)).toBeCloseTo(unbalanceGmm, 0);
        expect(read(0, 1)).toBeLessThan(0.86 * unbalanceGmm);
    });
    it('never gives a friction below none', () => {
        const free = { ...shaft, frictionGmm: 0 };
        const short = allDrops(free).map((group) => ({
            ...group,
            timesS: group.timesS.map((time) => (group.weightG < 2 ? time - 0.05 : time)),
        }));
        const found = calibrateShaft({ bladeMassG, inertiaGmm2: barGmm2, drops: short });
        expect(found.frictionGmm.value).toBe(0);
        expect(found.frictionGmm.u).toBeGreaterThan(0);
    });
    it('shows by its misfit that a weight was noted wrongly', () => {
        const wrong = allDrops(shaft).map((group, i) => (i === 2 ? { ...group, weightG: 5 } : group));
        expect(calibrateShaft({ bladeMassG, inertiaGmm2: barGmm2, drops: wrong }).misfit).toBeGreaterThan(2);
    });
    it('names what is missing', () => {
        const all = allDrops(shaft);
        const with_ = (drops) => () => calibrateShaft({ bladeMassG, inertiaGmm2: barGmm2, drops });
        expect(with_(all.filter(({ end }) => end === 'A'))).toThrowError(/end A and at end B/);
        expect(with_(all.filter(({ weightG }) => weightG < 2))).toThrowError(/twice as heavy/);
        expect(with_(all.map((group) => ({ ...group, timesS: [] })))).toThrowError(/drops\[0\]\.timesS/);
        expect(with_(all.map((group) => ({ ...group, weightG: -1 })))).toThrowError(/weightG/);
    });
    it('leaves the centring open where the blade was not turned', () => {
        const straight = allDrops({ ...shaft, offsetGmm: 0 }).filter(({ turned }) => !turned);
        expect(calibrateShaft({ bladeMassG, inertiaGmm2: barGmm2, drops: straight }).centringMm).toBeUndefined();
    });
});
describe('a drop’s doubt', () => {
    it('grows with the doubt of the friction and shrinks once the inertia is known', () => {
        const setUp = { inertiaGmm2: barGmm2, markDeg: 90, frictionGmm: 10 };
        const doubt = (more) => unbalanceFromDrops([6, 6.02, 5.99], setUp, { bladeMassG, centringMm: 0, ...more }).unbalance
            .u;
        expect(doubt({ frictionU: 10 })).toBeGreaterThan(doubt({}) + 4);
        expect(doubt({ inertiaRelativeU: 0.015 })).toBeLessThan(doubt({}));
    });
});
//# sourceMappingURL=calibration.spec.js.map