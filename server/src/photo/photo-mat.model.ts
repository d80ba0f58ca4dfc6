import { DataTypes, type Sequelize } from 'sequelize';
import { type Stored } from '../db/columns.js';

/** The bars of one print of a mat as somebody measured them; the newest of a number counts. */
export interface PhotoMatRow {
  id: string;
  matNumber: number;
  acrossMm: number;
  downMm: number;
  /** Standard uncertainty of the print's scale. */
  scaleU: number;
  measuredAt: string;
  measuredBy: string;
}

export type PhotoMat = Stored<PhotoMatRow>;

export const definePhotoMat = (sequelize: Sequelize) =>
  sequelize.define<PhotoMat>('photoMat', {
    id: { type: DataTypes.TEXT, primaryKey: true },
    matNumber: DataTypes.INTEGER,
    acrossMm: DataTypes.DOUBLE,
    downMm: DataTypes.DOUBLE,
    scaleU: DataTypes.DOUBLE,
    measuredAt: DataTypes.TEXT,
    measuredBy: DataTypes.TEXT,
  });
