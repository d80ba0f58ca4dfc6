import type { DeckFigures } from '@tally-stone/contract';
import type { DeckDue } from './deck-due.model.js';
import type { Mower } from './mower.model.js';
import type { Spindle } from './spindle.model.js';
import { DataTypes, type Sequelize } from 'sequelize';
import { json, type Stored } from '../db/columns.js';

export interface DeckRow {
  id: string;
  mowerId: string;
  bladeSpeedRpm: number;
  /** Null until somebody has measured the deck. */
  figures: DeckFigures | null;
}

export type Deck = Stored<DeckRow, { mower: Mower; spindles: Spindle[]; standing: DeckDue }>;

export const defineDeck = (sequelize: Sequelize) =>
  sequelize.define<Deck>('deck', {
    id: { type: DataTypes.TEXT, primaryKey: true },
    mowerId: DataTypes.TEXT,
    bladeSpeedRpm: DataTypes.DOUBLE,
    figures: json('figures'),
  });
