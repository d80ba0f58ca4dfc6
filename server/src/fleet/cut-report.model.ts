import type { CutSign } from '@tally-stone/contract';
import { DataTypes, type Sequelize } from 'sequelize';
import { json, type Stored } from '../db/columns.js';

export interface CutReportRow {
  id: string;
  mowerId: string;
  signs: CutSign[];
  at: string;
  personId: string;
}

export const defineCutReport = (sequelize: Sequelize) =>
  sequelize.define<Stored<CutReportRow>>('cutReport', {
    id: { type: DataTypes.TEXT, primaryKey: true },
    mowerId: DataTypes.TEXT,
    signs: json('signs'),
    at: DataTypes.TEXT,
    personId: DataTypes.TEXT,
  });
