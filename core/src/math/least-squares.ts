import { BenchError } from '../errors.js';

/**
 * Solves the square system A·x = b by elimination with row exchange. `undefined` when A is singular.
 * @example solve([[2, 0], [0, 4]], [2, 8]) // [1, 2]
 */
export function solve(
  matrix: readonly (readonly number[])[],
  right: readonly number[],
): number[] | undefined {
  const rows = matrix.map((row, i) => [...row, right[i] ?? 0]);
  const n = rows.length;
  for (let column = 0; column < n; column++) {
    const size = (row: number): number => Math.abs(rows[row]?.[column] ?? 0);
    const largest = Array.from({ length: n - column }, (_, i) => column + i).reduce((best, row) =>
      size(row) > size(best) ? row : best,
    );
    if (size(largest) < 1e-12) return undefined;
    const pivot = rows[largest] ?? [];
    rows[largest] = rows[column] ?? [];
    rows[column] = pivot;
    for (let row = 0; row < n; row++) {
      const share = row === column ? 0 : (rows[row]?.[column] ?? 0) / (pivot[column] ?? 1);
      if (share !== 0)
        rows[row] = (rows[row] ?? []).map((each, i) => each - share * (pivot[i] ?? 0));
    }
  }
  return rows.map((row, i) => (row[n] ?? 0) / (row[i] ?? 1));
}

export interface Fitted {
  readonly values: readonly number[];
  /** Standard uncertainty of each value. */
  readonly us: readonly number[];
  /** How they vary together: (JᵀWJ)⁻¹, in the values' own units. */
  readonly covariance: readonly (readonly number[])[];
  /** Sum of squared residuals, each over its own standard uncertainty. */
  readonly chiSquared: number;
}

const STEPS = 40;
/** Parameters are scaled by `sizes`, so one step serves for all derivatives. */
const DERIVATIVE_STEP = 1e-4;

/**
 * Weighted least squares by Gauss–Newton: finds the values that make `model(values)` meet `seen` best, and
 * their standard uncertainties √diag((JᵀWJ)⁻¹) (JCGM 100:2008, H.3, for a line; the same for a curve near its
 * best place). `sizes` are the sizes in which the values move; `atLeast` bounds them from below.
 *
 * Errors: `seen` when there are fewer readings than values, or they do not tell the values apart.
 * Example: a line through (0, 1), (1, 3), (2, 5) has intercept 1 and slope 2.
 * @example fitValues(([a, b]) => [a, a + b, a + 2 * b], [1, 3, 5].map((value) => ({ value, u: 0.1 })), { start: [0, 0], sizes: [1, 1] }).values // [1, 2]
 */
export function fitValues(
  model: (values: readonly number[]) => readonly number[],
  seen: readonly { readonly value: number; readonly u: number }[],
  options: {
    readonly start: readonly number[];
    readonly sizes: readonly number[];
    readonly atLeast?: readonly number[];
  },
): Fitted {
  const { start, sizes, atLeast = start.map(() => -Infinity) } = options;
  if (seen.length < start.length) {
    throw new BenchError(
      'seen',
      $localize`must hold at least ${start.length} readings for as many unknowns`,
    );
  }
  const inside = (values: readonly number[]): number[] =>
    values.map((value, i) => Math.max(value, atLeast[i] ?? -Infinity));
  const misses = (values: readonly number[]): number[] => {
    const told = model(values);
    return seen.map(({ value, u }, i) => (value - (told[i] ?? 0)) / u);
  };
  const badness = (values: readonly number[]): number =>
    misses(values).reduce((sum, miss) => sum + miss * miss, 0);
  const jacobian = (values: readonly number[]): number[][] => {
    const at = model(values);
    const columns = sizes.map((size, j) => {
      const step = size * DERIVATIVE_STEP;
      const shifted = model(values.map((value, i) => (i === j ? value + step : value)));
      return seen.map(({ u }, i) => ((shifted[i] ?? 0) - (at[i] ?? 0)) / (DERIVATIVE_STEP * u));
    });
    return seen.map((_, i) => columns.map((column) => column[i] ?? 0));
  };
  const normal = (rows: readonly (readonly number[])[]): number[][] =>
    sizes.map((_, a) =>
      sizes.map((__, b) => rows.reduce((sum, row) => sum + (row[a] ?? 0) * (row[b] ?? 0), 0)),
    );
  const notApart = new BenchError('seen', $localize`do not tell the unknowns apart`);

  let values = inside(start);
  for (let step = 0; step < STEPS; step++) {
    const rows = jacobian(values);
    const missed = misses(values);
    const down = sizes.map((_, j) =>
      rows.reduce((sum, row, i) => sum + (row[j] ?? 0) * (missed[i] ?? 0), 0),
    );
    const move = solve(normal(rows), down);
    if (!move) throw notApart;
    // Half the step while it makes things worse: the curve bends.
    let share = 1;
    const tried = (): number[] =>
      inside(values.map((value, i) => value + share * (move[i] ?? 0) * (sizes[i] ?? 1)));
    while (share > 1e-4 && !(badness(tried()) <= badness(values))) share /= 2;
    const next = tried();
    const moved = Math.max(
      ...next.map((value, i) => Math.abs(value - (values[i] ?? 0)) / (sizes[i] ?? 1)),
    );
    values = next;
    if (moved < 1e-9) break;
  }
  const square = normal(jacobian(values));
  const covariance = sizes.map((size, i) => {
    const column = solve(
      square,
      sizes.map((_, j) => (i === j ? 1 : 0)),
    );
    if (!column) throw notApart;
    return column.map((each, j) => each * size * (sizes[j] ?? 1));
  });
  const us = covariance.map((row, i) => Math.sqrt(Math.max(0, row[i] ?? 0)));
  return { values, us, covariance, chiSquared: badness(values) };
}
