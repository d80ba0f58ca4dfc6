import { said, type Base, type Show } from '../units/said.js';
import { DAMAGE } from '../vocabulary/damage.js';
import { named } from '../vocabulary/named.js';
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
      return $localize`maker: ${source.text}`;
    case 'shop':
      return $localize`shop rule: ${source.text}`;
    case 'safety':
      return $localize`safety rule of the trade, no override`;
    case 'practice':
      return $localize`common practice, no source`;
    case 'spec':
      return $localize`blade spec`;
    case 'working-edge':
      return $localize`shop rule: working edge`;
    case 'wont-hold':
      return $localize`shop rule: retire when it will not hold an edge`;
    case 'seldom-hung':
      return $localize`shop rule: hardly ever balanced`;
    case 'nick-policy':
      return source.leaveToMm === undefined
        ? $localize`shop rule: leave all nicks`
        : $localize`shop rule: leave nicks up to ${show(source.leaveToMm, 'mm')}`;
    case 'nick-choice':
      return $localize`chosen for this ${DAMAGE[source.damage].noun}:ph0:: ${source.choice === 'clear' ? $localize`clear it` : $localize`leave it`}`;
  }
}

const placeOf = ({ end, fromTipMm = 0 }: Finding, show: Show): string =>
  $localize`End ${end ?? ''}, ${show(fromTipMm, 'mm', 0)} from the tip`;
const nounOf = ({ damage }: Finding): string => (damage ? DAMAGE[damage].noun : $localize`damage`);
/** `End A, 20 mm from the tip: nick 0.7 mm deep`. */
const deep = (finding: Finding, show: Show): string =>
  $localize`${placeOf(finding, show)}:ph0:: ${nounOf(finding)} ${show(finding.value ?? 0, 'mm')} deep`;
const rule = ({ source }: Finding, show: Show): string => (source ? ruleWords(source, show) : '');
const costOfClearing = ({ roomMm, value = 0 }: Finding, show: Show): string =>
  roomMm === undefined
    ? ''
    : $localize`; clearing it whole takes ${show(value, 'mm')} of the ${show(Math.max(0, roomMm), 'mm')} left`;

/** How a figure is known that nobody read this time. */
function howKnown({ predicted, fromSpec, carried, moreBefore }: Finding): string {
  if (predicted) return $localize`; worked out from the count`;
  if (fromSpec) return $localize`; new, from its spec`;
  if (moreBefore) return $localize`; how many before it came nobody knows`;
  return carried ? $localize`; carried from last time` : '';
}

/** A figure in the unit of its finding: a length or a mass in the reader's own, a share or a count as it is. */
function figure({ unit }: Finding, show: Show, digits: number) {
  return (value = 0): string => {
    if (unit === 'mm' || unit === 'g') return show(value, unit satisfies Base, digits);
    return `${value.toFixed(digits)}${unit === undefined || unit === 'grinds' ? '' : ` ${unit}`}`;
  };
}

