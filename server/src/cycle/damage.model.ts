import type { DamageKind, End } from '@tally-stone/core';
import { DataTypes, type Sequelize } from 'sequelize';
import { type Stored } from '../db/columns.js';

export interface DamageRow {
  id: string;
  cycleId: string;
  kind: DamageKind;
  end: End;
  fromTipMm: number;
  radiusMm: number;
  depthMm: number;
  lengthMm: number | null;
  instrument: string | null;
}

export type Damage = Stored<DamageRow>;

export const defineDamage = (sequelize: Sequelize) =>
  sequelize.define<Damage>('damage', {
    id: { type: DataTypes.TEXT, primaryKey: true },
    cycleId: DataTypes.TEXT,
    kind: DataTypes.TEXT,
    end: DataTypes.TEXT,
    fromTipMm: DataTypes.DOUBLE,
    radiusMm: DataTypes.DOUBLE,
    depthMm: DataTypes.DOUBLE,
    lengthMm: DataTypes.DOUBLE,
    instrument: DataTypes.TEXT,
  });
