import {
  flatSection,
  fromItsFoot,
  resultingSection,
  type End,
  type Section,
} from '@tally-stone/core';
import { Op } from 'sequelize';
import type { CycleFacts } from '../cycles/facts.js';
import type { ReadingRow } from '../db/rows.js';
import type { Tables } from '../db/tables.js';

type Places = Pick<ReadingRow, 'cycleId' | 'phase' | 'quantity' | 'end' | 'value'>;

const mean = (values: readonly number[]): number | undefined =>
  values.length === 0 ? undefined : values.reduce((sum, each) => sum + each, 0) / values.length;

/** One grind on a section: the new plane pushed in by what the widths lost, the greater setback stays. */
function ground(
  before: Section,
  thicknessMm: number,
  after: {
    readonly bevelDeg: number;
    readonly landMm: number;
    readonly recessionMm: number;
  },
): Section {
  return fromItsFoot(resultingSection(before, flatSection(thicknessMm, after)));
}

/** Two faces differ by so many degrees before an upper one is worth remembering. */
const COMPOUND_DEG = 1;

/**
 * The section each end was left with: all its grinds, one after the other, from a new blade at the spec's
 * bevel. Where the last bevels were alike the face is one plane and nothing is kept.
 */
export async function sectionsOf(
  tables: Tables,
  facts: CycleFacts,
): Promise<Record<End, Section | undefined>> {
  const { blade, spec } = facts;
  const cycles = await tables.cycle.pick(
    ['id'],
    { bladeId: blade.id, signedAt: { [Op.ne]: null } },
    'committed',
    { order: [['openedAt', 'ASC']] },
  );
  const readings: Places[] =
    cycles.length === 0
      ? []
      : await tables.reading.pick(
          ['cycleId', 'phase', 'quantity', 'end', 'value'],
          { cycleId: cycles.map(({ id }) => id), quantity: ['bevel', 'land', 'width'] },
          'committed',
        );
  const section = (end: End): Section | undefined => {
    let now = flatSection(spec.thicknessMm, { bevelDeg: spec.bevelDeg, landMm: 0, recessionMm: 0 });
    let steepened = false;
    for (const { id } of cycles) {
      const of = (quantity: string, phase: 'before' | 'after'): number | undefined =>
        mean(
          readings
            .filter(
              (reading) =>
                reading.cycleId === id &&
                reading.end === end &&
                reading.quantity === quantity &&
                reading.phase === phase,
            )
            .map(({ value }) => value),
        );
      const bevelDeg = of('bevel', 'after');
      if (bevelDeg === undefined) continue;
      const was = of('bevel', 'before') ?? spec.bevelDeg;
      steepened = bevelDeg - was > COMPOUND_DEG || (steepened && bevelDeg >= was - COMPOUND_DEG);
      now = ground(now, spec.thicknessMm, {
        bevelDeg,
        landMm: Math.min(of('land', 'after') ?? 0.15, spec.thicknessMm / 2),
        recessionMm: Math.max(0, (of('width', 'before') ?? 0) - (of('width', 'after') ?? 0)),
      });
    }
    if (!steepened) return undefined;
    return now;
  };
  return { A: section('A'), B: section('B') };
}
