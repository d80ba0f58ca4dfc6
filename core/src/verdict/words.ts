import { said, type Base, type Show } from '../units/said.js';
import { DAMAGE } from '../vocabulary/damage.js';
import { LIMITS } from '../vocabulary/limits.js';
import { QUANTITIES, type QuantityRow } from '../vocabulary/quantities.js';
import type { RetireReason } from '../vocabulary/retire-reasons.js';
import type { Finding, FindingReason, FindingSource, Limit } from './finding.js';

/** A finding as a person reads it. */
export interface FindingInWords extends Omit<Finding, 'source'> {
  /** The reason first. */
  readonly words: string;
  /** The place and quantity alone, for tables: `End B, tip, 10 mm from the tip`. */
  readonly about?: string | undefined;
  readonly source?: string | undefined;
}

const one = (value = 0): string => value.toFixed(1);
const whole = (value = 0): string => value.toFixed(0);

/**
 * The source of a limit in words.
 * @example sourceWords({ source: 'shop', sourceText: 'two thirds of new' }) // 'shop rule: two thirds of new'
 */
export const sourceWords = (limit: Pick<Limit, 'source' | 'sourceText'>): string =>
  ruleWords({ by: limit.source, text: limit.sourceText }, said);

function ruleWords(source: FindingSource, show: Show): string {
  switch (source.by) {
    case 'maker':
      return `maker: ${source.text}`;
    case 'shop':
      return `shop rule: ${source.text}`;
    case 'safety':
      return 'safety rule of the trade, no override';
    case 'practice':
      return 'common practice, no source';
    case 'spec':
      return 'blade spec';
    case 'working-edge':
      return 'shop rule: working edge';
    case 'wont-hold':
      return 'shop rule: retire when it will not hold an edge';
    case 'seldom-hung':
      return 'shop rule: hardly ever balanced';
    case 'nick-policy':
      return source.leaveToMm === undefined
        ? 'shop rule: leave all nicks'
        : `shop rule: leave nicks up to ${show(source.leaveToMm, 'mm')}`;
    case 'nick-choice':
      return `chosen for this ${DAMAGE[source.damage].noun}: ${source.choice === 'clear' ? 'clear it' : 'leave it'}`;
  }
}

const NEVER_AGAIN = 'cracked blade is never ground or fitted again';
const placeOf = ({ end, fromTipMm = 0 }: Finding, show: Show): string =>
  `End ${end ?? ''}, ${show(fromTipMm, 'mm', 0)} from the tip`;
const nounOf = ({ damage }: Finding): string => (damage ? DAMAGE[damage].noun : 'damage');
/** `End A, 20 mm from the tip: nick 0.7 mm deep`. */
const deep = (finding: Finding, show: Show): string =>
  `${placeOf(finding, show)}: ${nounOf(finding)} ${show(finding.value ?? 0, 'mm')} deep`;
const rule = ({ source }: Finding, show: Show): string => (source ? ruleWords(source, show) : '');
const costOfClearing = ({ roomMm, value = 0 }: Finding, show: Show): string =>
  roomMm === undefined
    ? ''
    : `; clearing it whole takes ${show(value, 'mm')} of the ${show(Math.max(0, roomMm), 'mm')} left`;

/** How a figure is known that nobody read this time. */
function howKnown({ predicted, fromSpec, carried }: Finding): string {
  if (predicted) return '; worked out from the count';
  if (fromSpec) return '; new, from its spec';
  return carried ? '; carried from last time' : '';
}

/** A figure in the unit of its finding: a length or a mass in the reader's own, a share or a count as it is. */
function figure({ unit }: Finding, show: Show, digits: number) {
  return (value = 0): string => {
    if (unit === 'mm' || unit === 'g') return show(value, unit satisfies Base, digits);
    return `${value.toFixed(digits)}${unit === undefined || unit === 'grinds' ? '' : ` ${unit}`}`;
  };
}

