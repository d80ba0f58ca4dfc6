import type { KnownWeightDrops } from '@tally-stone/core';
import { DataTypes, type Sequelize } from 'sequelize';
import { json, type Stored } from '../db/columns.js';

/** What a calibration with known weights found of a balancer. */
export interface BalancerCalibrationRow {
  id: string;
  balancerId: string;
  frictionGmm: number;
  frictionU: number;
  /** Inertia with the shaft over that of a bar of the blade's size. */
  inertiaFactor: number;
  centringMm: number | null;
  misfit: number;
  drops: readonly KnownWeightDrops[];
  madeBy: string;
  madeAt: string;
}

export type BalancerCalibration = Stored<BalancerCalibrationRow>;

export const defineBalancerCalibration = (sequelize: Sequelize) =>
  sequelize.define<BalancerCalibration>('balancerCalibration', {
    id: { type: DataTypes.TEXT, primaryKey: true },
    balancerId: DataTypes.TEXT,
    frictionGmm: DataTypes.DOUBLE,
    frictionU: DataTypes.DOUBLE,
    inertiaFactor: DataTypes.DOUBLE,
    centringMm: DataTypes.DOUBLE,
    misfit: DataTypes.DOUBLE,
    drops: json('drops'),
    madeBy: DataTypes.TEXT,
    madeAt: DataTypes.TEXT,
  });
