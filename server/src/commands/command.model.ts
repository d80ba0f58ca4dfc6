import type { CommandAnswer, CycleEvent } from '@tally-stone/contract';
import { DataTypes, type Sequelize } from 'sequelize';
import { json, type Stored } from '../db/columns.js';

export interface CommandRow {
  id: string;
  sequence: number;
  type: string;
  cycleId: string | null;
  revision: number | null;
  personId: string;
  occurredAt: string;
  receivedAt: string;
  body: unknown;
  event: CycleEvent | null;
  answer: CommandAnswer;
}

export const defineCommand = (sequelize: Sequelize) =>
  sequelize.define<Stored<CommandRow>>('command', {
    id: { type: DataTypes.TEXT, primaryKey: true },
    sequence: DataTypes.INTEGER,
    type: DataTypes.TEXT,
    cycleId: DataTypes.TEXT,
    revision: DataTypes.INTEGER,
    personId: DataTypes.TEXT,
    occurredAt: DataTypes.TEXT,
    receivedAt: DataTypes.TEXT,
    body: json('body'),
    event: json('event'),
    answer: json('answer'),
  });
