import { ENDS, type End } from '../blade/shape.js';
import { acrossPerPassGmm } from './forward.js';
import { zoneRadiusMm, type PlanInput, type Row } from './problem.js';

/** What a solver answers to a programme in CPLEX LP format. */
export interface SolverAnswer {
  readonly status: string;
  readonly objective: number;
  readonly values: Readonly<Record<string, number>>;
}
/** A mixed-integer solver; the core names none. */
export type SolveProgram = (lpText: string) => SolverAnswer;

/** Which demands may bend, for a price, so that an impossible plan can say what is in its way. */
export type Bendable = 'floor' | 'straightness' | 'balance';

const n = (end: End, zone: number): string => `n_${end}_${zone}`;

/** A number an LP file can hold. */
const num = (value: number): string => {
  const text = value.toFixed(9);
  return value < 0 ? `- ${text.slice(1)}` : `+ ${text}`;
};
const term = (value: number, name: string): string => (value === 0 ? '' : ` ${num(value)} ${name}`);

interface Built {
  readonly constraints: string[];
  readonly slacks: string[];
}

/** Recession of a row as tangent + slope·area, the tangent laid where sharpening ends. */
interface Tangent {
  readonly slope: number;
  readonly atZero: number;
}
function tangentOf(row: Row): Tangent {
  const slope = 1 / Math.max(1e-6, row.curve.reachMm(0));
  return { slope, atZero: -slope * row.curve.areaMm2(0) };
}

/** How far two places of one edge may differ, against new: the rule, or the taper that stands already. */
export interface Straightness {
  readonly name: string;
  readonly end: End;
  readonly outer: number;
  readonly inner: number;
  readonly mostMm: number;
  /** Only the outer place falling behind counts (the tip). */
  readonly oneSided: boolean;
}

/**
 * Every straightness the plan must keep: neighbour against neighbour, and the tip against the edge behind it.
 * @example straightnesses(plan, planRows(plan)).length // 8
 */
export function straightnesses(input: PlanInput, rows: readonly Row[]): Straightness[] {
  const { straightness, tip, stepMm = 0 } = input.rules;
  return ENDS.flatMap((end) => {
    const along = rows.flatMap((row, i) => (row.end === end ? [{ row, i }] : []));
    const pairs = along.slice(1).flatMap((inner, k): Straightness[] => {
      const outer = along[k];
      if (!outer) return [];
      const apart = outer.row.station.radiusMm - inner.row.station.radiusMm;
      const standing = Math.abs(outer.row.station.wornMm - inner.row.station.wornMm);
      return [
        {
          name: `t_${end}_${k + 1}`,
          end,
          outer: outer.i,
          inner: inner.i,
          mostMm: Math.max(straightness * apart, standing) + stepMm,
          oneSided: false,
        },
      ];
    });
    const [tipmost] = along;
    const behind =
      tip &&
      along.find(
        ({ row }) => (tipmost?.row.station.radiusMm ?? 0) - row.station.radiusMm >= tip.reachMm,
      );
    if (!tip || !tipmost || !behind) return pairs;
    const standing = tipmost.row.station.wornMm - behind.row.station.wornMm;
    return [
      ...pairs,
      {
        name: `t_${end}_tip`,
        end,
        outer: tipmost.i,
        inner: behind.i,
        mostMm: Math.max(tip.mostMm, standing) + stepMm,
        oneSided: true,
      },
    ];
  });
}

/** Recession in area by tangents: exact where the new face has reached the whole height already. */
function straightRows(input: PlanInput, rows: readonly Row[], bend: boolean, built: Built): void {
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
    const slack = bend ? ` - ${name}` : '';
    const slackUp = bend ? ` + ${name}` : '';
    built.constraints.push(`su${name}:${terms}${slack} <= ${mostMm - base}`);
    if (!oneSided) built.constraints.push(`sl${name}:${terms}${slackUp} >= ${-mostMm - base}`);
    if (bend) built.slacks.push(name);
  }
}

/** Sixteen directions: inside all of them at cos(π/16) of the radius is inside the circle. */
const DIRECTIONS = 16;

