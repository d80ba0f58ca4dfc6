/** Reader and validator of Frictionless Data; it ships no types. */
declare module 'datapackage' {
  export class Resource {
    static load(descriptor: object, options: { basePath: string }): Promise<Resource>;
    readonly valid: boolean;
    readonly errors: readonly Error[];
    read(options: { keyed: true }): Promise<Record<string, unknown>[]>;
  }
}

/** The table of UCUM codes; it ships no types. */
declare module '@lhncbc/ucum-lhc' {
  const ucum: {
    readonly UcumLhcUtils: {
      getInstance(): {
        validateUnitString(code: string): { readonly status: 'valid' | 'invalid' | 'error' };
        convertUnitTo(from: string, value: number, to: string): { readonly toVal: number | null };
      };
    };
  };
  export default ucum;
}
