/** Marker detector; it ships no types. */
declare module 'js-aruco2' {
  export const AR: {
    readonly Detector: new (config: {
      readonly dictionaryName: string;
      readonly maxHammingDistance?: number;
    }) => {
      detectImage(
        width: number,
        height: number,
        rgba: Uint8ClampedArray,
      ): { readonly id: number; readonly corners: readonly { x: number; y: number }[] }[];
    };
  };
}
