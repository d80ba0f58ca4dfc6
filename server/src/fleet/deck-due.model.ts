import { DataTypes, type Sequelize } from 'sequelize';
import { flag, type Stored } from '../db/columns.js';

export interface DeckDueRow {
  deckId: string;
  mowerId: string;
  bladesOn: number;
  fittedAt: string | null;
  fittedAtH: number | null;
  /** All hours the mower has run, over every meter it had. */
  hoursH: number;
  readAt: string;
  hoursPerDay: number;
  /** The same as it stood before the last reading, so that a misread one can be undone. */
  beforeH: number | null;
  beforeAt: string | null;
  beforePerDay: number | null;
  struck: boolean;
  complaints: number;
}

export type DeckDue = Stored<DeckDueRow>;

export const defineDeckDue = (sequelize: Sequelize) =>
  sequelize.define<DeckDue>('deckDue', {
    deckId: { type: DataTypes.TEXT, primaryKey: true },
    mowerId: DataTypes.TEXT,
    bladesOn: DataTypes.INTEGER,
    fittedAt: DataTypes.TEXT,
    fittedAtH: DataTypes.DOUBLE,
    hoursH: DataTypes.DOUBLE,
    readAt: DataTypes.TEXT,
    hoursPerDay: DataTypes.DOUBLE,
    beforeH: DataTypes.DOUBLE,
    beforeAt: DataTypes.TEXT,
    beforePerDay: DataTypes.DOUBLE,
    struck: flag('struck'),
    complaints: DataTypes.INTEGER,
  });