/** The limit is on √(Ux² + Uy²) where the unbalance across the blade is known too. */
function circleRows(input: PlanInput, built: Built): void {
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
    built.constraints.push(
      `ci_${k}:${terms} <= ${reach - c * balance.unbalanceGmm - s * balance.acrossGmm}`,
    );
  }
}

function balanceRows(input: PlanInput, bend: boolean, built: Built): void {
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
  const slack = bend ? ' - bal' : '';
  const slackUp = bend ? ' + bal' : '';
  built.constraints.push(`bu:${terms}${slack} <= ${balance.permissibleGmm - balance.unbalanceGmm}`);
  built.constraints.push(
    `bl:${terms}${slackUp} >= ${-balance.permissibleGmm - balance.unbalanceGmm}`,
  );
  if (bend) built.slacks.push('bal');
  else circleRows(input, built);
  // Uncertainty is held back softly: staying inside by it is worth a little metal, never the plan.
  const inner = Math.max(0, balance.permissibleGmm - 2 * balance.uGmm);
  built.constraints.push(`hu:${terms} - soft <= ${inner - balance.unbalanceGmm}`);
  built.constraints.push(`hl:${terms} + soft >= ${-inner - balance.unbalanceGmm}`);
}

function stationRows(input: PlanInput, rows: readonly Row[], bend: boolean, built: Built): void {
  rows.forEach((row, i) => {
    const terms = input.zones.map((_, z) => term(row.perPassMm2[z] ?? 0, n(row.end, z))).join('');
    if (terms === '') return;
    const short = bend ? ` + f_${i}` : '';
    if (row.floorMm2 > 0) built.constraints.push(`fl_${i}:${terms}${short} >= ${row.floorMm2}`);
    if (bend && row.floorMm2 > 0) built.slacks.push(`f_${i}`);
    // The width limit never bends: a share of at most one is the ceiling itself.
    built.constraints.push(
      row.ceilingMm2 > 0
        ? `sh_${i}:${terms} - ${row.ceilingMm2} share <= 0`
        : `ce_${i}:${terms} <= 0`,
    );
  });
}

/**
 * Price of unbalance inside the held-back band, g per g·mm: a little above what moving it with metal at the
 * tip costs (1 g at 240 mm moves 240 g·mm), so that the band is honoured where metal can do it.
 */
export const SOFT_G_PER_GMM = 0.006;

/**
 * Metal + λ·share + softness, as an LP expression.
 * @example metalTerms(plan).trim().split(/\s+/).length // 9
 */
export function metalTerms(input: PlanInput): string {
  const metal = ENDS.flatMap((end) =>
    input.zones.map((zone, z) => term(zone.gramsPerPass, n(end, z))),
  ).join('');
  const soft = input.balance ? term(SOFT_G_PER_GMM, 'soft') : '';
  return `${metal}${term(input.rules.wearWeightG, 'share')}${soft}`;
}

/**
 * The programme as text: the cheapest plan by tangents, or what is in the way of one. Where recession is linear in area
 * the first is exact, and a second opinion on {@link searchPasses}.
 * @example programText(plan, planRows(plan), 'metal').startsWith('Minimize') // true
 */
export function programText(
  input: PlanInput,
  rows: readonly Row[],
  stage: 'metal' | 'explain',
): string {
  const built: Built = { constraints: [], slacks: [] };
  const bend = stage === 'explain';
  stationRows(input, rows, bend, built);
  straightRows(input, rows, bend, built);
  balanceRows(input, bend, built);
  const names = ENDS.flatMap((end) =>
    input.zones.map(
      ({ mostPasses }, z) => [n(end, z), mostPasses ?? input.rules.mostPassesPerZone] as const,
    ),
  );
  const objective =
    stage === 'metal'
      ? metalTerms(input)
      : `${built.slacks.map((slack) => ` + ${slack === 'bal' ? 0.05 : slack.startsWith('t') ? 200 : 100} ${slack}`).join('')}${metalTerms(input)}`;
  return [
    'Minimize',
    ` obj:${objective}`,
    'Subject To',
    ...built.constraints.map((line) => ` ${line}`),
    'Bounds',
    ...names.map(([count, most]) => ` 0 <= ${count} <= ${most}`),
    ' 0 <= share <= 1',
    'General',
    ...names.map(([count]) => ` ${count}`),
    'End',
    '',
  ].join('\n');
}
