import { interpolateMm } from './shape.js';
/**
 * +1 where the end's cutting edge faces down the page, −1 where it faces up.
 * @example edgeSide('A', 'right') // 1
 */
export function edgeSide(end, hand) {
    return (end === 'A') === (hand === 'right') ? 1 : -1;
}
/**
 * −1 for end A (left of the hole), +1 for end B.
 * @example endSide('A') // -1
 */
export const endSide = (end) => (end === 'A' ? -1 : 1);
/**
 * Width at a radius: as measured along the cutting edge, the bar's own width inside it.
 * @example widthAtMm(outline, 'A', 250) // 58
 */
export function widthAtMm(input, end, radiusMm) {
    const known = input.widths[end];
    const edgeStart = input.lengthMm / 2 - input.edgeLengthMm;
    if (known.length === 0 || radiusMm < edgeStart)
        return input.newWidthMm;
    return interpolateMm(known.map(({ radiusMm: at, widthMm }) => ({ radiusMm: at, valueMm: widthMm })), radiusMm);
}
/**
 * A point on an end's cutting edge, `setbackMm` further into the steel.
 * @example edgePoint(outline, 'A', 250) // { xMm: -250, yMm: 28 }
 */
export function edgePoint(input, end, radiusMm, setbackMm = 0) {
    const trailing = -edgeSide(end, input.hand) * (input.newWidthMm / 2);
    const width = widthAtMm(input, end, radiusMm) - setbackMm;
    return {
        xMm: endSide(end) * radiusMm,
        yMm: trailing + edgeSide(end, input.hand) * width,
    };
}
/**
 * Places along an end's edge worth drawing a vertex at, from its inner end to the tip.
 * @example edgeRadiiMm(outline, 'A').at(-1) // 260
 */
export function edgeRadiiMm(input, end) {
    const tip = input.lengthMm / 2;
    const start = tip - input.edgeLengthMm;
    const inside = input.widths[end]
        .map(({ radiusMm }) => radiusMm)
        .filter((r) => r > start && r < tip);
    return [start, ...inside, tip].sort((a, b) => a - b);
}
/**
 * The blade's outline as a closed polygon, mm about the hole centre.
 * @example bladeOutline(outline).length > 8 // true
 */
export function bladeOutline(input) {
    const side = (end) => {
        const tip = input.lengthMm / 2;
        const start = tip - input.edgeLengthMm;
        const trailingY = -edgeSide(end, input.hand) * (input.newWidthMm / 2);
        const shoulder = { xMm: endSide(end) * (start - 6), yMm: -trailingY };
        const edge = edgeRadiiMm(input, end).map((radius) => edgePoint(input, end, radius));
        return [shoulder, ...edge, { xMm: endSide(end) * tip, yMm: trailingY }];
    };
    return [...side('A'), ...side('B')];
}
//# sourceMappingURL=outline.js.map