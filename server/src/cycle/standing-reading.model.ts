import { DataTypes, type Sequelize } from 'sequelize';
import type { Stored } from '../db/columns.js';
import type { ReadingRow } from './reading.model.js';

/** A reading with what was corrected since: a view, only read. */
export type StandingReadingRow = Omit<ReadingRow, 'enteredText' | 'enteredUnit' | 'instrumentKey'>;

export const defineStandingReading = (sequelize: Sequelize) =>
  sequelize.define<Stored<StandingReadingRow>>('standingReading', {
    id: { type: DataTypes.TEXT, primaryKey: true },
    cycleId: DataTypes.TEXT,
    phase: DataTypes.TEXT,
    quantity: DataTypes.TEXT,
    end: DataTypes.TEXT,
    stationKey: DataTypes.TEXT,
    radiusMm: DataTypes.DOUBLE,
    value: DataTypes.DOUBLE,
    u: DataTypes.DOUBLE,
    resolution: DataTypes.DOUBLE,
    source: DataTypes.TEXT,
    takenAt: DataTypes.TEXT,
  });
