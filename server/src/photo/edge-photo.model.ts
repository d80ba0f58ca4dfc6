import type { TakenEdge } from '@tally-stone/contract';
import { DataTypes, type Sequelize } from 'sequelize';
import { json, type Stored } from '../db/columns.js';

/** An end's edge as a photo on the mat showed it, in one cycle, before or after its grind. */
export interface EdgePhotoRow {
  id: string;
  cycleId: string;
  end: 'A' | 'B';
  phase: 'before' | 'after';
  edge: TakenEdge;
  takenAt: string;
}

export type EdgePhoto = Stored<
  EdgePhotoRow,
  { cycle: { readonly id: string; readonly bladeId: string } }
>;

export const defineEdgePhoto = (sequelize: Sequelize) =>
  sequelize.define<EdgePhoto>('edgePhoto', {
    id: { type: DataTypes.TEXT, primaryKey: true },
    cycleId: DataTypes.TEXT,
    end: DataTypes.TEXT,
    phase: DataTypes.TEXT,
    edge: json('edge'),
    takenAt: DataTypes.TEXT,
  });
