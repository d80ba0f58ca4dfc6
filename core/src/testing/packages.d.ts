/** The parts of packages without types that the tests use. */
declare module 'jstat' {
  const jstat: {
    readonly binomial: { pdf(k: number, n: number, p: number): number };
    readonly beta: { cdf(x: number, a: number, b: number): number };
    readonly gamma: { cdf(x: number, shape: number, scale: number): number };
    gammaln(x: number): number;
    readonly normal: {
      cdf(x: number, mean: number, deviation: number): number;
      inv(probability: number, mean: number, deviation: number): number;
    };
  };
  export default jstat;
}

declare module 'convert-units' {
  export default function convert(value: number): {
    from(unit: string): { to(unit: string): number };
  };
}

declare module '@stdlib/math-base-special-ellipk' {
  /** Complete elliptic integral of the first kind, K(m). */
  export default function ellipk(m: number): number;
}
