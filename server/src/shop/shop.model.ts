import type { ShopRules } from '@tally-stone/contract';
import { DataTypes, type Sequelize } from 'sequelize';
import { json, type Stored } from '../db/columns.js';

/** The shop itself, one row. */
export interface ShopRow {
  id: string;
  name: string;
  timeZone: string;
  /** As stored: a rule added later is not there yet and counts as its default. */
  rules: Partial<ShopRules>;
}

export const defineShop = (sequelize: Sequelize) =>
  sequelize.define<Stored<ShopRow>>('shop', {
    id: { type: DataTypes.TEXT, primaryKey: true },
    name: DataTypes.TEXT,
    timeZone: DataTypes.TEXT,
    rules: json('rules'),
  });
