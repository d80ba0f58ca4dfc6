import { paceAfter, DAY_MS } from '@tally-stone/core';
import type { WriteContext } from '../write-context.js';
import type { DeckDueRow } from './deck-due.model.js';
import type { MowerRow } from './mower.model.js';
import type { StrikeRow } from './strike.model.js';
import { Refusal } from '@tally-stone/cycle';

/**
 * Where the set on a deck stands, one row a deck: kept by every command that fits, pulls, reads hours or reports,
 * read by the due list. Nothing here looks into history.
 */
type Standing = Omit<DeckDueRow, 'deckId' | 'mowerId'>;

async function keep(
  deckId: string,
  change: (before: DeckDueRow) => Partial<Standing>,
  { models }: WriteContext,
): Promise<void> {
  const before = await models.deckDue.findOne({ where: { deckId } });
  if (before) await models.deckDue.update(change(before), { where: { deckId } });
}

export async function newDeckStands(
  row: Pick<DeckDueRow, 'deckId' | 'mowerId' | 'hoursH' | 'readAt'>,
  { models }: WriteContext,
): Promise<void> {
  const fresh = {
    bladesOn: 0,
    fittedAt: null,
    fittedAtH: null,
    hoursPerDay: 0,
    beforeH: null,
    beforeAt: null,
    beforePerDay: null,
  };
  await models.deckDue.create({ ...row, ...fresh, struck: false, complaints: 0 });
}

/** The mower ran on to so many hours in all; its pace is what it mowed a day lately. */
export const hoursStand = (
  deckId: string,
  hoursH: number,
  at: string,
  context: WriteContext,
): Promise<void> =>
  keep(
    deckId,
    (before) => {
      const days = Math.max(0, (Date.parse(at) - Date.parse(before.readAt)) / DAY_MS);
      const mown = Math.max(0, hoursH - before.hoursH);
      return {
        hoursH,
        hoursPerDay: paceAfter(before.hoursPerDay, mown, days),
        ...(days > 0 ? { readAt: at } : {}),
        ...(mown > 0
          ? {
              beforeH: before.hoursH,
              beforeAt: before.readAt,
              beforePerDay: before.hoursPerDay,
            }
          : {}),
      };
    },
    context,
  );

/** The last reading was misread: hours and pace are as they were before it. Returns those hours. */
export async function misreadUndone(deckId: string, context: WriteContext): Promise<number> {
  const standing = await context.models.deckDue.findOne({ where: { deckId } });
  const { beforeH, beforeAt, beforePerDay, readAt = '' } = standing ?? {};
  if (typeof beforeH !== 'number') return 0;
  await keep(
    deckId,
    () => ({
      hoursH: beforeH,
      readAt: beforeAt ?? readAt,
      hoursPerDay: beforePerDay ?? 0,
      beforeH: null,
      beforeAt: null,
      beforePerDay: null,
    }),
    context,
  );
  return beforeH;
}

/** A blade went on; with the first of a set its edge hours begin, and what was said of the set before is over. */
export const bladeGoesOn = (
  deckId: string,
  hoursH: number,
  at: string,
  context: WriteContext,
): Promise<void> =>
  keep(
    deckId,
    ({ bladesOn }) => ({
      bladesOn: bladesOn + 1,
      ...(bladesOn === 0 ? { fittedAt: at, fittedAtH: hoursH, struck: false, complaints: 0 } : {}),
    }),
    context,
  );

export const bladeComesOff = (deckId: string, context: WriteContext): Promise<void> =>
  keep(
    deckId,
    ({ bladesOn }) => ({
      bladesOn: Math.max(0, bladesOn - 1),
      ...(bladesOn <= 1 ? { fittedAt: null, fittedAtH: null, struck: false, complaints: 0 } : {}),
    }),
    context,
  );

export const setStruck = (deckId: string, context: WriteContext): Promise<void> =>
  keep(deckId, ({ bladesOn }) => ({ struck: bladesOn > 0 }), context);

export const setComplainedOf = (deckId: string, context: WriteContext): Promise<void> =>
  keep(
    deckId,
    ({ bladesOn, complaints }) => ({ complaints: bladesOn > 0 ? complaints + 1 : 0 }),
    context,
  );

/** A strike nobody has looked into after which the mower is not to be run. */
export const stopsUse = ({ vibration, hard }: Pick<StrikeRow, 'vibration' | 'hard'>): boolean =>
  vibration || hard !== 'glanced';

/** Nothing goes on a mower that struck hard before its spindle and mount are looked at. */
export async function refuseAfterStrike(
  { id, name }: Pick<MowerRow, 'id' | 'name'>,
  { models }: WriteContext,
): Promise<void> {
  const strikes = await models.strike.findAll({ where: { mowerId: id, clearedAt: null } });
  if (strikes.some(stopsUse)) {
    throw new Refusal(
      'refused',
      $localize`${name} struck something: look at spindle and mount first, and say that they are sound.`,
    );
  }
}
