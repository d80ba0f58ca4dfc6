import { ENDS, interpolateMm, type End, type Station } from '../blade/shape.js';
import { COVERAGE_K, rss, type Measured } from '../reading/uncertainty.js';
import {
  marginOf,
  severityRank,
  sourceWords,
  standing,
  worst,
  type Finding,
  type Limit,
  type LimitKind,
  type Severity,
} from './finding.js';
import { holdsEdge, type EdgeHeld } from './retire-by.js';

/** A reading as the verdict sees it: the mean of its repeats, and whether it was taken this time. */
export interface JudgedReading extends Measured {
  readonly repeated: boolean;
  readonly carried: boolean;
  /** Worked out from the counted passes rather than carried from an earlier cycle. */
  readonly predicted?: boolean | undefined;
}

export interface JudgedWidth extends JudgedReading {
  readonly end: End;
  readonly stationKey: string;
}

/** What can be found on the steel. Only nicks and chips ask for metal; the rest have limits, or are noted. */
export type DamageKind =
  'nick' | 'chip' | 'roll' | 'crack' | 'rounded-tip' | 'thin-wing' | 'burnt' | 'worn-hole';

export interface JudgedDamage {
  readonly id: string;
  readonly kind: DamageKind;
  readonly end: End;
  readonly fromTipMm: number;
  readonly depthMm: number;
  /** Told by itself to be cleared whole or left, against the shop's policy. */
  readonly choice?: 'clear' | 'leave' | undefined;
}

/** The spec revision as far as judging needs it. Lengths mm, mass g. */
export interface JudgedSpec {
  readonly newMassG: number;
  readonly newLengthMm: number;
  readonly newWidthMm: number;
  readonly wingMm: number;
  readonly bevelDeg: number;
  readonly bevelToleranceDeg: number;
  readonly edgeLengthMm: number;
  readonly stations: readonly Station[];
  readonly limits: readonly Limit[];
}

/** The schools a shop has chosen, as far as judging needs them. */
export interface JudgedRules {
  /** Nicks and chips up to this depth are left standing, mm; nothing where all are left. */
  readonly leaveNicksToMm: number | undefined;
  /** The flat a working edge may keep, mm; above it the edge counts as dull. */
  readonly dullLandMm: number;
  /** What one ordinary grind takes from the width here, mm: the blade's own history, else the shop's guess. */
  readonly recessionPerGrindMm: number;
}

export interface JudgeInput {
  readonly spec: JudgedSpec;
  readonly rules: JudgedRules;
  readonly crack?: { readonly found: boolean; readonly where?: string | undefined } | undefined;
  readonly tipHeights: Readonly<Partial<Record<End, JudgedReading>>>;
  /** Gap under a straightedge laid along the blade: two tip readings miss a blade bent alike at both ends. */
  readonly straightedgeGap?: JudgedReading | undefined;
  readonly widths: readonly JudgedWidth[];
  readonly mass?: JudgedReading | undefined;
  readonly length?: JudgedReading | undefined;
  readonly hole?: JudgedReading | undefined;
  readonly wing: Readonly<Partial<Record<End, JudgedReading>>>;
  readonly bevel: Readonly<Partial<Record<End, JudgedReading>>>;
  readonly land: Readonly<Partial<Record<End, JudgedReading>>>;
  readonly damage: readonly JudgedDamage[];
  readonly grinds: number;
  /** Judged before the grind: a blade that needs one and has had all it may have is at its end now, not after the work. */
  readonly beforeGrind?: boolean | undefined;
  /** Hours its last edge was on, in the school that looks at them, with the share that is too short. */
  readonly edgeHeld?: (EdgeHeld & { readonly share: number }) | undefined;
}

export interface Judgement {
  readonly verdict: Severity;
  /** Worst first. */
  readonly findings: readonly Finding[];
}

const one = (value: number): string => value.toFixed(1);
const two = (value: number): string => value.toFixed(2);

function limitsOf(spec: JudgedSpec, kind: LimitKind): Limit[] {
  return spec.limits.filter((limit) => limit.kind === kind);
}

