import { situation } from '../testing/examples.js';
import { answerPlan, askPlan, type Schools } from './ask.js';
import { simulatePasses, squareDepthMm } from './forward.js';
import { brokenPromises, planGrind, type GrindPlan } from './plan.js';
import { isInReach, planRows, zoneRadiusMm, zoneWeightPerMm } from './problem.js';
import { dressing } from './square-first.js';
import { innerZone, squareZone, usualZones } from './zones.js';

const SCHOOLS: Schools = {
  finish: 'working',
  bevel: 'spec',
  fixedBevelDeg: 30,
  nicks: { kind: 'leave-to', depthMm: 0.4 },
  balancePlace: 'cutting',
};
const EDGE_MM = 100;
const deep = {
  ...situation,
  edgeLengthMm: EDGE_MM,
  zones: usualZones(EDGE_MM, 0.6),
  square: squareZone(EDGE_MM, 0.8),
  nicks: [{ id: 'n', end: 'A' as const, radiusMm: 235, lengthMm: 6, depthMm: 2.4 }],
};
const planned = (of: typeof deep, schools: Schools): GrindPlan => {
  const { plan } = answerPlan(askPlan(of, schools));
  if (plan.kind !== 'plan') throw new Error('no plan');
  return plan;
};

describe('an edge dressed square first', () => {
  const square = { ...SCHOOLS, squareFirst: true };
  const { input, upright } = askPlan(deep, square);
  const at = upright?.zone ?? -1;
  const plan = planned(deep, square);
  const count = plan.passes.A[at] ?? 0;
  const dressed = { ...input, zones: dressing(input.zones, count) };
  const rows = planRows(dressed);

  it('goes down to what may be left of the nick and no pass further, both ends alike', () => {
    expect(plan.passes.B[at]).toBe(count);
    const nick = rows.find(({ end, station }) => end === 'A' && station.radiusMm === 235);
    if (!nick) throw new Error('no station at the nick');
    const depthAfter = (n: number): number =>
      squareDepthMm(
        dressed,
        nick,
        dressed.zones.map((_, z) => (z === at ? n : 0)),
      );
    expect(depthAfter(count)).toBeGreaterThanOrEqual(2.4 - 0.4);
    expect(depthAfter(count - 1)).toBeLessThan(2.4 - 0.4);
  });

  it('has its bevel back to the square edge everywhere, and keeps every other promise', () => {
    expect(brokenPromises(dressed, plan.passes)).toEqual([]);
    rows.forEach((row, i) => {
      const depth = squareDepthMm(dressed, row, plan.passes[row.end]);
      const bevelled = row.curve.recessionMm(plan.forward.stations[i]?.areaMm2 ?? 0);
      expect(bevelled).toBeGreaterThanOrEqual(depth - 1e-6);
    });
  });

  it('stands as deep as it was ground square until the bevel is back', () => {
    const upright = dressed.zones.map((_, z) => (z === at ? count : 0));
    const halfWay = simulatePasses(dressed, rows, { A: upright, B: upright });
    const [row] = rows;
    if (!row) throw new Error('no station');
    // Depth by area of a plane with a land, worked out by hand.
    const area = count * (row.perPassMm2[at] ?? 0);
    const { landMm, bevelDeg } = row.station;
    const slope = Math.tan((bevelDeg * Math.PI) / 180);
    const depth = (Math.sqrt(landMm ** 2 + 2 * slope * area) - landMm) / slope;
    expect(halfWay.stations[0]?.recessionMm).toBeCloseTo(depth, 6);
    expect(row.curve.recessionMm(area)).toBeLessThan(depth);
  });

  it('is offered with its price where a nick is deep, and is the plain plan where none is', () => {
    const { plan: plain, squareFirst } = answerPlan(askPlan(deep, SCHOOLS));
    expect(squareFirst?.kind).toBe('square-first');
    expect(squareFirst?.metalG).toBeCloseTo(plan.forward.metalG, 9);
    expect(plain.kind === 'plan' && plain.forward.metalG).toBeLessThan(plan.forward.metalG);
    // A finer tool after it is priced with the edge dressed, as the plan is once it is chosen.
    const file = { tool: 'file', counts: 'stroke' as const, zones: usualZones(EDGE_MM, 0.06) };
    const coarse = { ...deep, zones: usualZones(EDGE_MM, 2.6) };
    const { finishOn } = answerPlan(askPlan({ ...coarse, finer: [file] }, square));
    const { plan: then } = answerPlan(askPlan({ ...coarse, then: file }, square));
    expect(then.kind === 'plan' && then.forward.metalG).toBeCloseTo(finishOn?.metalG ?? 0, 9);
    expect(then.kind === 'plan' && then.passes.A.at(-1)).toBe(count);
    const none = { ...deep, nicks: [] };
    expect(answerPlan(askPlan(none, SCHOOLS)).squareFirst).toBeUndefined();
    expect(planned(none, square).passes).toEqual(planned(none, SCHOOLS).passes);
    const made = [{ ...deep.square, tool: 'disc', made: { A: 3, B: 3 } }];
    expect(askPlan({ ...deep, made }, square).upright).toBeUndefined();
  });
});

describe('a curved edge on two tables', () => {
  const zones = [usualZones(EDGE_MM, 0.6)[1]!, innerZone(EDGE_MM, 0.6)];

  it('is even where both get as many passes, and every zone spreads its whole metal', () => {
    for (const zone of zones) {
      let [whole, moment] = [0, 0];
      for (let inward = 0.05; inward < EDGE_MM; inward += 0.1) {
        const weight = zoneWeightPerMm(zone, 260, 260 - inward) * 0.1;
        whole += weight;
        moment += weight * (260 - inward);
      }
      expect(whole).toBeCloseTo(1, 3);
      expect(moment / whole).toBeCloseTo(zoneRadiusMm(zone, 260), 1);
    }
    // Over the joint one falls as the other rises. Each zone takes by its share of the length.
    const takenAt = (inward: number): number =>
      zones.reduce(
        (sum, zone) => sum + zone.gramsPerPass * zoneWeightPerMm(zone, 260, 260 - inward),
        0,
      );
    for (const inward of [42, 45, 48]) {
      expect(takenAt(inward) / takenAt(10)).toBeGreaterThan(0.9);
      expect(takenAt(inward) / takenAt(10)).toBeLessThan(1.1);
    }
  });

  it('is planned by its own zones, none over the whole edge, and keeps every promise', () => {
    const curved = { ...situation, nicks: [], zones: usualZones(EDGE_MM, 0.6), byTable: zones };
    const { input } = askPlan(curved, { ...SCHOOLS, secondTable: true });
    expect(input.zones.map(({ key }) => key)).toEqual(['outer-half', 'inner']);
    const plan = planGrind(input);
    if (plan.kind !== 'plan') throw new Error('no plan');
    expect(Math.min(...plan.passes.A, ...plan.passes.B)).toBeGreaterThan(0);
    expect(brokenPromises(input, plan.passes)).toEqual([]);
    expect(askPlan(curved, SCHOOLS).input.zones[0]?.key).toBe('full');
    expect(isInReach(input, 260 - 60)).toBeTrue();
    expect(isInReach(input, 260 - 97)).toBeFalse();
  });
});
