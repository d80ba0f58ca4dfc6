import type { End } from '../blade/shape.js';
import { QUANTITIES, type BenchQuantity } from '../vocabulary/quantities.js';
import { said } from '../units/said.js';
import { COVERAGE_K, type Measured } from './uncertainty.js';

/** One place that could be read now, and what is known of it without reading. */
export interface KnownPlace {
  readonly key: string;
  readonly quantity: BenchQuantity;
  readonly end?: End | undefined;
  /** The last reading carried forward with its grown uncertainty; nothing where it was never read. */
  readonly carried?: Measured | undefined;
  /** Room inside its limit at the carried value, same unit, where it has one. */
  readonly margin?: number | undefined;
  /**
   * How many passes the plan would change by if the value were off by its expanded uncertainty; a reading
   * that moves the plan by less than one pass is not worth taking for it.
   */
  readonly passesAtStake?: number | undefined;
}

export interface WorthReading {
  readonly key: string;
  /** Why, in words to show. */
  readonly why: string;
}

export interface WorthQuestion {
  readonly places: readonly KnownPlace[];
  /** All of them are due, or asked for. */
  readonly fullLook: boolean;
  /** A strike was reported since the last cycle: what a strike bends is read again. */
  readonly struck: boolean;
  /** It was trimmed: what was read of it before does not count. */
  readonly trimmed?: boolean | undefined;
}

/** One pass either way is seen by looking; it takes two to be worth a reading. Common practice, no source. */
const PASSES_WORTH = 2;

/** Beyond this many standard uncertainties a limit cannot be in question any more. */
const BEYOND_DOUBT = 3;

/** Reasons that hold of every blade. */
const FULL_LOOK = (): string => $localize`full look`;
const SCALE_WITNESS = (): string => $localize`the scale is the witness of metal removed`;
/**
 * Does a reason hold of every blade, so that it need not be said at each field?
 * @example isPlainWhy('never read on this blade') // false
 */
export const isPlainWhy = (why: string): boolean => [FULL_LOOK(), SCALE_WITNESS()].includes(why);

function whyWorth(
  place: KnownPlace,
  { fullLook, struck, trimmed }: WorthQuestion,
): string | undefined {
  const { quantity, carried, margin, passesAtStake } = place;
  if (fullLook) return FULL_LOOK();
  if (!carried)
    return trimmed ? $localize`not read since it was trimmed` : $localize`never read on this blade`;
  if (quantity === 'mass') return SCALE_WITNESS();
  if (struck && QUANTITIES[quantity].showsStrike) return $localize`it struck something`;
  if (margin !== undefined && margin < BEYOND_DOUBT * carried.u) {
    const { unit } = QUANTITIES[quantity];
    const off = said(Math.abs(margin), unit);
    const where = margin < 0 ? $localize`${off} past it` : $localize`${off} left`;
    return $localize`could be past its limit: ${where}, give or take ${said(COVERAGE_K * carried.u, unit)}`;
  }
  if (passesAtStake !== undefined && passesAtStake >= PASSES_WORTH) {
    return $localize`could change the plan by ${Math.round(passesAtStake)} passes`;
  }
  return undefined;
}

/**
 * Which readings are worth taking now: those that could still change the verdict or the plan, the mass (it
 * proves the grind), and always the narrowest place of the edge. The rest are carried forward with their
 * uncertainty. In the order the places came.
 * @example readingsWorthTaking({ places: [], fullLook: false, struck: false }) // []
 */
export function readingsWorthTaking(question: WorthQuestion): WorthReading[] {
  const narrowest = question.places
    .filter(
      ({ quantity, carried, margin }) => quantity === 'width' && carried && margin !== undefined,
    )
    .reduce<KnownPlace | undefined>(
      (least, place) => ((place.margin ?? 0) < (least?.margin ?? Infinity) ? place : least),
      undefined,
    );
  return question.places.flatMap((place) => {
    const why =
      whyWorth(place, question) ??
      (place === narrowest ? $localize`the narrowest place is read every time` : undefined);
    return why ? [{ key: place.key, why }] : [];
  });
}

/**
 * Is a full look due? After so many cycles without one, or so many days. Common practice, no source.
 * @example fullLookDue({ cycles: 4, days: 10 }) // true
 */
export function fullLookDue(
  since: { readonly cycles: number; readonly days: number },
  every: { readonly cycles: number; readonly days: number } = { cycles: 4, days: 120 },
): boolean {
  return since.cycles >= every.cycles || since.days >= every.days;
}
