/** Marker dictionaries; it ships no types. */
declare module 'js-aruco2' {
  const aruco: {
    readonly AR: {
      readonly Dictionary: new (name: string) => { readonly codeList: readonly string[] };
    };
  };
  export default aruco;
}
