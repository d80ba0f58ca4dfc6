import { DataTypes, type Sequelize } from 'sequelize';
import { type Stored } from '../db/columns.js';

export interface PersonRow {
  id: string;
  name: string;
  role: string;
  pinHash: string | null;
  /** The language they read; null where they never picked one. */
  language: string | null;
}

export type Person = Stored<PersonRow>;

export const definePerson = (sequelize: Sequelize) =>
  sequelize.define<Person>('person', {
    id: { type: DataTypes.TEXT, primaryKey: true },
    name: DataTypes.TEXT,
    role: DataTypes.TEXT,
    pinHash: DataTypes.TEXT,
    language: DataTypes.TEXT,
  });
