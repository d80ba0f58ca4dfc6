import { DataTypes, type Model, type ModelAttributeColumnOptions } from 'sequelize';

/** A stored row as its model gives it, with those neighbours of other tables that a query included. */
export type Stored<Row extends object, Neighbours extends object = object> = Model<Row, Row> &
  Row &
  Partial<Neighbours>;

/**
 * A column that holds JSON. Its tables were made with TEXT columns, which Sequelize hands over as they are: it is
 * parsed when it is read, once a row.
 */
export const json = (column: string): ModelAttributeColumnOptions => {
  const parsed = new WeakMap<Model, { readonly text: string; readonly value: unknown }>();
  return {
    type: DataTypes.JSON,
    get(this: Model) {
      const stored: unknown = this.getDataValue(column);
      if (typeof stored !== 'string') return stored;
      const known = parsed.get(this);
      if (known?.text === stored) return known.value;
      const value = JSON.parse(stored) as unknown;
      parsed.set(this, { text: stored, value });
      return value;
    },
  };
};

/** A column that holds 0 or 1. */
export const flag = (column: string): ModelAttributeColumnOptions => ({
  type: DataTypes.BOOLEAN,
  get(this: Model) {
    return Boolean(this.getDataValue(column));
  },
});
