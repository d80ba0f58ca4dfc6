import type { MachineScope } from '@tally-stone/contract';
import { DataTypes, type Sequelize } from 'sequelize';
import { json, type Stored } from '../db/columns.js';

/** A machine that may use the API. */
export interface MachineTokenRow {
  id: string;
  /** SHA-256 of its token. */
  hash: string;
  name: string;
  scopes: readonly MachineScope[];
  madeAt: string;
  /** Nobody where the shop's own machine needs no sign-in. */
  madeBy: string | null;
  seenAt: string | null;
}

export const defineMachineToken = (sequelize: Sequelize) =>
  sequelize.define<Stored<MachineTokenRow>>('machineToken', {
    id: { type: DataTypes.TEXT, primaryKey: true },
    hash: DataTypes.TEXT,
    name: DataTypes.TEXT,
    scopes: json('scopes'),
    madeAt: DataTypes.TEXT,
    madeBy: DataTypes.TEXT,
    seenAt: DataTypes.TEXT,
  });
