import type { Phase } from '@tally-stone/contract';
import type { BalanceDevice, HeavyEnd } from '@tally-stone/core';
import { DataTypes, type Sequelize } from 'sequelize';
import { type Stored } from '../db/columns.js';

export interface BalanceRoundRow {
  id: string;
  cycleId: string;
  phase: Phase;
  device: BalanceDevice;
  heavyEnd: HeavyEnd;
  unbalanceGmm: number;
  u: number;
  weightG: number | null;
  radiusMm: number | null;
  takenAt: string;
  /** 1 where only the heavy end is known. */
  endOnly: number;
  balancerId: string | null;
  /** The round before the blade was turned half way round on its adapter. */
  halfTurnOf: string | null;
}

export const defineBalanceRound = (sequelize: Sequelize) =>
  sequelize.define<Stored<BalanceRoundRow>>('balanceRound', {
    id: { type: DataTypes.TEXT, primaryKey: true },
    cycleId: DataTypes.TEXT,
    phase: DataTypes.TEXT,
    device: DataTypes.TEXT,
    heavyEnd: DataTypes.TEXT,
    unbalanceGmm: DataTypes.DOUBLE,
    u: DataTypes.DOUBLE,
    weightG: DataTypes.DOUBLE,
    radiusMm: DataTypes.DOUBLE,
    takenAt: DataTypes.TEXT,
    endOnly: DataTypes.INTEGER,
    balancerId: DataTypes.TEXT,
    halfTurnOf: DataTypes.TEXT,
  });
