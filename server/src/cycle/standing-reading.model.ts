import { DataTypes, type Sequelize } from 'sequelize';
import type { Stored } from '../db/columns.js';
import { WHAT_WAS_READ, type ReadingRow } from './reading.model.js';

/** A reading with what was corrected since: a view, only read. */
export type StandingReadingRow = Omit<ReadingRow, 'enteredText' | 'enteredUnit' | 'instrumentKey'>;

export const defineStandingReading = (sequelize: Sequelize) =>
  sequelize.define<Stored<StandingReadingRow>>('standingReading', {
    id: { type: DataTypes.TEXT, primaryKey: true },
    cycleId: DataTypes.TEXT,
    phase: DataTypes.TEXT,
    ...WHAT_WAS_READ,
    source: DataTypes.TEXT,
    takenAt: DataTypes.TEXT,
  });
