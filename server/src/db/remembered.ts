import type { Scope } from './connection.js';

interface Kept {
  readonly version: number;
  readonly by: object | 'committed';
  readonly rows: readonly object[];
}

/** More answers than this and the lot is forgotten: a cache, not a copy of the database. */
const MOST_ANSWERS = 400;

/** One name for a question, symbols of operators included. */
function nameOf(question: unknown): string {
  if (Array.isArray(question)) return `[${question.map(nameOf).join(',')}]`;
  if (typeof question !== 'object' || question === null) {
    return typeof question === 'string' ? JSON.stringify(question) : String(question);
  }
  return `{${Reflect.ownKeys(question)
    .map((key) => `${String(key)}:${nameOf((question as Record<PropertyKey, unknown>)[key])}`)
    .join(',')}}`;
}

/**
 * Answers of one table that were asked before and not written over since. One process owns the database file,
 * so its own writes are all there are. A write makes every answer old; the end of a transaction, kept or
 * rolled back, makes them old again, because readers outside of it saw the state before.
 */
export class Remembered {
  private version = 0;
  private writer: object | undefined;
  private readonly answers = new Map<string, Kept>();

  /** A write of this table inside a transaction. Answers whether the transaction's end must be told. */
  written(transaction: object): boolean {
    const first = this.writer !== transaction;
    this.version += 1;
    this.writer = transaction;
    return first;
  }

  /** The transaction that wrote is over, either way. */
  over(): void {
    this.version += 1;
    this.writer = undefined;
    this.answers.clear();
  }

  async ask<T extends object>(
    question: unknown,
    scope: Scope,
    read: () => Promise<T[]>,
  ): Promise<T[]> {
    const name = nameOf(question);
    const by = this.sideOf(scope);
    const kept = this.answers.get(name);
    if (kept?.version === this.version && kept.by === by) return [...kept.rows] as T[];
    const { version } = this;
    const rows = (await read()).map((row) => Object.freeze(row));
    if (version === this.version) {
      if (this.answers.size >= MOST_ANSWERS) this.answers.clear();
      this.answers.set(name, { version, by, rows });
    }
    return [...rows];
  }

  /** A transaction that has not written here sees what everybody sees. */
  private sideOf(scope: Scope): object | 'committed' {
    if (scope === 'committed') return 'committed';
    return this.writer === scope.transaction ? scope.transaction : 'committed';
  }
}
