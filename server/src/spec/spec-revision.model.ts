import type { SpecFigures } from '@tally-stone/contract';
import { DataTypes, type Sequelize } from 'sequelize';
import { json, type Stored } from '../db/columns.js';

export interface SpecRevisionRow {
  id: string;
  specId: string;
  revision: number;
  figures: SpecFigures;
  createdAt: string;
}

export type SpecRevision = Stored<SpecRevisionRow>;

export const defineSpecRevision = (sequelize: Sequelize) =>
  sequelize.define<SpecRevision>('specRevision', {
    id: { type: DataTypes.TEXT, primaryKey: true },
    specId: DataTypes.TEXT,
    revision: DataTypes.INTEGER,
    figures: json('figures'),
    createdAt: DataTypes.TEXT,
  });
