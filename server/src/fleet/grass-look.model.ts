import type { Duty, GrassTip } from '@tally-stone/contract';
import { DataTypes, type Sequelize } from 'sequelize';
import { json, type Stored } from '../db/columns.js';

export interface GrassLookRow {
  id: string;
  mowerId: string;
  /** The set that was on, by when it went on. */
  fittedAt: string;
  hoursOnEdge: number;
  turf: Duty['turf'];
  soil: Duty['soil'];
  file: string | null;
  tips: GrassTip[];
  torn: number;
  clean: number;
  at: string;
  personId: string;
  takenBackAt: string | null;
}

export const defineGrassLook = (sequelize: Sequelize) =>
  sequelize.define<Stored<GrassLookRow>>(
    'grassLook',
    {
      id: { type: DataTypes.TEXT, primaryKey: true },
      mowerId: DataTypes.TEXT,
      fittedAt: DataTypes.TEXT,
      hoursOnEdge: DataTypes.REAL,
      turf: DataTypes.TEXT,
      soil: DataTypes.TEXT,
      file: DataTypes.TEXT,
      tips: json('tips'),
      torn: DataTypes.INTEGER,
      clean: DataTypes.INTEGER,
      at: DataTypes.TEXT,
      personId: DataTypes.TEXT,
      takenBackAt: DataTypes.TEXT,
    },
    { scopes: { standing: { where: { takenBackAt: null } } } },
  );
