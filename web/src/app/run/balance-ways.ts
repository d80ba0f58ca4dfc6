import type { BalanceView, Phase } from '@tally-stone/contract';
import { BALANCE_DEVICES, type BalanceDevice } from '@tally-stone/core';

/** What a blade can be hung on: the shop's own balancers, or, where it has named none, the usual kinds. */
export interface Balancer {
  readonly key: string;
  readonly label: string;
  readonly device: BalanceDevice;
  readonly balancerId?: string;
  readonly sight: string;
}
export const USUAL: readonly Balancer[] = Object.entries(BALANCE_DEVICES).map(
  ([key, { label }]) => ({
    key,
    label,
    device: key as BalanceDevice,
    sight: '',
  }),
);

/** How this bench tells the amount, and on what, kept for the next blade. */
export const WAY = 'tally-stone.balance-way';
export const BALANCER = 'tally-stone.balancer';
export const WAYS = ['weight', 'drop', 'drop-30', 'tilt', 'end'] as const;
export type Way = (typeof WAYS)[number];
export const WAY_WORDS: Readonly<Record<Way, string>> = {
  weight: $localize`Test weight`,
  drop: $localize`Drop to hanging`,
  'drop-30': $localize`Drop to 30°`,
  tilt: $localize`Tilt`,
  end: $localize`Only which end`,
};
/** Ways that need one kind of balancer. */
export const NEEDS: Readonly<Partial<Record<Way, BalanceDevice>>> = {
  drop: 'bearing-shaft',
  'drop-30': 'bearing-shaft',
  tilt: 'cone-point',
};

/**
 * How the amount is told where nobody has picked it for this phase yet. A blade ground as planned hangs near level and
 * takes long to come down: whoever times drops stops the clock at the mark before.
 */
export function wayFor(phase: Phase): Way {
  const kept = (of: Phase): Way | undefined =>
    WAYS.find((way) => way === localStorage.getItem(`${WAY}.${of}`));
  const before = kept('before') ?? WAYS.find((way) => way === localStorage.getItem(WAY));
  if (phase === 'before') return before ?? 'weight';
  return kept('after') ?? (before === 'drop' ? 'drop-30' : (before ?? 'weight'));
}

/** Whether the last blade on this device was hung before it was ground: the next one is led there after it is measured. */
const HANGS_FIRST = 'tally-stone.hangs-first';
export const hangsFirst = (): boolean => localStorage.getItem(HANGS_FIRST) === 'yes';
export function rememberHanging(hungFirst: boolean): void {
  if (hungFirst) localStorage.setItem(HANGS_FIRST, 'yes');
  else localStorage.removeItem(HANGS_FIRST);
}

/** Share of the allowance used, in percent of the bar's width. */
export const shareOf = ({ unbalanceGmm, permissibleGmm }: BalanceView): number =>
  Math.min(100, (50 * Math.abs(unbalanceGmm)) / permissibleGmm);

/** By how many drops a reading was made, and how many of them were left out. */
export function dropWords(drops: number, strays: number): string {
  const by = $localize`By ${drops} ${drops === 1 ? $localize`drop` : $localize`drops`}`;
  return strays > 0 ? $localize`${by}, ${strays} left out as stray` : by;
}

/** What two hangings tell, half a turn apart: their mean, and what the balancer itself is off by. */
export function halfTurnWords(
  { firstGmm, turnedGmm, offsetGmm }: NonNullable<BalanceView['halfTurn']>,
  show: (gmm: number) => string,
): string {
  const at = (gmm: number): string =>
    Math.abs(gmm) < 0.5
      ? $localize`level`
      : $localize`${show(Math.abs(gmm))} at ${gmm > 0 ? 'A' : 'B'}`;
  return $localize`Mean of ${at(firstGmm)} and, turned, ${at(turnedGmm)}:ph1:: the balancer itself is off by ${show(Math.abs(offsetGmm))}.`;
}
