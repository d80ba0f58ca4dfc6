import type { StrikeView } from '@tally-stone/contract';
import { DataTypes, type Sequelize } from 'sequelize';
import { flag, type Stored } from '../db/columns.js';

export interface StrikeRow {
  id: string;
  mowerId: string;
  what: StrikeView['what'];
  hard: StrikeView['hard'];
  vibration: boolean;
  at: string;
  personId: string;
  clearedAt: string | null;
  clearedBy: string | null;
}

export type Strike = Stored<StrikeRow>;

export const defineStrike = (sequelize: Sequelize) =>
  sequelize.define<Strike>('strike', {
    id: { type: DataTypes.TEXT, primaryKey: true },
    mowerId: DataTypes.TEXT,
    what: DataTypes.TEXT,
    hard: DataTypes.TEXT,
    vibration: flag('vibration'),
    at: DataTypes.TEXT,
    personId: DataTypes.TEXT,
    clearedAt: DataTypes.TEXT,
    clearedBy: DataTypes.TEXT,
  });
