import { parentPort } from 'node:worker_threads';
import { BenchError, nickCost, planGrind, type SolveProgram } from '@tally-stone/core';
import loadHighs, { type LegacyHighs } from 'highs';
import type { PlanAnswer, PlanQuestion } from './planner.js';

// Its types describe a default export that Node's resolution reads as a namespace.
const highs = await (loadHighs as unknown as () => Promise<LegacyHighs>)();

const solve: SolveProgram = (text) => {
  const { Status, ObjectiveValue, Columns } = highs.solve(text, { mip_rel_gap: 0 });
  return {
    status: Status,
    objective: ObjectiveValue,
    values: Object.fromEntries(
      Object.entries(Columns).map(([name, column]) => [
        name,
        'Primal' in column ? column.Primal : 0,
      ]),
    ),
  };
};

function answer({ input, turned }: PlanQuestion): PlanAnswer {
  const plan = planGrind(input, solve);
  if (plan.kind === 'no-plan') return { plan, nicks: [] };
  const nicks = input.nicks.map((nick) => nickCost(input, plan, nick, turned[nick.id] ?? 0, solve));
  return { plan, nicks };
}

parentPort?.on('message', ({ id, question }: { id: number; question: PlanQuestion }) => {
  try {
    parentPort?.postMessage({ id, answer: answer(question) });
  } catch (error) {
    const words = error instanceof BenchError ? error.message : String(error);
    parentPort?.postMessage({ id, error: words });
  }
});
