import { notNegative } from '../errors.js';
import { setbackAtMm } from './section.js';
/** Gap s₀ − s₁ at the ends of every straight stretch of both polylines, with the stretch's height. */
function stretches(before, ground) {
    const heights = [...new Set([...before, ...ground].map(({ yMm }) => yMm))].sort((a, b) => a - b);
    const gap = (yMm) => setbackAtMm(before, yMm) - setbackAtMm(ground, yMm);
    return heights.slice(1).map((y, i) => {
        const below = heights[i] ?? 0;
        const [a, b] = [gap(below), gap(y)];
        return { low: Math.min(a, b), high: Math.max(a, b), dy: y - below };
    });
}
/**
 * Builds the curve. `ground` is the new face with its foot at zero recession; both sections run from the
 * underside to the same height. Geometry, no published source needed.
 * Example: 6 mm steel ground at its own bevel loses 6 mm² per mm of recession.
 * @example recessionCurve(flatSection(6, plane(30)), flatSection(6, plane(30))).areaMm2(1) // 6.000
 */
export function recessionCurve(before, ground) {
    const parts = stretches(before, ground);
    const knots = [...new Set([0, ...parts.flatMap(({ low, high }) => [low, high])])]
        .filter((knot) => knot >= 0)
        .sort((a, b) => a - b);
    const areaAt = (delta) => parts.reduce((sum, { low, high, dy }) => {
        if (delta <= low)
            return sum;
        if (delta >= high)
            return sum + (delta - (low + high) / 2) * dy;
        return sum + ((delta - low) ** 2 / (2 * (high - low))) * dy;
    }, 0);
    /** Just above a knot. */
    const reachAt = (delta) => parts.reduce((sum, { low, high, dy }) => {
        if (delta < low)
            return sum;
        return sum + (delta >= high ? dy : ((delta - low) / (high - low)) * dy);
    }, 0);
    /** ∫A over x from a piece's start: A is quadratic there. */
    const sumOver = ({ area, reach, slope }, x) => x * (area + x * (reach / 2 + (x * slope) / 6));
    const pieces = [];
    for (const from of knots) {
        const slope = parts.reduce((sum, { low, high, dy }) => (from >= low && from < high ? sum + dy / (high - low) : sum), 0);
        const last = pieces.at(-1);
        const sum = last ? last.sum + sumOver(last, from - last.from) : 0;
        pieces.push({ from, area: areaAt(from), reach: reachAt(from), slope, sum });
    }
    const pieceFor = (value, of) => {
        let found = pieces[0];
        for (const piece of pieces) {
            if (piece[of] > value)
                break;
            found = piece;
        }
        return found;
    };
    const areaMm2 = (recessionMm) => {
        const { from, area, reach, slope } = pieceFor(notNegative('recessionMm', recessionMm), 'from');
        const x = recessionMm - from;
        return area + reach * x + (slope * x * x) / 2;
    };
    const sumTo = (recessionMm) => {
        const piece = pieceFor(recessionMm, 'from');
        return piece.sum + sumOver(piece, recessionMm - piece.from);
    };
    return {
        sharpenMm2: pieces[0]?.area ?? 0,
        areaMm2,
        meanAreaMm2(fromMm, toMm) {
            notNegative('fromMm', fromMm);
            notNegative('toMm', toMm);
            // Too close together for a difference of sums: A changes evenly there.
            if (Math.abs(toMm - fromMm) < 1e-4)
                return (areaMm2(fromMm) + areaMm2(toMm)) / 2;
            return (sumTo(toMm) - sumTo(fromMm)) / (toMm - fromMm);
        },
        reachMm(recessionMm) {
            const { from, reach, slope } = pieceFor(notNegative('recessionMm', recessionMm), 'from');
            return reach + slope * (recessionMm - from);
        },
        recessionMm(areaMm2) {
            const { from, area, reach, slope } = pieceFor(areaMm2, 'area');
            const more = areaMm2 - area;
            if (more <= 0)
                return from;
            // reach·x + slope·x²/2 = more, in the form that does not cancel.
            const root = Math.sqrt(reach * reach + 2 * slope * more);
            return from + (2 * more) / (reach + root);
        },
    };
}
//# sourceMappingURL=recession.js.map