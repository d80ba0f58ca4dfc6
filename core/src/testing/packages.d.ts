/** The parts of packages without types that the tests use. */
declare module 'jstat' {
  const jstat: {
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
