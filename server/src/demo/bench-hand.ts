import {
  Command,
  type CommandAnswer,
  type CycleAct,
  type Quantity,
  type ShopAct,
} from '@tally-stone/contract';
import {
  ENDS,
  outer50RadiusMm,
  preUseChecks,
  type BalanceDevice,
  type End,
  DAY_MS,
} from '@tally-stone/core';
import { balanceViews } from '@tally-stone/cycle';
import { v7 as uuidv7 } from 'uuid';
import { CommandService } from '../commands/service.js';
import type { Database } from '../database.js';
import { shopDay } from '../shop/day.js';
import { grindEnd, leftUnbalanced, unbalanceBefore, type TrueBlade } from './blade-on-the-bench.js';
import { GRINDERS, SHOP_TIME_ZONE } from './catalogue.js';
import { seededDice, type Dice } from './dice.js';
import { standsNow, type Act, type InHand } from './quick-cycle.js';

export const SEASON_START = Date.parse('2026-03-30T07:30:00Z');
/** What the demo's grinders truly take a pass, g. */
export const GRAMS_A_PASS = 0.5;

/** Works at the demo's bench as a technician would, through the command service, on a clock of its own. */
export class BenchHand {
  protected clock = SEASON_START;
  protected readonly service: CommandService;
  protected dice: Dice;
  protected technician = '';
  protected second = '';
  protected readonly grinderIds: string[] = [];
  protected checkedOn = '';
  constructor(
    protected readonly database: Database,
    seed: number,
  ) {
    this.dice = seededDice(seed);
    this.service = new CommandService(database, () => this.at());
  }
  protected at(): string {
    return new Date(this.clock).toISOString();
  }
  protected send(
    act: ShopAct | (CycleAct & { cycleId: string; expectedRevision: number }),
  ): Promise<CommandAnswer> {
    this.clock += 20_000;
    return this.service.accept(
      Command.parse({ ...act, id: uuidv7(), personId: this.technician, occurredAt: this.at() }),
    );
  }
  /** The morning's look over both machines, before the first blade of the day. */
  protected async checkGrinders(): Promise<void> {
    const day = shopDay(this.at(), SHOP_TIME_ZONE);
    if (this.checkedOn === day) return;
    this.checkedOn = day;
    for (const [i, { kind }] of GRINDERS.entries()) {
      await this.send({
        type: 'check-grinder',
        checkId: uuidv7(),
        grinderId: this.grinderIds[i] ?? '',
        checked: [...preUseChecks(kind)],
      });
    }
  }
  /** Opens a cycle and gives back how to act in it, revision by revision. */
  protected async take(blade: TrueBlade): Promise<InHand> {
    const cycleId = uuidv7();
    await this.send({ type: 'open-cycle', cycleId, bladeId: blade.bladeId });
    let revision = 0;
    const act: Act = async (what) => {
      const answer = await this.send({ ...what, cycleId, expectedRevision: revision });
      revision = answer.revision ?? revision;
    };
    return { cycleId, act };
  }
  protected async inspect(act: Act, blade: TrueBlade): Promise<void> {
    await act({ type: 'clean', done: true });
    await act({ type: 'judge-crack', found: false });
    for (const end of ENDS) {
      await this.read(act, 'before', 'tip-height', blade.tipMm[end], {
        end,
        digits: 1,
        error: 0.1,
      });
    }
  }
  protected async read(
    act: Act,
    phase: 'before' | 'after',
    quantity: Quantity,
    value: number,
    place: { end?: End; stationKey?: string; digits: number; error: number },
  ): Promise<void> {
    const { end, stationKey, digits, error } = place;
    await act({
      type: 'take-reading',
      readingId: uuidv7(),
      place: { phase, quantity, ...(end ? { end } : {}), ...(stationKey ? { stationKey } : {}) },
      entered: {
        text: Math.max(0, value + this.dice.normal(0, error)).toFixed(digits),
        unit: quantity === 'mass' ? 'g' : quantity === 'bevel' ? 'deg' : 'mm',
      },
    });
  }
  protected async measure(act: Act, phase: 'before' | 'after', blade: TrueBlade): Promise<void> {
    await this.read(act, phase, 'mass', blade.massG, { digits: 1, error: 0.1 });
    for (const end of ENDS) {
      for (const { key } of blade.spec.stations) {
        const width = blade.widthMm[end][key] ?? 0;
        await this.read(act, phase, 'width', width, {
          end,
          stationKey: key,
          digits: 1,
          error: 0.03,
        });
      }
      await this.read(act, phase, 'bevel', blade.bevelDeg[end], { end, digits: 1, error: 0.2 });
      await this.read(act, phase, 'land', blade.landMm[end], { end, digits: 2, error: 0.01 });
    }
  }
  protected async fullLook(act: Act, blade: TrueBlade): Promise<void> {
    await this.read(act, 'before', 'thickness', blade.thicknessMm, { digits: 2, error: 0.01 });
    await this.read(act, 'before', 'length', blade.spec.newLengthMm, { digits: 0, error: 0 });
    for (const end of ENDS) {
      await this.read(act, 'before', 'wing', blade.wingMm[end], { end, digits: 2, error: 0.01 });
    }
    const worn = 0.03 + 0.02 * blade.cycles;
    await this.read(act, 'before', 'hole-wear', worn, { digits: 2, error: 0.01 });
    await this.read(act, 'before', 'straightedge-gap', 0.4, { digits: 1, error: 0.1 });
    blade.lookedAt = this.clock;
    blade.cyclesSinceLook = 0;
  }
  /** Everything is read when the shop's rule says so, a little before it would be asked for. */
  protected async fullLookIfDue(act: Act, blade: TrueBlade): Promise<void> {
    const days = (this.clock - blade.lookedAt) / DAY_MS;
    if (blade.cycles === 0 || blade.cyclesSinceLook >= 3 || days > 110) {
      await this.fullLook(act, blade);
    }
    blade.cycles += 1;
    blade.cyclesSinceLook += 1;
  }
  /** Hung with a test weight where half the edge's outer 50 mm lies, heavy at A above zero. */
  protected async balance(
    act: Act,
    phase: 'before' | 'after',
    { spec }: TrueBlade,
    unbalanceGmm: number,
    device: BalanceDevice = 'bearing-shaft',
  ): Promise<void> {
    const radiusMm = Math.round(outer50RadiusMm(spec.newLengthMm / 2));
    const weightG = Math.max(0.05, Math.abs(unbalanceGmm) / radiusMm).toFixed(2);
    await act({
      type: 'balance-round',
      roundId: uuidv7(),
      phase,
      device,
      heavyEnd: unbalanceGmm < 0 ? 'B' : 'A',
      weight: { text: weightG, unit: 'g' },
      radius: { text: String(radiusMm), unit: 'mm' },
    });
  }
  /** One ordinary cycle from scan to rack. */
  protected async cycle(blade: TrueBlade, { first }: { first?: boolean }): Promise<void> {
    const { cycleId, act } = await this.take(blade);
    await this.inspect(act, blade);
    if (!first && this.dice.chance(0.35)) {
      await act({
        type: 'mark-damage',
        damageId: uuidv7(),
        kind: 'nick',
        end: this.dice.chance(0.5) ? 'A' : 'B',
        fromTip: { text: this.dice.between(4, 50).toFixed(0), unit: 'mm' },
        depth: { text: this.dice.between(0.3, 0.8).toFixed(1), unit: 'mm' },
      });
    }
    await this.measure(act, 'before', blade);
    await this.fullLookIfDue(act, blade);
    await this.checkGrinders();
    const which = this.dice.chance(0.8) ? 0 : 1;
    const grinderId = this.grinderIds[which] ?? '';
    const { wheelDiameterMm, aim = 'mean' } = GRINDERS[which] ?? {};
    const wheel = wheelDiameterMm ? { radiusMm: wheelDiameterMm / 2, aim } : undefined;
    const groundG = { A: 0, B: 0 };
    const counts = ENDS.map((end) => {
      const recessionMm = first ? this.dice.between(0.1, 0.2) : this.dice.between(0.5, 1.1);
      const before = blade.massG;
      grindEnd(blade, end, recessionMm, this.dice, wheel);
      groundG[end] = before - blade.massG;
      const gramsAPass = GRAMS_A_PASS * (1 + this.dice.normal(0, 0.08));
      return { end, count: Math.max(1, Math.round(groundG[end] / gramsAPass)) };
    });
    const leftGmm = leftUnbalanced(blade, this.dice);
    await this.balance(act, 'before', blade, unbalanceBefore(blade, leftGmm, groundG));
    await act({ type: 'set-up', grinderId });
    for (const each of counts) await act({ type: 'count-passes', passId: uuidv7(), ...each });
    await act({ type: 'deburr', done: true });
    await this.balance(act, 'after', blade, leftGmm);
    // A hanging that does not fit the one before is made again.
    const rounds = await standsNow(this.database, cycleId, this.at(), balanceViews);
    if (rounds.at(-1)?.expected) await this.balance(act, 'after', blade, leftGmm);
    await this.measure(act, 'after', blade);
    for (const end of ENDS) await act({ type: 'light-test', end, brightLine: false });
    await act({ type: 'sign-off', outcome: 'ready' });
  }
}
