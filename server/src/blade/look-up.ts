import { Refusal } from '@tally-stone/cycle';
import type { Scope } from '../db/connection.js';
import type { BladeRowStored } from '../db/rows.js';
import type { Tables } from '../db/tables.js';

export async function bladeOf(
  tables: Tables,
  bladeId: string,
  scope: Scope,
): Promise<BladeRowStored> {
  const blade = await tables.blade.one({ id: bladeId }, scope);
  if (!blade) throw new Refusal('notFound', 'There is no such blade.');
  return blade;
}
