import { language } from '../language.js';
import type { PlanAnswer, PlanQuestion } from './ask.js';

/** How to have a question answered, by whatever thread solves it. */
export type AskAway = (question: PlanQuestion) => Promise<PlanAnswer>;

/**
 * The same question has the same answer: it is solved once, also when it is asked again while the first is still
 * under way. An answer that failed is not kept.
 *
 * @param ask what solves a question
 * @param most so many answers are kept; the one asked for longest ago goes first
 * @example rememberAnswers(() => Promise.resolve('solved')) instanceof Function // true
 */
export function rememberAnswers(ask: AskAway, most = 32): AskAway {
  const known = new Map<string, Promise<PlanAnswer>>();
  return (question) => {
    const key = `${language()} ${JSON.stringify(question)}`;
    const answer = known.get(key) ?? ask(question);
    known.delete(key);
    known.set(key, answer);
    answer.catch(() => known.delete(key));
    const [oldest] = known.keys();
    if (known.size > most && oldest !== undefined) known.delete(oldest);
    return answer;
  };
}
