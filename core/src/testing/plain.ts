/** A sentence of the core with plain spaces before its units, as a test writes it. */
export const plain = (words = ''): string => words.replaceAll('\u00a0', ' ');
