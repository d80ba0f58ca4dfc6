import type { CycleFigures, Outcome, RetireReason } from '@tally-stone/contract';
import { DataTypes, type Sequelize } from 'sequelize';
import { flag, json, type Stored } from '../db/columns.js';

/** A signed-off cycle with what was corrected since: a view, only read. */
export interface SignedCycleRow {
  id: string;
  bladeId: string;
  openedAt: string;
  signedAt: string;
  signedBy: string;
  outcome: Outcome;
  retireReason: RetireReason | null;
  /** Verdict and figures as they stood at sign-off. */
  frozen: CycleFigures | null;
  /** Its figures worked out again by the newest correction. */
  corrected: CycleFigures | null;
  /** The blade it retired was taken back since. */
  takenBack: boolean;
  /** Passes were counted in it. */
  ground: boolean;
}

export const defineSignedCycle = (sequelize: Sequelize) =>
  sequelize.define<Stored<SignedCycleRow>>('signedCycle', {
    id: { type: DataTypes.TEXT, primaryKey: true },
    bladeId: DataTypes.TEXT,
    openedAt: DataTypes.TEXT,
    signedAt: DataTypes.TEXT,
    signedBy: DataTypes.TEXT,
    outcome: DataTypes.TEXT,
    retireReason: DataTypes.TEXT,
    frozen: json('frozen'),
    corrected: json('corrected'),
    takenBack: flag('takenBack'),
    ground: flag('ground'),
  });
