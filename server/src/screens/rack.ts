import type {
  BladeRow,
  FleetMower,
  Peg,
  RackMower,
  RackView,
  SpecRevision,
} from '@tally-stone/contract';
import { bladeCounts, bladeRowsIn, readyRows } from './blade-rows.js';
import type { Database } from '../database.js';
import { nextQuestionBegins } from '../db/raw-rows.js';
import { pegFinder, pegsFor, placeOfPeg } from '../fleet/pegs.js';
import { listSpecs } from '../spec/specs.js';
import { fleetOf } from './fleet.js';
import { inRackFor, setOffers } from './set-offer.js';

/** Shown at most: on the wall those of the next sets first. */
const MOST_READY = 400;
/** Retired blades are many after some years: the last ones are shown, the register has them all. */
const BELOW_THE_WALL = { 'at-bench': 100, waiting: 150, hold: 100, new: 50, retired: 24 };

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

const onRack = ({ mowerId, name, deck }: FleetMower): RackMower => {
  const { deckId, fittedAt, due, readyBlades } = deck;
  return {
    mowerId,
    name,
    deck: {
      deckId,
      ...(fittedAt ? { fittedAt } : {}),
      ...(due ? { due } : {}),
      readyBlades,
      spindles: deck.spindles.map(({ spindleId, blade }) =>
        blade ? { spindleId, blade: { code: blade.code } } : { spindleId },
      ),
    },
  };
};

/** The wall and who takes what from it, soonest due first. */
async function hungUp(
  database: Database,
): Promise<Pick<RackView, 'sizes' | 'ready' | 'sets' | 'mowers'>> {
  const [{ fleet, decks }, inRack, specs] = await Promise.all([
    fleetOf(database),
    inRackFor(database.models),
    listSpecs(database),
  ]);
  await nextQuestionBegins();
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
    { pegs, inRack, most: MOST_READY },
  );
  const sets = measured.flatMap(({ mowerId, name, deck }) => {
    const offer = offers.get(deck.deckId);
    return offer ? [{ mowerId, mowerName: name, ...offer }] : [];
  });
  const next = sets.flatMap(({ blades }) => blades.map(({ bladeId }) => bladeId));
  const ready = await readyRows(database, next.slice(0, MOST_READY), MOST_READY);
  return {
    sizes: wallOf(specs, pegs, ready, fleet.mowers),
    ready,
    sets,
    mowers: fleet.mowers.map(onRack),
  };
}

/** Where every blade is, and the sets that stand ready for each mower, soonest due first. */
export async function rackView(database: Database): Promise<RackView> {
  const [hung, rows, of] = await Promise.all([
    hungUp(database),
    // While the sets are matched SQLite finds these.
    bladeRowsIn(database, BELOW_THE_WALL),
    bladeCounts(database),
  ]);
  const lane = (...states: string[]) => rows.filter(({ state }) => states.includes(state));
  return {
    ...hung,
    waiting: [...lane('waiting'), ...lane('new')],
    atBench: lane('at-bench'),
    hold: lane('hold'),
    retired: lane('retired'),
    counts: {
      waiting: of('waiting', 'new'),
      atBench: of('at-bench'),
      ready: of('ready'),
      hold: of('hold'),
      retired: of('retired'),
    },
  };
}
