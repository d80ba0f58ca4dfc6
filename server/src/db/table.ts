import {
  DataTypes,
  type Model,
  type ModelStatic,
  type Order,
  type Sequelize,
  type WhereOptions,
} from 'sequelize';
import type { Scope, WriteScope } from './connection.js';
import type { Remembered } from './remembered.js';

export type ColumnKind = 'text' | 'integer' | 'real' | 'boolean' | 'json';

const SEQUELIZE_TYPES = {
  text: DataTypes.TEXT,
  integer: DataTypes.INTEGER,
  real: DataTypes.DOUBLE,
  boolean: DataTypes.BOOLEAN,
  json: DataTypes.TEXT,
} as const;

type Columns<Row> = Record<keyof Row & string, ColumnKind>;
const inScope = (scope: Scope): object =>
  scope === 'committed' ? {} : { transaction: scope.transaction };

/**
 * One table through its Sequelize model. Every call says in which scope it runs, so no query inside a
 * write can forget its transaction. Rows are plain objects; JSON columns are parsed here and nowhere else.
 */
export class Table<Row extends object> {
  readonly model: ModelStatic<Model>;

  constructor(
    sequelize: Sequelize,
    readonly name: string,
    private readonly columns: Columns<Row>,
    private readonly key: keyof Row & string,
    private readonly remembered?: Remembered,
    /** Written at every command and hardly read inside one: a batch gathers its new rows, or its changes. */
    private readonly gathers?: 'rows' | 'changes',
  ) {
    const attributes = Object.fromEntries(
      Object.entries<ColumnKind>(columns).map(([column, kind]) => [
        column,
        { type: SEQUELIZE_TYPES[kind], primaryKey: column === key },
      ]),
    );
    this.model = sequelize.define(name, attributes, { freezeTableName: true, timestamps: false });
  }

  async insert(row: Row, scope: WriteScope): Promise<void> {
    this.note(scope);
    if (this.gathers === 'rows' && scope.gathered) {
      await scope.gathered.add(this.name, this.toStored(row), async (rows) => {
        await this.model.bulkCreate(rows as never, inScope(scope));
      });
      return;
    }
    await this.model.create(this.toStored(row), { ...inScope(scope), returning: false });
  }

  async update(values: Partial<Row>, where: WhereOptions, scope: WriteScope): Promise<void> {
    this.note(scope);
    await this.settled(scope);
    await this.model.update(this.toStored(values), { where, ...inScope(scope) });
  }

  /** Like update of one row by its key; a batch writes only the last of many. */
  async updateLater(values: Partial<Row>, key: string, scope: WriteScope): Promise<void> {
    const where = { [this.key]: key } as WhereOptions;
    if (!scope.gathered) return this.update(values, where, scope);
    this.note(scope);
    scope.gathered.later(this.name, key, async () => {
      await this.model.update(this.toStored(values), { where, ...inScope(scope) });
    });
  }

  async remove(where: WhereOptions, scope: WriteScope): Promise<void> {
    this.note(scope);
    await this.settled(scope);
    await this.model.destroy({ where, ...inScope(scope) });
  }

  async all(
    where: WhereOptions,
    scope: Scope,
    options: { order?: Order; limit?: number } = {},
  ): Promise<Row[]> {
    return (await this.pick(
      Object.keys(this.columns) as (keyof Row & string)[],
      where,
      scope,
      options,
    )) as Row[];
  }

  /** Only some columns, for tables whose other columns are heavy. */
  async pick<Column extends keyof Row & string>(
    attributes: Column[],
    where: WhereOptions,
    scope: Scope,
    options: { order?: Order; limit?: number } = {},
  ): Promise<Pick<Row, Column>[]> {
    await this.settled(scope);
    const read = async (): Promise<Pick<Row, Column>[]> => {
      const found = await this.model.findAll({
        attributes,
        where,
        raw: true,
        ...options,
        ...inScope(scope),
      });
      const parsed = attributes.filter((column) => this.isParsed(column));
      return found.map((row) => this.fromStored(row as unknown as Record<string, unknown>, parsed));
    };
    return this.remembered
      ? this.remembered.ask([attributes, where, options], scope, read)
      : read();
  }

  async one(where: WhereOptions, scope: Scope): Promise<Row | undefined> {
    return (await this.all(where, scope, { limit: 1 }))[0];
  }

  async count(where: WhereOptions, scope: Scope): Promise<number> {
    await this.settled(scope);
    return this.model.count({ where, ...inScope(scope) });
  }

  /** What was remembered of this table is old from here on, and once more when the transaction ends. */
  private note({ transaction, whenOver }: WriteScope): void {
    const { remembered } = this;
    if (!remembered?.written(transaction)) return;
    whenOver(() => {
      remembered.over();
    });
  }

  private async settled(scope: Scope): Promise<void> {
    if (this.gathers && scope !== 'committed') await scope.gathered?.settle(this.name);
  }

  private toStored(row: Partial<Row>): Record<string, unknown> {
    return Object.fromEntries(
      Object.entries(row).map(([column, value]) => [
        column,
        this.kindOf(column) === 'json' && value !== null && value !== undefined
          ? JSON.stringify(value)
          : (value ?? null),
      ]),
    );
  }

  /** Only what SQLite has no kind of its own for is read anew. */
  private fromStored(row: Record<string, unknown>, parsed: readonly string[]): Row {
    for (const column of parsed) {
      const value = row[column];
      if (value === null) continue;
      row[column] =
        this.kindOf(column) === 'json' ? (JSON.parse(String(value)) as unknown) : Boolean(value);
    }
    return row as Row;
  }

  private isParsed(column: string): boolean {
    const kind = this.kindOf(column);
    return kind === 'json' || kind === 'boolean';
  }

  private kindOf(column: string): ColumnKind | undefined {
    return (this.columns as Record<string, ColumnKind>)[column];
  }
}
