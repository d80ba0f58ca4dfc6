import { type Entered, type ShopCommand } from '@tally-stone/contract';
import {
  QUANTITIES,
  typedResolution,
  typedUncertainty,
  type BenchQuantity,
} from '@tally-stone/core';
import { bladeOf } from '../blade/look-up.js';
import type { Change, Done, WriteContext } from '../write-context.js';
import { parsedReading, Refusal, wrongField } from '@tally-stone/cycle';
import type { BladeRowStored } from '../blade/blade.model.js';
import type { IntakeReadingRow } from './intake-reading.model.js';
import type { Models } from '../models.js';
import { bladeGoesOn } from '../fleet/standing.js';
import { readHours, spindlePlace } from '../fleet/mowers.js';
import { currentRevision } from '../spec/specs.js';

type Of<Type extends ShopCommand['type']> = Extract<ShopCommand, { type: Type }>;

/** A used blade that has not been through this shop's bench: only of such are first readings told. */
async function freshlyTakenIn(models: Models, bladeId: string): Promise<BladeRowStored> {
  const blade = await bladeOf(models, bladeId);
  if (blade.knownFrom !== 'used') {
    throw new Refusal('refused', $localize`This blade is known from new: it is read at the bench.`);
  }
  const cycles = await models.cycle.count({ where: { bladeId } });
  if (cycles > 0) {
    throw new Refusal(
      'refused',
      $localize`This blade has been at the bench: it is read there from now on.`,
    );
  }
  return blade;
}

function readingOf(
  { text, unit }: Entered,
  quantity: BenchQuantity,
  field: string,
): { value: number; u: number; resolution: number } {
  const value = parsedReading({ text, unit }, quantity, field);
  const resolution = typedResolution(text, unit, QUANTITIES[quantity].unit);
  return { value, u: typedUncertainty(quantity, resolution), resolution };
}

/** First readings of blades taken in used: some of a heap as a sample, or each. All of them or none. */
export async function firstReadings(
  { readings, occurredAt, personId }: Of<'first-readings'>,
  context: WriteContext,
): Promise<Done> {
  const { models } = context;
  const touched = new Map<string, BladeRowStored>();
  for (const [i, { readingId, bladeId, place, entered }] of readings.entries()) {
    const blade = touched.get(bladeId) ?? (await freshlyTakenIn(models, bladeId));
    touched.set(bladeId, blade);
    const { figures } = await currentRevision(context, blade.specId);
    const { quantity, end, stationKey } = place;
    const station = figures.stations.find(({ key }) => key === stationKey);
    const field = `readings.${i}.entered.text`;
    if ((quantity === 'width') !== (station !== undefined)) {
      throw wrongField(
        `readings.${i}.place.stationKey`,
        $localize`is not a station of this blade spec`,
      );
    }
    const read = readingOf(entered, quantity, field);
    const asNew = {
      width: figures.newWidthMm,
      length: figures.newLengthMm,
      mass: figures.newMassG,
    };
    const most = asNew[quantity as keyof typeof asNew];
    if (most !== undefined && read.value > most * 1.03) {
      throw wrongField(
        field,
        $localize`is more than a new blade has, ${most}:ph0:: is it of another spec?`,
      );
    }
    const row: IntakeReadingRow = {
      id: readingId,
      intakeId: blade.intakeId ?? bladeId,
      bladeId,
      quantity,
      end: end ?? null,
      stationKey: stationKey ?? null,
      radiusMm: station?.radiusMm ?? null,
      ...read,
      enteredText: entered.text,
      enteredUnit: entered.unit,
      takenAt: occurredAt,
      takenBy: personId,
    };
    await models.intakeReading.create(row);
    if (quantity === 'length') {
      await models.blade.update({ lastLengthMm: read.value }, { where: { id: bladeId } });
    }
  }
  const changes = [...touched.values()].map(({ id }): Change => ({
    what: 'first readings taken',
    subjectKind: 'blade',
    subjectId: id,
    before: null,
    after: readings.filter(({ bladeId }) => bladeId === id).length,
  }));
  const [first, ...rest] = changes;
  if (!first) throw wrongField('readings', $localize`are missing`);
  return { changes: [first, ...rest] };
}

/** Used blades found on a mower on day one: they are on it, whoever fitted them, and its hours count from now. */
export async function foundOnMower(
  { blades, hoursH, occurredAt }: Of<'found-on-mower'>,
  context: WriteContext,
): Promise<Done> {
  const { models } = context;
  const changes: Change[] = [];
  for (const { fitId, spindleId, bladeId } of blades) {
    await freshlyTakenIn(models, bladeId);
    const place = await spindlePlace(models, spindleId);
    const { mower, spindle } = place;
    if (await models.fit.scope('standing').findOne({ where: { spindleId } })) {
      throw new Refusal(
        'refused',
        $localize`${mower.name}, ${spindle.position}, has a blade on it already.`,
      );
    }
    if (await models.fit.scope('standing').findOne({ where: { bladeId } })) {
      throw wrongField('blades', $localize`hold one blade on two spindles`);
    }
    const fromHoursH = await readHours(place, hoursH, occurredAt, context);
    await bladeGoesOn(spindle.deckId, fromHoursH, occurredAt, context);
    await models.fit.create({
      id: fitId,
      bladeId,
      spindleId,
      from: occurredAt,
      to: null,
      fromHoursH,
      toHoursH: null,
    });
    const after = { state: 'on-mower', place: `${mower.name}, ${spindle.position}` } as const;
    await models.blade.update({ ...after, waitingSince: null }, { where: { id: bladeId } });
    changes.push({
      what: 'blade found on its mower',
      subjectKind: 'blade',
      subjectId: bladeId,
      before: null,
      after: { ...after, spindleId, hoursH },
    });
  }
  const [first, ...rest] = changes;
  if (!first) throw wrongField('blades', $localize`are missing`);
  return { changes: [first, ...rest] };
}
