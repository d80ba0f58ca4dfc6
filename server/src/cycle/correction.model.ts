import type { CycleFigures } from '@tally-stone/contract';
import type { Person } from '../people/person.model.js';
import { DataTypes, type Sequelize } from 'sequelize';
import { json, type Stored } from '../db/columns.js';

export interface CorrectionRow {
  id: string;
  cycleId: string;
  correctsKind: 'reading' | 'crack' | 'retirement';
  correctsId: string;
  value: unknown;
  reason: string;
  personId: string;
  secondPersonId: string | null;
  madeAt: string;
  /** The cycle's figures worked out again with it; nothing where it moves none. */
  figures: CycleFigures | null;
}

export type Correction = Stored<CorrectionRow, { person: Person; second: Person }>;

export const defineCorrection = (sequelize: Sequelize) =>
  sequelize.define<Correction>('correction', {
    id: { type: DataTypes.TEXT, primaryKey: true },
    cycleId: DataTypes.TEXT,
    correctsKind: DataTypes.TEXT,
    correctsId: DataTypes.TEXT,
    value: json('value'),
    reason: DataTypes.TEXT,
    personId: DataTypes.TEXT,
    secondPersonId: DataTypes.TEXT,
    madeAt: DataTypes.TEXT,
    figures: json('figures'),
  });
