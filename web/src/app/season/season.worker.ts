import '../data/taught';
import {
  BenchError,
  seasonDifference,
  simulateSeason,
  summariseSeasons,
  type Season,
  type SeasonOutcome,
  type SeasonPrices,
} from '@tally-stone/core';

/** Seasons of several choices, seed after seed, in their own thread; told how far it is in between. */
export interface SeasonQuestion {
  readonly seasons: readonly Season[];
  readonly times: number;
  readonly prices: SeasonPrices;
  readonly seed: number;
}

const STRIDE = 20;

addEventListener('message', ({ data }: MessageEvent<SeasonQuestion>) => {
  const { seasons, times, seed, prices } = data;
  const outcomes: SeasonOutcome[][] = seasons.map(() => []);
  const total = times * seasons.length;
  let done = 0;
  try {
    seasons.forEach((season, which) => {
      for (let i = 0; i < times; i++) {
        outcomes[which]?.push(simulateSeason(season, seed + i));
        done += 1;
        if (done % STRIDE === 0) postMessage({ done, total });
      }
    });
    const summaries = seasons.map((season, i) => summariseSeasons(season, outcomes[i] ?? []));
    const differences = outcomes.map((each) => seasonDifference(outcomes[0] ?? [], each, prices));
    postMessage({ done: total, total, summaries, differences });
  } catch (error) {
    postMessage({ error: error instanceof BenchError ? error.message : String(error) });
  }
});
