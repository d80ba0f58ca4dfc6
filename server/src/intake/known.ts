import type { LastReading } from '@tally-stone/contract';
import { sampleOf } from '@tally-stone/core';
import { historyKey } from '@tally-stone/cycle';
import type { BladeRowStored } from '../blade/blade.model.js';
import type { IntakeReadingRow } from './intake-reading.model.js';
import { groupedBy } from '../db/grouped.js';
import type { Models } from '../models.js';

/** How far blades of one heap differ where only one of them was read. Common practice, no source. */
const ONE_READ_U: Partial<Record<string, number>> = { width: 2, wing: 0.6, mass: 30, length: 2 };

type FromIntake = Pick<BladeRowStored, 'id' | 'knownFrom' | 'intakeId'>;
const cameUsed = ({ knownFrom, intakeId }: FromIntake): string | undefined =>
  knownFrom === 'used' && intakeId ? intakeId : undefined;

/** What was read at the intakes that these blades came by, oldest first. */
export async function intakeRowsOf(
  models: Models,
  blades: readonly FromIntake[],
): Promise<readonly IntakeReadingRow[]> {
  const intakeId = [...new Set(blades.flatMap((blade) => cameUsed(blade) ?? []))];
  if (intakeId.length === 0) return [];
  return models.intakeReading.findAll({
    where: { intakeId },
    order: [['takenAt', 'ASC']],
    raw: true,
  });
}

/** A used blade's own first readings, else what the sample of its heap says. */
export function knownFromIntake(
  blade: FromIntake,
  intake: readonly IntakeReadingRow[],
): Map<string, LastReading> {
  const intakeId = cameUsed(blade);
  const known = new Map<string, LastReading>();
  if (intakeId === undefined) return known;
  const rows = intake.filter((row) => row.intakeId === intakeId);
  for (const [key, all] of groupedBy(rows, historyKey)) {
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
    if (row.bladeId !== blade.id) continue;
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
