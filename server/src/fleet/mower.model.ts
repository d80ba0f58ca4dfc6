import type { Deck } from './deck.model.js';
import type { Strike } from './strike.model.js';
import type { HourMeterSegment } from './hour-meter-segment.model.js';
import { DataTypes, type Sequelize } from 'sequelize';
import { type Stored } from '../db/columns.js';

export interface MowerRow {
  id: string;
  name: string;
  energy: string;
  site: string;
}

export type Mower = Stored<MowerRow, { deck: Deck; meters: HourMeterSegment[]; strikes: Strike[] }>;

export const defineMower = (sequelize: Sequelize) =>
  sequelize.define<Mower>('mower', {
    id: { type: DataTypes.TEXT, primaryKey: true },
    name: DataTypes.TEXT,
    energy: DataTypes.TEXT,
    site: DataTypes.TEXT,
  });
