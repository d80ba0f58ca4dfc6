import { DataTypes, type Sequelize } from 'sequelize';
import { type Stored } from '../db/columns.js';

export interface InstrumentCheckRow {
  id: string;
  quantity: 'mass' | 'width' | 'level';
  value: number;
  u: number;
  resolution: number | null;
  /** The instrument it came from; null where it was typed. */
  instrumentKey: string | null;
  readBy: string;
  readAt: string;
}

export const defineInstrumentCheck = (sequelize: Sequelize) =>
  sequelize.define<Stored<InstrumentCheckRow>>('instrumentCheck', {
    id: { type: DataTypes.TEXT, primaryKey: true },
    quantity: DataTypes.TEXT,
    value: DataTypes.DOUBLE,
    u: DataTypes.DOUBLE,
    resolution: DataTypes.DOUBLE,
    instrumentKey: DataTypes.TEXT,
    readBy: DataTypes.TEXT,
    readAt: DataTypes.TEXT,
  });
