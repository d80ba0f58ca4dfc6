import { language } from '@tally-stone/core';

/** More answers than this and the lot is forgotten: a cache, not a copy of the database. */
const MOST_ANSWERS = 400;

/** Answers hold words: they are kept for each language. */
const inLanguage = (question: string): string => `${language()} ${question}`;

/**
 * Answers that were worked out before, kept until what they were worked out from changes. It counts on this process
 * being the only one that writes into the file, and is the one thing that does. What it buys stands in
 * docs/decisions/0019-models.md.
 */
export class Kept {
  /** How often what it was worked out from has changed. */
  changes = 0;
  private changing = 0;
  private readonly answers = new Map<string, unknown>();

  /** The answer to a question, by its name; worked out where it is not known, once for all who ask meanwhile. */
  async of<Answer>(question: string, work: () => Promise<Answer>): Promise<Answer> {
    const known = this.known(question);
    if (known !== undefined) return known as Answer | Promise<Answer>;
    if (this.changing > 0) return work();
    const answer = work();
    this.keep(question, answer);
    const key = inLanguage(question);
    answer.catch(() => {
      if (this.answers.get(key) === answer) this.answers.delete(key);
    });
    return answer;
  }

  known(question: string): unknown {
    return this.answers.get(inLanguage(question));
  }

  keep(question: string, answer: unknown): void {
    if (this.answers.size >= MOST_ANSWERS) this.answers.clear();
    this.answers.set(inLanguage(question), answer);
  }

  /** While `work` runs nothing new is kept; after it, what was known is old. Whoever reads what it wrote forgets first. */
  async whileChanging<Result>(work: () => Promise<Result>): Promise<Result> {
    this.changing += 1;
    this.changes += 1;
    try {
      return await work();
    } finally {
      this.changing -= 1;
      this.forget();
    }
  }

  forget(): void {
    this.answers.clear();
  }
}
