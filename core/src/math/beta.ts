import { between, notNegative, positive } from '../errors.js';

/** Lanczos coefficients, g = 7, n = 9 (Godfrey's, from memory): 1e-14 relative for x > 0. */
const LANCZOS = [
  0.99999999999980993, 676.5203681218851, -1259.1392167224028, 771.32342877765313,
  -176.61502916214059, 12.507343278686905, -0.13857109526572012, 9.9843695780195716e-6,
  1.5056327351493116e-7,
] as const;

const HALF_LOG_TWO_PI = 0.5 * Math.log(2 * Math.PI);

/**
 * ln Γ(x) for x > 0 by Lanczos' approximation. Example: ln Γ(5) is ln 24.
 * @example logGamma(5) - Math.log(24) // 0.000000000
 */
export function logGamma(x: number): number {
  if (positive('x', x) < 0.5) {
    return Math.log(Math.PI / Math.sin(Math.PI * x)) - logGamma(1 - x);
  }
  let series: number = LANCZOS[0];
  for (let i = 1; i < LANCZOS.length; i++) series += (LANCZOS[i] ?? 0) / (x + i - 1);
  const t = x + 6.5;
  return HALF_LOG_TWO_PI + (x - 0.5) * Math.log(t) - t + Math.log(series);
}

const TINY = 1e-300;
const away = (value: number): number => (Math.abs(value) < TINY ? TINY : value);

/** Continued fraction of I_x(a, b) by Lentz's method (DLMF 8.17.22). */
function fraction(x: number, a: number, b: number): number {
  let c = 1;
  let d = 1 / away(1 - ((a + b) * x) / (a + 1));
  let h = d;
  for (let m = 1; m <= 500; m++) {
    const even = (m * (b - m) * x) / ((a + 2 * m - 1) * (a + 2 * m));
    d = 1 / away(1 + even * d);
    c = away(1 + even / c);
    h *= d * c;
    const odd = (-(a + m) * (a + b + m) * x) / ((a + 2 * m) * (a + 2 * m + 1));
    d = 1 / away(1 + odd * d);
    c = away(1 + odd / c);
    const step = d * c;
    h *= step;
    if (Math.abs(step - 1) < 1e-12) break;
  }
  return h;
}

/**
 * Regularised incomplete beta function I_x(a, b), 0 ≤ x ≤ 1, a > 0, b > 0: the distribution function of
 * a Beta(a, b). By continued fraction, on the side where it converges fast (DLMF 8.17.22 and 8.17.4).
 * Example: I_x(1, 1) is x.
 * @example regularizedBeta(0.3, 1, 1) // 0.300000
 */
export function regularizedBeta(x: number, a: number, b: number): number {
  between('x', x, 0, 1);
  positive('a', a);
  positive('b', b);
  if (x === 0 || x === 1) return x;
  const front = Math.exp(
    logGamma(a + b) - logGamma(a) - logGamma(b) + a * Math.log(x) + b * Math.log1p(-x),
  );
  return x < (a + 1) / (a + b + 2)
    ? (front * fraction(x, a, b)) / a
    : 1 - (front * fraction(1 - x, b, a)) / b;
}

/** Less than this at either end of the counts is none: of ten thousand chances less than 1e-14 is lost in all. */
const NO_MASS = 1e-18;

/**
 * The mass of a binomial with unequal chances: P(k successes), k = 0…n, by convolution. Only the counts that have any mass
 * are carried on, so thousands of chances take milliseconds.
 * Errors: a chance below 0 or above 1.
 * @example poissonBinomial([0.5, 0.5]) // [0.25, 0.5, 0.25]
 */
export function poissonBinomial(chances: readonly number[]): number[] {
  const mass = new Float64Array(chances.length + 1);
  mass[0] = 1;
  let [least, most] = [0, 0];
  chances.forEach((chance, i) => {
    notNegative(`chances[${i}]`, chance);
    between(`chances[${i}]`, chance, 0, 1);
    if (chance === 0) return;
    most += 1;
    for (let k = most; k > least; k--)
      mass[k] = (mass[k] ?? 0) * (1 - chance) + (mass[k - 1] ?? 0) * chance;
    mass[least] = (mass[least] ?? 0) * (1 - chance);
    while (least < most && (mass[least] ?? 0) < NO_MASS) mass[least++] = 0;
    while (most > least && (mass[most] ?? 0) < NO_MASS) mass[most--] = 0;
  });
  return [...mass];
}
