import { createHash } from 'node:crypto';
import { QueryTypes } from 'sequelize';
import type { JournalRow } from '../commands/journal.model.js';
import type { Connection } from '../db/connection.js';

/** JSON with its keys in order, so that the same record is the same text. */
export function canonical(value: unknown): string {
  if (Array.isArray(value)) return `[${value.map(canonical).join(',')}]`;
  if (typeof value === 'object' && value !== null) {
    const entries = Object.entries(value)
      .filter(([, each]) => each !== undefined)
      .sort(([a], [b]) => (a < b ? -1 : 1))
      .map(([key, each]) => `${JSON.stringify(key)}:${canonical(each)}`);
    return `{${entries.join(',')}}`;
  }
  return JSON.stringify(value ?? null);
}

export const sha256 = (text: string): string => createHash('sha256').update(text).digest('hex');

type Entry = Omit<JournalRow, 'sequence' | 'hash'>;

/** The hash of an entry: of what it says and of the one before it. */
export const hashOf = (
  before: string,
  { at, personId, commandId, what, subjectKind, subjectId, before: was, after }: Entry,
): string =>
  sha256(
    canonical({ chain: before, at, personId, commandId, what, subjectKind, subjectId, was, after }),
  );

/** The start of a chain that seals nothing. */
export const NO_ENTRY = '0'.repeat(64);

interface Head {
  readonly sequence: number;
  readonly hash: string;
}

const PAGE = 2000;

/** Entries in order, page by page: a journal is long. */
export async function* entries(connection: Connection, after = 0): AsyncGenerator<JournalRow> {
  for (let from = after; ;) {
    const rows = await connection.sequelize.query<
      Omit<JournalRow, 'before' | 'after'> & { before: string | null; after: string | null }
    >(`SELECT * FROM journal WHERE sequence > :from ORDER BY sequence LIMIT ${PAGE}`, {
      type: QueryTypes.SELECT,
      replacements: { from },
    });
    for (const row of rows) {
      const parsed = (text: string | null): unknown => (text === null ? null : JSON.parse(text));
      yield { ...row, before: parsed(row.before), after: parsed(row.after) };
    }
    const last = rows.at(-1);
    if (!last || rows.length < PAGE) return;
    from = last.sequence;
  }
}

/** Seals what was written before there was a chain, once. */
export async function sealOldEntries(connection: Connection): Promise<void> {
  const [seal] = await connection.sequelize.query<Head>('SELECT upTo FROM journalSeal', {
    type: QueryTypes.SELECT,
  });
  if (seal) return;
  let hash = NO_ENTRY;
  let upTo = 0;
  for await (const entry of entries(connection)) {
    if (entry.hash) break;
    hash = hashOf(hash, entry);
    upTo = entry.sequence;
  }
  await connection.write(() =>
    connection.sequelize.query('INSERT INTO journalSeal (upTo, hash) VALUES (:upTo, :hash)', {
      replacements: { upTo, hash },
    }),
  );
}

/** The newest entry and its hash: to be written down, so that a record cut short or made anew is noticed. */
export async function headOf(connection: Connection): Promise<Head> {
  const [chained] = await connection.sequelize.query<{ n: number }>(
    `SELECT count(*) AS n FROM sqlite_master WHERE name = 'journalSeal'`,
    { type: QueryTypes.SELECT },
  );
  // A shop of an older version, not opened by this one yet.
  if (!chained?.n) return { sequence: 0, hash: NO_ENTRY };
  const [newest] = await connection.sequelize.query<Head>(
    `SELECT sequence, hash FROM journal WHERE hash IS NOT NULL
     UNION ALL SELECT upTo AS sequence, hash FROM journalSeal ORDER BY sequence DESC LIMIT 1`,
    { type: QueryTypes.SELECT },
  );
  return newest ?? { sequence: 0, hash: NO_ENTRY };
}

/** What a walk through the record found. */
export interface Walk {
  readonly entries: number;
  readonly head: Head;
  /** The first entry that was changed, removed or put in, in words; nothing where all is as it was written. */
  readonly broken?: string;
  readonly cycles: number;
}

/** Walks the journal and the signed-off cycles. `known` are heads that were written down earlier. */
export async function walk(connection: Connection, known: readonly Head[] = []): Promise<Walk> {
  const [seal] = await connection.sequelize.query<{ upTo: number; hash: string }>(
    'SELECT upTo, hash FROM journalSeal',
    { type: QueryTypes.SELECT },
  );
  const upTo = seal?.upTo ?? 0;
  let hash = NO_ENTRY;
  let count = 0;
  let sequence = 0;
  const due = new Map(known.map((head) => [head.sequence, head.hash]));
  const found = (broken: string, cycles = 0): Walk => ({
    entries: count,
    head: { sequence, hash },
    broken,
    cycles,
  });
  const digests = new Map<string, string>();
  for await (const entry of entries(connection)) {
    if (entry.sequence !== sequence + 1)
      return found($localize`entry ${sequence + 1} is missing: the next one is ${entry.sequence}`);
    hash = hashOf(hash, entry);
    sequence = entry.sequence;
    count += 1;
    const stored = sequence === upTo ? seal?.hash : entry.hash;
    if (sequence >= upTo && sequence > 0 && stored !== hash) {
      return found(
        sequence === upTo
          ? $localize`one of the entries up to ${upTo} was changed`
          : $localize`entry ${sequence} ("${entry.what}", ${entry.at}) was changed or put in`,
      );
    }
    const writtenDown = due.get(sequence);
    if (writtenDown !== undefined && writtenDown !== hash)
      return found($localize`entry ${sequence} is not the one that was written down`);
    due.delete(sequence);
    const signed = (entry.after ?? {}) as { cycleId?: unknown; digest?: unknown };
    if (typeof signed.cycleId === 'string' && 'digest' in signed) {
      // A retirement that was undone opens its cycle again.
      if (typeof signed.digest === 'string') digests.set(signed.cycleId, signed.digest);
      else digests.delete(signed.cycleId);
    }
  }
  const [cut] = due.keys();
  if (cut !== undefined)
    return found($localize`the record ends before entry ${cut}, which was written down`);
  let cycles = 0;
  for (const [cycleId, digest] of digests) {
    if ((await cycleDigest(connection, cycleId)) !== digest)
      return found(
        $localize`what was measured in cycle ${cycleId} was changed since it was signed off`,
        cycles,
      );
    cycles += 1;
  }
  return { entries: count, head: { sequence, hash }, cycles };
}

const TABLES = ['reading', 'damage', 'pass', 'balanceRound'] as const;

/** A signed-off cycle as one hash: its readings, damage, passes, rounds, and the figures it was signed with. */
export async function cycleDigest(connection: Connection, cycleId: string): Promise<string> {
  const ask = (sql: string): Promise<object[]> =>
    connection.sequelize.query(sql, { type: QueryTypes.SELECT, replacements: { cycleId } });
  const parts: unknown[] = [];
  for (const table of TABLES)
    parts.push(await ask(`SELECT * FROM ${table} WHERE cycleId = :cycleId ORDER BY id`));
  parts.push(
    await ask(
      `SELECT bladeId, signedAt, signedBy, outcome, retireReason, frozen FROM cycle WHERE id = :cycleId`,
    ),
  );
  return sha256(canonical(parts));
}
