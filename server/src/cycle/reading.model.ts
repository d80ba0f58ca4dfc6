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

export const defineReading = (sequelize: Sequelize) =>
  sequelize.define<Stored<ReadingRow>>('reading', {
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
    enteredText: DataTypes.TEXT,
    enteredUnit: DataTypes.TEXT,
    instrumentKey: DataTypes.TEXT,
    source: DataTypes.TEXT,
    takenAt: DataTypes.TEXT,
  });