/** Turns a reading and its limit into a finding; `about` names the place, `what` the quantity. */
function limitFinding(input: {
  readonly id: string;
  readonly about: string;
  readonly limit: Limit;
  readonly reading: JudgedReading;
  readonly watchBelow: number;
  readonly digits: (value: number) => string;
  readonly what: string;
  readonly end?: End;
  readonly stationKey?: string;
}): Finding {
  const { limit, reading, digits } = input;
  const margin = marginOf(limit, reading.value);
  const where = standing(limit, reading, reading.repeated);
  const severity: Severity =
    where === 'over'
      ? 'retire'
      : where === 'undecided'
        ? 'hold'
        : margin < input.watchBelow
          ? 'watch'
          : 'fine';
  const unit = limit.unit === 'grinds' ? '' : ` ${limit.unit}`;
  const tail = {
    retire: `${digits(Math.abs(margin))}${unit} past it`,
    hold: `too close to call within ±${digits(COVERAGE_K * reading.u)}${unit}: measure again`,
    watch: `${digits(margin)}${unit} left`,
    fine: `${digits(margin)}${unit} left`,
    grind: '',
  }[severity];
  return {
    id: input.id,
    about: input.about,
    severity,
    words: `${input.about}: ${digits(reading.value)}${unit} ${input.what}, limit ${digits(limit.value)} (${sourceWords(limit)}), ${tail}${reading.predicted ? '; worked out from the count' : reading.carried ? '; carried from last time' : ''}`,
    end: input.end,
    stationKey: input.stationKey,
    value: reading.value,
    limit: limit.value,
    unit: limit.unit,
    margin,
    expandedUncertainty: COVERAGE_K * reading.u,
    source: sourceWords(limit),
    carried: reading.carried,
  };
}

function crackFindings({ crack }: JudgeInput): Finding[] {
  if (!crack?.found) return [];
  return [
    {
      id: 'crack',
      severity: 'retire',
      words: `Crack${crack.where ? ` ${crack.where}` : ''}: a cracked blade is never ground or fitted again`,
      source: 'safety rule of the trade, no override',
    },
  ];
}

function bendFindings({ spec, tipHeights, straightedgeGap }: JudgeInput): Finding[] {
  const { A, B } = tipHeights;
  const limit = limitsOf(spec, 'bend')[0];
  if (!limit) return [];
  const finding = (id: string, about: string, reading: JudgedReading): Finding =>
    limitFinding({
      id,
      about,
      limit,
      reading,
      watchBelow: limit.value / 3,
      digits: one,
      what: 'apart',
    });
  const tips =
    A && B
      ? [
          finding('bend', 'Bend, tip A against tip B', {
            value: Math.abs(A.value - B.value),
            u: rss(A.u, B.u),
            repeated: A.repeated && B.repeated,
            carried: A.carried || B.carried,
          }),
        ]
      : [];
  const gap = straightedgeGap
    ? [finding('bend:gap', 'Bend, blade against a straightedge', straightedgeGap)]
    : [];
  return [...tips, ...gap];
}

function widthFindings({ spec, widths, rules }: JudgeInput): Finding[] {
  return widths.flatMap((width) => {
    const station = spec.stations.find(({ key }) => key === width.stationKey);
    const limit = limitsOf(spec, 'width').find(({ stationKey }) => stationKey === width.stationKey);
    if (!station || !limit) return [];
    const inward = spec.newLengthMm / 2 - station.radiusMm;
    return [
      limitFinding({
        id: `width:${width.end}:${width.stationKey}`,
        about: `End ${width.end}, ${station.name}, ${inward.toFixed(0)} mm from the tip`,
        limit,
        reading: width,
        watchBelow: rules.recessionPerGrindMm,
        digits: one,
        what: 'wide',
        end: width.end,
        stationKey: width.stationKey,
      }),
    ];
  });
}

