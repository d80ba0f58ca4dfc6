import { ENDS, type End } from '../blade/shape.js';
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
const used = (end: End, zone: number): string => `u_${end}_${zone}`;

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

/** Recession per area, linear where the land is gone: Δ ≈ (a − a₀)/t. */
function straightRows(input: PlanInput, rows: readonly Row[], bend: boolean, built: Built): void {
  for (const end of ENDS) {
    const along = rows.filter((row) => row.end === end);
    for (let i = 1; i < along.length; i++) {
      const outer = along[i - 1];
      const inner = along[i];
      if (!outer || !inner) continue;
      const apart = outer.station.radiusMm - inner.station.radiusMm;
      const standing = Math.abs(outer.station.wornMm - inner.station.wornMm);
      const most = Math.max(input.rules.straightness * apart, standing);
      const t = input.thicknessMm;
      const base =
        outer.station.wornMm - inner.station.wornMm - (outer.sharpenMm2 - inner.sharpenMm2) / t;
      const terms = input.zones
        .map((_, z) =>
          term(((outer.perPassMm2[z] ?? 0) - (inner.perPassMm2[z] ?? 0)) / t, n(end, z)),
        )
        .join('');
      const name = `t_${end}_${i}`;
      const slack = bend ? ` - ${name}` : '';
      const slackUp = bend ? ` + ${name}` : '';
      if (terms.trim() === '') continue;
      built.constraints.push(`su_${end}_${i}:${terms}${slack} <= ${most - base}`);
      built.constraints.push(`sl_${end}_${i}:${terms}${slackUp} >= ${-most - base}`);
      if (bend) built.slacks.push(name);
    }
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
    // The width limit never bends.
    built.constraints.push(`ce_${i}:${terms} <= ${Math.max(0, row.ceilingMm2)}`);
    if (row.ceilingMm2 > 0) {
      built.constraints.push(`sh_${i}:${terms} - ${row.ceilingMm2} share <= 0`);
    }
  });
}

/**
 * Price of unbalance inside the held-back band, g per g·mm: a little above what moving it with metal at the
 * tip costs (1 g at 240 mm moves 240 g·mm), so that the band is honoured where metal can do it.
 */
const SOFT_G_PER_GMM = 0.006;

/** Metal + λ·share + softness, as an LP expression. */
export function metalTerms(input: PlanInput): string {
  const metal = ENDS.flatMap((end) =>
    input.zones.map((zone, z) => term(zone.gramsPerPass, n(end, z))),
  ).join('');
  const soft = input.balance ? term(SOFT_G_PER_GMM, 'soft') : '';
  return `${metal}${term(input.rules.wearWeightG, 'share')}${soft}`;
}

const passTerms = (input: PlanInput): string =>
  ENDS.flatMap((end) => input.zones.map((_, z) => ` + ${n(end, z)} + 0.5 ${used(end, z)}`)).join(
    '',
  );

/** The programme as text. `within` bounds the metal objective for the second, tie-breaking stage. */
export function programText(
  input: PlanInput,
  rows: readonly Row[],
  stage: 'metal' | 'passes' | 'explain',
  within?: number,
): string {
  const built: Built = { constraints: [], slacks: [] };
  const bend = stage === 'explain';
  stationRows(input, rows, bend, built);
  straightRows(input, rows, bend, built);
  balanceRows(input, bend, built);
  const most = input.rules.mostPassesPerZone;
  const names = ENDS.flatMap((end) =>
    input.zones.map((_, z) => [n(end, z), used(end, z)] as const),
  );
  if (stage === 'passes') {
    for (const [count, flag] of names)
      built.constraints.push(`z_${count}: ${count} - ${most} ${flag} <= 0`);
    if (within !== undefined) built.constraints.push(`keep:${metalTerms(input)} <= ${within}`);
  }
  const objective =
    stage === 'metal'
      ? metalTerms(input)
      : stage === 'passes'
        ? passTerms(input)
        : `${built.slacks.map((slack) => ` + ${slack === 'bal' ? 0.05 : slack.startsWith('t') ? 200 : 100} ${slack}`).join('')}${metalTerms(input)}`;
  return [
    'Minimize',
    ` obj:${objective}`,
    'Subject To',
    ...built.constraints.map((line) => ` ${line}`),
    'Bounds',
    ...names.map(([count]) => ` 0 <= ${count} <= ${most}`),
    ' 0 <= share <= 1',
    'General',
    ...names.map(([count]) => ` ${count}`),
    ...(stage === 'passes' ? ['Binary', ...names.map(([, flag]) => ` ${flag}`)] : []),
    'End',
    '',
  ].join('\n');
}

/** Pass counts out of an answer, end by end, zone by zone. */
export function passesOf(input: PlanInput, answer: SolverAnswer): Record<End, number[]> {
  const counts = (end: End): number[] =>
    input.zones.map((_, z) => Math.round(answer.values[n(end, z)] ?? 0));
  return { A: counts('A'), B: counts('B') };
}
