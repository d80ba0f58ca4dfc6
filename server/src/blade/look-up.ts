import { Refusal } from '@tally-stone/cycle';
import type { BladeRowStored } from './blade.model.js';
import type { Models } from '../models.js';

export async function bladeOf(models: Models, bladeId: string): Promise<BladeRowStored> {
  const blade = await models.blade.findByPk(bladeId);
  if (!blade) throw new Refusal('notFound', $localize`There is no such blade.`);
  return blade;
}
