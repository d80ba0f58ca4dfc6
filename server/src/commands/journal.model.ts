import type { StreamEvent } from '@tally-stone/contract';
import { DataTypes, type Model, type Sequelize } from 'sequelize';
import { json } from '../db/columns.js';

export interface JournalRow {
  /** Given by the table: one more than the last. */
  sequence: number;
  at: string;
  personId: string;
  commandId: string;
  what: string;
  subjectKind: StreamEvent['subjectKind'];
  subjectId: string;
  before: unknown;
  after: unknown;
  /** Of this entry and the one before it; none from before there was a chain. */
  hash: string | null;
}

export const defineJournal = (sequelize: Sequelize) =>
  sequelize.define<Model<JournalRow, Omit<JournalRow, 'sequence'>> & JournalRow>('journal', {
    sequence: { type: DataTypes.INTEGER, primaryKey: true, autoIncrement: true },
    at: DataTypes.TEXT,
    personId: DataTypes.TEXT,
    commandId: DataTypes.TEXT,
    what: DataTypes.TEXT,
    subjectKind: DataTypes.TEXT,
    subjectId: DataTypes.TEXT,
    before: json('before'),
    after: json('after'),
    hash: DataTypes.TEXT,
  });
