import { ENDS } from '../blade/shape.js';
import { squareDepthMm } from './forward.js';
import { planGrind, type GrindPlan } from './plan.js';
import { planRows, type PlanInput, type PlanZone } from './problem.js';

/**
 * The plan with the edge dressed first: both ends ground square with the tool upright, down to the bottom of the deepest
 * nick or to what may be left of it, then the bevel brought back to that everywhere ({@link planRows} holds it to it).
 * Nothing where no nick asks for it, or where the limits leave no room.
 *
 * Shapes: `input.zones[at]` is the upright zone. Errors: as {@link planGrind}.
 * @example planSquareFirst(plan, 0) // undefined
 */
export function planSquareFirst(
  input: PlanInput,
  at: number,
): { readonly plan: GrindPlan; readonly input: PlanInput } | undefined {
  const passes = squarePasses(input, at);
  if (passes === 0) return undefined;
  const dressed = { ...input, zones: dressing(input.zones, passes) };
  const plan = planGrind(dressed);
  return plan.kind === 'plan' ? { plan, input: dressed } : undefined;
}

/**
 * Zones with so many upright passes at either end.
 * @example dressing([{ ...full, square: true }], 3)[0].made // { A: 3, B: 3 }
 */
export const dressing = (zones: readonly PlanZone[], passes: number): PlanZone[] =>
  zones.map((zone) => (zone.square ? { ...zone, made: { A: passes, B: passes } } : zone));

/** The fewest upright passes that reach the bottom of the deepest nick; both ends alike. */
function squarePasses(input: PlanInput, at: number): number {
  const rows = planRows(input);
  const toClear = ENDS.flatMap((end) =>
    input.nicks
      .filter((nick) => nick.end === end && nick.recessMm > 0)
      .flatMap(({ radiusMm, recessMm }) => {
        const row = rows.find(
          (each) => each.end === end && Math.abs(each.station.radiusMm - radiusMm) < 1e-9,
        );
        return row ? [{ row, recessMm }] : [];
      }),
  );
  if (!input.zones[at]?.square || toClear.length === 0) return 0;
  const reaches = (n: number): boolean =>
    toClear.every(({ row, recessMm }) => {
      const counts = input.zones.map((_, z) => (z === at ? n : 0));
      return squareDepthMm(input, row, counts) >= recessMm - 1e-6;
    });
  for (let n = 1; n <= input.rules.mostPassesPerZone; n++) if (reaches(n)) return n;
  return 0;
}
