import type { BalanceDevice } from '@tally-stone/core';
import type { BalancerCalibration } from './balancer-calibration.model.js';
import { DataTypes, type Sequelize } from 'sequelize';
import { type Stored } from '../db/columns.js';

export interface BalancerRow {
  id: string;
  name: string;
  device: BalanceDevice;
}

export type Balancer = Stored<BalancerRow, { calibrations: BalancerCalibration[] }>;

export const defineBalancer = (sequelize: Sequelize) =>
  sequelize.define<Balancer>('balancer', {
    id: { type: DataTypes.TEXT, primaryKey: true },
    name: DataTypes.TEXT,
    device: DataTypes.TEXT,
  });
