import type { Model, ModelStatic } from 'sequelize';
import { besideInJson, columnsOf, rowsInJson } from '../db/in-json.js';
import type { BalanceRoundRow } from '../cycle/balance-round.model.js';
import type { CorrectionRow } from '../cycle/correction.model.js';
import type { CycleRow } from '../cycle/cycle.model.js';
import type { DamageRow } from '../cycle/damage.model.js';
import type { PassRow } from '../cycle/pass.model.js';
import type { EdgePhotoRow } from '../photo/edge-photo.model.js';
import type { PhotoRow } from '../photo/photo.model.js';
import type { Models } from '../models.js';

interface RowOf {
  damage: DamageRow;
  passes: Pick<PassRow, 'cycleId' | 'end' | 'zone' | 'count' | 'grinderId'>;
  rounds: Pick<BalanceRoundRow, (typeof ROUND)[number]>;
  photos: PhotoRow;
  edges: EdgePhotoRow;
  corrections: Pick<CorrectionRow, 'cycleId' | 'correctsKind' | 'reason' | 'madeAt'>;
}
type Part = keyof RowOf;
/** What was marked, ground, balanced, photographed and corrected in cycles, oldest first. */
export type PartsOfCycles = { readonly [Key in Part]: RowOf[Key][] };

const BARE = [
  'id',
  'bladeId',
  'specRevisionId',
  'openedAt',
  'openedBy',
  'signedAt',
  'signedBy',
  'outcome',
  'retireReason',
] as const;
/** Without what was frozen at its sign-off. */
type BareCycle = Pick<CycleRow, (typeof BARE)[number]>;
const ROUND = ['id', 'cycleId', 'phase', 'unbalanceGmm', 'endOnly', 'takenAt'] as const;
export interface CyclesOfBlade {
  /** As they were opened. */
  readonly cycles: readonly (BareCycle & { readonly frozen: null })[];
  readonly parts: PartsOfCycles;
}

/** Every cycle of a blade with its parts, in one question. */
export async function cyclesOfBlade(models: Models, bladeId: string): Promise<CyclesOfBlade> {
  const of = (model: ModelStatic<Model>, attributes?: readonly string[]): string =>
    besideInJson(model, `"${model.tableName}".cycleId = cycle.id`, columnsOf(model, attributes));
  const found = await rowsInJson<BareCycle & Pick<PartsOfCycles, Part>>(
    models.cycle,
    {
      ...columnsOf<BareCycle>(models.cycle, BARE),
      damage: of(models.damage),
      passes: of(models.pass, ['cycleId', 'end', 'zone', 'count', 'grinderId']),
      rounds: of(models.balanceRound, ROUND),
      photos: of(models.photo),
      edges: of(models.edgePhoto),
      corrections: of(models.correction, ['cycleId', 'correctsKind', 'reason', 'madeAt']),
    },
    'FROM cycle WHERE bladeId = :bladeId',
    { bladeId },
  );
  const cycles = oldestFirst(found, ({ openedAt }) => openedAt);
  const every = <Key extends Part>(part: Key): RowOf[Key][] =>
    cycles.map((cycle): PartsOfCycles[Key] => cycle[part]).flat() as RowOf[Key][];
  return {
    cycles: cycles.map((cycle) => ({ ...cycle, frozen: null })),
    parts: {
      damage: every('damage'),
      passes: every('passes'),
      rounds: oldestFirst(every('rounds'), ({ takenAt, id }) => `${takenAt} ${id}`),
      photos: oldestFirst(every('photos'), ({ takenAt }) => takenAt),
      edges: oldestFirst(every('edges'), ({ takenAt }) => takenAt),
      corrections: oldestFirst(every('corrections'), ({ madeAt }) => madeAt),
    },
  };
}

const oldestFirst = <Row>(rows: readonly Row[], keyOf: (row: Row) => string): Row[] =>
  [...rows].sort((a, b) => (keyOf(a) < keyOf(b) ? -1 : keyOf(a) > keyOf(b) ? 1 : 0));
