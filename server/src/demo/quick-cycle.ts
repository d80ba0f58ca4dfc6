import type {
  CycleAct,
  CycleFacts,
  CycleState,
  Outcome,
  Phase,
  Quantity,
  ReadingSlot,
  Schools,
} from '@tally-stone/contract';
import { ENDS, type BalanceDevice, type End, type Wheel, QUANTITIES } from '@tally-stone/core';
import { v7 as uuidv7 } from 'uuid';
import { cycleAt } from '../cycle/facts.js';
import { assess, balanceViews, signOffFrom, signOffOf, slotsOf } from '@tally-stone/cycle';
import type { Database } from '../database.js';
import { grindEnd, leftUnbalanced, unbalanceBefore, type TrueBlade } from './blade-on-the-bench.js';
import type { Dice } from './dice.js';

export type Act = (act: CycleAct) => Promise<void>;
export interface InHand {
  readonly cycleId: string;
  readonly act: Act;
}
export interface Place {
  readonly quantity: Quantity;
  readonly end?: End;
  readonly stationKey?: string;
}

/** What a technician of the demo has at hand. */
export interface Hands {
  readonly database: Database;
  readonly dice: Dice;
  readonly first: boolean;
  /** How far an ordinary grind puts the tip back, from and to, mm. */
  readonly recessionMm: readonly [number, number];
  readonly now: () => string;
  readonly take: () => Promise<InHand>;
  readonly balance: (
    act: Act,
    phase: Phase,
    unbalanceGmm: number,
    device?: BalanceDevice,
  ) => Promise<void>;
  readonly read: (
    act: Act,
    phase: Phase,
    place: Place,
    value: number,
    digits: number,
    error: number,
  ) => Promise<void>;
  readonly tool: () => Promise<{
    readonly grinderId: string;
    readonly gramsAPass: number;
    readonly wheel: Wheel | undefined;
  }>;
}

/** How far a hand is off, as a share of what handling adds to a reading. Invented. */
const HAND = 0.4;
/** Digits an instrument shows, and how far a hand is off with it. */
const howRead = (quantity: Quantity): readonly [digits: number, error: number] => [
  quantity === 'length' ? 0 : QUANTITIES[quantity].digits,
  HAND * QUANTITIES[quantity].handlingU,
];

function truthAt(blade: TrueBlade, { quantity, end = 'A', stationKey = '' }: Place): number {
  switch (quantity) {
    case 'mass':
      return blade.massG;
    case 'length':
      return blade.spec.newLengthMm;
    case 'thickness':
      return blade.thicknessMm;
    case 'width':
      return blade.widthMm[end][stationKey] ?? blade.spec.newWidthMm;
    case 'bevel':
    case 'face':
      return blade.bevelDeg[end];
    case 'land':
      return blade.landMm[end];
    case 'wing':
      return blade.wingMm[end];
    case 'hole-wear':
      return 0.03 + 0.02 * blade.cycles;
    case 'tip-height':
      return blade.tipMm[end];
    case 'straightedge-gap':
      return 0.4;
    default: {
      const { whenNew, changePerCycle } = QUANTITIES[quantity];
      return (whenNew?.value ?? 0) - 0.4 * changePerCycle * blade.cycles;
    }
  }
}

/** Where one blade goes another way than the shop: every school is met somewhere. */
const OWN_SCHOOLS: readonly Partial<Schools>[] = [
  { nicks: { kind: 'clear-all' } },
  { nicks: { kind: 'leave-all' } },
  { finish: 'razor' },
  { finish: 'blunt' },
  { bevel: 'follow' },
  { bevel: 'fixed' },
  { balancePlace: 'cutting-and-trailing' },
  { gradeMmPerS: 16 },
];
/** Before the grind any of them will do to see the heavy end. */
const DEVICES: readonly BalanceDevice[] = [
  'bearing-shaft',
  'bearing-shaft',
  'cone-point',
  'straightedge',
  'nail',
];

/** Chances of what goes wrong with a blade that has mowed. Invented. */
const CRACK = 0.008;
const BENT = 0.01;
const BEYOND_SAVING = 0.01;
const NICK = 0.3;

/** What the rules say of a cycle as it stands, of whatever is asked of them. */
export const standsNow = <Answer>(
  database: Database,
  cycleId: string,
  at: string,
  asked: (state: CycleState, facts: CycleFacts) => Answer,
): Promise<Answer> =>
  database.connection.write(async () => {
    const { state, facts } = await cycleAt(database, cycleId, at);
    return asked(state, facts);
  });

