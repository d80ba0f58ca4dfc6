import { COVERAGE_K } from './uncertainty.js';
/** Beyond this many standard uncertainties a limit cannot be in question any more. */
const BEYOND_DOUBT = 3;
/** What a strike can have changed without a trace at the edge. Common practice, no source. */
const STRIKE_SHOWS_IN = ['tip-height', 'straightedge-gap', 'hole-wear'];
function whyWorth(place, { fullLook, struck }) {
    const { quantity, carried, margin, passesAtStake } = place;
    if (fullLook)
        return 'full look';
    if (!carried)
        return 'never read on this blade';
    if (quantity === 'mass')
        return 'the scale is the witness of metal removed';
    if (struck && STRIKE_SHOWS_IN.includes(quantity))
        return 'it struck something';
    if (margin !== undefined && margin < BEYOND_DOUBT * carried.u) {
        return `could be past its limit: ${margin.toFixed(1)} left, give or take ${(COVERAGE_K * carried.u).toFixed(1)}`;
    }
    if (passesAtStake !== undefined && passesAtStake >= 1) {
        return `could change the plan by ${Math.round(passesAtStake)} ${Math.round(passesAtStake) === 1 ? 'pass' : 'passes'}`;
    }
    return undefined;
}
/**
 * Which readings are worth taking now: those that could still change the verdict or the plan, the mass (it
 * proves the grind), and always the narrowest place of the edge. The rest are carried forward with their
 * uncertainty. In the order the places came.
 * @example readingsWorthTaking({ places: [], fullLook: false, struck: false }) // []
 */
export function readingsWorthTaking(question) {
    const narrowest = question.places
        .filter(({ quantity, carried, margin }) => quantity === 'width' && carried && margin !== undefined)
        .reduce((least, place) => ((place.margin ?? 0) < (least?.margin ?? Infinity) ? place : least), undefined);
    return question.places.flatMap((place) => {
        const why = whyWorth(place, question) ??
            (place === narrowest ? 'the narrowest place is read every time' : undefined);
        return why ? [{ key: place.key, why }] : [];
    });
}
/**
 * Is a full look due? After so many cycles without one, or so many days. Common practice, no source.
 * @example fullLookDue({ cycles: 4, days: 10 }) // true
 */
export function fullLookDue(since, every = { cycles: 4, days: 120 }) {
    return since.cycles >= every.cycles || since.days >= every.days;
}
//# sourceMappingURL=worth.js.map