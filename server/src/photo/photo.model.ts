import { DataTypes, type Sequelize } from 'sequelize';
import { type Stored } from '../db/columns.js';

/** A photo of a blade at the bench; `file` names it in the folder beside the database. */
export interface PhotoRow {
  id: string;
  cycleId: string;
  damageId: string | null;
  file: string;
  takenAt: string;
  takenBy: string;
}

export type Photo = Stored<PhotoRow>;

export const definePhoto = (sequelize: Sequelize) =>
  sequelize.define<Photo>('photo', {
    id: { type: DataTypes.TEXT, primaryKey: true },
    cycleId: DataTypes.TEXT,
    damageId: DataTypes.TEXT,
    file: DataTypes.TEXT,
    takenAt: DataTypes.TEXT,
    takenBy: DataTypes.TEXT,
  });
