import type { UpkeepView } from '@tally-stone/contract';
import { DataTypes, type Sequelize } from 'sequelize';
import { type Stored } from '../db/columns.js';

export interface UpkeepRow {
  id: string;
  mowerId: string;
  kind: UpkeepView['kind'];
  found: NonNullable<UpkeepView['last']>['found'];
  note: string | null;
  at: string;
  hoursH: number;
  personId: string;
}

export const defineUpkeep = (sequelize: Sequelize) =>
  sequelize.define<Stored<UpkeepRow>>('upkeep', {
    id: { type: DataTypes.TEXT, primaryKey: true },
    mowerId: DataTypes.TEXT,
    kind: DataTypes.TEXT,
    found: DataTypes.TEXT,
    note: DataTypes.TEXT,
    at: DataTypes.TEXT,
    hoursH: DataTypes.REAL,
    personId: DataTypes.TEXT,
  });
