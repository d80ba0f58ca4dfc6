import { BenchError } from '../errors.js';
import { type Chance, chanceFrom } from '../math/chance.js';
import { drawWetDays } from './rain.js';
import {
  type Season,
  type SeasonMower,
  type SeasonOutcome,
  type SeasonSpan,
  calendarOf,
  check,
} from './shape.js';

const HOURS_PER_1000 = 1000;

/**
 * Chances by what they befall: a mower's strikes and edges, and the blades of each of its sets. Whatever a choice
 * changes, the same mower strikes the same stones and the nth edge on it is as good: two choices of one seed
 * differ by what they choose, and hardly by chance (common random numbers).
 */
const BEFALLS = { strikes: 1, edges: 2, blades: 3 } as const;
const chanceOf = (seed: number, what: keyof typeof BEFALLS, mower: number, set = 0): Chance =>
  chanceFrom(Math.imul(Math.imul(Math.imul(seed, 31) + BEFALLS[what], 1009) + mower, 101) + set);

interface GrindSet {
  readonly index: number;
  readonly blades: Chance;
  /** Hours its edge still stays sharp, and hours until it is to be changed. */
  sharpH: number;
  stayH: number;
  /** Grinds left in each blade. */
  readonly grindsLeft: number[];
  /** Blades of it a strike ended: replaced at the bench. */
  damaged: number;
  bladesToGrind: number;
  cameInDay: number;
}

interface Running {
  readonly mower: SeasonMower;
  readonly strikes: Chance;
  readonly edges: Chance;
  readonly sets: GrindSet[];
  on: GrindSet;
  readonly ready: GrindSet[];
  /** Mowing hours until the next strike. */
  strikeInH: number;
  waitingSince: number | undefined;
  /** What it is like since when. */
  state: SeasonSpan['state'];
  spanFrom: number;
  /** When it last struck something, in days. */
  struckDay: number | undefined;
  mownH: number;
  dullH: number;
}

/** What is left of an amount; what is left over by rounding alone is nothing. */
const after = (amount: number, used: number): number => (amount - used < 1e-12 ? 0 : amount - used);

class RunningSeason {
  private readonly running: Running[];
  private readonly heap: { readonly of: Running; readonly set: GrindSet }[] = [];
  private readonly bought: number[];
  private strikes = 0;
  private changes = 0;
  private waits = 0;
  private waitDays = 0;
  private setsIn = 0;
  private setsGround = 0;
  private setDays = 0;
  private heapDays = 0;
  private heapSince = 0;
  private stoppedH = 0;
  private grinds = 0;
  private benchRoom = 0;
  private wornOut = 0;
  private damaged = 0;
  private month = 0;

  constructor(
    private readonly season: Season,
    private readonly seed: number,
    months: number,
    private readonly spans?: SeasonSpan[],
  ) {
    this.bought = Array.from({ length: months }, () => 0);
    this.running = season.mowers.map((mower, which) => {
      const strikes = chanceOf(seed, 'strikes', which);
      const edges = chanceOf(seed, 'edges', which);
      const sets = Array.from({ length: Math.floor(mower.sets) }, (_, index) =>
        this.newSet(mower, which, index),
      );
      const [on, ...ready] = sets;
      if (!on) throw new BenchError('sets', $localize`must be at least one`, mower.sets);
      this.freshEdge(on, mower, edges);
      return {
        mower,
        strikes,
        edges,
        sets,
        on,
        ready,
        strikeInH: this.nextStrike(strikes),
        waitingSince: undefined,
        state: 'sharp' as const,
        spanFrom: 0,
        struckDay: undefined,
        mownH: 0,
        dullH: 0,
      };
    });
  }

  private newSet({ spindles }: SeasonMower, which: number, index: number): GrindSet {
    const blades = chanceOf(this.seed, 'blades', which, index);
    return {
      index,
      blades,
      sharpH: 0,
      stayH: 0,
      grindsLeft: Array.from({ length: spindles }, () => {
        const whole = this.bladeLife(blades);
        return this.season.startWorn ? Math.max(1, Math.ceil(whole * blades.unit())) : whole;
      }),
      damaged: 0,
      bladesToGrind: 0,
      cameInDay: 0,
    };
  }

  /** A set that goes on: how long it stays sharp, and how long it is left on, are the same edge's luck. */
  private freshEdge(
    set: GrindSet,
    { edgeLifeH, changedAfterH = edgeLifeH }: SeasonMower,
    edges: Chance,
  ): void {
    const luck = edges.gamma(1, this.season.edgeVariation);
    set.sharpH = edgeLifeH * luck;
    set.stayH = changedAfterH * luck;
  }

