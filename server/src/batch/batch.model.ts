import { DataTypes, type Sequelize } from 'sequelize';
import { json, type Stored } from '../db/columns.js';

export interface BatchRow {
  id: string;
  madeAt: string;
  madeBy: string;
  bladeIds: string[];
  closedAt: string | null;
}

export const defineBatch = (sequelize: Sequelize) =>
  sequelize.define<Stored<BatchRow>>('batch', {
    id: { type: DataTypes.TEXT, primaryKey: true },
    madeAt: DataTypes.TEXT,
    madeBy: DataTypes.TEXT,
    bladeIds: json('bladeIds'),
    closedAt: DataTypes.TEXT,
  });
