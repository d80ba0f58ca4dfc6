import { ENDS, type End } from '../blade/shape.js';
import { acrossPerPassGmm, simulatePasses } from '../plan/forward.js';
import type { PlanInput, PlanNick, Row } from '../plan/problem.js';
import { SOFT_G_PER_GMM } from '../plan/bounds.js';
import { straightnesses } from '../plan/straightness.js';
import { finishingZones } from '../plan/two-tools.js';
import { trailingZone, usualZones } from '../plan/zones.js';

/** Chances of our own: the same blades in every run. */
function chances(seed: number): (low: number, high: number) => number {
  let state = seed;
  return (low, high) => {
    state = (Math.imul(state, 1103515245) + 12345) & 0x7fffffff;
    return low + ((high - low) * state) / 0x7fffffff;
  };
}

/** Blades as benches see them, from light wear to hopeless. */
export function blade(
  seed: number,
  { trailing = false, across = false, file = false, finish = 0 } = {},
): PlanInput {
  const between = chances(seed * 7919 + 1);
  const [tipRadiusMm, edge, g] = [
    between(220, 290),
    between(80, 120),
    file ? 0.06 : between(0.3, 0.9),
  ];
  const newBevelDeg = between(28, 32);
  const count = Math.floor(between(6, 13));
  const end = () => {
    const [worn, bevelDeg, landMm] = [between(0, 2.5), between(24, 34), between(0.05, 0.6)];
    const [room, taper] = [between(2, 7), Math.max(0, between(-1.5, 1))];
    return Array.from({ length: count }, (_, i) => ({
      radiusMm: tipRadiusMm - 2 - ((edge - 16) * i) / (count - 1),
      bevelDeg,
      landMm,
      wornMm: worn + taper * (1 - i / (count - 1)),
      roomMm: room - taper * (1 - i / (count - 1)),
    }));
  };
  const offAxisMm = between(22, 30);
  const plain = [...usualZones(edge, g), ...(trailing ? [trailingZone(edge, g)] : [])];
  const fine = finishingZones(
    {
      tool: 'fine',
      counts: finish < 0.1 ? 'stroke' : 'pass',
      zones: usualZones(edge, finish || g),
    },
    plain,
  );
  const nicks = Array.from(
    { length: Math.max(0, Math.floor(between(-2, 4))) },
    (_, i): PlanNick => {
      const depthMm = between(0.2, 1.8);
      return {
        id: String(i),
        end: between(0, 1) < 0.5 ? 'A' : 'B',
        radiusMm: tipRadiusMm - between(2, edge - 12),
        lengthMm: between(2, 10),
        depthMm,
        recessMm: between(0, 1) < 0.5 ? depthMm : Math.max(0, depthMm - 0.8),
      };
    },
  );
  return {
    thicknessMm: between(4, 7),
    tipRadiusMm,
    edgeLengthMm: edge,
    stations: { A: end(), B: end() },
    nicks,
    zones: [
      ...(across ? plain.map((zone) => ({ ...zone, offAxisMm })) : plain),
      ...(finish > 0 ? fine : []),
    ],
    rules: {
      newBevelDeg,
      finishLandMm: 0.15,
      straightness: 0.02,
      tip: { reachMm: 50, mostMm: 0.8 },
      wearWeightG: 6,
      mostPassesPerZone: file ? 600 : 60,
    },
    balance: {
      unbalanceGmm: between(-900, 900),
      uGmm: between(5, 40),
      permissibleGmm: between(40, 260),
      ...(across ? { acrossGmm: between(-60, 60) } : {}),
    },
  };
}

const areaOf = ({ perPassMm2 }: Row, counts: readonly number[]): number =>
  perPassMm2.reduce((sum, each, z) => sum + each * (counts[z] ?? 0), 0);
const isReached = ({ perPassMm2 }: Row): boolean => perPassMm2.some((each) => each > 0);

/** Does an end keep floors, ceilings and straightness? By the definitions alone, nothing of the search's. */
export function isAllowed(
  input: PlanInput,
  rows: readonly Row[],
  end: End,
  counts: readonly number[],
) {
  const bounded = rows.every((row) => {
    const area = areaOf(row, counts);
    const within = area >= row.floorMm2 - 1e-9 && area <= row.ceilingMm2 + 1e-9;
    return row.end !== end || !isReached(row) || within;
  });
  return (
    bounded &&
    straightnesses(input, rows).every(({ end: of, outer, inner, mostMm, oneSided }) => {
      const [o, i] = [rows[outer]!, rows[inner]!];
      if (of !== end || (!isReached(o) && !isReached(i))) return true;
      const back = (row: Row): number =>
        row.station.wornMm + row.curve.recessionMm(areaOf(row, counts));
      const step = back(o) - back(i);
      return (oneSided ? step : Math.abs(step)) <= mostMm + 1e-7;
    })
  );
}

/** Every choice of passes of an end within its ceilings, tried one by one. */
function everyChoice(input: PlanInput, rows: readonly Row[], end: End): number[][] {
  const own = rows.filter((row) => row.end === end && isReached(row));
  const allowed: number[][] = [];
  const counts = input.zones.map(() => 0);
  const next = (zone: number): void => {
    if (zone === counts.length) {
      if (isAllowed(input, rows, end, counts)) allowed.push([...counts]);
      return;
    }
    const { made, leastPasses, mostPasses } = input.zones[zone]!;
    const most = made?.[end] ?? mostPasses ?? input.rules.mostPassesPerZone;
    for (let n = made?.[end] ?? leastPasses ?? 0; n <= most; n++) {
      counts[zone] = n;
      if (own.some((row) => areaOf(row, counts) > row.ceilingMm2 + 1e-9)) break;
      next(zone + 1);
    }
    counts[zone] = 0;
  };
  next(0);
  return allowed;
}

/** The least any two ends cost together, g; Infinity where none may be put together. */
export function leastOfAll(input: PlanInput, rows: readonly Row[]): number {
  const none = input.zones.map(() => 0);
  const [listA, listB] = ENDS.map((end) =>
    everyChoice(input, rows, end).map((counts) => {
      const passes = end === 'A' ? { A: counts, B: none } : { A: none, B: counts };
      const { metalG, momentGmm, share } = simulatePasses(input, rows, passes);
      const across = counts.reduce((sum, n, z) => sum + n * acrossPerPassGmm(input.zones[z]!), 0);
      return { metalG, moment: momentGmm[end], share, across };
    }),
  );
  const { unbalanceGmm, uGmm, permissibleGmm, acrossGmm } = input.balance!;
  let least = Infinity;
  for (const a of listA!) {
    for (const b of listB!) {
      const left = unbalanceGmm - a.moment + b.moment;
      const over = acrossGmm === undefined ? 0 : acrossGmm - a.across + b.across;
      if (Math.hypot(left, over) > permissibleGmm + 1e-6) continue;
      const soft = Math.max(0, Math.abs(left) - Math.max(0, permissibleGmm - 2 * uGmm));
      const wear = input.rules.wearWeightG * Math.max(a.share, b.share);
      least = Math.min(least, a.metalG + b.metalG + wear + SOFT_G_PER_GMM * soft);
    }
  }
  return least;
}
