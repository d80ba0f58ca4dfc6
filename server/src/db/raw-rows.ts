import { setTimeout as later } from 'node:timers/promises';
import { type Model, type ModelStatic, QueryTypes } from 'sequelize';

/**
 * Rows that come by the hundred, by a SELECT in SQL over a model's connection: before each question of a model's own
 * Sequelize asks for the table's columns.
 */
export const rawRows = async <Row extends object>(
  { sequelize }: ModelStatic<Model>,
  sql: string,
  replacements: Readonly<Record<string, unknown>>,
): Promise<Row[]> =>
  (await sequelize?.query<Row>(sql, {
    type: QueryTypes.SELECT,
    replacements: { ...replacements },
  })) ?? [];

/**
 * Lets SQLite begin with the next question that waits. The driver hands one over only when Node comes round twice more:
 * what is worked out from the last answer at once would hold all others up.
 */
export const nextQuestionBegins = (): Promise<void> => later(1);
