import type { End } from '../blade/shape.js';
import { ENDS } from '../blade/shape.js';
import { BenchError, finite, notNegative, positive, strictlyBetween } from '../errors.js';
import { wheelFace } from '../grinder/wheel.js';
import { STEEL_G_PER_MM3 } from '../metal/edge.js';
import { recessionCurve, type RecessionCurve } from '../metal/recession.js';
import { flatSection, type Section } from '../metal/section.js';

/**
 * The grind plan's problem, made linear in removed area. A pass of zone z takes g_z grams spread along the
 * edge by a weight w_z(r) with ∫w = 1, so the area taken at station s is a_s = Σ n_z·g_z·w_z(r_s)/ρ, and mass
 * and moments are linear in the pass counts too. What sharpening and nicks ask for becomes a floor
 * a_s ≥ ΔA(floor), the width limit a ceiling a_s ≤ ΔA(ceiling), ΔA being increasing in the recession.
 */
export interface PlanStation {
  /** mm from the hole centre. */
  readonly radiusMm: number;
  readonly bevelDeg: number;
  readonly landMm: number;
  /** The section as the last grind left it (a compound bevel), foot at zero; else bevel and land say it. */
  readonly section?: Section | undefined;
  /** How far the edge stands behind the new blade's already, mm. */
  readonly wornMm: number;
  /** How far it may still go back before the width limit, mm. */
  readonly roomMm: number;
}

export interface PlanNick {
  readonly id: string;
  readonly end: End;
  readonly radiusMm: number;
  /** Along the edge, mm. */
  readonly lengthMm: number;
  readonly depthMm: number;
  /** What has to come off here: the depth to clear it, depth − d to leave the last d, 0 to leave it. */
  readonly recessMm: number;
}

/** Where a pass goes and what it takes. Weights are feathered at the zone's inner end. */
export interface PlanZone {
  readonly key: string;
  /** The tool the pass is made with, where a blade is ground on more than one. */
  readonly tool?: string | undefined;
  /** A pass on the trailing (back) edge takes metal for balance alone; the cutting edge is the default. */
  readonly edge?: 'cutting' | 'trailing' | undefined;
  /** The tool is held upright: the edge is ground square, as deep as that takes, and blunt. */
  readonly square?: boolean | undefined;
  /** The zone begins this far in from the tip, mm, and is feathered there too; at the tip where it is not said. */
  readonly fromMm?: number | undefined;
  /** The zone reaches this far in from the tip, mm. */
  readonly reachMm: number;
  readonly featherMm: number;
  readonly gramsPerPass: number;
  /** Distance of the edge from the blade's long axis, mm; only where balance across the blade is known. */
  readonly offAxisMm?: number | undefined;
  /** Own bound on passes, where the shop sets one (a trailing edge, say). */
  readonly mostPasses?: number | undefined;
  /** At least so many at either end: the tool that finishes goes over the whole edge. */
  readonly leastPasses?: number | undefined;
  /** Made with a tool that is not taken up again: just these, no more and no fewer. */
  readonly made?: Readonly<Record<End, number>> | undefined;
}

export interface PlanRules {
  readonly newBevelDeg: number;
  /** Land the finish leaves, mm: 0 razor, 0.15 working, 0.5 blunt. */
  readonly finishLandMm: number;
  /** Largest slope of the edge against the new blade's, mm per mm. */
  readonly straightness: number;
  /** Weight of the largest share of remaining wear any station uses, g. */
  readonly wearWeightG: number;
  readonly mostPassesPerZone: number;
  /** The tip stays square: over the outermost `reachMm` the edge may fall back by no more than `mostMm`. */
  readonly tip?: { readonly reachMm: number; readonly mostMm: number } | undefined;
  /** A step this much larger than straightness and tip allow is taken into the bargain, mm. */
  readonly stepMm?: number | undefined;
  /** Where the tool is a wheel, its arc is what is ground; `newBevelDeg` is then only for show. */
  readonly wheel?: { readonly radiusMm: number; readonly centreHeightMm: number } | undefined;
}