/**
 * One cycle by the quick routine: read is what the bench asks for, no more. Gives back how it ended: retired where
 * the readings say so, on hold where they do not allow more.
 */
export async function quickCycle(blade: TrueBlade, hands: Hands): Promise<Outcome> {
  const { database, dice, first } = hands;
  const { cycleId, act } = await hands.take();
  const ask = <Answer>(asked: (state: CycleState, facts: CycleFacts) => Answer): Promise<Answer> =>
    standsNow(database, cycleId, hands.now(), asked);

  const readAll = async (phase: Phase): Promise<void> => {
    const slots = await ask(slotsOf);
    const wanted = ({ phase: of, needed, taken, quantity }: ReadingSlot): boolean =>
      of === phase && needed && !taken && quantity !== 'tip-height';
    for (const { quantity, end, stationKey } of slots.filter(wanted)) {
      const place = { quantity, ...(end ? { end } : {}), ...(stationKey ? { stationKey } : {}) };
      await hands.read(act, phase, place, truthAt(blade, place), ...howRead(quantity));
    }
  };
  const signOff = async (wished: 'ready'): Promise<Outcome> => {
    const { proposed, allowed, retireReasons } = await ask(signOffOf);
    const outcome: Outcome =
      proposed === 'retired' ? 'retired' : allowed.includes(wished) ? wished : 'hold';
    await act({
      type: 'sign-off',
      outcome,
      ...(outcome === 'retired'
        ? {
            retireReason: retireReasons[0] ?? ('shop-decision' as const),
            disposal: dice.chance(0.6) ? ('cut' as const) : ('bent' as const),
          }
        : {}),
    });
    return outcome;
  };

  await act({ type: 'clean', done: true });
  if (!first && dice.chance(BENT)) blade.tipMm.A += dice.between(4, 9);
  const cracked = !first && dice.chance(CRACK);
  await act({
    type: 'judge-crack',
    found: cracked,
    ...(cracked
      ? { where: dice.chance(0.5) ? ('wing-root' as const) : ('near-tip' as const) }
      : {}),
  });
  if (cracked) return signOff('ready');
  for (const end of ENDS) {
    await hands.read(
      act,
      'before',
      { quantity: 'tip-height', end },
      truthAt(blade, { quantity: 'tip-height', end }),
      ...howRead('tip-height'),
    );
  }
  const beyond = !first && dice.chance(BEYOND_SAVING);
  if (!first && (beyond || dice.chance(NICK))) {
    await act({
      type: 'mark-damage',
      damageId: uuidv7(),
      kind: beyond ? 'chip' : 'nick',
      end: dice.chance(0.5) ? 'A' : 'B',
      fromTip: { text: dice.between(4, 50).toFixed(0), unit: 'mm' },
      depth: {
        text: (beyond ? dice.between(14, 18) : dice.between(0.3, 0.8)).toFixed(1),
        unit: 'mm',
      },
    });
  }
  if (dice.chance(0.05)) {
    const school = OWN_SCHOOLS[Math.floor(dice.between(0, OWN_SCHOOLS.length))];
    if (school) await act({ type: 'choose-schools', schools: school });
  }
  await readAll('before');
  blade.cycles += 1;
  const before = await ask(assess);
  const held = before.before.verdict === 'hold';
  if (signOffFrom(before).proposed === 'retired' || held) return signOff('ready');
  const device = DEVICES[Math.floor(dice.between(0, DEVICES.length))];
  const { grinderId, gramsAPass, wheel } = await hands.tool();
  const groundG = { A: 0, B: 0 };
  for (const end of ENDS) {
    const massG = blade.massG;
    grindEnd(blade, end, dice.between(...hands.recessionMm), dice, wheel);
    groundG[end] = massG - blade.massG;
  }
  const leftGmm = leftUnbalanced(blade, dice);
  await hands.balance(act, 'before', unbalanceBefore(blade, leftGmm, groundG), device);
  await act({ type: 'set-up', grinderId });
  for (const end of ENDS) {
    const count = Math.max(1, Math.round(groundG[end] / gramsAPass));
    await act({ type: 'count-passes', passId: uuidv7(), end, count });
  }
  await act({ type: 'deburr', done: true });
  await hands.balance(act, 'after', leftGmm);
  // A hanging that does not fit the one before is made again.
  if ((await ask(balanceViews)).at(-1)?.expected) await hands.balance(act, 'after', leftGmm);
  await readAll('after');
  for (const end of ENDS) await act({ type: 'light-test', end, brightLine: false });
  return signOff('ready');
}
