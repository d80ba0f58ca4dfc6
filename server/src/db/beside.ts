import { DataTypes, type Model, type ModelStatic } from 'sequelize';

/** Rows of a table, in SQL, that belong to each row asked for: `column` holds them as JSON. */
export interface Beside {
  readonly model: ModelStatic<Model>;
  readonly attributes: readonly string[];
  /** Which, in SQL. */
  readonly where: string;
}

/**
 * A column that holds the rows of another table, as a list in JSON. Several of them are one question and do not multiply
 * each other, as joined tables would.
 */
export function besideInSql({ model, attributes, where }: Beside, column: string): string {
  const types = model.getAttributes();
  const pairs = attributes.map((name) => {
    const value = `"${model.tableName}"."${name}"`;
    const isJson = types[name]?.type instanceof DataTypes.JSON;
    return `'${name}', ${isJson ? `json(${value})` : value}`;
  });
  return `(SELECT json_group_array(json_object(${pairs.join(', ')})) FROM "${model.tableName}" WHERE ${where}) AS ${column}`;
}