export interface PlanInput {
  readonly thicknessMm: number;
  readonly tipRadiusMm: number;
  readonly edgeLengthMm: number;
  readonly stations: Readonly<Record<End, readonly PlanStation[]>>;
  readonly nicks: readonly PlanNick[];
  readonly zones: readonly PlanZone[];
  readonly rules: PlanRules;
  /** Signed, positive end A heavy. Without it only the sharpening is planned. */
  readonly balance?:
    | {
        readonly unbalanceGmm: number;
        readonly uGmm: number;
        readonly permissibleGmm: number;
        /** Unbalance across the blade, positive toward end A's cutting edge; the limit is then on both. */
        readonly acrossGmm?: number | undefined;
      }
    | undefined;
  /** Which end hangs low where nobody measured how much: it decides the order of the ends alone. */
  readonly heavyEnd?: End | undefined;
  /** What this blade loses per grind: prices nicks in grinds of life. */
  readonly recessionPerGrindMm?: number | undefined;
}

/**
 * @example isTrailing({ ...full, edge: 'trailing' }) // true
 */
export const isTrailing = (zone: PlanZone): boolean => zone.edge === 'trailing';

/**
 * How many passes of a zone an end may be given. A trailing edge's own bound, the finish's least, what was made with a
 * tool that is laid down: each only where it is said.
 * @example countsAllowed(plan, { ...full, made: { A: 4, B: 3 } }, 'B') // { least: 3, most: 3 }
 */
export const countsAllowed = (
  { rules }: Pick<PlanInput, 'rules'>,
  { made, leastPasses, mostPasses }: PlanZone,
  end: End,
): { readonly least: number; readonly most: number } => ({
  least: made?.[end] ?? leastPasses ?? 0,
  most: made?.[end] ?? mostPasses ?? rules.mostPassesPerZone,
});

/** Length of edge that would take as much, ground evenly, mm. */
const evenLengthMm = ({ fromMm = 0, reachMm, featherMm }: PlanZone): number =>
  reachMm - fromMm - (fromMm > 0 ? featherMm : featherMm / 2);

/**
 * Weight of a zone at a radius, 1/mm: even, and falling linearly over the feather at its inner end; rising over another
 * where it does not begin at the tip.
 * @example zoneWeightPerMm(full, 260, 250) // 0.010526
 */
export function zoneWeightPerMm(zone: PlanZone, tipRadiusMm: number, radiusMm: number): number {
  const { fromMm = 0, reachMm, featherMm } = zone;
  const inward = tipRadiusMm - radiusMm;
  if (inward < fromMm || inward > reachMm) return 0;
  const falls = inward > reachMm - featherMm ? (reachMm - inward) / featherMm : 1;
  const rises = fromMm > 0 && inward < fromMm + featherMm ? (inward - fromMm) / featherMm : 1;
  return Math.min(falls, rises) / evenLengthMm(zone);
}

/** Where a zone takes less than this share of what it takes outside its feather, the grind is running out. */
const RUNS_OUT_BELOW = 0.5;

/**
 * Whether some zone takes its metal at a radius, rather than running out there: a nick in the last millimetres of
 * the widest zone is cleared by no number of passes that leaves the rest of the edge straight.
 * @example isInReach({ zones: [full], tipRadiusMm: 260 }, 162) // false
 */
export const isInReach = (
  { zones, tipRadiusMm }: Pick<PlanInput, 'zones' | 'tipRadiusMm'>,
  radiusMm: number,
): boolean =>
  zones.some((zone) => {
    if (isTrailing(zone)) return false;
    return zoneWeightPerMm(zone, tipRadiusMm, radiusMm) >= RUNS_OUT_BELOW / evenLengthMm(zone);
  });

/**
 * Mean radius of a zone's metal, mm: where its grams act.
 * @example zoneRadiusMm(full, 260) // 212.46
 */
export function zoneRadiusMm(zone: PlanZone, tipRadiusMm: number): number {
  const { fromMm = 0, reachMm, featherMm } = zone;
  // Feathered at both ends it is even about its middle.
  if (fromMm > 0) return tipRadiusMm - (fromMm + reachMm) / 2;
  const flat = reachMm - featherMm;
  const first = (flat * flat) / 2 + (featherMm / 2) * (flat + featherMm / 3);
  return tipRadiusMm - first / evenLengthMm(zone);
}

