import { DataTypes, type Sequelize } from 'sequelize';
import { type Stored } from '../db/columns.js';

/** Wrong PINs for a person from one address: whoever guesses locks out nobody but that address. */
export interface WrongPinRow {
  personId: string;
  address: string;
  wrong: number;
  /** The next try waits until then, ms since 1970. */
  untilMs: number;
}

export const defineWrongPin = (sequelize: Sequelize) =>
  sequelize.define<Stored<WrongPinRow>>('wrongPin', {
    personId: { type: DataTypes.TEXT, primaryKey: true },
    address: { type: DataTypes.TEXT, primaryKey: true },
    wrong: DataTypes.INTEGER,
    untilMs: DataTypes.DOUBLE,
  });
