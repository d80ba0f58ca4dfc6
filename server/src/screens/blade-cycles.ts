import { QueryTypes } from 'sequelize';
import type { Database } from '../database.js';
import { type Beside, besideInSql } from '../db/beside.js';
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
  rounds: Pick<
    BalanceRoundRow,
    'id' | 'cycleId' | 'phase' | 'unbalanceGmm' | 'endOnly' | 'takenAt'
  >;
  photos: PhotoRow;
  edges: EdgePhotoRow;
  corrections: Pick<CorrectionRow, 'id' | 'cycleId' | 'correctsKind' | 'reason' | 'madeAt'>;
}
type Part = keyof RowOf;
/** What was marked, ground, balanced, photographed and corrected in cycles, oldest first. */
export type PartsOfCycles = { readonly [Key in Part]: RowOf[Key][] };

/** Without what was frozen at its sign-off. */
type BareCycle = Omit<CycleRow, 'frozen'>;
export interface CyclesOfBlade {
  /** As they were opened. */
  readonly cycles: readonly (BareCycle & { readonly frozen: null })[];
  readonly parts: PartsOfCycles;
}

const all = (model: Beside['model']): Pick<Beside, 'model' | 'attributes'> => ({
  model,
  attributes: Object.keys(model.getAttributes()),
});

const besides = (models: Models): Readonly<Record<Part, Omit<Beside, 'where'>>> => ({
  damage: all(models.damage),
  passes: { model: models.pass, attributes: ['cycleId', 'end', 'zone', 'count', 'grinderId'] },
  rounds: {
    model: models.balanceRound,
    attributes: ['id', 'cycleId', 'phase', 'unbalanceGmm', 'endOnly', 'takenAt'],
  },
  photos: all(models.photo),
  edges: all(models.edgePhoto),
  corrections: {
    model: models.correction,
    attributes: ['id', 'cycleId', 'correctsKind', 'reason', 'madeAt'],
  },
});

/** Every cycle of a blade with its parts, in one question. */
export async function cyclesOfBlade(
  { connection, models }: Database,
  bladeId: string,
): Promise<CyclesOfBlade> {
  const columns = Object.entries(besides(models)).map(([part, beside]) =>
    besideInSql({ ...beside, where: `"${beside.model.tableName}".cycleId = cycle.id` }, part),
  );
  const rows = await connection.sequelize.query<BareCycle & Readonly<Record<Part, string>>>(
    `SELECT id, bladeId, specRevisionId, openedAt, openedBy, signedAt, signedBy, outcome, retireReason, ${columns.join(', ')}
     FROM cycle WHERE bladeId = :bladeId ORDER BY openedAt`,
    { type: QueryTypes.SELECT, replacements: { bladeId } },
  );
  const every = <Key extends Part>(part: Key, keyOf: (row: RowOf[Key]) => string = () => '') =>
    rows
      .flatMap((row) => JSON.parse(row[part]) as RowOf[Key][])
      .sort((a, b) => (keyOf(a) < keyOf(b) ? -1 : keyOf(a) > keyOf(b) ? 1 : 0));
  return {
    cycles: rows.map((row) => ({ ...row, frozen: null })),
    parts: {
      damage: every('damage'),
      passes: every('passes'),
      rounds: every('rounds', ({ takenAt, id }) => `${takenAt} ${id}`),
      photos: every('photos', ({ takenAt }) => takenAt),
      edges: every('edges', ({ takenAt }) => takenAt),
      corrections: every('corrections', ({ madeAt }) => madeAt),
    },
  };
}