/** The new face as it is ground, foot at zero recession: a plane, or the wheel's arc above the land. */
function groundSection({ thicknessMm, rules }: PlanInput): Section {
  const { wheel, finishLandMm, newBevelDeg } = rules;
  return wheel
    ? wheelFace(thicknessMm, wheel, finishLandMm)
    : flatSection(thicknessMm, { bevelDeg: newBevelDeg, landMm: finishLandMm, recessionMm: 0 });
}

const sectionBefore = (
  { thicknessMm }: Pick<PlanInput, 'thicknessMm'>,
  { section, bevelDeg, landMm }: PlanStation,
): Section => section ?? flatSection(thicknessMm, { bevelDeg, landMm, recessionMm: 0 });

/**
 * ΔA against recession at a station: what the plan's floors, ceilings and forward simulation all use.
 * @example stationCurve(plan, stations[0]).sharpenMm2 // 2.479
 */
export const stationCurve = (input: PlanInput, station: PlanStation): RecessionCurve =>
  recessionCurve(sectionBefore(input, station), groundSection(input));

/**
 * ΔA at a station for a recession, mm². Increasing in the recession.
 * @example areaForMm2(plan, stations[0], 1) // 8.479
 */
export const areaForMm2 = (input: PlanInput, station: PlanStation, recessionMm: number): number =>
  stationCurve(input, station).areaMm2(recessionMm);

/**
 * Recession for an area taken at a station, mm: ΔA inverted. Less than the sharpening's own area is 0.
 * @example recessionForMm(plan, stations[0], areaForMm2(plan, stations[0], 1)) // 1.000000
 */
export const recessionForMm = (input: PlanInput, station: PlanStation, areaMm2: number): number =>
  stationCurve(input, station).recessionMm(areaMm2);

/** One station with its floor and ceiling in area and the passes that reach it. */
export interface Row {
  readonly end: End;
  readonly station: PlanStation;
  readonly curve: RecessionCurve;
  /** Area of the sharpening alone, mm². */
  readonly sharpenMm2: number;
  readonly floorMm2: number;
  readonly ceilingMm2: number;
  /** The nick that sets the floor, if one does. */
  readonly nickId?: string | undefined;
  /** mm² per pass of each zone. */
  readonly perPassMm2: readonly number[];
  /** Area against depth of an edge ground square, where a zone of the plan is. */
  readonly square?: RecessionCurve | undefined;
}

/**
 * How deep upright passes, by zone, have ground a station square, mm.
 * @example squareDepth(planRows(plan)[0], [4]) // 0
 */
export function squareDepth(
  { square, perPassMm2 }: Pick<Row, 'square' | 'perPassMm2'>,
  upright: readonly number[],
): number {
  const area = perPassMm2.reduce((sum, each, z) => sum + each * (upright[z] ?? 0), 0);
  return square && area > 0 ? square.recessionMm(area) : 0;
}

/** A wall: what a tool that is held upright leaves. */
const wall = (thicknessMm: number): Section => [
  { yMm: 0, sMm: 0 },
  { yMm: thicknessMm, sMm: 0 },
];