  private bladeLife(blades: Chance): number {
    const { grindsPerBlade, grindsVariation } = this.season;
    return Math.max(1, Math.round(grindsPerBlade * blades.gamma(1, grindsVariation)));
  }

  private nextStrike(strikes: Chance): number {
    const { strikesPer1000H } = this.season;
    return strikesPer1000H === 0
      ? Infinity
      : (HOURS_PER_1000 / strikesPer1000H) * strikes.exponential(1);
  }

  day(day: number, month: number, mowing: boolean, bench: boolean): void {
    this.month = month;
    for (const each of this.running) {
      if (each.waitingSince !== undefined) this.changeIfReady(each, day);
      if (mowing) this.mow(each, day);
    }
    if (bench) this.grind(day + 1);
  }

  /** One mower's hours of one day; whatever happens in them happens at its hour. */
  private mow(each: Running, day: number): void {
    const { hoursPerDay } = each.mower;
    let left = hoursPerDay;
    while (left > 0) {
      if (each.state === 'stopped') {
        this.stoppedH += left;
        return;
      }
      const { on } = each;
      const sharp = on.sharpH > 0;
      const run = Math.min(
        left,
        each.strikeInH,
        sharp ? on.sharpH : Infinity,
        on.stayH > 0 ? on.stayH : Infinity,
      );
      each.mownH += run;
      if (!sharp) each.dullH += run;
      on.sharpH = after(on.sharpH, run);
      on.stayH = after(on.stayH, run);
      each.strikeInH -= run;
      left = after(left, run);
      const then = day + (hoursPerDay - left) / hoursPerDay;
      if (each.strikeInH <= 1e-12) this.strike(each, then);
      if (on.sharpH <= 0 && each.state === 'sharp') this.becomes(each, 'dull', then);
      if (on.stayH <= 0 && each.waitingSince === undefined) this.needsChange(each, then);
    }
  }

  private strike(each: Running, day: number): void {
    const { damageShare, stopShare } = this.season;
    this.strikes += 1;
    each.struckDay = day;
    each.strikeInH = this.nextStrike(each.strikes);
    each.on.sharpH = 0;
    each.on.stayH = 0;
    // Both are drawn whether they matter or not, so that the next stone is the same one.
    const [damages, stops] = [each.strikes.unit(), each.strikes.unit()];
    if (damages < damageShare) each.on.damaged += 1;
    if (stops < stopShare) this.becomes(each, 'stopped', day);
  }

  private needsChange(each: Running, day: number): void {
    each.waitingSince = day;
    if (!this.changeIfReady(each, day)) this.waits += 1;
  }

  /** The next ready set goes on; what it waited is counted. */
  private changeIfReady(each: Running, day: number): boolean {
    const next = each.ready.shift();
    if (!next) return false;
    this.endSpan(each, day);
    this.toHeap(each, each.on, day);
    each.on = next;
    this.changes += 1;
    this.sharpAgain(each, day);
    return true;
  }

  private sharpAgain(each: Running, day: number): void {
    this.waitDays += Math.max(0, day - (each.waitingSince ?? day));
    each.waitingSince = undefined;
    each.state = 'sharp';
    this.freshEdge(each.on, each.mower, each.edges);
  }

  private toHeap(of: Running, set: GrindSet, day: number): void {
    this.heapChanges(day);
    set.bladesToGrind = of.mower.spindles;
    set.cameInDay = day;
    this.setsIn += 1;
    this.heap.push({ of, set });
  }

  private heapChanges(day: number): void {
    this.heapDays += this.heap.length * (day - this.heapSince);
    this.heapSince = day;
  }

  /** A bench day: the heap first, those with nothing ready before the rest, then dull sets off their mowers. */
  private grind(evening: number): void {
    let room = this.season.benchBlades;
    this.benchRoom += room;
    const bare = ({ of }: { of: Running }): number => (of.ready.length === 0 ? 0 : 1);
    const order = [...this.heap].sort((a, b) => bare(a) - bare(b));
    for (const entry of order) {
      if (room <= 0) return;
      const now = Math.min(room, entry.set.bladesToGrind);
      entry.set.bladesToGrind -= now;
      room -= now;
      if (entry.set.bladesToGrind > 0) continue;
      this.heapChanges(evening);
      this.heap.splice(this.heap.indexOf(entry), 1);
      this.setDays += evening - entry.set.cameInDay;
      this.ground(entry.set);
      entry.of.ready.push(entry.set);
    }
    for (const each of this.running) {
      const { spindles } = each.mower;
      if (each.waitingSince === undefined || room < spindles) continue;
      room -= spindles;
      this.endSpan(each, evening);
      this.ground(each.on);
      this.sharpAgain(each, evening);
    }
  }

