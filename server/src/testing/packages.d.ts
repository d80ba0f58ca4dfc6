/** Reader and validator of Frictionless Data; it ships no types. */
declare module 'datapackage' {
  export class Resource {
    static load(descriptor: object, options: { basePath: string }): Promise<Resource>;
    readonly valid: boolean;
    readonly errors: readonly Error[];
    read(options: { keyed: true }): Promise<Record<string, unknown>[]>;
  }
}
