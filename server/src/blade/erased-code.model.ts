import { DataTypes, type Sequelize } from 'sequelize';
import type { Stored } from '../db/columns.js';

/** A code that was given and is on no blade any more; it is never given again. */
export interface ErasedCodeRow {
  code: string;
  serial: number;
}

export const defineErasedCode = (sequelize: Sequelize) =>
  sequelize.define<Stored<ErasedCodeRow>>('erasedCode', {
    code: { type: DataTypes.TEXT, primaryKey: true },
    serial: DataTypes.INTEGER,
  });
