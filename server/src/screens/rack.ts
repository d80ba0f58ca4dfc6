import type { BladeRow, FleetMower, Peg, RackView, SpecRevision } from '@tally-stone/contract';
import { bladeRowsIn } from './blade-rows.js';
import type { Database } from '../database.js';
import { pegFinder, pegsFor, placeOfPeg } from '../fleet/pegs.js';
import { listSpecs } from '../spec/specs.js';
import { fleetOf } from './fleet.js';
import { inRackFor, setOffers } from './set-offer.js';

/** Retired blades are many after some years: the last ones are shown, the register has them all. */
const MOST_RETIRED = 24;
const MOST_ELSEWHERE = 400;

type Sizes = RackView['sizes'];

/** The wall: each size with its pegs. A blade hangs where its place says, or where it would be hung today. */
function wallOf(
  specs: readonly SpecRevision[],
  pegs: readonly Peg[],
  ready: readonly BladeRow[],
  mowers: readonly FleetMower[],
): Sizes {
  const mowerId = new Map(mowers.map((mower) => [mower.name, mower.mowerId]));
  const pegAt = new Map(pegs.map((peg) => [`${peg.specId} ${placeOfPeg(peg)}`, peg]));
  const pegFor = pegFinder(pegs);
  const hangsOn = new Map<Peg | undefined, string[]>();
  for (const { bladeId, specName, place, mowerName = '' } of ready) {
    const specId = specs.find(({ figures }) => figures.name === specName)?.specId ?? '';
    const peg = pegAt.get(`${specId} ${place}`) ?? pegFor(specId, mowerId.get(mowerName));
    hangsOn.set(peg, [...(hangsOn.get(peg) ?? []), bladeId]);
  }
  return specs
    .map(({ specId, figures }) => ({
      specId,
      name: figures.name,
      lengthMm: figures.newLengthMm,
      widthMm: figures.newWidthMm,
      pegs: pegs
        .filter((peg) => peg.specId === specId)
        .map((peg) => ({ ...peg, bladeIds: hangsOn.get(peg) ?? [] }))
        .filter(({ mowerId: of, bladeIds }) => of !== undefined || bladeIds.length > 0),
    }))
    .filter(({ pegs: hung }) => hung.length > 0)
    .sort((a, b) => b.lengthMm - a.lengthMm);
}

/** Where every blade is, and the sets that stand ready for each mower, soonest due first. */
export async function rackView(database: Database): Promise<RackView> {
  const [specs, rows, retired, { fleet, decks }, inRack] = await Promise.all([
    listSpecs(database),
    bladeRowsIn(database, ['new', 'waiting', 'at-bench', 'ready', 'hold'], MOST_ELSEWHERE),
    bladeRowsIn(database, ['retired'], MOST_RETIRED),
    fleetOf(database),
    // Last: while SQLite finds them the fleet is worked out.
    inRackFor(database.models),
  ]);
  const takers = fleet.mowers.map(({ mowerId, name, deck }) => ({
    mowerId,
    mowerName: name,
    specId: deck.figures?.specId ?? null,
  }));
  const pegs = pegsFor(takers, specs);
  const measured = fleet.mowers.filter(({ deck }) => deck.figures?.specId);
  const offers = await setOffers(
    database,
    measured.flatMap(({ deck }) => decks.get(deck.deckId) ?? []),
    pegs,
    inRack,
  );
  const sets = measured.flatMap(({ mowerId, name, deck }) => {
    const offer = offers.get(deck.deckId);
    return offer ? [{ mowerId, mowerName: name, ...offer }] : [];
  });
  const lane = (...states: string[]) => rows.filter(({ state }) => states.includes(state));
  const ready = lane('ready');
  return {
    sizes: wallOf(specs, pegs, ready, fleet.mowers),
    waiting: [...lane('waiting'), ...lane('new')],
    atBench: lane('at-bench'),
    ready,
    hold: lane('hold'),
    retired,
    sets,
    mowers: fleet.mowers,
  };
}
