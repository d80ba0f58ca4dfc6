import { DataTypes, type Sequelize } from 'sequelize';
import { type Stored } from '../db/columns.js';

export interface SpecRow {
  id: string;
  name: string;
}

export const defineSpec = (sequelize: Sequelize) =>
  sequelize.define<Stored<SpecRow>>('spec', {
    id: { type: DataTypes.TEXT, primaryKey: true },
    name: DataTypes.TEXT,
  });
