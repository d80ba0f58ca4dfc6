import type { Deck } from './deck.model.js';
import type { Fit } from './fit.model.js';
import { DataTypes, type Sequelize } from 'sequelize';
import { type Stored } from '../db/columns.js';

export interface SpindleRow {
  id: string;
  deckId: string;
  position: string;
  ordinal: number;
}

export type Spindle = Stored<SpindleRow, { deck: Deck; fits: Fit[] }>;

export const defineSpindle = (sequelize: Sequelize) =>
  sequelize.define<Spindle>('spindle', {
    id: { type: DataTypes.TEXT, primaryKey: true },
    deckId: DataTypes.TEXT,
    position: DataTypes.TEXT,
    ordinal: DataTypes.INTEGER,
  });