/** How a reading stands to its limit: `51.2 mm wide, limit 52.0 mm (maker: manual), 0.8 mm past it`. */
function againstLimit(what: string, digits: number) {
  return (finding: Finding, show: Show): string => {
    const { value, limit, margin = 0, severity, expandedUncertainty } = finding;
    const said = figure(finding, show, digits);
    const stands = {
      retire: `${said(Math.abs(margin))} past it`,
      hold: `too close to call within ±${said(expandedUncertainty)}: measure again`,
      watch: `${said(margin)} left`,
      fine: `${said(margin)} left`,
      grind: '',
    }[severity];
    const how = howKnown(finding);
    return `${aboutOf(finding, show) ?? ''}: ${said(value)} ${what}, limit ${said(limit)} (${rule(finding, show)}), ${stands}${how}`;
  };
}

const plainlyOf = ({ quantity }: Finding): QuantityRow['plainly'] =>
  quantity && QUANTITIES[quantity].plainly;

interface ReasonRow {
  /** Why a blade is retired where this retires it. */
  readonly retires?: RetireReason;
  readonly about?: (finding: Finding, show: Show) => string;
  readonly words: (finding: Finding, show: Show) => string;
}

/** Every reason for a finding: what it is called, how it is said, and what it retires for. */
const REASONS: Readonly<Record<FindingReason, ReasonRow>> = {
  crack: {
    retires: 'crack',
    words: ({ where }) => `Crack${where ? ` ${where}` : ''}: a ${NEVER_AGAIN}`,
  },
  bend: {
    retires: LIMITS.bend.retires,
    about: () => 'Bend, tip A against tip B',
    words: againstLimit('apart', 1),
  },
  'bend-gap': {
    retires: LIMITS.bend.retires,
    about: () => 'Bend, blade against a straightedge',
    words: againstLimit('apart', 1),
  },
  width: {
    retires: LIMITS.width.retires,
    about: ({ end, stationName, fromTipMm = 0 }, show) =>
      `End ${end ?? ''}, ${stationName ?? ''}, ${show(fromTipMm, 'mm', 0)} from the tip`,
    words: againstLimit('wide', 1),
  },
  wing: {
    retires: LIMITS.wing.retires,
    about: ({ end }) => `End ${end ?? ''}, lift wing at its thinnest`,
    words: againstLimit('thick', 1),
  },
  reading: {
    about: (finding) => {
      const about = plainlyOf(finding)?.about ?? '';
      return finding.end ? `End ${finding.end}, ${about}` : about;
    },
    words: (finding, show) => {
      const digits = finding.quantity ? QUANTITIES[finding.quantity].digits : 1;
      return againstLimit(plainlyOf(finding)?.how ?? '', digits)(finding, show);
    },
  },
  'mass-loss': {
    retires: LIMITS['mass-loss'].retires,
    about: () => 'Mass lost since new',
    words: againstLimit('of the new blade', 1),
  },
  grinds: {
    retires: LIMITS.grinds.retires,
    about: () => 'Grinds so far',
    words: againstLimit('done', 0),
  },
  'last-grind': {
    retires: LIMITS.grinds.retires,
    words: (finding, show) =>
      `Needs another grind and has had all ${whole(finding.limit)} it may have (${rule(finding, show)})`,
  },
  bevel: {
    words: ({ end, value = 0, limit = 0, tolerance, severity }) => {
      const off = value - limit;
      const says =
        severity === 'grind'
          ? `${one(Math.abs(off))}° ${off > 0 ? 'steeper' : 'flatter'} than`
          : 'within';
      return `End ${end ?? ''}, bevel ${one(value)}°, ${says} the spec's ${one(limit)}° ± ${one(tolerance)}°`;
    },
  },
  land: {
    words: ({ end, value = 0, limit = 0, severity }, show) =>
      `End ${end ?? ''}, ${show(value, 'mm', 2)} flat on the edge, ${severity === 'grind' ? 'dull: above' : 'sharp enough: up to'} the shop's ${show(limit, 'mm', 2)}`,
  },
  'holds-edge': {
    words: ({ value, usual }) =>
      `Came in after ${one(value)} h on its last edge, its spec usually holds ${one(usual)}: it may no longer hold an edge (shop rule)`,
  },
  'not-balanced': {
    words: () =>
      'Not balanced, by the shop’s rule: felt on the mower. Any vibration stops the mower at once',
  },
  'damage-limit': {
    retires: 'tip-rounding',
    about: ({ end }) => `End ${end ?? ''}, tip corner`,
    words: againstLimit('rounded', 1),
  },
  'damage-ground-out': {
    words: (finding, show) => {
      const { value = 0, limit = 0 } = finding;
      return limit === 0
        ? `${deep(finding, show)}, take it all out${costOfClearing(finding, show)}`
        : `${deep(finding, show)}, take ${show(value - limit, 'mm')} and leave the last ${show(limit, 'mm')}${costOfClearing(finding, show)}`;
    },
  },
  'damage-beyond-saving': {
    retires: 'nick-beyond-saving',
    words: (finding, show) => {
      const { value = 0, limit = 0, margin = 0 } = finding;
      return `${deep(finding, show)} needs ${show(value - limit, 'mm')} off, ${show(-margin, 'mm')} more than the width limit leaves: beyond saving under "${rule(finding, show)}"`;
    },
  },
  'damage-undecided': {
    words: (finding, show) => {
      const { value = 0, limit = 0, expandedUncertainty = 0 } = finding;
      return `${deep(finding, show)} needs ${show(value - limit, 'mm')} off, as much as the width limit leaves within ± ${show(expandedUncertainty, 'mm')}: read the width and the depth again, or leave it`;
    },
  },
  'damage-left': {
    words: (finding, show) =>
      `${deep(finding, show)}, not worth chasing: ${rule(finding, show)}${costOfClearing(finding, show)}`,
  },
  'damage-retires': {
    retires: 'crack',
    words: (finding, show) => `${placeOf(finding, show)}: ${nounOf(finding)}. A ${NEVER_AGAIN}`,
  },
  'damage-in-sight': {
    words: (finding, show) =>
      finding.damage === 'burnt'
        ? `${placeOf(finding, show)}: blued, the edge has lost its temper there. Grind past it, or it will dull at once`
        : `${deep(finding, show)}: steel is missing there. The wing is thinner by it, and a width read within ${show(finding.limit ?? 0, 'mm', 0)} of it may sit in a pit`,
  },
  'damage-to-measure': {
    words: () => 'Centre hole looks worn: measure it before this blade is fitted again',
  },
};

