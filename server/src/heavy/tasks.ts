import {
  answerPlan,
  bladeFutures,
  learnLives,
  type FleetWear,
  type Futures,
  type LifeQuestion,
} from '@tally-stone/core';
import { standPhoto } from '../instrument/photo-stand.js';
import { cleanPhoto } from '../photo/clean.js';

/** Futures of many blades of one fleet, in the order of the questions. */
const manyFutures = ({
  fleet,
  questions,
}: {
  readonly fleet: FleetWear;
  readonly questions: readonly LifeQuestion[];
}): Futures[] => questions.map((question) => bladeFutures(fleet, question));

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
