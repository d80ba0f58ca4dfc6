import type { BladeRow, ShiftView } from '@tally-stone/contract';
import { orderBatch } from '@tally-stone/core';
import { bladeRowsIn, bladeRowsOf } from '../blades/queries.js';
import type { Database } from '../db/database.js';
import { fleetView } from '../fleet/view.js';
import { shopOf } from '../shop/shop.js';
import { listSpecs } from '../specs/specs.js';
import { setUpOf } from './batch.js';

const MOST_WAITING = 400;

/**
 * What the next bench day should grind: the sets due on it, still on their mowers or off them already, then what has
 * waited longest, as far as the day has room; in set-up order with its minutes.
 */
export async function shiftView(database: Database, now: Date = new Date()): Promise<ShiftView> {
  const { tables } = database;
  const [fleet, shop, revisions, heap] = await Promise.all([
    fleetView(database, now),
    shopOf(tables, 'committed'),
    listSpecs(tables),
    bladeRowsIn(database, ['at-bench', 'waiting'], MOST_WAITING),
  ]);
  const [next] = fleet.benchDays;
  if (!next) return { pull: [], runs: [], grindMinutes: 0, changeMinutes: 0, capacity: 0, left: 0 };
  const due = fleet.mowers.filter(({ deck }) => deck.due?.benchOn === next.day);
  const toPull = due.map(({ mowerId, name, deck }) => ({
    mowerId,
    name,
    bladeIds: deck.spindles.flatMap(({ blade }) => blade?.bladeId ?? []),
  }));
  const onMowers = await bladeRowsOf(
    database,
    toPull.flatMap(({ bladeIds }) => bladeIds),
  );
  const inHandFirst = [
    ...heap.filter(({ state }) => state === 'at-bench'),
    ...heap.filter(({ state }) => state === 'waiting'),
  ];
  const room = Math.max(0, next.capacity - onMowers.length);
  const taken = inHandFirst.slice(0, room);
  const specs = new Map(revisions.map(({ figures }) => [figures.name, figures]));
  const all = [...onMowers, ...taken];
  const rows = new Map<string, BladeRow>(all.map((row) => [row.bladeId, row]));
  const runs = orderBatch(
    all.flatMap(({ bladeId, specName, mowerName }) => {
      const spec = specs.get(specName);
      return spec ? [{ id: bladeId, setUp: setUpOf(spec), setId: mowerName }] : [];
    }),
  );
  return {
    day: next.day,
    capacity: next.capacity,
    pull: toPull,
    runs: runs.map(({ setUp, changeMinutes, ids }) => ({
      ...setUp,
      changeMinutes,
      blades: ids.flatMap((id) => rows.get(id) ?? []),
    })),
    grindMinutes: all.length * shop.rules.prices.minutesPerBlade,
    changeMinutes: runs.reduce((sum, { changeMinutes }) => sum + changeMinutes, 0),
    left: inHandFirst.length - taken.length,
  };
}
