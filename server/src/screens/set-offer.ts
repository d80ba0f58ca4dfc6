import type { SetOffer } from '@tally-stone/contract';
import { bestSet } from '@tally-stone/core';
import { Refusal } from '@tally-stone/cycle';
import type { Database } from '../db/database.js';
import { geometryOf, memberOf } from '../fleet/geometry.js';
import { listSpecs } from '../spec/specs.js';

/** More ready blades of one spec than this are matched among the longest waiting. */
const MOST_POOL = 40;

const NOTHING = { blades: [], worst: 0, over: [], faults: [] };

/** The ready blades most alike that this deck can take, in the order of its spindles; `taken` are promised elsewhere. */
export const setOffer = (
  database: Database,
  deckId: string,
  taken: ReadonlySet<string> = new Set(),
): Promise<SetOffer> => offerFor(database, deckId, taken, new Map());

/** Ready blades for the empty spindles of a deck, most alike to those that stay on it. */
export async function replacementOffer(database: Database, deckId: string): Promise<SetOffer> {
  const { tables } = database;
  const spindles = await tables.spindle.all({ deckId }, 'committed');
  const fits = await tables.fit.all(
    { spindleId: spindles.map(({ id }) => id), to: null },
    'committed',
  );
  return offerFor(
    database,
    deckId,
    new Set(),
    new Map(fits.map(({ spindleId, bladeId }) => [spindleId, bladeId])),
  );
}

async function offerFor(
  database: Database,
  deckId: string,
  taken: ReadonlySet<string>,
  staying: ReadonlyMap<string, string>,
): Promise<SetOffer> {
  const { tables } = database;
  const deck = await tables.deck.one({ id: deckId }, 'committed');
  if (!deck) throw new Refusal('notFound', 'There is no such deck.');
  const spindles = await tables.spindle.all({ deckId }, 'committed', {
    order: [['ordinal', 'ASC']],
  });
  const specId = deck.figures?.specId;
  if (!specId) {
    return {
      ...NOTHING,
      refused: 'Nobody has said which blades this deck takes: measure it first.',
    };
  }
  const spec = (await listSpecs(tables)).find((each) => each.specId === specId)?.figures;
  const every = await tables.blade.all({ specId, state: 'ready' }, 'committed');
  const ready = every.filter(({ id }) => !taken.has(id)).slice(0, MOST_POOL);
  const open = spindles.filter(({ id }) => !staying.has(id));
  if (open.length === 0) return { ...NOTHING, refused: 'Every spindle has its blade.' };
  if (!spec || ready.length < open.length) {
    const short = open.length - ready.length;
    return {
      ...NOTHING,
      refused: `${short} short of a set: ${ready.length} of ${open.length} ready in the rack.`,
    };
  }
  const measured = (ids: readonly string[]) =>
    Promise.all(ids.map((id) => memberOf(tables, id, spec, 'committed')));
  const keep = await measured([...staying.values()]);
  const members = await measured(ready.map(({ id }) => id));
  const found = bestSet(members, spindles.length, { keep });
  const chosen = found.ids.filter((id) => !keep.some((kept) => kept.id === id));
  const codes = new Map(
    (await tables.bladeCode.all({ bladeId: [...found.ids], to: null }, 'committed')).map(
      ({ bladeId, code }) => [bladeId, code],
    ),
  );
  const blades = chosen.map((bladeId) => ({
    bladeId,
    code: codes.get(bladeId) ?? '',
    specId,
    lengthMm: members.find(({ id }) => id === bladeId)?.lengthMm ?? spec.newLengthMm,
    widthMm: spec.newWidthMm,
    grinds: ready.find(({ id }) => id === bladeId)?.grinds ?? 0,
  }));
  const { faults, clash } = geometryOf(deck, spindles, (spindleId) => {
    const stays = keep.find(({ id }) => id === staying.get(spindleId));
    return stays
      ? { lengthMm: stays.lengthMm, widthMm: spec.newWidthMm }
      : blades[open.findIndex(({ id }) => id === spindleId)];
  });
  const over = [...found.over];
  const oddCode = found.oddId && codes.get(found.oddId);
  return {
    blades,
    worst: found.worst,
    over,
    spread: found.spread,
    ...(oddCode ? { oddCode } : {}),
    faults: [...faults],
    ...(clash ? { refused: `They would strike each other: ${faults[0] ?? ''}.` } : {}),
  };
}