/** Every reason a finding can have. */
export const FINDING_REASONS = Object.keys(REASONS) as [FindingReason, ...FindingReason[]];

const aboutOf = (finding: Finding, show: Show): string | undefined =>
  REASONS[finding.reason].about?.(finding, show);

/**
 * A finding with its words. The only place where a finding is put into words: nothing that is stored or decided
 * depends on them. `show` writes its quantities for the reader.
 * @example inWords({ id: 'crack', reason: 'crack', severity: 'retire', where: 'near-tip' }).words // 'Crack near-tip: a cracked blade is never ground or fitted again'
 */
export function inWords(finding: Finding, show: Show = said): FindingInWords {
  const { source, ...rest } = finding;
  const about = aboutOf(finding, show);
  return {
    ...rest,
    words: REASONS[finding.reason].words(finding, show),
    ...(about === undefined ? {} : { about }),
    ...(source ? { source: ruleWords(source, show) } : {}),
  };
}

/**
 * What the worst of a judgement's findings says; nothing where there is none.
 * @example worstInWords({ findings: [{ id: 'crack', reason: 'crack', severity: 'retire' }] }) // 'Crack: a cracked blade is never ground or fitted again'
 */
export const worstInWords = ({ findings }: { readonly findings: readonly Finding[] }): string =>
  findings[0] ? inWords(findings[0]).words : '';

/**
 * What a blade is retired for by a finding that retires it.
 * @example retireReasonOf({ reason: 'width' }) // 'width-limit'
 */
export function retireReasonOf({
  reason,
  quantity,
}: Pick<Finding, 'reason' | 'quantity'>): RetireReason {
  const limit = quantity && QUANTITIES[quantity].limit;
  return REASONS[reason].retires ?? (limit ? LIMITS[limit].retires : 'nick-beyond-saving');
}
