import type { Quantity } from '@tally-stone/contract';
import type { End } from '@tally-stone/core';
import { WHAT_WAS_READ } from '../cycle/reading.model.js';
import { DataTypes, type Sequelize } from 'sequelize';
import { type Stored } from '../db/columns.js';

export interface IntakeReadingRow {
  id: string;
  intakeId: string;
  bladeId: string;
  quantity: Quantity;
  end: End | null;
  stationKey: string | null;
  radiusMm: number | null;
  value: number;
  u: number;
  resolution: number;
  enteredText: string;
  enteredUnit: string;
  takenAt: string;
  takenBy: string;
}

export const defineIntakeReading = (sequelize: Sequelize) =>
  sequelize.define<Stored<IntakeReadingRow>>('intakeReading', {
    id: { type: DataTypes.TEXT, primaryKey: true },
    intakeId: DataTypes.TEXT,
    bladeId: DataTypes.TEXT,
    ...WHAT_WAS_READ,
    enteredText: DataTypes.TEXT,
    enteredUnit: DataTypes.TEXT,
    takenAt: DataTypes.TEXT,
    takenBy: DataTypes.TEXT,
  });
