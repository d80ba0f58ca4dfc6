import type { Entered, Phase, Quantity } from '@tally-stone/contract';
import type { End } from '@tally-stone/core';
import { DataTypes, type Sequelize } from 'sequelize';
import { type Stored } from '../db/columns.js';

export interface ReadingRow {
  id: string;
  cycleId: string;
  phase: Phase;
  quantity: Quantity;
  end: End | null;
  stationKey: string | null;
  radiusMm: number | null;
  value: number;
  u: number;
  resolution: number;
  enteredText: string;
  enteredUnit: Entered['unit'];
  instrumentKey: string | null;
  source: 'typed' | 'instrument' | 'carried';
  takenAt: string;
}

/** The columns of whatever was read: what, where, how much and how sure. */
export const WHAT_WAS_READ = {
  quantity: DataTypes.TEXT,
  end: DataTypes.TEXT,
  stationKey: DataTypes.TEXT,
  radiusMm: DataTypes.DOUBLE,
  value: DataTypes.DOUBLE,
  u: DataTypes.DOUBLE,
  resolution: DataTypes.DOUBLE,
};

export const defineReading = (sequelize: Sequelize) =>
  sequelize.define<Stored<ReadingRow>>('reading', {
    id: { type: DataTypes.TEXT, primaryKey: true },
    cycleId: DataTypes.TEXT,
    phase: DataTypes.TEXT,
    ...WHAT_WAS_READ,
    enteredText: DataTypes.TEXT,
    enteredUnit: DataTypes.TEXT,
    instrumentKey: DataTypes.TEXT,
    source: DataTypes.TEXT,
    takenAt: DataTypes.TEXT,
  });
