import { DEFAULT_RULES, STAND_INS } from '@tally-stone/contract';
import { DAY_MS, ENDS, type Duty } from '@tally-stone/core';
import { v7 as uuidv7 } from 'uuid';
import type { Database } from '../database.js';
import { GRAMS_A_PASS, SEASON_START } from './bench-hand.js';
import { mow, type TrueBlade } from './blade-on-the-bench.js';
import { GRINDERS, SHOP_NAME, SHOP_TIME_ZONE, SUPPLY } from './catalogue.js';
import { seededDice, type Dice } from './dice.js';
import {
  DEMO_INTERVAL_H,
  DEMO_PRICES,
  MOWERS,
  OLDER_MOWERS,
  SHELF,
  type DemoMower,
} from './mowers.js';
import { grassSeen } from './grass.js';
import { quickCycle } from './quick-cycle.js';
import { SPECS } from './specs.js';
import { ShopSetUp } from './shop-set-up.js';

const DAYS_BETWEEN_CHANGES = 24;

const CHANGES = 9;

const HOURS_PER_CHANGE = 26;

/** The mowers of last season work harder. */
const OLDER_HOURS_PER_CHANGE = 40;

interface Deck {
  readonly name: string;
  readonly mowerId: string;
  readonly mownSinceH: number;
  readonly duty: Duty;
  readonly spindleIds: readonly string[];
  readonly sets: TrueBlade[][];
  hoursH: number;
  on: number;
  /** Mowers of last season have chances of their own. */
  readonly dice?: Dice;
}

/** Last season's clock, and the changes of set in each season of a mower that was there then. */
const LAST_SEASON_START = Date.parse('2025-03-31T07:30:00Z');

/** Small decks are changed often, the wide ones on the pitches seldom. */
const changesASeason = ({ spindleIds }: Deck): number =>
  spindleIds.length <= 2 ? 8 : spindleIds.length === 3 ? 5 : 3;

/** Stony banks eat edges: more has to come off. */
const RECESSION_MM: Readonly<Record<string, readonly [number, number]>> = {
  Otter: [2.3, 3.4],
  Teal: [1.4, 2.2],
  Sorrel: [0.6, 1.1],
};

