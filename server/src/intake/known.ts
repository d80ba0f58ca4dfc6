import type { LastReading } from '@tally-stone/contract';
import { sampleOf } from '@tally-stone/core';
import { historyKey } from '@tally-stone/cycle';
import type { Scope } from '../db/connection.js';
import type { BladeRowStored, IntakeReadingRow } from '../db/rows.js';
import type { Tables } from '../db/tables.js';

/** How far blades of one heap differ where only one of them was read. Common practice, no source. */
const ONE_READ_U: Partial<Record<string, number>> = { width: 2, wing: 0.6, mass: 30, length: 2 };

/** What is known of a used blade before its first cycle: its own first readings, else what the heap's sample says. */
export async function knownAtIntake(
  tables: Tables,
  { id, knownFrom, intakeId }: Pick<BladeRowStored, 'id' | 'knownFrom' | 'intakeId'>,
  scope: Scope,
): Promise<Map<string, LastReading>> {
  if (knownFrom !== 'used' || !intakeId) return new Map();
  const rows = await tables.intakeReading.all({ intakeId }, scope, { order: [['takenAt', 'ASC']] });
  const known = new Map<string, LastReading>();
  const heap = new Map<string, IntakeReadingRow[]>();
  for (const row of rows) heap.set(historyKey(row), [...(heap.get(historyKey(row)) ?? []), row]);
  for (const [key, all] of heap) {
    const last = all.at(-1);
    if (!last) continue;
    const { value, u } = sampleOf(
      all.map((row) => row.value),
      last.u,
      ONE_READ_U[last.quantity] ?? last.u,
    );
    const { takenAt: at, resolution } = last;
    known.set(key, { value, u, at, resolution, radiusMm: last.radiusMm ?? undefined });
  }
  for (const { value, u, takenAt, resolution, radiusMm, ...row } of rows) {
    if (row.bladeId !== id) continue;
    known.set(historyKey(row), {
      value,
      u,
      at: takenAt,
      resolution,
      radiusMm: radiusMm ?? undefined,
    });
  }
  return known;
}
