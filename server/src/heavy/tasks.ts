import { answerPlan, learnLives } from '@tally-stone/core';

/** What takes long and is worked out in a worker thread. Question and answer are plain data. */
export const TASKS = { plan: answerPlan, lives: learnLives };
export type TaskName = keyof typeof TASKS;
export type Question<Name extends TaskName> = Parameters<(typeof TASKS)[Name]>[0];
export type Answer<Name extends TaskName> = ReturnType<(typeof TASKS)[Name]>;