/** The demo shop over two seasons: mowers, their sets, and what happened to them. */
class DemoShop extends ShopSetUp {
  private readonly grassDice = seededDice(4100);
  build(): Promise<void> {
    return this.database.connection.write(() => this.everything());
  }
  private async everything(): Promise<void> {
    await this.addPeople();
    await this.send({ type: 'name-shop', name: SHOP_NAME, timeZone: SHOP_TIME_ZONE });
    await this.addGrinders();
    await this.addBalancers();
    const specIds = await this.addSpecs();
    const older = await this.lastSeason(specIds);
    this.clock = SEASON_START;
    const decks: Deck[] = [];
    for (const mower of MOWERS) decks.push(await this.equip(mower, specIds));
    await this.register(SHELF.spec, SHELF.blades, specIds);
    for (let change = 1; change <= CHANGES; change++) {
      const from = SEASON_START + change * DAYS_BETWEEN_CHANGES * DAY_MS;
      this.clock = from;
      for (const deck of decks) await this.changeSet(deck, change === CHANGES);
      this.clock = Math.max(this.clock, from + DAY_MS);
      await this.olderSetsUntil(older, SEASON_START, change / CHANGES, change === CHANGES);
    }
    await this.leaveThreeStories(decks);
    await this.leaveOnHold(older);
    await this.mowOn([...decks, ...older]);
  }
  /** The mowers that were there last season, from their first blades to the end of it. */
  private async lastSeason(specIds: string[]): Promise<Deck[]> {
    this.clock = LAST_SEASON_START;
    // The shop went by the week then.
    await this.send({
      type: 'set-rules',
      rules: { ...DEFAULT_RULES, standIns: [...STAND_INS], interval: { kind: 'days', days: 14 } },
    });
    const own = this.dice;
    const decks: Deck[] = [];
    for (const [i, mower] of OLDER_MOWERS.entries()) {
      this.dice = seededDice(7000 + i);
      decks.push(await this.equip(mower, specIds, this.dice));
    }
    this.dice = own;
    const WEEKS = 26;
    for (let week = 2; week <= WEEKS; week += 2) {
      this.clock = Math.max(this.clock, LAST_SEASON_START + week * 7 * DAY_MS);
      await this.olderSetsUntil(decks, LAST_SEASON_START, week / WEEKS, false);
    }
    return decks;
  }
  private readonly changesOf = new Map<string, number>();
  /** Changes the sets of older mowers as far as a share of the season asks for. */
  private async olderSetsUntil(
    decks: readonly Deck[],
    season: number,
    share: number,
    last: boolean,
  ): Promise<void> {
    const own = this.dice;
    for (const deck of decks) {
      const key = `${deck.name} ${season}`;
      const done = this.changesOf.get(key) ?? 0;
      const wanted = Math.floor(share * changesASeason(deck) + 1e-9);
      if (done >= wanted) continue;
      this.changesOf.set(key, wanted);
      this.dice = deck.dice ?? own;
      await this.somethingHappens(deck);
      // Of the wide decks the last set in is still waiting.
      await this.changeSet(deck, last && deck.spindleIds.length >= 5);
      this.dice = own;
    }
  }
  /** Between two changes a mower may hit something, or its cut be complained of. */
  private async somethingHappens({ mowerId }: Deck): Promise<void> {
    if (this.dice.chance(0.14)) {
      const strikeId = uuidv7();
      await this.send({
        type: 'report-strike',
        strikeId,
        mowerId,
        what: this.dice.chance(0.5) ? 'stone' : 'kerb-or-edging',
        hard: this.dice.chance(0.4) ? 'hard' : 'glanced',
        vibration: this.dice.chance(0.15),
      });
      this.clock += DAY_MS / 4;
      await this.send({ type: 'clear-strike', strikeId, spindleSound: true, mountSound: true });
    } else if (this.dice.chance(0.1)) {
      await this.send({
        type: 'report-cut',
        reportId: uuidv7(),
        mowerId,
        signs: [this.dice.chance(0.5) ? 'torn-tips' : 'stragglers'],
      });
    }
  }
  /** Two blades in the rack hang where a reading was too close to call. */
  private async leaveOnHold(decks: readonly Deck[]): Promise<void> {
    const own = this.dice;
    for (const name of ['Kestrel', 'Dunlin']) {
      const deck = decks.find((each) => each.name === name);
      const spare = deck?.sets[(deck.on + 1) % deck.sets.length]?.[0];
      if (!deck || !spare) continue;
      this.dice = deck.dice ?? own;
      await this.send({ type: 'bring-in', bladeId: spare.bladeId, place: 'Waiting heap' });
      spare.tipMm.A = spare.tipMm.B + 2.95;
      await quickCycle(spare, this.hands(deck, spare));
    }
    this.dice = own;
  }
  /** A mower with its sets: the first is ground new and fitted, the rest are ground and racked. */
  private async equip(mower: DemoMower, specIds: string[], dice?: Dice): Promise<Deck> {
    const spindleIds = mower.positions.map(() => uuidv7());
    const speed = SPECS[mower.spec]?.bladeSpeedRpm ?? 3000;
    const hoursH = Math.round(this.dice.between(200, 900));
    const [mowerId, deckId] = [uuidv7(), uuidv7()];
    await this.send({
      type: 'add-mower',
      mowerId,
      deckId,
      name: mower.name,
      energy: mower.energy,
      site: mower.site,
      bladeSpeedRpm: speed,
      hoursH,
      spindles: mower.positions.map((position, i) => ({
        spindleId: spindleIds[i] ?? '',
        position,
      })),
    });
    await this.measureDeck(deckId, mower, spindleIds, specIds[mower.spec] ?? '');
    const blades = await this.register(mower.spec, mower.blades, specIds);
    const perSet = spindleIds.length;
    const sets = Array.from({ length: blades.length / perSet }, (_, i) =>
      blades.slice(i * perSet, (i + 1) * perSet),
    );
    const { name, mownSinceH } = mower;
    const { duty } = mower.deck;
    const plain = { name, mowerId, mownSinceH, duty, spindleIds, sets, hoursH, on: 0 };
    const deck: Deck = { ...plain, ...(dice ? { dice } : {}) };
    for (const blade of blades) await this.through(deck, blade, true);
    await this.fitSet(deck, 0);
    return deck;
  }
  private async measureDeck(
    deckId: string,
    { deck }: DemoMower,
    spindleIds: readonly string[],
    specId: string,
  ): Promise<void> {
    const { apart, stack, ...more } = deck;
    await this.send({
      type: 'set-deck',
      deckId,
      figures: {
        ...more,
        specId,
        stack: [...stack],
        spindles: spindleIds.map((spindleId, i) => ({
          spindleId,
          acrossMm: i * apart.acrossMm,
          aheadMm: (i % 2) * apart.aheadMm,
        })),
        leastClearanceMm: 6,
        leastOverlapMm: 10,
        timed: false,
      },
    });
  }
  /** The sets on now mow on for some days: one grazes a stone, another's cut is complained of. */
  private async mowOn(decks: readonly Deck[]): Promise<void> {
    const [, yew, lark] = decks;
    await this.send({
      type: 'set-rules',
      rules: {
        ...DEFAULT_RULES,
        standIns: [...STAND_INS],
        interval: { kind: 'hours', hours: DEMO_INTERVAL_H },
        benchBlades: 10,
        supply: SUPPLY,
        prices: {
          ...DEFAULT_RULES.prices,
          bladeOf: Object.fromEntries(
            SPECS.flatMap(({ name }, i) => {
              const specId = this.specIds[i];
              const price = DEMO_PRICES[name];
              return specId !== undefined && price !== undefined ? [[specId, price]] : [];
            }),
          ),
        },
      },
    });
    this.clock += 7 * DAY_MS;
    for (const { mowerId, hoursH, mownSinceH } of decks) {
      await this.send({ type: 'read-hours', mowerId, hoursH: hoursH + mownSinceH });
    }
    await this.send({
      type: 'report-cut',
      reportId: uuidv7(),
      mowerId: yew?.mowerId ?? '',
      signs: ['torn-tips', 'haze'],
    });
    await this.send({
      type: 'report-strike',
      strikeId: uuidv7(),
      mowerId: lark?.mowerId ?? '',
      what: 'stone',
      hard: 'glanced',
      vibration: false,
    });
  }
  private async fitSet(deck: Deck, index: number): Promise<void> {
    deck.on = index;
    for (const [i, blade] of (deck.sets[index] ?? []).entries()) {
      await this.send({
        type: 'fit-blade',
        fitId: uuidv7(),
        bladeId: blade.bladeId,
        spindleId: deck.spindleIds[i] ?? '',
        hoursH: deck.hoursH,
      });
    }
  }
  /** The set that mowed comes in and is ground; the next one goes on. The last change leaves it waiting. */
  private async changeSet(deck: Deck, last: boolean): Promise<void> {
    const worn = deck.sets[deck.on] ?? [];
    const usualH = deck.dice ? OLDER_HOURS_PER_CHANGE : HOURS_PER_CHANGE;
    const mownH = Math.round(usualH * this.dice.between(0.7, 1.2));
    deck.hoursH += mownH;
    // Crews of this season look at the grass before a set comes off and after the next is on.
    if (!deck.dice) await this.send(grassSeen(deck, mownH, deck.hoursH, this.grassDice));
    for (const blade of worn) {
      mow(blade, this.dice);
      await this.send({
        type: 'bring-in',
        bladeId: blade.bladeId,
        place: `Heap by ${deck.name}`,
        hoursH: deck.hoursH,
      });
    }
    await this.fitSet(deck, (deck.on + 1) % deck.sets.length);
    if (!deck.dice) await this.send(grassSeen(deck, 0, deck.hoursH, this.grassDice));
    if (last) return;
    for (const blade of worn) await this.through(deck, blade, false);
  }
  /** A blade through the bench; of an older mower by the quick routine, and replaced where it does not come out ready. */
  private async through(deck: Deck, blade: TrueBlade, first: boolean): Promise<void> {
    if (!deck.dice) return this.cycle(blade, { first });
    const technician = this.technician;
    if (this.dice.chance(0.35)) this.technician = this.second;
    const came = await quickCycle(blade, this.hands(deck, blade, first));
    this.technician = technician;
    if (came === 'ready') return;
    const spec = SPECS.indexOf(blade.spec);
    const [replacement] = await this.register(spec, 1, this.specIds);
    const set = deck.sets.find((each) => each.includes(blade));
    if (!replacement || !set) return;
    set[set.indexOf(blade)] = replacement;
    await this.through(deck, replacement, true);
  }
  /** What the quick routine needs of the demo: its commands, chances, tools, and what the bench asks to be read. */
  private hands(deck: Deck, blade: TrueBlade, first = false): Parameters<typeof quickCycle>[1] {
    return {
      database: this.database,
      dice: this.dice,
      first,
      recessionMm: first ? [0.1, 0.2] : (RECESSION_MM[deck.name] ?? [0.6, 1.2]),
      now: () => this.at(),
      take: () => this.take(blade),
      balance: (act, phase, unbalanceGmm, device) =>
        this.balance(act, phase, blade, unbalanceGmm, device),
      read: (act, phase, place, value, digits, error) =>
        this.read(act, phase, place.quantity, value, { ...place, digits, error }),
      tool: async () => {
        await this.checkGrinders();
        const which = this.dice.chance(0.75) ? 0 : 1;
        const { wheelDiameterMm, aim = 'mean' } = GRINDERS[which] ?? {};
        return {
          grinderId: this.grinderIds[which] ?? '',
          gramsAPass: GRAMS_A_PASS * (1 + this.dice.normal(0, 0.08)),
          wheel: wheelDiameterMm ? { radiusMm: wheelDiameterMm / 2, aim } : undefined,
        };
      },
    };
  }
  /** Three blades of the waiting heap, taken up and measured: one spent, one nicked, one in good order. */
  private async leaveThreeStories(decks: readonly Deck[]): Promise<void> {
    const [heron, yew, lark] = decks.map(
      (deck) => deck.sets[(deck.on + deck.sets.length - 1) % deck.sets.length],
    );
    const [spent, nicked, good] = [heron?.[0], yew?.[0], lark?.[1]];
    if (!spent || !nicked || !good) throw new Error('The demo has too few blades.');
    const tip = spent.spec.stations[0]?.key ?? '';
    spent.widthMm.B[tip] = 50.1;
    const { act: asSpent } = await this.take(spent);
    await this.inspect(asSpent, spent);
    await this.measure(asSpent, 'before', spent);
    await this.fullLookIfDue(asSpent, spent);
    // So much less than last time is asked about: it was read again, and came out the same.
    await asSpent({
      type: 'take-reading',
      readingId: uuidv7(),
      place: { phase: 'before', quantity: 'width', end: 'B', stationKey: tip },
      entered: { text: '50.1', unit: 'mm' },
      repeat: false,
    });
    const { act: asNicked } = await this.take(nicked);
    await this.inspect(asNicked, nicked);
    await asNicked({
      type: 'mark-damage',
      damageId: uuidv7(),
      kind: 'nick',
      end: 'A',
      fromTip: { text: '31', unit: 'mm' },
      depth: { text: '0.7', unit: 'mm' },
    });
    await this.measure(asNicked, 'before', nicked);
    await this.fullLookIfDue(asNicked, nicked);
    for (const end of ENDS) good.landMm[end] = 0.18;
    const { act: asGood } = await this.take(good);
    await this.inspect(asGood, good);
    await this.measure(asGood, 'before', good);
    await this.fullLookIfDue(asGood, good);
  }
}

/** Fills an empty database with the demo shop, through the same commands people use. */
export const generateDemo = (database: Database, seed = 4160): Promise<void> =>
  new DemoShop(database, seed).build();