function wingFindings(input: JudgeInput): Finding[] {
  const limit = limitsOf(input.spec, 'wing')[0];
  if (!limit) return [];
  return ENDS.flatMap((end) => {
    const thinnest = input.damage
      .filter((mark) => mark.kind === 'thin-wing' && mark.end === end)
      .reduce((left, mark) => Math.min(left, input.spec.wingMm - mark.depthMm), Infinity);
    const measured = input.wing[end];
    const reading: JudgedReading | undefined =
      thinnest < (measured?.value ?? Infinity)
        ? { value: thinnest, u: 0.1, repeated: measured?.repeated ?? false, carried: false }
        : measured;
    if (!reading) return [];
    return [
      limitFinding({
        id: `wing:${end}`,
        about: `End ${end}, lift wing at its thinnest`,
        limit,
        reading,
        watchBelow: 0.3,
        digits: one,
        what: 'thick',
        end,
      }),
    ];
  });
}

function wholeBladeFindings(input: JudgeInput): Finding[] {
  const { spec, mass, length, hole, grinds } = input;
  const certain = (value: number): JudgedReading => ({
    value,
    u: 0,
    repeated: true,
    carried: false,
  });
  const pick = (kind: LimitKind): Limit | undefined => limitsOf(spec, kind)[0];
  const findings: Finding[] = [];
  const lengthLimit = pick('length');
  if (length && lengthLimit) {
    findings.push(
      limitFinding({
        id: 'length',
        about: 'Overall length',
        limit: lengthLimit,
        reading: length,
        watchBelow: 2,
        digits: one,
        what: 'tip to tip',
      }),
    );
  }
  const holeLimit = pick('hole-wear');
  if (hole && holeLimit) {
    findings.push(
      limitFinding({
        id: 'hole-wear',
        about: 'Centre hole',
        limit: holeLimit,
        reading: hole,
        watchBelow: 0.1,
        digits: two,
        what: 'worn',
      }),
    );
  }
  const massLimit = pick('mass-loss');
  if (mass && massLimit) {
    findings.push(
      limitFinding({
        id: 'mass-loss',
        about: 'Mass lost since new',
        limit: massLimit,
        reading: {
          ...mass,
          value: (100 * (spec.newMassG - mass.value)) / spec.newMassG,
          u: (100 * mass.u) / spec.newMassG,
        },
        watchBelow: 1,
        digits: one,
        what: 'of the new blade',
      }),
    );
  }
  const grindsLimit = pick('grinds');
  if (grindsLimit) {
    findings.push(
      limitFinding({
        id: 'grinds',
        about: 'Grinds so far',
        limit: grindsLimit,
        reading: certain(grinds),
        watchBelow: 1,
        digits: (value) => value.toFixed(0),
        what: 'done',
      }),
    );
  }
  return findings;
}

function edgeFindings({ spec, rules, bevel, land }: JudgeInput): Finding[] {
  return ENDS.flatMap((end) => {
    const findings: Finding[] = [];
    const angle = bevel[end];
    if (angle) {
      const off = angle.value - spec.bevelDeg;
      const wrong = Math.abs(off) > spec.bevelToleranceDeg + COVERAGE_K * angle.u;
      findings.push({
        id: `bevel:${end}`,
        severity: wrong ? 'grind' : 'fine',
        words: `End ${end}, bevel ${one(angle.value)}°, ${wrong ? `${one(Math.abs(off))}° ${off > 0 ? 'steeper' : 'flatter'} than` : 'within'} the spec's ${one(spec.bevelDeg)}° ± ${one(spec.bevelToleranceDeg)}°`,
        end,
        value: angle.value,
        limit: spec.bevelDeg,
        unit: '°',
        margin: spec.bevelToleranceDeg - Math.abs(off),
        expandedUncertainty: COVERAGE_K * angle.u,
        source: 'blade spec',
        carried: angle.carried,
      });
    }
    const flat = land[end];
    if (flat) {
      const dull = flat.value > rules.dullLandMm;
      findings.push({
        id: `land:${end}`,
        severity: dull ? 'grind' : 'fine',
        words: `End ${end}, ${two(flat.value)} mm flat on the edge, ${dull ? 'dull: above' : 'sharp enough: up to'} the shop's ${two(rules.dullLandMm)} mm`,
        end,
        value: flat.value,
        limit: rules.dullLandMm,
        unit: 'mm',
        margin: rules.dullLandMm - flat.value,
        expandedUncertainty: COVERAGE_K * flat.u,
        source: 'shop rule: working edge',
        carried: flat.carried,
      });
    }
    return findings;
  });
}

