import type { GrinderFigures } from '@tally-stone/contract';
import type { GrinderCheck } from './grinder-check.model.js';
import { DataTypes, type Sequelize } from 'sequelize';
import { json, type Stored } from '../db/columns.js';

export interface GrinderRow {
  id: string;
  /** What is on it now: a new wheel or belt has a new id. */
  abrasiveId: string;
  figures: GrinderFigures;
}

export type Grinder = Stored<GrinderRow, { checks: GrinderCheck[] }>;

export const defineGrinder = (sequelize: Sequelize) =>
  sequelize.define<Grinder>('grinder', {
    id: { type: DataTypes.TEXT, primaryKey: true },
    abrasiveId: DataTypes.TEXT,
    figures: json('figures'),
  });