function checkInput(input: PlanInput): void {
  positive('thicknessMm', input.thicknessMm);
  positive('tipRadiusMm', input.tipRadiusMm);
  if (input.zones.length === 0)
    throw new BenchError('zones', $localize`must hold at least one zone`);
  input.zones.forEach((zone, i) => {
    positive(`zones[${i}].gramsPerPass`, zone.gramsPerPass);
    positive(`zones[${i}].reachMm`, zone.reachMm);
    notNegative(`zones[${i}].featherMm`, zone.featherMm);
    if (zone.leastPasses !== undefined) notNegative(`zones[${i}].leastPasses`, zone.leastPasses);
    if (zone.made)
      ENDS.forEach((end) => notNegative(`zones[${i}].made.${end}`, zone.made?.[end] ?? 0));
    notNegative(`zones[${i}].fromMm`, zone.fromMm ?? 0);
    if (zone.featherMm > zone.reachMm - (zone.fromMm ?? 0) / 2) {
      throw new BenchError(
        `zones[${i}].featherMm`,
        $localize`must not be longer than the zone`,
        zone.featherMm,
      );
    }
  });
  for (const end of ENDS) {
    if (input.stations[end].length < 2)
      throw new BenchError(`stations.${end}`, $localize`must hold at least two`);
    input.stations[end].forEach((station, i) => {
      const at = `stations.${end}[${i}]`;
      positive(`${at}.radiusMm`, station.radiusMm);
      strictlyBetween(`${at}.bevelDeg`, station.bevelDeg, 0, 90);
      notNegative(`${at}.landMm`, station.landMm);
      finite(`${at}.wornMm`, station.wornMm);
      finite(`${at}.roomMm`, station.roomMm);
    });
  }
  input.nicks.forEach((nick, i) => {
    positive(`nicks[${i}].radiusMm`, nick.radiusMm);
    notNegative(`nicks[${i}].lengthMm`, nick.lengthMm);
    notNegative(`nicks[${i}].recessMm`, nick.recessMm);
  });
  const { rules, balance } = input;
  strictlyBetween('rules.newBevelDeg', rules.newBevelDeg, 0, 90);
  notNegative('rules.finishLandMm', rules.finishLandMm);
  notNegative('rules.straightness', rules.straightness);
  notNegative('rules.wearWeightG', rules.wearWeightG);
  positive('rules.mostPassesPerZone', rules.mostPassesPerZone);
  if (rules.tip) {
    positive('rules.tip.reachMm', rules.tip.reachMm);
    notNegative('rules.tip.mostMm', rules.tip.mostMm);
  }
  if (balance) {
    finite('balance.unbalanceGmm', balance.unbalanceGmm);
    notNegative('balance.uGmm', balance.uGmm);
    positive('balance.permissibleGmm', balance.permissibleGmm);
    if (balance.acrossGmm !== undefined) finite('balance.acrossGmm', balance.acrossGmm);
  }
}

/**
 * Everything the programme needs, station by station. Errors name the field.
 * @example planRows(plan).length // 10
 */
export function planRows(input: PlanInput): Row[] {
  checkInput(input);
  const nicksAt = (end: End, radiusMm: number): PlanNick[] =>
    input.nicks.filter(
      (nick) => nick.end === end && Math.abs(nick.radiusMm - radiusMm) <= nick.lengthMm / 2 + 1e-9,
    );
  return ENDS.flatMap((end) =>
    input.stations[end]
      // A place that is there for a nick where the grind runs out asks for nothing: the nick is left, and said to be.
      .filter(({ radiusMm }) => isInReach(input, radiusMm) || nicksAt(end, radiusMm).length === 0)
      .sort((a, b) => b.radiusMm - a.radiusMm)
      .map((station): Row => {
        const here = nicksAt(end, station.radiusMm);
        const deepest = here.reduce<PlanNick | undefined>(
          (most, nick) => (nick.recessMm > (most?.recessMm ?? 0) ? nick : most),
          undefined,
        );
        const curve = stationCurve(input, station);
        const perPassMm2 = input.zones.map((zone) =>
          isTrailing(zone)
            ? 0
            : (zone.gramsPerPass * zoneWeightPerMm(zone, input.tipRadiusMm, station.radiusMm)) /
              STEEL_G_PER_MM3,
        );
        const square = input.zones.some((zone) => zone.square)
          ? recessionCurve(sectionBefore(input, station), wall(input.thicknessMm))
          : undefined;
        // Where it was ground square the bevel has to come back to that.
        const made = input.zones.map((zone) => (zone.square ? (zone.made?.[end] ?? 0) : 0));
        const squareMm = squareDepth({ square, perPassMm2 }, made);
        return {
          end,
          station,
          curve,
          ...(square ? { square } : {}),
          sharpenMm2: curve.sharpenMm2,
          floorMm2: curve.areaMm2(Math.max(deepest?.recessMm ?? 0, squareMm)),
          ceilingMm2: curve.areaMm2(Math.max(0, station.roomMm)),
          nickId: deepest?.id,
          perPassMm2,
        };
      }),
  );
}