/** How a reading stands to its limit: `51.2 mm wide, limit 52.0 mm (maker: manual), 0.8 mm past it`. */
function againstLimit(what: () => string, digits: number) {
  return (finding: Finding, show: Show): string => {
    const { value, limit, margin = 0, severity, expandedUncertainty } = finding;
    const said = figure(finding, show, digits);
    const stands = {
      retire: $localize`${said(Math.abs(margin))} past it`,
      hold: $localize`too close to call within ±${said(expandedUncertainty)}:ph0:: measure again`,
      watch: $localize`${said(margin)} left`,
      fine: $localize`${said(margin)} left`,
      grind: '',
    }[severity];
    const how = howKnown(finding);
    return $localize`${aboutOf(finding, show) ?? ''}:ph0:: ${said(value)} ${what()}, limit ${said(limit)} (${rule(finding, show)}), ${stands}${how}`;
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
    words: ({ where }) =>
      where
        ? $localize`Crack ${where}:place:: a cracked blade is never ground or fitted again`
        : $localize`Crack: a cracked blade is never ground or fitted again`,
  },
  bend: {
    retires: LIMITS.bend.retires,
    about: () => $localize`Bend, tip A against tip B`,
    words: againstLimit(() => $localize`apart`, 1),
  },
  'bend-gap': {
    retires: LIMITS.bend.retires,
    about: () => $localize`Bend, blade against a straightedge`,
    words: againstLimit(() => $localize`apart`, 1),
  },
  width: {
    retires: LIMITS.width.retires,
    about: ({ end, stationName, fromTipMm = 0 }, show) =>
      $localize`End ${end ?? ''}, ${named(stationName ?? '')}, ${show(fromTipMm, 'mm', 0)} from the tip`,
    words: againstLimit(() => $localize`wide`, 1),
  },
  wing: {
    retires: LIMITS.wing.retires,
    about: ({ end }) => $localize`End ${end ?? ''}, lift wing at its thinnest`,
    words: againstLimit(() => $localize`thick`, 1),
  },
  reading: {
    about: (finding) => {
      const about = plainlyOf(finding)?.about ?? '';
      return finding.end ? $localize`End ${finding.end}, ${about}` : about;
    },
    words: (finding, show) => {
      const digits = finding.quantity ? QUANTITIES[finding.quantity].digits : 1;
      return againstLimit(() => plainlyOf(finding)?.how ?? '', digits)(finding, show);
    },
  },
  'mass-loss': {
    retires: LIMITS['mass-loss'].retires,
    about: () => $localize`Mass lost since new`,
    words: againstLimit(() => $localize`of the new blade`, 1),
  },
  grinds: {
    retires: LIMITS.grinds.retires,
    about: () => $localize`Grinds so far`,
    words: againstLimit(() => $localize`done`, 0),
  },
  'last-grind': {
    retires: LIMITS.grinds.retires,
    words: (finding, show) =>
      $localize`Needs another grind and has had all ${whole(finding.limit)} it may have (${rule(finding, show)})`,
  },
  bevel: {
    words: ({ end, value = 0, limit = 0, tolerance, severity }) => {
      const off = value - limit;
      const says =
        severity === 'grind'
          ? $localize`${one(Math.abs(off))}° ${off > 0 ? $localize`steeper` : $localize`flatter`} than`
          : $localize`within`;
      return $localize`End ${end ?? ''}, bevel ${one(value)}°, ${says} the spec's ${one(limit)}° ± ${one(tolerance)}°`;
    },
  },
  land: {
    words: ({ end, value = 0, limit = 0, severity }, show) =>
      $localize`End ${end ?? ''}, ${show(value, 'mm', 2)} flat on the edge, ${severity === 'grind' ? $localize`dull: above` : $localize`sharp enough: up to`} the shop's ${show(limit, 'mm', 2)}`,
  },
  'holds-edge': {
    words: ({ value, usual }) =>
      $localize`Came in after ${one(value)} h on its last edge, its spec usually holds ${one(usual)}:ph1:: it may no longer hold an edge (shop rule)`,
  },
  'not-balanced': {
    words: () =>
      $localize`Not balanced, by the shop’s rule: felt on the mower. Any vibration stops the mower at once`,
  },
  'damage-limit': {
    retires: 'tip-rounding',
    about: ({ end }) => $localize`End ${end ?? ''}, tip corner`,
    words: againstLimit(() => $localize`rounded`, 1),
  },
  'damage-ground-out': {
    words: (finding, show) => {
      const { value = 0, limit = 0 } = finding;
      return limit === 0
        ? $localize`${deep(finding, show)}, take it all out${costOfClearing(finding, show)}`
        : $localize`${deep(finding, show)}, take ${show(value - limit, 'mm')} and leave the last ${show(limit, 'mm')}${costOfClearing(finding, show)}`;
    },
  },
  'damage-beyond-saving': {
    retires: 'nick-beyond-saving',
    words: (finding, show) => {
      const { value = 0, limit = 0, margin = 0 } = finding;
      return $localize`${deep(finding, show)} needs ${show(value - limit, 'mm')} off, ${show(-margin, 'mm')} more than the width limit leaves: beyond saving under "${rule(finding, show)}"`;
    },
  },
  'damage-undecided': {
    words: (finding, show) => {
      const { value = 0, limit = 0, expandedUncertainty = 0 } = finding;
      return $localize`${deep(finding, show)} needs ${show(value - limit, 'mm')} off, as much as the width limit leaves within ± ${show(expandedUncertainty, 'mm')}:ph2:: read the width and the depth again, or leave it`;
    },
  },
  'damage-left': {
    words: (finding, show) =>
      $localize`${deep(finding, show)}, not worth chasing: ${rule(finding, show)}${costOfClearing(finding, show)}`,
  },
  'damage-retires': {
    retires: 'crack',
    words: (finding, show) =>
      $localize`${placeOf(finding, show)}:place:: ${nounOf(finding)}:damage:. A cracked blade is never ground or fitted again`,
  },
  'damage-in-sight': {
    words: (finding, show) =>
      finding.damage === 'burnt'
        ? $localize`${placeOf(finding, show)}:ph0:: blued, the edge has lost its temper there. Grind past it, or it will dull at once`
        : $localize`${deep(finding, show)}:ph0:: steel is missing there. The wing is thinner by it, and a width read within ${show(finding.limit ?? 0, 'mm', 0)} of it may sit in a pit`,
  },
  'damage-to-measure': {
    words: () => $localize`Centre hole looks worn: measure it before this blade is fitted again`,
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
