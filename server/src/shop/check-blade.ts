import type { CheckQuantity, CheckView, ShopCommand, ShopRules } from '@tally-stone/contract';
import {
  BenchError,
  QUANTITIES,
  judgeDrift,
  kindOf,
  named,
  parseQuantity,
  resolutionUncertainty,
  rss,
  typedResolution,
  type Unit,
} from '@tally-stone/core';
import type { Done, WriteContext } from '../write-context.js';
import type { Models } from '../models.js';
import { refusalFromBench, wrongField, instrumentByKey, readsCheckBlade } from '@tally-stone/cycle';
import { shopDay } from './day.js';

type ReadCheckBlade = Extract<ShopCommand, { type: 'read-check-blade' }>;

const UNIT = { mass: 'g', width: 'mm', level: 'g' } as const;
const KIND = { g: 'mass', mm: 'length' } as const;

/** The least swing a good shaft shows at the check blade's hole, g. Common practice, no source. */
const LEVEL_U_G = 0.08;
const HANDLING: Readonly<Record<CheckQuantity, number>> = {
  mass: QUANTITIES.mass.handlingU,
  width: QUANTITIES.width.handlingU,
  level: LEVEL_U_G,
};
/** A check blade's own figures are known so well, relative. */
const REFERENCE_U: Readonly<Record<CheckQuantity, number>> = {
  mass: 0.02,
  width: 0.01,
  level: 0.01,
};

const REFERENCE = { mass: 'checkMassG', width: 'checkWidthMm', level: 'checkLevelG' } as const;

/** Keeps a reading of the check blade. Nothing is refused for being off: that is what it is for. */
export async function readCheckBlade(
  { checkId, quantity, entered, instrument: key, personId }: ReadCheckBlade,
  { models, receivedAt }: WriteContext,
): Promise<Done> {
  const base = UNIT[quantity];
  let value: number;
  let unit: Unit;
  try {
    ({ value } = parseQuantity(entered.text, entered.unit as Unit, 'entered.text'));
    unit = parseQuantity(entered.text, entered.unit as Unit, 'entered.text').unit as Unit;
  } catch (error) {
    if (error instanceof BenchError) throw refusalFromBench(error, 'entered.text');
    throw error;
  }
  if (kindOf(unit) !== KIND[base]) {
    throw wrongField(
      'entered.text',
      $localize`is no ${named(KIND[base])}:ph0:: give it in ${base}`,
    );
  }
  if (!(value > 0)) throw wrongField('entered.text', $localize`must be above zero: read it again`);
  const instrument = key === undefined ? undefined : instrumentByKey(key);
  if (key !== undefined && !(instrument && readsCheckBlade(instrument, quantity))) {
    throw wrongField('instrument', $localize`does not read this: take another, or type it`);
  }
  const resolution = instrument?.resolution ?? typedResolution(entered.text, unit, base);
  const u = rss(instrument?.u ?? resolutionUncertainty(resolution), HANDLING[quantity]);
  await models.instrumentCheck.create({
    id: checkId,
    quantity,
    value,
    u,
    resolution,
    instrumentKey: key ?? null,
    readBy: personId,
    readAt: receivedAt,
  });
  return {
    changes: [
      {
        what: 'check blade read',
        subjectKind: 'shop',
        subjectId: checkId,
        before: null,
        after: { quantity, value, ...(key ? { instrument: key } : {}) },
      },
    ],
  };
}

const MOST_MORNINGS = 60;

/** What the mornings so far say of scale, caliper and balancer. */
export async function checkViews(
  models: Models,
  shop: { readonly rules: ShopRules; readonly timeZone: string },
  now: string = new Date().toISOString(),
): Promise<CheckView[]> {
  const rows = await models.instrumentCheck.findAll({
    order: [['readAt', 'DESC']],
    limit: 3 * MOST_MORNINGS,
  });
  return (['mass', 'width', 'level'] as const).map((quantity): CheckView => {
    const mornings = rows.filter((row) => row.quantity === quantity).reverse();
    const last = mornings.at(-1);
    const reference = shop.rules[REFERENCE[quantity]];
    const base = { quantity, reference, unit: UNIT[quantity], readings: mornings.length };
    if (!last) return { ...base, today: false };
    const found = judgeDrift(mornings, { value: reference, u: REFERENCE_U[quantity] });
    return {
      ...base,
      today: shopDay(last.readAt, shop.timeZone) === shopDay(now, shop.timeZone),
      last: last.value,
      trueness: found.trueness,
      deviation: found.deviation,
      expanded: found.expanded,
      smoothed: found.smoothed,
    };
  });
}
