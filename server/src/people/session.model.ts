import { DataTypes, type Sequelize } from 'sequelize';
import { type Stored } from '../db/columns.js';

/** Somebody signed in on a device. */
export interface SessionRow {
  /** SHA-256 of the token: what is stored opens nothing. */
  id: string;
  personId: string;
  /** What the browser calls itself. */
  device: string;
  address: string;
  createdAt: string;
  seenAt: string;
}

export const defineSession = (sequelize: Sequelize) =>
  sequelize.define<Stored<SessionRow>>('session', {
    id: { type: DataTypes.TEXT, primaryKey: true },
    personId: DataTypes.TEXT,
    device: DataTypes.TEXT,
    address: DataTypes.TEXT,
    createdAt: DataTypes.TEXT,
    seenAt: DataTypes.TEXT,
  });
