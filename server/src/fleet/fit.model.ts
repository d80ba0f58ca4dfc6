import type { Blade } from '../blade/blade.model.js';
import type { Spindle } from './spindle.model.js';
import { DataTypes, type Sequelize } from 'sequelize';
import { type Stored } from '../db/columns.js';

export interface FitRow {
  id: string;
  bladeId: string;
  spindleId: string;
  from: string;
  to: string | null;
  fromHoursH: number;
  toHoursH: number | null;
}

export type Fit = Stored<FitRow, { spindle: Spindle; blade: Blade }>;

export const defineFit = (sequelize: Sequelize) =>
  sequelize.define<Fit>(
    'fit',
    {
      id: { type: DataTypes.TEXT, primaryKey: true },
      bladeId: DataTypes.TEXT,
      spindleId: DataTypes.TEXT,
      from: DataTypes.TEXT,
      to: DataTypes.TEXT,
      fromHoursH: DataTypes.DOUBLE,
      toHoursH: DataTypes.DOUBLE,
    },
    // A blade that is on a spindle now.
    { scopes: { standing: { where: { to: null } } } },
  );
