import { DataTypes, type Sequelize } from 'sequelize';
import { json, type Stored } from '../db/columns.js';

export interface GrinderCheckRow {
  id: string;
  grinderId: string;
  abrasiveId: string;
  /** The shop's own day, `2026-04-01`. */
  day: string;
  checked: string[];
  personId: string;
  at: string;
}

export type GrinderCheck = Stored<GrinderCheckRow>;

export const defineGrinderCheck = (sequelize: Sequelize) =>
  sequelize.define<GrinderCheck>('grinderCheck', {
    id: { type: DataTypes.TEXT, primaryKey: true },
    grinderId: DataTypes.TEXT,
    abrasiveId: DataTypes.TEXT,
    day: DataTypes.TEXT,
    checked: json('checked'),
    personId: DataTypes.TEXT,
    at: DataTypes.TEXT,
  });
