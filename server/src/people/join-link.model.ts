import { DataTypes, type Sequelize } from 'sequelize';
import { type Stored } from '../db/columns.js';

/** A link that signs a phone in, once. */
export interface JoinLinkRow {
  /** SHA-256 of what the link holds. */
  id: string;
  personId: string;
  madeBy: string;
  until: string;
}

export const defineJoinLink = (sequelize: Sequelize) =>
  sequelize.define<Stored<JoinLinkRow>>('joinLink', {
    id: { type: DataTypes.TEXT, primaryKey: true },
    personId: DataTypes.TEXT,
    madeBy: DataTypes.TEXT,
    until: DataTypes.TEXT,
  });
