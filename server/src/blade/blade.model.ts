import type { BladeState } from '@tally-stone/contract';
import type { Cycle } from '../cycle/cycle.model.js';
import type { BladeCode } from './blade-code.model.js';
import { DataTypes, Op, type Sequelize } from 'sequelize';
import { type Stored } from '../db/columns.js';

export interface BladeRowStored {
  id: string;
  specId: string;
  state: BladeState;
  place: string;
  grinds: number;
  createdAt: string;
  waitingSince: string | null;
  /** The last length a signed-off cycle read, mm; null while none has. */
  lastLengthMm: number | null;
  /** When it was trimmed last; null of nearly all. */
  trimmedAt: string | null;
  /** From new, or used when it came into the book: then its history before is unknown. */
  knownFrom: 'new' | 'used';
  /** The heap it came in with, where it came in used. */
  intakeId: string | null;
}

export type Blade = Stored<BladeRowStored, { codes: BladeCode[]; cycles: Cycle[] }>;

export const defineBlade = (sequelize: Sequelize) =>
  sequelize.define<Blade>(
    'blade',
    {
      id: { type: DataTypes.TEXT, primaryKey: true },
      specId: DataTypes.TEXT,
      state: DataTypes.TEXT,
      place: DataTypes.TEXT,
      grinds: DataTypes.INTEGER,
      createdAt: DataTypes.TEXT,
      waitingSince: DataTypes.TEXT,
      lastLengthMm: DataTypes.DOUBLE,
      trimmedAt: DataTypes.TEXT,
      knownFrom: DataTypes.TEXT,
      intakeId: DataTypes.TEXT,
    },
    {
      scopes: {
        inUse: { where: { state: { [Op.ne]: 'retired' } } },
      },
    },
  );
