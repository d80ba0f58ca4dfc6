import { DataTypes, type Sequelize } from 'sequelize';
import { type Stored } from '../db/columns.js';

export interface HourMeterSegmentRow {
  id: string;
  mowerId: string;
  from: string;
  to: string | null;
  startReadingH: number;
  lastReadingH: number;
  /** Hours run on meters before this one. */
  carriedH: number;
}

export type HourMeterSegment = Stored<HourMeterSegmentRow>;

export const defineHourMeterSegment = (sequelize: Sequelize) =>
  sequelize.define<HourMeterSegment>('hourMeterSegment', {
    id: { type: DataTypes.TEXT, primaryKey: true },
    mowerId: DataTypes.TEXT,
    from: DataTypes.TEXT,
    to: DataTypes.TEXT,
    startReadingH: DataTypes.DOUBLE,
    lastReadingH: DataTypes.DOUBLE,
    carriedH: DataTypes.DOUBLE,
  });
