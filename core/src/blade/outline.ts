import type { End, WidthAt } from './shape.js';
import { interpolateMm } from './shape.js';

/**
 * The blade as it lies on the bench, top side up, end A left and end B right, in millimetres about the
 * hole centre, y downward. The blade is symmetric under a half turn, so end A's cutting edge faces down
 * (toward the person) for a right-hand blade and end B's faces up; a left-hand blade is the mirror image.
 */
export interface OutlinePoint {
  readonly xMm: number;
  readonly yMm: number;
}

export interface OutlineInput {
  readonly lengthMm: number;
  /** Width of the bar when new, mm. */
  readonly newWidthMm: number;
  readonly hand: 'right' | 'left';
  /** How far the cutting edge reaches in from the tip, mm. */
  readonly edgeLengthMm: number;
  readonly widths: Readonly<Record<End, readonly WidthAt[]>>;
}

/**
 * +1 where the end's cutting edge faces down the page, −1 where it faces up.
 * @example edgeSide('A', 'right') // 1
 */
export function edgeSide(end: End, hand: 'right' | 'left'): 1 | -1 {
  return (end === 'A') === (hand === 'right') ? 1 : -1;
}

/**
 * −1 for end A (left of the hole), +1 for end B.
 * @example endSide('A') // -1
 */
export const endSide = (end: End): 1 | -1 => (end === 'A' ? -1 : 1);

/**
 * Width at a radius: as measured along the cutting edge, the bar's own width inside it.
 * @example widthAtMm(outline, 'A', 250) // 58
 */
export function widthAtMm(input: OutlineInput, end: End, radiusMm: number): number {
  const known = input.widths[end];
  const edgeStart = input.lengthMm / 2 - input.edgeLengthMm;
  if (known.length === 0 || radiusMm < edgeStart) return input.newWidthMm;
  return interpolateMm(
    known.map(({ radiusMm: at, widthMm }) => ({ radiusMm: at, valueMm: widthMm })),
    radiusMm,
  );
}

/**
 * A point on an end's cutting edge, `setbackMm` further into the steel.
 * @example edgePoint(outline, 'A', 250) // { xMm: -250, yMm: 28 }
 */
export function edgePoint(
  input: OutlineInput,
  end: End,
  radiusMm: number,
  setbackMm = 0,
): OutlinePoint {
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
export function edgeRadiiMm(input: OutlineInput, end: End): number[] {
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
export function bladeOutline(input: OutlineInput): OutlinePoint[] {
  const side = (end: End): OutlinePoint[] => {
    const tip = input.lengthMm / 2;
    const start = tip - input.edgeLengthMm;
    const trailingY = -edgeSide(end, input.hand) * (input.newWidthMm / 2);
    const shoulder = { xMm: endSide(end) * (start - 6), yMm: -trailingY };
    const edge = edgeRadiiMm(input, end).map((radius) => edgePoint(input, end, radius));
    return [shoulder, ...edge, { xMm: endSide(end) * tip, yMm: trailingY }];
  };
  return [...side('A'), ...side('B')];
}
