import { DataTypes, type Sequelize } from 'sequelize';
import { type Stored } from '../db/columns.js';

export interface PersonRow {
  id: string;
  name: string;
  role: string;
  pinHash: string | null;
}

export const definePerson = (sequelize: Sequelize) =>
  sequelize.define<Stored<PersonRow>>('person', {
    id: { type: DataTypes.TEXT, primaryKey: true },
    name: DataTypes.TEXT,
    role: DataTypes.TEXT,
    pinHash: DataTypes.TEXT,
  });
