import type { BladeRow, FleetMower, ShiftView } from '@tally-stone/contract';
import { orderBatch } from '@tally-stone/core';
import { bladeCounts, bladeRowsIn, bladeRowsOf } from './blade-rows.js';
import type { Database } from '../database.js';
import { fleetView } from './fleet.js';
import { shopOf } from '../shop/look-up.js';
import { listSpecs } from '../spec/specs.js';
import { setUpOf } from './batch.js';

/** What is looked at of each state at most. */
const IN_HEAP = { 'at-bench': 100, waiting: 400, new: 100 };

/**
 * What the next bench day should grind, as far as it has room: sets due now of mowers with nothing ready, what has waited
 * longest, then sets that can be swapped; in set-up order with its minutes. Every set due now is named to be pulled.
 */
export async function shiftView(database: Database, at: Date = new Date()): Promise<ShiftView> {
  const [fleet, shop, revisions, heap, of] = await Promise.all([
    fleetView(database, at),
    shopOf(database),
    listSpecs(database),
    bladeRowsIn(database, IN_HEAP),
    bladeCounts(database),
  ]);
  const setOf = ({ mowerId, name, deck }: FleetMower) => ({
    mowerId,
    name,
    bladeIds: deck.spindles.flatMap(({ blade }) => blade?.bladeId ?? []),
  });
  const inHandFirst = [
    ...heap.filter(({ state }) => state === 'at-bench'),
    ...heap.filter(({ state }) => state === 'waiting'),
  ];
  const specs = new Map(revisions.map(({ figures }) => [figures.name, figures]));
  const inOrder = (blades: readonly BladeRow[]): ShiftView['runs'] => {
    const rows = new Map(blades.map((row) => [row.bladeId, row]));
    return orderBatch(
      blades.flatMap(({ bladeId, specName, mowerName }) => {
        const spec = specs.get(specName);
        return spec ? [{ id: bladeId, setUp: setUpOf(spec), setId: mowerName }] : [];
      }),
    ).map(({ setUp, changeMinutes, ids }) => ({
      ...setUp,
      changeMinutes,
      blades: ids.flatMap((id) => rows.get(id) ?? []),
    }));
  };
  const waiting = inOrder([...inHandFirst, ...heap.filter(({ state }) => state === 'new')]);
  const [next] = fleet.benchDays;
  if (!next) {
    return {
      pull: [],
      runs: [],
      heap: waiting,
      grindMinutes: 0,
      changeMinutes: 0,
      capacity: 0,
      left: 0,
    };
  }
  const due = fleet.mowers.filter(({ deck }) => deck.due?.state === 'now');
  const bare = ({ deck }: FleetMower): boolean => deck.readyBlades < deck.spindles.length;
  // Who has nothing ready comes first; then the heap; then, where room is left, sets that can be swapped.
  const first = due.filter(bare).map(setOf);
  let room = next.capacity - first.reduce((sum, { bladeIds }) => sum + bladeIds.length, 0);
  const taken = inHandFirst.slice(0, Math.max(0, room));
  room -= taken.length;
  const soon = fleet.mowers.filter(
    ({ deck }) => deck.due?.benchOn === next.day && deck.due.state !== 'now',
  );
  const then = [...due.filter((mower) => !bare(mower)), ...soon]
    .map(setOf)
    .filter(({ bladeIds }) => {
      const fits = bladeIds.length <= room;
      if (fits) room -= bladeIds.length;
      return fits;
    });
  const toGrind = [...first, ...then];
  const onMowers = await bladeRowsOf(
    database,
    toGrind.flatMap(({ bladeIds }) => bladeIds),
  );
  const all = [...onMowers, ...taken];
  const runs = inOrder(all);
  return {
    day: next.day,
    capacity: next.capacity,
    pull: due.map(setOf),
    runs,
    heap: waiting,
    grindMinutes: all.length * shop.rules.prices.minutesPerBlade,
    changeMinutes: runs.reduce((sum, { changeMinutes }) => sum + changeMinutes, 0),
    left: of('at-bench', 'waiting') - taken.length,
  };
}
