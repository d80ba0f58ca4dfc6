import type { CycleFacts, TakenEdge } from '@tally-stone/contract';
import { groupedBy } from '../db/grouped.js';
import type { Models } from '../models.js';

interface OpenedCycle {
  readonly id: string;
  readonly bladeId: string;
  readonly openedAt: string;
  /** Pictures from before show another tip. */
  readonly trimmedAt?: string;
}

/** Of each cycle, the newest photo of each end's edge in its blade's cycles before it. */
export async function lastEdgesOf(
  models: Models,
  cycles: readonly OpenedCycle[],
): Promise<Map<string, CycleFacts['lastEdges']>> {
  const rows = await models.edgePhoto.findAll({
    include: [
      {
        association: 'cycle',
        attributes: ['id', 'bladeId'],
        where: { bladeId: [...new Set(cycles.map(({ bladeId }) => bladeId))] },
      },
    ],
    order: [['takenAt', 'ASC']],
  });
  const ofBlade = groupedBy(rows, (row) => row.cycle?.bladeId ?? '');
  return new Map(
    cycles.map(({ id, bladeId, openedAt, trimmedAt = '' }) => {
      const last: Partial<Record<'A' | 'B', TakenEdge>> = {};
      for (const row of ofBlade.get(bladeId) ?? [])
        if (row.cycleId !== id && row.takenAt <= openedAt && row.takenAt >= trimmedAt)
          last[row.end] = row.edge;
      return [id, last];
    }),
  );
}
