import type { PhotoMatView, ShopCommand } from '@tally-stone/contract';
import {
  BenchError,
  printScale,
  SCALE_BAR_MM,
  typedResolution,
  typedUncertainty,
  type PrintScale,
} from '@tally-stone/core';
import { instrumentByKey, parsed, refusalFromBench } from '@tally-stone/cycle';
import type { Models } from '../models.js';
import type { Done, WriteContext } from '../write-context.js';
import type { PhotoMatRow } from './photo-mat.model.js';

type Of<Type extends ShopCommand['type']> = Extract<ShopCommand, { type: Type }>;

/** Wide, so that a sheet printed to fit is told so, and not that its bar cannot be measured. */
const BAR_RANGE = [SCALE_BAR_MM / 2, SCALE_BAR_MM * 2] as const;

/** The field of the bar that is wrong, as the command has it. */
const FIELDS: Readonly<Record<string, string>> = { acrossMm: 'across.text', downMm: 'down.text' };

function scaleOf(measured: Parameters<typeof printScale>[0]): PrintScale {
  try {
    return printScale(measured);
  } catch (error) {
    if (error instanceof BenchError) throw refusalFromBench(error, FIELDS[error.field]);
    throw error;
  }
}

/** Keeps the true size of a printed mat; a print that is far off is refused at the bar that says so. */
export async function measureMat(
  command: Of<'measure-mat'>,
  { models, receivedAt }: WriteContext,
): Promise<Done> {
  const { measureId, matNumber, across, down, personId } = command;
  const instrument = command.instrument ? instrumentByKey(command.instrument) : undefined;
  const acrossMm = parsed(across, 'mm', 'across.text', BAR_RANGE);
  const downMm = parsed(down, 'mm', 'down.text', BAR_RANGE);
  const typed = ({ text, unit }: typeof across): number =>
    typedUncertainty('width', typedResolution(text, unit, 'mm'));
  const caliperU = instrument?.u ?? Math.max(typed(across), typed(down));
  const scale = scaleOf({ acrossMm, downMm, caliperU });
  const row: PhotoMatRow = {
    id: measureId,
    matNumber,
    acrossMm,
    downMm,
    scaleU: scale.u,
    measuredAt: receivedAt,
    measuredBy: personId,
  };
  await models.photoMat.create(row);
  return {
    changes: [
      {
        what: 'photo mat measured',
        subjectKind: 'shop',
        subjectId: measureId,
        before: null,
        after: { matNumber, acrossMm, downMm, scaleU: scale.u },
      },
    ],
  };
}

/** The shop's mats, each as it was measured last. */
export async function listMats(models: Models): Promise<PhotoMatView[]> {
  const rows = await models.photoMat.findAll({ order: [['measuredAt', 'ASC']] });
  const newest = new Map(rows.map((row) => [row.matNumber, row]));
  return [...newest.values()]
    .sort((a, b) => a.matNumber - b.matNumber)
    .map(({ matNumber, acrossMm, downMm, scaleU, measuredAt }) => ({
      matNumber,
      across: acrossMm / SCALE_BAR_MM,
      down: downMm / SCALE_BAR_MM,
      u: scaleU,
      measuredAt,
    }));
}
