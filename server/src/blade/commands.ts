import { bladeOf } from './look-up.js';
import type { ShopCommand } from '@tally-stone/contract';
import { nextCode, BLADE_STATES } from '@tally-stone/core';
import { v7 as uuidv7 } from 'uuid';
import type { Change, Done, WriteContext } from '../write-context.js';
import type { BladeRowStored } from './blade.model.js';
import { geometryOf } from '../fleet/geometry.js';
import { bladeComesOff, bladeGoesOn, refuseAfterStrike } from '../fleet/standing.js';
import { Refusal, wrongField } from '@tally-stone/cycle';
import { readHours, spindlePlace, type SpindlePlace } from '../fleet/mowers.js';
import { shopOf } from '../shop/look-up.js';
import { currentRevision } from '../spec/specs.js';

type Of<Type extends ShopCommand['type']> = Extract<ShopCommand, { type: Type }>;

/** Registers several new blades of one spec and gives each the next code to stamp. */
export async function registerBlades(
  command: Of<'register-blades'>,
  context: WriteContext,
): Promise<Done> {
  const { models } = context;
  const { knownFrom } = command;
  const used = knownFrom === 'used';
  const toBench = used || (await shopOf(context)).rules.hangNew === true;
  const { figures } = await currentRevision(context, command.specId);
  if (!used && figures.trimmedFrom)
    throw wrongField(
      'specId',
      $localize`is of blades trimmed here: take them in at their own length`,
    );
  const newest = { order: [['serial', 'DESC']] as [['serial', 'DESC']] };
  const [last, erased] = [
    await models.bladeCode.findOne(newest),
    await models.erasedCode.findOne(newest),
  ];
  let serial = Math.max(last?.serial ?? -1, erased?.serial ?? -1) + 1;
  const blades: { bladeId: string; code: string }[] = [];
  for (let i = 0; i < command.count; i++) {
    const next = nextCode(serial);
    serial = next.serial + 1;
    const bladeId = uuidv7();
    await models.blade.create({
      id: bladeId,
      specId: command.specId,
      state: toBench ? 'waiting' : 'new',
      place: command.place,
      grinds: 0,
      createdAt: command.occurredAt,
      waitingSince: toBench ? command.occurredAt : null,
      lastLengthMm: null,
      trimmedAt: null,
      knownFrom,
      intakeId: used ? command.id : null,
    });
    await models.bladeCode.create({
      code: next.code,
      serial: next.serial,
      bladeId,
      from: command.occurredAt,
      to: null,
    });
    blades.push({ bladeId, code: next.code });
  }
  const changes = blades.map(({ bladeId, code }): Change => ({
    what: used ? 'used blade taken in' : 'blade registered',
    subjectKind: 'blade',
    subjectId: bladeId,
    before: null,
    after: {
      code,
      specId: command.specId,
      state: toBench ? 'waiting' : 'new',
      place: command.place,
    },
  }));
  const [first, ...rest] = changes;
  if (!first) throw new Refusal('invalid', 'count must be at least 1');
  return { changes: [first, ...rest], answer: { blades } };
}

/** One blade beside those that are on: refused where hands mix, or where they would strike each other. */
async function refuseClash(
  { spindle }: SpindlePlace,
  blade: BladeRowStored,
  context: WriteContext,
): Promise<void> {
  const deck = await context.models.deck.findByPk(spindle.deckId, {
    include: [
      {
        association: 'spindles',
        include: [
          { association: 'fits', where: { to: null }, required: false, include: ['blade'] },
        ],
      },
    ],
  });
  const { spindles = [] } = deck ?? {};
  if (!deck) return;
  const on = spindles.flatMap(({ id, fits }) => {
    const there = id === spindle.id ? blade : fits?.[0]?.blade;
    return there ? [{ spindleId: id, there }] : [];
  });
  const sizes = new Map(
    await Promise.all(
      on.map(async ({ spindleId, there }) => {
        const { figures } = await currentRevision(context, there.specId);
        const { newLengthMm, newWidthMm: widthMm, hand } = figures;
        return [spindleId, { lengthMm: there.lastLengthMm ?? newLengthMm, widthMm, hand }] as const;
      }),
    ),
  );
  if (new Set([...sizes.values()].map(({ hand }) => hand)).size > 1) {
    throw new Refusal(
      'refused',
      $localize`This blade is of the other hand: one deck turns its blades one way.`,
    );
  }
  const { clash, faults } = geometryOf(deck, spindles, (spindleId) => sizes.get(spindleId));
  if (clash)
    throw new Refusal('refused', $localize`They would strike each other: ${faults[0] ?? ''}.`);
}

