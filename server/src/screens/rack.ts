import type { RackView } from '@tally-stone/contract';
import { bladeRowsIn } from './blade-rows.js';
import type { Database } from '../database.js';
import { fleetView } from './fleet.js';
import { setOffers } from './set-offer.js';

/** Retired blades are many after some years: the last ones are shown, the register has them all. */
const MOST_RETIRED = 24;
const MOST_ELSEWHERE = 400;

/** Where every blade is, and the sets that stand ready for each mower, soonest due first. */
export async function rackView(database: Database): Promise<RackView> {
  const [rows, retired, fleet] = await Promise.all([
    bladeRowsIn(database, ['new', 'waiting', 'at-bench', 'ready', 'hold'], MOST_ELSEWHERE),
    bladeRowsIn(database, ['retired'], MOST_RETIRED),
    fleetView(database),
  ]);
  const measured = fleet.mowers.filter(({ deck }) => deck.figures?.specId);
  const offers = await setOffers(
    database,
    measured.map(({ deck }) => deck.deckId),
  );
  const sets = measured.flatMap(({ mowerId, name, deck }) => {
    const offer = offers.get(deck.deckId);
    return offer ? [{ mowerId, mowerName: name, ...offer }] : [];
  });
  const lane = (...states: string[]) => rows.filter(({ state }) => states.includes(state));
  return {
    waiting: [...lane('waiting'), ...lane('new')],
    atBench: lane('at-bench'),
    ready: lane('ready'),
    hold: lane('hold'),
    retired,
    sets,
    mowers: fleet.mowers,
  };
}
