import type { CycleFigures, Outcome, RetireReason } from '@tally-stone/contract';
import type { Blade } from '../blade/blade.model.js';
import type { Person } from '../people/person.model.js';
import type { EdgePhoto } from '../photo/edge-photo.model.js';
import type { Photo } from '../photo/photo.model.js';
import type { Correction } from './correction.model.js';
import type { Damage } from './damage.model.js';
import type { SpecRevision } from '../spec/spec-revision.model.js';
import { DataTypes, type Sequelize } from 'sequelize';
import { json, type Stored } from '../db/columns.js';

export interface CycleRow {
  id: string;
  bladeId: string;
  specRevisionId: string;
  openedAt: string;
  openedBy: string;
  signedAt: string | null;
  signedBy: string | null;
  outcome: Outcome | null;
  retireReason: RetireReason | null;
  /** Verdict and figures as they stood at sign-off. */
  frozen: CycleFigures | null;
}

export type Cycle = Stored<
  CycleRow,
  {
    blade: Blade;
    specRevision: SpecRevision;
    opener: Person;
    damage: Damage[];
    photos: Photo[];
    edges: EdgePhoto[];
    corrections: Correction[];
  }
>;

export const defineCycle = (sequelize: Sequelize) =>
  sequelize.define<Cycle>('cycle', {
    id: { type: DataTypes.TEXT, primaryKey: true },
    bladeId: DataTypes.TEXT,
    specRevisionId: DataTypes.TEXT,
    openedAt: DataTypes.TEXT,
    openedBy: DataTypes.TEXT,
    signedAt: DataTypes.TEXT,
    signedBy: DataTypes.TEXT,
    outcome: DataTypes.TEXT,
    retireReason: DataTypes.TEXT,
    frozen: json('frozen'),
  });
