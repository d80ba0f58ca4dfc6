import type { LastReading, Quantity, SpecFigures } from '@tally-stone/contract';
import {
  deckFaults,
  deckPairs,
  ENDS,
  type BladeSize,
  type DeckPair,
  type SetMember,
} from '@tally-stone/core';
import { lastReadingsOf } from '../cycle/history.js';
import type { Scope } from '../db/connection.js';
import type { BladeRowStored, DeckRow, SpindleRow } from '../db/rows.js';
import type { Tables } from '../db/tables.js';

const QUANTITIES_OF_A_SET: readonly Quantity[] = ['length', 'width', 'mass'];

/** Blades as their set is judged by: the last reading of everything, as new where never read. */
export async function membersOf(
  tables: Tables,
  blades: readonly BladeRowStored[],
  specOf: (specId: string) => SpecFigures | undefined,
  scope: Scope,
): Promise<Map<string, SetMember>> {
  const lastOf = await lastReadingsOf(tables, blades, scope, QUANTITIES_OF_A_SET);
  return new Map(
    blades.flatMap(({ id, specId }) => {
      const spec = specOf(specId);
      return spec ? [[id, memberOf(id, spec, lastOf.get(id) ?? new Map())] as const] : [];
    }),
  );
}

function memberOf(
  id: string,
  spec: SpecFigures,
  last: ReadonlyMap<string, LastReading>,
): SetMember {
  const widths = ENDS.flatMap((end) =>
    spec.stations.map(({ key }) => last.get(`width:${end}:${key}`)?.value ?? spec.newWidthMm),
  );
  return {
    id,
    lengthMm: last.get('length:-:-')?.value ?? spec.newLengthMm,
    widthMm: widths.reduce((sum, width) => sum + width, 0) / Math.max(1, widths.length),
    massG: last.get('mass:-:-')?.value ?? spec.newMassG,
  };
}

export interface DeckGeometry {
  readonly pairs: readonly DeckPair[];
  /** In words, with the spindles' names and by how much. */
  readonly faults: readonly string[];
  readonly clash: boolean;
}

/** How blades stand to each other on a measured deck; nothing to say of one nobody has measured. */
export function geometryOf(
  { figures }: DeckRow,
  spindles: readonly Pick<SpindleRow, 'id' | 'position'>[],
  sizeAt: (spindleId: string) => BladeSize | undefined,
): DeckGeometry {
  const placed = (figures?.spindles ?? []).flatMap(({ spindleId, acrossMm, aheadMm }) => {
    const size = sizeAt(spindleId);
    const position = spindles.find(({ id }) => id === spindleId)?.position ?? '';
    return size ? [{ acrossMm, aheadMm, size, position }] : [];
  });
  if (!figures || placed.length < 2) return { pairs: [], faults: [], clash: false };
  const pairs = deckPairs(
    placed,
    placed.map(({ size }) => size),
  );
  const found = deckFaults(pairs, figures);
  return {
    pairs,
    clash: found.some(({ kind }) => kind === 'clash'),
    faults: found.map(({ kind, left, right, shortMm }) => {
      const between = `${placed[left]?.position ?? ''} and ${placed[right]?.position ?? ''}`;
      const short = shortMm.toFixed(1);
      return kind === 'clash'
        ? `${between} come ${short} mm too near: at least ${figures.leastClearanceMm} mm clear`
        : `${between} leave a strip: ${short} mm short of ${figures.leastOverlapMm} mm overlap`;
    }),
  };
}
