import { DataTypes, type Sequelize } from 'sequelize';
import { type Stored } from '../db/columns.js';

/** The address calendars subscribe to. There is one at a time. */
export interface CalendarAddressRow {
  /** SHA-256 of its token. */
  id: string;
  madeAt: string;
  /** Nobody where the shop's own machine needs no sign-in. */
  madeBy: string | null;
}

export const defineCalendarAddress = (sequelize: Sequelize) =>
  sequelize.define<Stored<CalendarAddressRow>>('calendarAddress', {
    id: { type: DataTypes.TEXT, primaryKey: true },
    madeAt: DataTypes.TEXT,
    madeBy: DataTypes.TEXT,
  });
