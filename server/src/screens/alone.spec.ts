import type { CycleAct, CycleCommand, CycleView } from '@tally-stone/contract';
import { foldWaiting, standingOf } from '@tally-stone/cycle';
import { DAMAGE_KINDS, QUANTITIES, QUANTITY_KEYS } from '@tally-stone/core';
import fc from 'fast-check';
import { v7 as uuidv7 } from 'uuid';
import { TestShop } from '../testing/shop.js';
import { cycleView } from './cycle.js';

/** Sequences that are drawn, and entries in each at most. */
/** A quarter of the thousand that docs/decisions/0016-one-cycle.md tells of: those take minutes. */
const SEQUENCES = Number(process.env['SEQUENCES'] ?? 250);
const MOST_ENTRIES = 6;

const BELT = {
  name: 'Belt',
  kind: 'belt',
  counts: 'pass',
  abrasive: 'Grit 60',
  aim: 'mean',
  table: 'flat',
} as const;

/** Anything a technician might enter, right or wrong: values in and out of range, ends where there are none. */
function entries(
  [grinderId, other]: readonly [string, string],
  balancerId: string,
): fc.Arbitrary<CycleAct> {
  const end = fc.constantFrom('A' as const, 'B' as const);
  const phase = fc.constantFrom('before' as const, 'after' as const);
  const number = (least: number, most: number) =>
    fc.integer({ min: least * 10, max: most * 10 }).map((n) => (n / 10).toFixed(1));
  const mm = (least: number, most: number) =>
    number(least, most).map((text) => ({ text, unit: 'mm' as const }));
  const reading = fc
    .record({
      quantity: fc.constantFrom(...QUANTITY_KEYS),
      phase,
      end,
      stationKey: fc.constantFrom('tip', 'middle', 'root'),
      share: fc.double({ min: 0, max: 1.05, noNaN: true }),
      repeat: fc.boolean(),
    })
    .map(({ quantity, phase: when, end: at, stationKey, share, repeat }): CycleAct => {
      const { per, unit, possible } = QUANTITIES[quantity];
      const place = {
        phase: when,
        quantity,
        ...(per === 'blade' ? {} : { end: at }),
        ...(per === 'station' ? { stationKey } : {}),
      };
      const text = (possible[0] + share * (possible[1] - possible[0])).toFixed(1);
      return {
        type: 'take-reading',
        readingId: uuidv7(),
        place,
        entered: { text, unit: unit === 'deg' ? 'deg' : unit },
        repeat,
      };
    });
  const mass = number(1550, 1610).map((text): CycleAct => ({
    type: 'take-reading',
    readingId: uuidv7(),
    place: { phase: 'before', quantity: 'mass' },
    entered: { text, unit: 'g' },
  }));
  const mark = fc
    .record({ kind: fc.constantFrom(...DAMAGE_KINDS), end, fromTip: mm(0, 120), depth: mm(0, 7) })
    .map((made): CycleAct => ({ type: 'mark-damage', damageId: uuidv7(), ...made }));
  const passes = fc
    .record({
      end,
      zone: fc.constantFrom('full' as const, 'outer-half' as const, 'outer-50' as const),
      count: fc.integer({ min: 1, max: 20 }),
    })
    .map((made): CycleAct => ({ type: 'count-passes', passId: uuidv7(), ...made }));
  const round = fc
    .record({
      phase,
      heavyEnd: fc.constantFrom('A' as const, 'B' as const, 'level' as const),
      how: fc.constantFrom('weight', 'drops', 'end-only'),
      weight: number(0, 3),
      drop: fc.integer({ min: 5, max: 60 }),
      own: fc.boolean(),
    })
    .map(({ phase: when, heavyEnd, how, weight, drop, own }): CycleAct => ({
      type: 'balance-round',
      roundId: uuidv7(),
      phase: when,
      device: 'bearing-shaft',
      heavyEnd,
      ...(own ? { balancerId } : {}),
      ...(how === 'weight'
        ? {
            weight: { text: weight, unit: 'g' as const },
            radius: { text: '240', unit: 'mm' as const },
          }
        : how === 'drops'
          ? { drops: [drop / 10, drop / 10 + 0.1] }
          : { endOnly: true }),
    }));
  return fc.oneof(
    reading,
    mass,
    mark,
    passes,
    round,
    fc.boolean().map((done): CycleAct => ({ type: 'clean', done })),
    fc.boolean().map((found): CycleAct => ({ type: 'judge-crack', found })),
    fc.boolean().map((done): CycleAct => ({ type: 'deburr', done })),
    fc.boolean().map((wanted): CycleAct => ({ type: 'ask-full-look', wanted })),
    fc
      .record({ end, brightLine: fc.boolean() })
      .map((made): CycleAct => ({ type: 'light-test', ...made })),
    fc.constantFrom<CycleAct>(
      { type: 'choose-schools', schools: { finish: 'razor' } },
      { type: 'choose-schools', schools: { nicks: { kind: 'clear-all' } } },
      { type: 'set-up', grinderId, withoutCheck: 'checked-on-paper' },
      { type: 'set-up', grinderId: other, withoutCheck: 'checked-on-paper' },
      {
        type: 'set-up',
        grinderId: other,
        withoutCheck: 'checked-on-paper',
        mass: { text: '1050.5', unit: 'g' },
      },
      { type: 'set-up', grinderId: uuidv7() },
      { type: 'finish-on', grinderId: other },
      { type: 'finish-on' },
      { type: 'undo-passes', passId: uuidv7() },
    ),
  );
}

