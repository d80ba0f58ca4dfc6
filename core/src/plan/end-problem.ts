import type { End } from '../blade/shape.js';
import type { RecessionCurve } from '../metal/recession.js';
import { acrossPerPassGmm } from './forward.js';
import { countsAllowed, isTrailing, zoneRadiusMm, type PlanInput, type Row } from './problem.js';
import { straightnesses } from './straightness.js';

export interface Level {
  /** Where the zone stands in the input. */
  readonly zone: number;
  readonly grams: number;
  readonly momentGmm: number;
  readonly acrossGmm: number;
  readonly least: number;
  readonly most: number;
}

/** Neighbouring stations at which the same passes always leave the same recession: one place of the edge. */
export interface Band {
  readonly perPass: readonly number[];
  /** The largest floor and the smallest ceiling of its stations, mm². */
  readonly floor: number;
  readonly ceiling: number;
  readonly curve: RecessionCurve;
  /** The last level that reaches it; -1 where none does. */
  readonly lastLevel: number;
}

/** How far two bands' recessions may differ, outer less inner, mm. */
export interface Link {
  readonly outer: number;
  readonly inner: number;
  readonly leastMm: number;
  readonly mostMm: number;
}

export interface EndProblem {
  readonly levels: readonly Level[];
  /** From the tip inward. */
  readonly bands: readonly Band[];
  /** By level: the bands that no later level reaches, and the links between such. */
  readonly settledAt: readonly (readonly number[])[];
  readonly linksAt: readonly (readonly Link[])[];
  /** By band: how much more it may recede than the next one inward, mm. */
  readonly mostPastNextMm: readonly number[];
}

/** Widest zone first, since it meets most floors; the trailing edge last, since it meets none. */
function levelsOf(input: PlanInput, end: End): Level[] {
  const order = input.zones
    .map((zone, i) => ({ zone, i }))
    .sort(
      (a, b) =>
        Number(isTrailing(a.zone)) - Number(isTrailing(b.zone)) ||
        b.zone.reachMm - a.zone.reachMm ||
        b.zone.gramsPerPass - a.zone.gramsPerPass,
    );
  return order.map(({ zone, i }) => ({
    zone: i,
    grams: zone.gramsPerPass,
    momentGmm: zone.gramsPerPass * zoneRadiusMm(zone, input.tipRadiusMm),
    acrossGmm: acrossPerPassGmm(zone),
    ...countsAllowed(input, zone, end),
  }));
}

const alike = (a: Row, b: Row): boolean =>
  a.station.bevelDeg === b.station.bevelDeg &&
  a.station.landMm === b.station.landMm &&
  a.station.section === undefined &&
  b.station.section === undefined &&
  a.perPassMm2.every((each, z) => each === b.perPassMm2[z]);

export function endProblem(input: PlanInput, rows: readonly Row[], end: End): EndProblem {
  const levels = levelsOf(input, end);
  const own = rows.flatMap((row, i) => (row.end === end ? [{ row, i }] : []));
  const bands: Band[] = [];
  const bandOf = new Map<number, number>();
  for (const [k, { row, i }] of own.entries()) {
    const perPass = levels.map(({ zone }) => row.perPassMm2[zone] ?? 0);
    const before = own[k - 1]?.row;
    const last = bands.at(-1);
    if (before && last && alike(before, row)) {
      const floor = Math.max(last.floor, row.floorMm2);
      const ceiling = Math.min(last.ceiling, row.ceilingMm2);
      bands[bands.length - 1] = { ...last, floor, ceiling };
    } else {
      const { floorMm2: floor, ceilingMm2: ceiling, curve } = row;
      const lastLevel = perPass.findLastIndex((each) => each > 0);
      bands.push({ perPass, floor, ceiling, curve, lastLevel });
    }
    bandOf.set(i, bands.length - 1);
  }
  const links = new Map<string, Link>();
  for (const link of straightnesses(input, rows)) {
    const [outer, inner] = [bandOf.get(link.outer), bandOf.get(link.inner)];
    // Within a band no passes bend the edge.
    if (link.end !== end || outer === undefined || inner === undefined || outer === inner) continue;
    const worn =
      (rows[link.outer] as Row).station.wornMm - (rows[link.inner] as Row).station.wornMm;
    const key = `${outer} ${inner}`;
    const { leastMm = -Infinity, mostMm = Infinity } = links.get(key) ?? {};
    links.set(key, {
      outer,
      inner,
      leastMm: link.oneSided ? leastMm : Math.max(leastMm, -link.mostMm - worn),
      mostMm: Math.min(mostMm, link.mostMm - worn),
    });
  }
  const settledWith = ({ outer, inner }: Link): number =>
    Math.max((bands[outer] as Band).lastLevel, (bands[inner] as Band).lastLevel);
  return {
    levels,
    bands,
    settledAt: levels.map((_, level) =>
      bands.flatMap(({ lastLevel }, i) => (lastLevel === level ? [i] : [])),
    ),
    linksAt: levels.map((_, level) =>
      [...links.values()].filter((link) => settledWith(link) === level),
    ),
    mostPastNextMm: bands.map((_, i) => links.get(`${i} ${i + 1}`)?.mostMm ?? Infinity),
  };
}
