import type {
  CutSign,
  DueView,
  FleetMower,
  MakeSafe,
  MeterReason,
  Raising,
  UpkeepView,
} from '@tally-stone/contract';
import { listed } from '@tally-stone/core/basics';

/** What the fleet's screens say; our own words. */
export const SIGN_WORDS: Readonly<Record<CutSign, string>> = {
  'torn-tips': $localize`Torn tips`,
  stragglers: $localize`Stragglers left standing`,
  steps: $localize`Cuts in steps`,
  haze: $localize`Brown or white haze a day later`,
  labouring: $localize`Engine labours`,
};
/** Why a meter shows less than it did. */
export const METER_WORDS: Readonly<Record<MeterReason, string>> = {
  'new-meter': $localize`New meter`,
  'meter-reset': $localize`Meter was reset`,
  'misread-before': $localize`Misread last time`,
};
export const RAISING_WORDS: Readonly<Record<Raising, string>> = {
  'front-up': $localize`front up`,
  'rear-up': $localize`rear up`,
  'left-up': $localize`left side up, air filter above`,
  'right-up': $localize`right side up, air filter above`,
  'deck-off': $localize`deck taken off`,
  ramp: $localize`driven onto the ramp`,
};

export function safeWords(point: MakeSafe, raising: Raising | undefined): string {
  switch (point) {
    case 'engine-off':
      return $localize`Engine or drive off, key out, blades standing still`;
    case 'lead-off':
      return $localize`Spark-plug lead off and tied back`;
    case 'battery-out':
      return $localize`Battery out`;
    case 'brake-and-chocks':
      return $localize`Park brake on, wheels chocked`;
    case 'on-stands':
      if (raising === 'deck-off')
        return $localize`Deck off the mower and blocked, so that it cannot roll over`;
      return $localize`Brought up${raising ? ` (${RAISING_WORDS[raising]})` : ''} and standing on stands or blocks, never on a jack, hoist or strap alone`;
    case 'fuel-safe':
      return $localize`Fuel cannot spill when it is tipped`;
    case 'gloves-and-block':
      return $localize`Gloves on, blade blocked with timber, hands out of its path`;
  }
}

const days = (left: number): string =>
  left < 1
    ? $localize`today`
    : left < 2
      ? $localize`in a day`
      : $localize`in ${Math.floor(left)} days`;

/** Why and when, reason first. */
export function dueWords(due: DueView | undefined, fitted: boolean): string {
  if (!due) return fitted ? $localize`nothing known of its hours` : $localize`no set on`;
  if (due.because === 'strike') return $localize`struck something: due now`;
  if (due.because === 'complaint') {
    return $localize`${due.complaints === 1 ? $localize`a poor cut` : $localize`${due.complaints} poor cuts`} reported: due now`;
  }
  if (due.state === 'unplanned') return $localize`due when the cut shows it`;
  if (due.state === 'now') return $localize`sharpening interval reached: due now`;
  if (due.daysLeft !== undefined) return $localize`due ${days(due.daysLeft)}`;
  return due.hoursLeft === undefined
    ? ''
    : $localize`due in ${due.hoursLeft.toFixed(0)} h of mowing`;
}

/** The day's answer in one line: which sets are due, and why the worst of them. */
export function fleetHeadline(mowers: readonly FleetMower[]): string {
  const now = mowers.filter(({ deck }) => deck.due?.state === 'now');
  const out = mowers.filter(({ deck }) => deck.strike?.stopUse === true || deck.held.length > 0);
  const stopped =
    out.length > 0 ? $localize`Out of use: ${out.map(({ name }) => name).join(', ')}. ` : '';
  if (now.length === 0) {
    const next = mowers.find(({ deck }) => deck.due?.daysLeft !== undefined);
    return next
      ? $localize`${stopped}No set is due. Next: ${next.name}, ${dueWords(next.deck.due, true)}`
      : $localize`${stopped}No set is due`;
  }
  const [first] = now;
  const names = now.map(({ name }) => name).join(', ');
  return $localize`${stopped}${now.length === 1 ? $localize`One set is` : $localize`${now.length} sets are`} due now: ${names}${now.length === 1 && first ? `, ${dueWords(first.deck.due, true).replace(': due now', '')}` : ''}`;
}

/** What is looked at while the blades are off, and what doing it is called. */
export const UPKEEP_WORDS: Readonly<
  Record<UpkeepView['kind'], { readonly what: string; readonly done: string }>
> = {
  deck: { what: $localize`Deck: wet grass and rust under it`, done: $localize`Scraped` },
  belt: { what: $localize`Belt: cracks, glaze, fraying`, done: $localize`Changed` },
  spindles: {
    what: $localize`Spindles: turn each, feel for play and noise`,
    done: $localize`Mended`,
  },
  grease: { what: $localize`Grease, where the maker says so`, done: $localize`Greased` },
  'air-filter': { what: $localize`Air filter`, done: $localize`Cleaned` },
};
export const UPKEEP_FOUND_WORDS = {
  'in-order': $localize`In order`,
  done: $localize`Done`,
  'wants-work': $localize`Wants work`,
} as const;

/** What somebody has to see to on a mower, in words. */
export const wantingWork = (upkeep: readonly UpkeepView[]): readonly string[] =>
  upkeep.flatMap(({ kind, last }) =>
    last?.found === 'wants-work' ? [`${KIND_NAMES[kind]}: ${last.note ?? ''}`] : [],
  );
/** What is due to be looked at, in words. */
export const dueToLookAt = (upkeep: readonly UpkeepView[]): readonly string[] =>
  upkeep.flatMap(({ kind, due }) => (due ? [KIND_NAMES[kind].toLowerCase()] : []));
const KIND_NAMES: Readonly<Record<UpkeepView['kind'], string>> = {
  deck: $localize`Deck`,
  belt: $localize`Belt`,
  spindles: $localize`Spindles`,
  grease: $localize`Grease`,
  'air-filter': $localize`Air filter`,
};

/** Why a mower is not run while blades on it are held. */
export const heldWords = (codes: readonly string[]): string =>
  $localize`${listed(codes)} on it ${codes.length > 1 ? $localize`are` : $localize`is`} on hold since a reading was corrected: the set comes off first.`;
