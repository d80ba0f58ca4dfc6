import { COVERAGE_K } from '../reading/uncertainty.js';
/** From worst to best; the verdict on a blade is its worst finding. */
export const SEVERITIES = ['retire', 'hold', 'grind', 'watch', 'fine'];
/** Limits that guard people: what stays inside their band after one repeat counts as over. */
export const SAFETY_LIMITS = ['wing', 'bend', 'hole-wear'];
/**
 * @example severityRank('retire') // 0
 */
export const severityRank = (severity) => SEVERITIES.indexOf(severity);
/**
 * The worst severity of a list; `fine` for an empty one.
 * @example worst([{ severity: 'watch' }, { severity: 'grind' }]) // 'grind'
 */
export function worst(findings) {
    return findings.reduce((worstSoFar, { severity }) => severityRank(severity) < severityRank(worstSoFar) ? severity : worstSoFar, 'fine');
}
/**
 * Room inside a limit: value − least, or largest − value.
 * @example marginOf({ kind: 'width', value: 50 }, 52) // 2
 */
export function marginOf(limit, value) {
    return ['width', 'wing', 'length'].includes(limit.kind)
        ? value - limit.value
        : limit.value - value;
}
/**
 * Where a margin m with expanded uncertainty U stands: m < −U over, |m| ≤ U undecided, else inside. After one
 * repeat the mean decides; for a safety limit what is still undecided then counts as over.
 * @example standing({ kind: 'width', value: 50 }, { value: 50.1, u: 0.1 }, false) // 'undecided'
 */
export function standing(limit, reading, repeated) {
    const margin = marginOf(limit, reading.value);
    const doubt = COVERAGE_K * reading.u;
    if (margin < -doubt)
        return 'over';
    if (margin > doubt || (doubt === 0 && margin >= 0))
        return 'inside';
    if (!repeated)
        return 'undecided';
    if (SAFETY_LIMITS.includes(limit.kind))
        return 'over';
    return margin < 0 ? 'over' : 'inside';
}
/**
 * The source of a limit in words.
 * @example sourceWords({ source: 'shop', sourceText: 'two thirds of new' }) // 'shop rule: two thirds of new'
 */
export const sourceWords = (limit) => `${limit.source === 'maker' ? 'maker' : 'shop rule'}: ${limit.sourceText}`;
//# sourceMappingURL=finding.js.map