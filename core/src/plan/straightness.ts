import { ENDS, type End } from '../blade/shape.js';
import type { PlanInput, Row } from './problem.js';

/** How far two places of one edge may differ, against new: the rule, or the taper that stands already. */
export interface Straightness {
  readonly name: string;
  readonly end: End;
  readonly outer: number;
  readonly inner: number;
  readonly mostMm: number;
  /** Only the outer place falling behind counts (the tip). */
  readonly oneSided: boolean;
}

/**
 * Every straightness the plan must keep: neighbour against neighbour, and the tip against the edge behind it.
 * @example straightnesses(plan, planRows(plan)).length // 8
 */
export function straightnesses(input: PlanInput, rows: readonly Row[]): Straightness[] {
  const { straightness, tip, stepMm = 0 } = input.rules;
  return ENDS.flatMap((end) => {
    const along = rows.flatMap((row, i) => (row.end === end ? [{ row, i }] : []));
    const pairs = along.slice(1).flatMap((inner, k): Straightness[] => {
      const outer = along[k];
      if (!outer) return [];
      const apart = outer.row.station.radiusMm - inner.row.station.radiusMm;
      const standing = Math.abs(outer.row.station.wornMm - inner.row.station.wornMm);
      return [
        {
          name: `t_${end}_${k + 1}`,
          end,
          outer: outer.i,
          inner: inner.i,
          mostMm: Math.max(straightness * apart, standing) + stepMm,
          oneSided: false,
        },
      ];
    });
    const [tipmost] = along;
    const behind =
      tip &&
      along.find(
        ({ row }) => (tipmost?.row.station.radiusMm ?? 0) - row.station.radiusMm >= tip.reachMm,
      );
    if (!tip || !tipmost || !behind) return pairs;
    const standing = tipmost.row.station.wornMm - behind.row.station.wornMm;
    return [
      ...pairs,
      {
        name: `t_${end}_tip`,
        end,
        outer: tipmost.i,
        inner: behind.i,
        mostMm: Math.max(tip.mostMm, standing) + stepMm,
        oneSided: true,
      },
    ];
  });
}