/**
 * Room above the width limit at a place of one end, mm, by straight lines between the measured stations,
 * or `undefined` where no width or no limit is known.
 * @example widthRoomMm({ stations: [{ key: 'tip', name: 'tip', radiusMm: 250, fromTipMm: 10 }], limits: [{ kind: 'width', value: 50, unit: 'mm', stationKey: 'tip', source: 'maker', sourceText: '' }] }, [{ value: 52, u: 0, repeated: false, carried: false, end: 'A', stationKey: 'tip' }], 'A', 250) // 2
 */
export function widthRoomMm(
  spec: Pick<JudgedSpec, 'stations' | 'limits'>,
  widths: readonly JudgedWidth[],
  end: End,
  radiusMm: number,
): number | undefined {
  const rooms = widths
    .filter((width) => width.end === end)
    .flatMap((width) => {
      const station = spec.stations.find(({ key }) => key === width.stationKey);
      const limit = spec.limits.find(
        ({ kind, stationKey }) => kind === 'width' && stationKey === width.stationKey,
      );
      return station && limit
        ? [{ radiusMm: station.radiusMm, valueMm: width.value - limit.value }]
        : [];
    });
  return rooms.length === 0 ? undefined : interpolateMm(rooms, radiusMm);
}

function damageFindings(input: JudgeInput): Finding[] {
  const { spec } = input;
  const rounding = limitsOf(spec, 'tip-rounding')[0];
  return input.damage.flatMap((mark): Finding[] => {
    const id = `damage:${mark.id}`;
    const place = `End ${mark.end}, ${mark.fromTipMm.toFixed(0)} mm from the tip`;
    if (mark.kind === 'thin-wing') return [];
    if (mark.kind === 'rounded-tip') {
      if (!rounding) return [];
      return [
        limitFinding({
          id,
          about: `End ${mark.end}, tip corner`,
          limit: rounding,
          reading: { value: mark.depthMm, u: 0.25, repeated: true, carried: false },
          watchBelow: 1,
          digits: one,
          what: 'rounded',
          end: mark.end,
        }),
      ];
    }
    const note = noteOf(input, mark, id, place);
    if (note) return [note];
    return [nickFinding(input, mark, id, place)];
  });
}

/** What is kept in sight without asking for metal, and what retires by itself. */
function noteOf(
  { hole }: JudgeInput,
  mark: JudgedDamage,
  id: string,
  place: string,
): Finding | undefined {
  const base = { id, end: mark.end };
  switch (mark.kind) {
    case 'crack':
      return {
        ...base,
        severity: 'retire',
        words: `${place}: crack. A cracked blade is never ground or fitted again`,
        source: 'safety rule of the trade, no override',
      };
    case 'burnt':
      return {
        ...base,
        severity: 'watch',
        words: `${place}: blued, the edge has lost its temper there. Grind past it, or it will dull at once`,
        source: 'common practice, no source',
      };
    case 'worn-hole':
      return {
        ...base,
        severity: hole && !hole.carried ? 'watch' : 'hold',
        words: 'Centre hole looks worn: measure it before this blade is fitted again',
        source: 'common practice, no source',
      };
    default:
      return undefined;
  }
}

const NAMES: Partial<Record<DamageKind, string>> = {
  nick: 'nick',
  chip: 'chip',
  roll: 'rolled edge',
};

