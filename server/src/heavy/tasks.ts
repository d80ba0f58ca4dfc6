import {
  answerPlan,
  bladeFutures,
  learnLives,
  type FleetWear,
  type Futures,
  type LifeQuestion,
} from '@tally-stone/core';
import type { StandQuestion } from '../instrument/photo-stand.js';

/** Futures of many blades of one fleet, in the order of the questions. */
const manyFutures = ({
  fleet,
  questions,
}: {
  readonly fleet: FleetWear;
  readonly questions: readonly LifeQuestion[];
}): Futures[] => questions.map((question) => bladeFutures(fleet, question));

/** What decodes pictures is loaded when the first one comes: a plan does without. */
const cleanPhoto = async (bytes: Uint8Array): Promise<Uint8Array | undefined> =>
  (await import('../photo/clean.js')).cleanPhoto(bytes);
const standPhoto = async (question: StandQuestion): Promise<Uint8Array> =>
  (await import('../instrument/photo-stand.js')).standPhoto(question);

/** What takes long and is worked out in a worker thread. Question and answer are plain data. */
export const TASKS = {
  plan: answerPlan,
  lives: learnLives,
  futures: manyFutures,
  photo: cleanPhoto,
  stand: standPhoto,
};
export type TaskName = keyof typeof TASKS;
export type Question<Name extends TaskName> = Parameters<(typeof TASKS)[Name]>[0];
export type Answer<Name extends TaskName> = Awaited<ReturnType<(typeof TASKS)[Name]>>;
