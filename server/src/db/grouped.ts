/** Rows by a key of theirs, each group in the order the rows came. */
export function groupedBy<Row>(
  rows: readonly Row[],
  keyOf: (row: Row) => string,
): Map<string, Row[]> {
  const groups = new Map<string, Row[]>();
  for (const row of rows) {
    const group = groups.get(keyOf(row));
    if (group) group.push(row);
    else groups.set(keyOf(row), [row]);
  }
  return groups;
}

/** Does the work when it is first asked for, and once. */
export function lazily<Answer>(work: () => Promise<Answer>): () => Promise<Answer> {
  let answer: Promise<Answer> | undefined;
  return () => (answer ??= work());
}
