/** Thrown by every public function of the core on impossible input. Names the field and the rule. */
export class BenchError extends Error {
  override readonly name = 'BenchError';

  /**
   * @param field the parameter or entry that is wrong, as the caller named it
   * @param rule what it must be, in words to show
   * @param value what came instead
   */
  constructor(
    readonly field: string,
    readonly rule: string,
    readonly value?: unknown,
  ) {
    super(`${field} ${rule}${value === undefined ? '' : $localize` (got ${String(value)})`}`);
  }
}

/**
 * Returns `value` if it is a finite number, otherwise throws a {@link BenchError} naming `field`.
 * @example finite('widthMm', NaN) // throws widthMm
 */
export function finite(field: string, value: number): number {
  if (!Number.isFinite(value)) throw new BenchError(field, $localize`must be a number`, value);
  return value;
}

/**
 * Returns `value` if it is finite and above zero, otherwise throws.
 * @example positive('widthMm', 0) // throws widthMm
 */
export function positive(field: string, value: number): number {
  if (finite(field, value) <= 0) throw new BenchError(field, $localize`must be above zero`, value);
  return value;
}

/**
 * Returns `value` if it is finite and not below zero, otherwise throws.
 * @example notNegative('landMm', 0) // 0
 */
export function notNegative(field: string, value: number): number {
  if (finite(field, value) < 0) throw new BenchError(field, $localize`must not be negative`, value);
  return value;
}

/**
 * Returns `value` if low ≤ value ≤ high, otherwise throws.
 * @example between('share', 1.2, 0, 1) // throws share
 */
export function between(field: string, value: number, low: number, high: number): number {
  if (finite(field, value) < low || value > high) {
    throw new BenchError(field, $localize`must lie between ${low} and ${high}`, value);
  }
  return value;
}

/**
 * Returns `value` if low < value < high, otherwise throws.
 * @example strictlyBetween('bevelDeg', 90, 0, 90) // throws bevelDeg
 */
export function strictlyBetween(field: string, value: number, low: number, high: number): number {
  if (finite(field, value) <= low || value >= high) {
    throw new BenchError(field, $localize`must be above ${low} and below ${high}`, value);
  }
  return value;
}
