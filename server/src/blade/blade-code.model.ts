import { DataTypes, type Sequelize } from 'sequelize';
import { type Stored } from '../db/columns.js';

export interface BladeCodeRow {
  code: string;
  serial: number;
  bladeId: string;
  from: string;
  to: string | null;
}

export type BladeCode = Stored<BladeCodeRow>;

export const defineBladeCode = (sequelize: Sequelize) =>
  sequelize.define<BladeCode>('bladeCode', {
    code: { type: DataTypes.TEXT, primaryKey: true },
    serial: DataTypes.INTEGER,
    bladeId: DataTypes.TEXT,
    from: DataTypes.TEXT,
    to: DataTypes.TEXT,
  });