const FILE = { ...BELT, name: 'File', kind: 'file', counts: 'stroke' } as const;

/** An entry is drawn again when an example is made smaller; its ids are new each time. */
const withNewIds = (act: CycleAct): CycleAct =>
  Object.fromEntries(
    Object.entries(act).map(([key, value]) =>
      ['readingId', 'damageId', 'passId', 'roundId'].includes(key) ? [key, uuidv7()] : [key, value],
    ),
  ) as CycleAct;

/** As JSON: what crosses the wire. */
const plain = (value: unknown): unknown => JSON.parse(JSON.stringify(value));

/** A view without what the browser cannot know by itself: the moment the server took a reading. */
function told(view: Partial<CycleView>): unknown {
  return plain({
    ...view,
    bench: undefined,
    slots: view.slots?.map(({ taken, ...slot }) => ({ ...slot, taken: { ...taken, at: '' } })),
  });
}

describe('a browser that goes on alone', () => {
  let shop: TestShop;
  const ids = { grinders: [uuidv7(), uuidv7()] as const, balancer: uuidv7() };
  beforeAll(async () => {
    shop = await TestShop.open();
    for (const grinderId of ids.grinders) {
      const figures = grinderId === ids.grinders[0] ? BELT : FILE;
      await shop.send({ type: 'add-grinder', grinderId, abrasiveId: uuidv7(), figures });
    }
    await shop.send({
      type: 'add-balancer',
      balancerId: ids.balancer,
      name: 'Shaft',
      device: 'bearing-shaft',
    });
    // A tool that has taught something, and a blade with a history.
    for (let n = 0; n < 2; n++) {
      const cycle = await shop.openCycle();
      await cycle.upToSignOff();
      await cycle.do({ type: 'sign-off', outcome: 'ready' });
    }
  });
  afterAll(() => shop.close());

  it(`shows after ${SEQUENCES} sequences of entries just what the server says of them`, async () => {
    const { database, serving } = shop;
    let accepted = 0;
    let refused = 0;
    let [cycle, entered] = [await shop.openCycle(), 0];
    await fc.assert(
      fc.asyncProperty(
        fc.array(entries(ids.grinders, ids.balancer), { minLength: 1, maxLength: MOST_ENTRIES }),
        async (acts) => {
          // Long cycles are no likelier to differ than short ones, and slower: a new one now and then.
          if (entered > 40) [cycle, entered] = [await shop.openCycle(), 0];
          const before = plain(await cycleView(database, cycle.cycleId)) as CycleView;
          if (!before.bench) throw new Error('a view brings what a browser goes on with');
          const commands = acts.map((act) => ({
            ...withNewIds(act),
            ...shop.envelope(),
            cycleId: cycle.cycleId,
            expectedRevision: 0,
          })) as CycleCommand[];
          const here = standingOf(
            foldWaiting(before.bench.state, before.bench.facts, commands),
            before.bench.facts,
          );
          let revision = before.revision;
          for (const command of commands) {
            const sent = { ...command, expectedRevision: revision };
            const answer = await serving.commands.accept(sent).catch(() => undefined);
            if (answer) accepted += 1;
            else refused += 1;
            revision = answer?.revision ?? revision;
          }
          entered += commands.length;
          const after = await cycleView(database, cycle.cycleId);
          const known = new Set(Object.keys(here));
          const there = Object.fromEntries(Object.entries(after).filter(([key]) => known.has(key)));
          expect(told(here)).toEqual(told(there));
        },
      ),
      { numRuns: SEQUENCES },
    );
    console.log(
      `      alone and with the server: ${accepted} entries accepted, ${refused} refused, no difference`,
    );
    expect(Math.min(accepted, refused)).toBeGreaterThan(0.3 * SEQUENCES);
  }, 240_000);
});
