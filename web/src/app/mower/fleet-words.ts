import type {
  CutSign,
  DueView,
  FleetMower,
  MakeSafe,
  MeterReason,
  Raising,
  StrikeView,
  UpkeepView,
} from '@tally-stone/contract';

/** What the fleet's screens say; our own words. */
export const STRIKE_WORDS: Readonly<Record<StrikeView['what'], string>> = {
  stone: 'a stone',
  'root-or-stump': 'a root or stump',
  'kerb-or-edging': 'a kerb or edging',
  metal: 'metal',
  something: 'something unseen',
};
export const HARD_WORDS: Readonly<Record<StrikeView['hard'], string>> = {
  glanced: 'It glanced off',
  hard: 'A hard knock',
  stopped: 'It stopped the blade',
};
export const SIGN_WORDS: Readonly<Record<CutSign, string>> = {
  'torn-tips': 'Torn tips',
  stragglers: 'Stragglers left standing',
  steps: 'Cuts in steps',
  haze: 'Brown or white haze a day later',
  labouring: 'Engine labours',
};
/** Why a meter shows less than it did. */
export const METER_WORDS: Readonly<Record<MeterReason, string>> = {
  'new-meter': 'New meter',
  'meter-reset': 'Meter was reset',
  'misread-before': 'Misread last time',
};
export const RAISING_WORDS: Readonly<Record<Raising, string>> = {
  'front-up': 'front up',
  'rear-up': 'rear up',
  'left-up': 'left side up, air filter above',
  'right-up': 'right side up, air filter above',
  'deck-off': 'deck taken off',
  ramp: 'driven onto the ramp',
};

export function safeWords(point: MakeSafe, raising: Raising | undefined): string {
  switch (point) {
    case 'engine-off':
      return 'Engine or drive off, key out, blades standing still';
    case 'lead-off':
      return 'Spark-plug lead off and tied back';
    case 'battery-out':
      return 'Battery out';
    case 'brake-and-chocks':
      return 'Park brake on, wheels chocked';
    case 'on-stands':
      if (raising === 'deck-off')
        return 'Deck off the mower and blocked, so that it cannot roll over';
      return `Brought up${raising ? ` (${RAISING_WORDS[raising]})` : ''} and standing on stands or blocks, never on a jack, hoist or strap alone`;
    case 'fuel-safe':
      return 'Fuel cannot spill when it is tipped';
    case 'gloves-and-block':
      return 'Gloves on, blade blocked with timber, hands out of its path';
  }
}

const days = (left: number): string =>
  left < 1 ? 'today' : left < 2 ? 'in a day' : `in ${Math.floor(left)} days`;

/** Why and when, reason first. */
export function dueWords(due: DueView | undefined, fitted: boolean): string {
  if (!due) return fitted ? 'nothing known of its hours' : 'no set on';
  if (due.because === 'strike') return 'struck something: due now';
  if (due.because === 'complaint') {
    return `${due.complaints === 1 ? 'a poor cut' : `${due.complaints} poor cuts`} reported: due now`;
  }
  if (due.state === 'unplanned') return 'due when the cut shows it';
  if (due.state === 'now') return 'sharpening interval reached: due now';
  if (due.daysLeft !== undefined) return `due ${days(due.daysLeft)}`;
  return due.hoursLeft === undefined ? '' : `due in ${due.hoursLeft.toFixed(0)} h of mowing`;
}

/** The day's answer in one line: which sets are due, and why the worst of them. */
export function fleetHeadline(mowers: readonly FleetMower[]): string {
  const now = mowers.filter(({ deck }) => deck.due?.state === 'now');
  const out = mowers.filter(({ deck }) => deck.strike?.stopUse === true || deck.held.length > 0);
  const stopped = out.length > 0 ? `Out of use: ${out.map(({ name }) => name).join(', ')}. ` : '';
  if (now.length === 0) {
    const next = mowers.find(({ deck }) => deck.due?.daysLeft !== undefined);
    return next
      ? `${stopped}No set is due. Next: ${next.name}, ${dueWords(next.deck.due, true)}`
      : `${stopped}No set is due`;
  }
  const [first] = now;
  const names = now.map(({ name }) => name).join(', ');
  return `${stopped}${now.length === 1 ? 'One set is' : `${now.length} sets are`} due now: ${names}${
    now.length === 1 && first ? `, ${dueWords(first.deck.due, true).replace(': due now', '')}` : ''
  }`;
}

/** What is looked at while the blades are off, and what doing it is called. */
export const UPKEEP_WORDS: Readonly<
  Record<UpkeepView['kind'], { readonly what: string; readonly done: string }>
> = {
  deck: { what: 'Deck: wet grass and rust under it', done: 'Scraped' },
  belt: { what: 'Belt: cracks, glaze, fraying', done: 'Changed' },
  spindles: { what: 'Spindles: turn each, feel for play and noise', done: 'Mended' },
  grease: { what: 'Grease, where the maker says so', done: 'Greased' },
  'air-filter': { what: 'Air filter', done: 'Cleaned' },
};
export const UPKEEP_FOUND_WORDS = {
  'in-order': 'In order',
  done: 'Done',
  'wants-work': 'Wants work',
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
  deck: 'Deck',
  belt: 'Belt',
  spindles: 'Spindles',
  grease: 'Grease',
  'air-filter': 'Air filter',
};

/** Why a mower is not run while blades on it are held. */
export const heldWords = (codes: readonly string[]): string =>
  `${codes.join(' and ')} on it ${codes.length > 1 ? 'are' : 'is'} on hold since a reading was corrected: the set comes off first.`;
