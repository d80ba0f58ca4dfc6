/** Keys of a table of the vocabulary, as a list for SQL's IN. Never for what somebody typed. */
export const inSql = (keys: readonly string[]): string => keys.map((key) => `'${key}'`).join(', ');