/** A nick, chip or rolled edge: cleared, dressed to what may stay, left, or beyond saving. */
function nickFinding(input: JudgeInput, mark: JudgedDamage, id: string, place: string): Finding {
  const { spec, rules, widths } = input;
  const name = NAMES[mark.kind] ?? mark.kind;
  const leave =
    mark.choice === 'clear'
      ? 0
      : mark.choice === 'leave'
        ? mark.depthMm
        : (rules.leaveNicksToMm ?? mark.depthMm);
  const rule = mark.choice
    ? `chosen for this ${name}: ${mark.choice === 'clear' ? 'clear it' : 'leave it'}`
    : rules.leaveNicksToMm === undefined
      ? 'shop rule: leave all nicks'
      : `shop rule: leave nicks up to ${one(rules.leaveNicksToMm)} mm`;
  const room = widthRoomMm(spec, widths, mark.end, spec.newLengthMm / 2 - mark.fromTipMm);
  const needed = Math.max(0, mark.depthMm - leave);
  const cost =
    room === undefined
      ? ''
      : `; clearing it whole takes ${one(mark.depthMm)} of the ${one(Math.max(0, room))} mm left`;
  const base = {
    id,
    end: mark.end,
    value: mark.depthMm,
    limit: leave,
    unit: 'mm',
    source: rule,
  };
  if (room !== undefined && needed > room) {
    return {
      ...base,
      severity: 'retire',
      margin: room - needed,
      words: `${place}: ${name} ${one(mark.depthMm)} mm deep needs ${one(needed)} mm off, ${one(needed - room)} mm more than the width limit leaves: beyond saving under "${rule}"`,
    };
  }
  if (needed > 0) {
    return {
      ...base,
      severity: 'grind',
      margin: room === undefined ? undefined : room - needed,
      words:
        leave === 0
          ? `${place}: ${name} ${one(mark.depthMm)} mm deep, take it all out${cost}`
          : `${place}: ${name} ${one(mark.depthMm)} mm deep, take ${one(needed)} mm and leave the last ${one(leave)}${cost}`,
    };
  }
  return {
    ...base,
    severity: 'watch',
    margin: room,
    words: `${place}: ${name} ${one(mark.depthMm)} mm deep, not worth chasing: ${rule}${cost}`,
  };
}

/** It needs a grind, and its count says it has had the last one. */
function lastGrindFindings(input: JudgeInput, found: readonly Finding[]): Finding[] {
  const limit = limitsOf(input.spec, 'grinds')[0];
  if (!input.beforeGrind || !limit || input.grinds < limit.value || worst(found) !== 'grind') {
    return [];
  }
  return [
    {
      id: 'grinds:last',
      severity: 'retire',
      words: `Needs another grind and has had all ${limit.value.toFixed(0)} it may have (${sourceWords(limit)})`,
      value: input.grinds,
      limit: limit.value,
      unit: 'grinds',
      margin: limit.value - input.grinds - 1,
      source: sourceWords(limit),
    },
  ];
}

function heldFindings({ edgeHeld }: JudgeInput): Finding[] {
  const found = edgeHeld && holdsEdge(edgeHeld, edgeHeld.share);
  return found ? [found] : [];
}

/**
 * The verdict on a blade: a list of findings, each with severity (retire · hold · grind · watch · fine),
 * value, limit, its source, margin and expanded uncertainty (k = 2), and the words to show; the verdict is
 * the worst of them. A crack always retires. Readings not there yet give no finding.
 * @example judge(usual).verdict // 'retire'
 */
export function judge(input: JudgeInput): Judgement {
  const found = [
    ...crackFindings(input),
    ...bendFindings(input),
    ...wingFindings(input),
    ...widthFindings(input),
    ...wholeBladeFindings(input),
    ...damageFindings(input),
    ...edgeFindings(input),
    ...heldFindings(input),
  ];
  const findings = [...found, ...lastGrindFindings(input, found)].sort(
    (a, b) =>
      severityRank(a.severity) - severityRank(b.severity) || (a.margin ?? 0) - (b.margin ?? 0),
  );
  return { verdict: worst(findings), findings };
}
