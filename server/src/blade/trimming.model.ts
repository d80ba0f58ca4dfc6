import { DataTypes, type Sequelize } from 'sequelize';
import { json, type Stored } from '../db/columns.js';
import type { BladeRowStored } from './blade.model.js';

/** A blade trimmed at both ends: from now on it is of another spec, and what was read of its length, width and mass is old. */
export interface TrimmingRow {
  id: string;
  bladeId: string;
  fromSpecId: string;
  toSpecId: string;
  /** As its specs say, mm. */
  fromLengthMm: number;
  toLengthMm: number;
  halfAMm: number;
  halfBMm: number;
  /** Of one half, mm. */
  u: number;
  resolution: number;
  /** What taking it back puts in place again. */
  bladeBefore: Pick<
    BladeRowStored,
    'specId' | 'state' | 'place' | 'waitingSince' | 'lastLengthMm' | 'trimmedAt'
  >;
  at: string;
  personId: string;
  takenBackAt: string | null;
}

export const defineTrimming = (sequelize: Sequelize) =>
  sequelize.define<Stored<TrimmingRow>>(
    'trimming',
    {
      id: { type: DataTypes.TEXT, primaryKey: true },
      bladeId: DataTypes.TEXT,
      fromSpecId: DataTypes.TEXT,
      toSpecId: DataTypes.TEXT,
      fromLengthMm: DataTypes.DOUBLE,
      toLengthMm: DataTypes.DOUBLE,
      halfAMm: DataTypes.DOUBLE,
      halfBMm: DataTypes.DOUBLE,
      u: DataTypes.DOUBLE,
      resolution: DataTypes.DOUBLE,
      bladeBefore: json('bladeBefore'),
      at: DataTypes.TEXT,
      personId: DataTypes.TEXT,
      takenBackAt: DataTypes.TEXT,
    },
    { scopes: { standing: { where: { takenBackAt: null } } } },
  );
