import type { End, ZoneKey } from '@tally-stone/core';
import { DataTypes, type Sequelize } from 'sequelize';
import { type Stored } from '../db/columns.js';

export interface PassRow {
  id: string;
  cycleId: string;
  end: End;
  zone: ZoneKey;
  count: number;
  countedAt: string;
  grinderId: string | null;
  abrasiveId: string | null;
  /** Whose hand; unknown for passes counted before this was kept. */
  personId: string | null;
}

export const definePass = (sequelize: Sequelize) =>
  sequelize.define<Stored<PassRow>>('pass', {
    id: { type: DataTypes.TEXT, primaryKey: true },
    cycleId: DataTypes.TEXT,
    end: DataTypes.TEXT,
    zone: DataTypes.TEXT,
    count: DataTypes.INTEGER,
    countedAt: DataTypes.TEXT,
    grinderId: DataTypes.TEXT,
    abrasiveId: DataTypes.TEXT,
    personId: DataTypes.TEXT,
  });