  private ground(set: GrindSet): void {
    this.setsGround += 1;
    for (let i = 0; i < set.grindsLeft.length; i++) {
      if (set.damaged > 0) {
        set.damaged -= 1;
        this.damaged += 1;
        this.buy(set, i);
        continue;
      }
      this.grinds += 1;
      const left = (set.grindsLeft[i] ?? 1) - 1;
      set.grindsLeft[i] = left;
      if (left > 0) continue;
      this.wornOut += 1;
      this.buy(set, i);
    }
    set.damaged = 0;
  }

  private buy(set: GrindSet, i: number): void {
    set.grindsLeft[i] = this.bladeLife(set.blades);
    this.bought[this.month] = (this.bought[this.month] ?? 0) + 1;
  }

  private becomes(each: Running, state: SeasonSpan['state'], day: number): void {
    this.endSpan(each, day);
    each.state = state;
  }

  private endSpan(each: Running, day: number): void {
    if (this.spans && day > each.spanFrom) {
      this.spans.push({
        mowerKey: each.mower.key,
        set: each.on.index,
        fromDay: each.spanFrom,
        toDay: day,
        state: each.state,
        struck: each.struckDay === day,
      });
    }
    each.spanFrom = day;
  }

  outcome(days: number, rainDays: number): SeasonOutcome {
    this.heapChanges(days);
    for (const { set } of this.heap) this.setDays += days - set.cameInDay;
    for (const each of this.running) {
      this.endSpan(each, days);
      if (each.waitingSince !== undefined) this.waitDays += days - each.waitingSince;
    }
    const sum = (of: (each: Running) => number): number =>
      this.running.reduce((total, each) => total + of(each), 0);
    return {
      mownH: sum(({ mownH }) => mownH),
      dullH: sum(({ dullH }) => dullH),
      stoppedH: this.stoppedH,
      rainDays,
      strikes: this.strikes,
      changes: this.changes,
      waits: this.waits,
      waitDays: this.waitDays,
      setsIn: this.setsIn,
      setsGround: this.setsGround,
      setDays: this.setDays,
      heapDays: this.heapDays,
      grinds: this.grinds,
      benchRoom: this.benchRoom,
      wornOut: this.wornOut,
      damaged: this.damaged,
      boughtByMonth: this.bought,
      dullByMower: Object.fromEntries(
        this.running.map(({ mower, mownH, dullH }) => [mower.key, { mownH, dullH }]),
      ),
    };
  }
}

function run(season: Season, seed: number, spans?: SeasonSpan[]): SeasonOutcome {
  check(season);
  const { weekdays, months, monthNames, monthIndex } = calendarOf(season);
  // Rain has chances of its own: another number of sets meets the same weather.
  const wet = season.rain ? drawWetDays(season.rain, months, chanceFrom(2 * seed + 1)) : [];
  const going = new RunningSeason(season, seed, monthNames.length, spans);
  let rainDays = 0;
  weekdays.forEach((weekday, day) => {
    const meant = season.mowingWeekdays.includes(weekday);
    const rained = meant && wet[day] === true;
    if (rained) rainDays += 1;
    going.day(day, monthIndex[day] ?? 0, meant && !rained, season.benchWeekdays.includes(weekday));
  });
  return going.outcome(season.days, rainDays);
}

/**
 * One season; the same seed gives the same one. Errors: `days` below one, `mowers` empty, shares outside 0 to 1,
 * lives of none.
 * Example: one set of 10 h edges, four hours a day, bench every seventh day: sharp 10 of 28 hours.
 * @example simulateSeason({ ...season, days: 28 }, 1).dullH // 72
 */
export const simulateSeason = (season: Season, seed: number): SeasonOutcome => run(season, seed);

/**
 * One season with what was on each mower when, for drawing lanes.
 * @example seasonLanes({ ...season, days: 7 }, 1).map(({ state }) => state) // ['sharp', 'dull']
 */
export function seasonLanes(season: Season, seed: number): readonly SeasonSpan[] {
  const spans: SeasonSpan[] = [];
  run(season, seed, spans);
  return spans;
}