/** Puts a ready blade on a spindle. Errors: a blade that is not ready, a spindle that is taken. */
export async function fitBlade(command: Of<'fit-blade'>, context: WriteContext): Promise<Done> {
  const { models } = context;
  const blade = await bladeOf(models, command.bladeId);
  if (blade.state !== 'ready') {
    throw new Refusal(
      blade.state === 'retired' ? 'retired' : 'refused',
      $localize`This blade ${BLADE_STATES[blade.state].notFitted ?? $localize`is not ready`}.`,
    );
  }
  const place = await spindlePlace(models, command.spindleId);
  if (await models.fit.scope('standing').findOne({ where: { spindleId: command.spindleId } })) {
    throw new Refusal(
      'refused',
      $localize`${place.mower.name}, ${place.spindle.position}, has a blade on it: bring that one in first.`,
    );
  }
  await refuseAfterStrike(place.mower, context);
  await refuseClash(place, blade, context);
  const totalH = await readHours(place, command.hoursH, command.occurredAt, context);
  await bladeGoesOn(place.spindle.deckId, totalH, command.occurredAt, context);
  await models.fit.create({
    id: command.fitId,
    bladeId: blade.id,
    spindleId: command.spindleId,
    from: command.occurredAt,
    to: null,
    fromHoursH: totalH,
    toHoursH: null,
  });
  const after = {
    state: 'on-mower',
    place: `${place.mower.name}, ${place.spindle.position}`,
  } as const;
  await models.blade.update({ ...after, waitingSince: null }, { where: { id: blade.id } });
  return {
    changes: [
      {
        what: 'blade fitted',
        subjectKind: 'blade',
        subjectId: blade.id,
        before: { state: blade.state, place: blade.place },
        after: { ...after, spindleId: command.spindleId, hoursH: command.hoursH },
      },
    ],
  };
}

/** Brings a blade to the bench's waiting place: off its mower if it was on one. */
export async function bringIn(command: Of<'bring-in'>, context: WriteContext): Promise<Done> {
  const { models } = context;
  const blade = await bladeOf(models, command.bladeId);
  if (blade.state === 'retired') {
    throw new Refusal(
      'retired',
      $localize`This blade is retired and does not come back to the bench.`,
    );
  }
  if (blade.state === 'at-bench' || blade.state === 'waiting') {
    throw new Refusal('refused', $localize`This blade is at the bench or waiting already.`);
  }
  const fit = await models.fit.scope('standing').findOne({ where: { bladeId: blade.id } });
  if (fit) {
    const place = await spindlePlace(models, fit.spindleId);
    const hoursH = command.hoursH ?? place.meter.lastReadingH;
    const toHoursH = await readHours(place, hoursH, command.occurredAt, context);
    await bladeComesOff(place.spindle.deckId, context);
    await models.fit.update({ to: command.occurredAt, toHoursH }, { where: { id: fit.id } });
  }
  const after = {
    state: 'waiting',
    place: command.place,
    waitingSince: command.occurredAt,
  } as const;
  await models.blade.update(after, { where: { id: blade.id } });
  return {
    changes: [
      {
        what: 'blade brought in',
        subjectKind: 'blade',
        subjectId: blade.id,
        before: { state: blade.state, place: blade.place },
        after,
      },
    ],
  };
}
