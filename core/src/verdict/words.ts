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
const two = (value = 0): string => value.toFixed(2);
const whole = (value = 0): string => value.toFixed(0);

/**
 * The source of a limit in words.
 * @example sourceWords({ source: 'shop', sourceText: 'two thirds of new' }) // 'shop rule: two thirds of new'
 */
export const sourceWords = (limit: Pick<Limit, 'source' | 'sourceText'>): string =>
  ruleWords({ by: limit.source, text: limit.sourceText });

function ruleWords(source: FindingSource): string {
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
        : `shop rule: leave nicks up to ${one(source.leaveToMm)} mm`;
    case 'nick-choice':
      return `chosen for this ${DAMAGE[source.damage].noun}: ${source.choice === 'clear' ? 'clear it' : 'leave it'}`;
  }
}

const NEVER_AGAIN = 'cracked blade is never ground or fitted again';
const placeOf = ({ end, fromTipMm }: Finding): string =>
  `End ${end ?? ''}, ${whole(fromTipMm)} mm from the tip`;
const nounOf = ({ damage }: Finding): string => (damage ? DAMAGE[damage].noun : 'damage');
/** `End A, 20 mm from the tip: nick 0.7 mm deep`. */
const deep = (finding: Finding): string =>
  `${placeOf(finding)}: ${nounOf(finding)} ${one(finding.value)} mm deep`;
const rule = ({ source }: Finding): string => (source ? ruleWords(source) : '');
const costOfClearing = ({ roomMm, value }: Finding): string =>
  roomMm === undefined
    ? ''
    : `; clearing it whole takes ${one(value)} of the ${one(Math.max(0, roomMm))} mm left`;

/** How a figure is known that nobody read this time. */
function howKnown({ predicted, fromSpec, carried }: Finding): string {
  if (predicted) return '; worked out from the count';
  if (fromSpec) return '; new, from its spec';
  return carried ? '; carried from last time' : '';
}

/** How a reading stands to its limit: `51.2 mm wide, limit 52.0 (maker: manual), 0.8 mm past it`. */
function againstLimit(what: string, digits: (value?: number) => string) {
  return (finding: Finding): string => {
    const { value, limit, margin = 0, severity, expandedUncertainty } = finding;
    const unit = finding.unit === 'grinds' ? '' : ` ${finding.unit ?? ''}`;
    const stands = {
      retire: `${digits(Math.abs(margin))}${unit} past it`,
      hold: `too close to call within ±${digits(expandedUncertainty)}${unit}: measure again`,
      watch: `${digits(margin)}${unit} left`,
      fine: `${digits(margin)}${unit} left`,
      grind: '',
    }[severity];
    const how = howKnown(finding);
    return `${aboutOf(finding) ?? ''}: ${digits(value)}${unit} ${what}, limit ${digits(limit)} (${rule(finding)}), ${stands}${how}`;
  };
}

const plainlyOf = ({ quantity }: Finding): QuantityRow['plainly'] =>
  quantity && QUANTITIES[quantity].plainly;

interface ReasonRow {
  /** Why a blade is retired where this retires it. */
  readonly retires?: RetireReason;
  readonly about?: (finding: Finding) => string;
  readonly words: (finding: Finding) => string;
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
    words: againstLimit('apart', one),
  },
  'bend-gap': {
    retires: LIMITS.bend.retires,
    about: () => 'Bend, blade against a straightedge',
    words: againstLimit('apart', one),
  },
  width: {
    retires: LIMITS.width.retires,
    about: ({ end, stationName, fromTipMm }) =>
      `End ${end ?? ''}, ${stationName ?? ''}, ${whole(fromTipMm)} mm from the tip`,
    words: againstLimit('wide', one),
  },
  wing: {
    retires: LIMITS.wing.retires,
    about: ({ end }) => `End ${end ?? ''}, lift wing at its thinnest`,
    words: againstLimit('thick', one),
  },
  reading: {
    about: (finding) => {
      const about = plainlyOf(finding)?.about ?? '';
      return finding.end ? `End ${finding.end}, ${about}` : about;
    },
    words: (finding) => {
      const digits = finding.quantity ? QUANTITIES[finding.quantity].digits : 1;
      return againstLimit(plainlyOf(finding)?.how ?? '', (value = 0) => value.toFixed(digits))(
        finding,
      );
    },
  },
  'mass-loss': {
    retires: LIMITS['mass-loss'].retires,
    about: () => 'Mass lost since new',
    words: againstLimit('of the new blade', one),
  },
  grinds: {
    retires: LIMITS.grinds.retires,
    about: () => 'Grinds so far',
    words: againstLimit('done', whole),
  },
  'last-grind': {
    retires: LIMITS.grinds.retires,
    words: (finding) =>
      `Needs another grind and has had all ${whole(finding.limit)} it may have (${rule(finding)})`,
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
    words: ({ end, value, limit, severity }) =>
      `End ${end ?? ''}, ${two(value)} mm flat on the edge, ${severity === 'grind' ? 'dull: above' : 'sharp enough: up to'} the shop's ${two(limit)} mm`,
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
    words: againstLimit('rounded', one),
  },
  'damage-ground-out': {
    words: (finding) => {
      const { value = 0, limit = 0 } = finding;
      return limit === 0
        ? `${deep(finding)}, take it all out${costOfClearing(finding)}`
        : `${deep(finding)}, take ${one(value - limit)} mm and leave the last ${one(limit)}${costOfClearing(finding)}`;
    },
  },
  'damage-beyond-saving': {
    retires: 'nick-beyond-saving',
    words: (finding) => {
      const { value = 0, limit = 0, margin = 0 } = finding;
      return `${deep(finding)} needs ${one(value - limit)} mm off, ${one(-margin)} mm more than the width limit leaves: beyond saving under "${rule(finding)}"`;
    },
  },
  'damage-undecided': {
    words: (finding) => {
      const { value = 0, limit = 0, expandedUncertainty = 0 } = finding;
      return `${deep(finding)} needs ${one(value - limit)} mm off, as much as the width limit leaves within ± ${one(expandedUncertainty)} mm: read the width and the depth again, or leave it`;
    },
  },
  'damage-left': {
    words: (finding) =>
      `${deep(finding)}, not worth chasing: ${rule(finding)}${costOfClearing(finding)}`,
  },
  'damage-retires': {
    retires: 'crack',
    words: (finding) => `${placeOf(finding)}: ${nounOf(finding)}. A ${NEVER_AGAIN}`,
  },
  'damage-in-sight': {
    words: (finding) =>
      finding.damage === 'burnt'
        ? `${placeOf(finding)}: blued, the edge has lost its temper there. Grind past it, or it will dull at once`
        : `${deep(finding)}: steel is missing there. The wing is thinner by it, and a width read within ${whole(finding.limit)} mm of it may sit in a pit`,
  },
  'damage-to-measure': {
    words: () => 'Centre hole looks worn: measure it before this blade is fitted again',
  },
};

const aboutOf = (finding: Finding): string | undefined => REASONS[finding.reason].about?.(finding);

/**
 * A finding with its words. The only place where a finding is put into words: nothing that is stored or decided
 * depends on them.
 * @example inWords({ id: 'crack', reason: 'crack', severity: 'retire', where: 'near-tip' }).words // 'Crack near-tip: a cracked blade is never ground or fitted again'
 */
export function inWords(finding: Finding): FindingInWords {
  const { source, ...rest } = finding;
  const about = aboutOf(finding);
  return {
    ...rest,
    words: REASONS[finding.reason].words(finding),
    ...(about === undefined ? {} : { about }),
    ...(source ? { source: ruleWords(source) } : {}),
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
