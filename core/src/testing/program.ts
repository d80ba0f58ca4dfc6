import { ENDS, type End } from '../blade/shape.js';
import { acrossPerPassGmm } from '../plan/forward.js';
import { zoneRadiusMm, type PlanInput, type Row } from '../plan/problem.js';
import { SOFT_G_PER_GMM } from '../plan/bounds.js';
import { straightnesses } from '../plan/straightness.js';

const n = (end: End, zone: number): string => `n_${end}_${zone}`;

/** A number an LP file can hold. */
const num = (value: number): string => {
  const text = value.toFixed(9);
  return value < 0 ? `- ${text.slice(1)}` : `+ ${text}`;
};
const term = (value: number, name: string): string => (value === 0 ? '' : ` ${num(value)} ${name}`);

/** Recession of a row as tangent + slope·area, the tangent laid where sharpening ends. */
interface Tangent {
  readonly slope: number;
  readonly atZero: number;
}
function tangentOf(row: Row): Tangent {
  const slope = 1 / Math.max(1e-6, row.curve.reachMm(0));
  return { slope, atZero: -slope * row.curve.areaMm2(0) };
}

/** Recession in area by tangents: exact where the new face has reached the whole height already. */
function straightRows(input: PlanInput, rows: readonly Row[], constraints: string[]): void {
  for (const { name, end, outer: o, inner: i, mostMm, oneSided } of straightnesses(input, rows)) {
    const outer = rows[o];
    const inner = rows[i];
    if (!outer || !inner) continue;
    const to = tangentOf(outer);
    const ti = tangentOf(inner);
    const base = outer.station.wornMm - inner.station.wornMm + to.atZero - ti.atZero;
    const terms = input.zones
      .map((_, z) =>
        term(
          (outer.perPassMm2[z] ?? 0) * to.slope - (inner.perPassMm2[z] ?? 0) * ti.slope,
          n(end, z),
        ),
      )
      .join('');
    if (terms.trim() === '') continue;
    constraints.push(`su${name}:${terms} <= ${mostMm - base}`);
    if (!oneSided) constraints.push(`sl${name}:${terms} >= ${-mostMm - base}`);
  }
}

/** Sixteen directions: inside all of them at cos(π/16) of the radius is inside the circle. */
const DIRECTIONS = 16;

/** The limit is on √(Ux² + Uy²) where the unbalance across the blade is known too. */
function circleRows(input: PlanInput, constraints: string[]): void {
  const { balance } = input;
  if (balance?.acrossGmm === undefined) return;
  const reach = balance.permissibleGmm * Math.cos(Math.PI / DIRECTIONS);
  for (let k = 0; k < DIRECTIONS; k++) {
    const angle = (2 * Math.PI * (k + 0.5)) / DIRECTIONS;
    const [c, s] = [Math.cos(angle), Math.sin(angle)];
    const terms = ENDS.flatMap((end) =>
      input.zones.map((zone, z) => {
        const along = zone.gramsPerPass * zoneRadiusMm(zone, input.tipRadiusMm);
        return term((end === 'A' ? -1 : 1) * (c * along + s * acrossPerPassGmm(zone)), n(end, z));
      }),
    ).join('');
    constraints.push(
      `ci_${k}:${terms} <= ${reach - c * balance.unbalanceGmm - s * balance.acrossGmm}`,
    );
  }
}

function balanceRows(input: PlanInput, constraints: string[]): void {
  const { balance } = input;
  if (!balance) return;
  const terms = ENDS.flatMap((end) =>
    input.zones.map((zone, z) =>
      term(
        (end === 'A' ? -1 : 1) * zone.gramsPerPass * zoneRadiusMm(zone, input.tipRadiusMm),
        n(end, z),
      ),
    ),
  ).join('');
  constraints.push(`bu:${terms} <= ${balance.permissibleGmm - balance.unbalanceGmm}`);
  constraints.push(`bl:${terms} >= ${-balance.permissibleGmm - balance.unbalanceGmm}`);
  circleRows(input, constraints);
  // Uncertainty is held back softly: staying inside by it is worth a little metal, never the plan.
  const inner = Math.max(0, balance.permissibleGmm - 2 * balance.uGmm);
  constraints.push(`hu:${terms} - soft <= ${inner - balance.unbalanceGmm}`);
  constraints.push(`hl:${terms} + soft >= ${-inner - balance.unbalanceGmm}`);
}

function stationRows(input: PlanInput, rows: readonly Row[], constraints: string[]): void {
  rows.forEach((row, i) => {
    const terms = input.zones.map((_, z) => term(row.perPassMm2[z] ?? 0, n(row.end, z))).join('');
    if (terms === '') return;
    if (row.floorMm2 > 0) constraints.push(`fl_${i}:${terms} >= ${row.floorMm2}`);
    // A share of at most one is the ceiling itself.
    constraints.push(
      row.ceilingMm2 > 0
        ? `sh_${i}:${terms} - ${row.ceilingMm2} share <= 0`
        : `ce_${i}:${terms} <= 0`,
    );
  });
}

/** Metal + λ·share + softness, as an LP expression. */
function metalTerms(input: PlanInput): string {
  const metal = ENDS.flatMap((end) =>
    input.zones.map((zone, z) => term(zone.gramsPerPass, n(end, z))),
  ).join('');
  const soft = input.balance ? term(SOFT_G_PER_GMM, 'soft') : '';
  return `${metal}${term(input.rules.wearWeightG, 'share')}${soft}`;
}

/**
 * The grind plan as a mixed-integer programme in CPLEX LP format, by tangents of recession: a second opinion on the exact
 * search, and the same where recession is linear in area.
 */
export function programText(input: PlanInput, rows: readonly Row[]): string {
  const constraints: string[] = [];
  stationRows(input, rows, constraints);
  straightRows(input, rows, constraints);
  balanceRows(input, constraints);
  const counts = ENDS.flatMap((end) =>
    input.zones.map(
      ({ mostPasses }, z) => [n(end, z), mostPasses ?? input.rules.mostPassesPerZone] as const,
    ),
  );
  return [
    'Minimize',
    ` obj:${metalTerms(input)}`,
    'Subject To',
    ...constraints.map((line) => ` ${line}`),
    'Bounds',
    ...counts.map(([count, most]) => ` 0 <= ${count} <= ${most}`),
    ' 0 <= share <= 1',
    'General',
    ...counts.map(([count]) => ` ${count}`),
    'End',
    '',
  ].join('\n');
}
