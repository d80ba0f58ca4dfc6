import { DataTypes, Sequelize } from 'sequelize';
import { flag, json, type Stored } from './columns.js';
import { besideInJson, columnsOf, firstInJson, joinedInJson, rowsInJson } from './in-json.js';

interface BladeRow {
  id: string;
  widthMm: number | null;
  grinds: number;
  ground: boolean;
  figures: { readonly limits: readonly number[] } | null;
}
interface NickRow {
  id: string;
  bladeId: string;
  depthMm: number;
}

describe('rows in JSON', () => {
  let sequelize: Sequelize;
  const define = () => ({
    blade: sequelize.define<Stored<BladeRow>>(
      'blade',
      {
        id: { type: DataTypes.TEXT, primaryKey: true },
        widthMm: DataTypes.DOUBLE,
        grinds: DataTypes.INTEGER,
        ground: flag('ground'),
        figures: json('figures'),
      },
      { timestamps: false, freezeTableName: true },
    ),
    nick: sequelize.define<Stored<NickRow>>(
      'nick',
      {
        id: { type: DataTypes.TEXT, primaryKey: true },
        bladeId: DataTypes.TEXT,
        depthMm: DataTypes.DOUBLE,
      },
      { timestamps: false, freezeTableName: true },
    ),
  });
  let models: ReturnType<typeof define>;

  beforeEach(async () => {
    sequelize = new Sequelize({ dialect: 'sqlite', storage: ':memory:', logging: false });
    models = define();
    await sequelize.sync();
  });
  afterEach(() => sequelize.close());

  it('are what the model itself reads, to the last digit, also what is not there', async () => {
    const widths = [0.1 + 0.2, 1 / 3, 62.8, 57, 1e-9, 1.7976931348623157e308, -0.1, 5e-324];
    await models.blade.bulkCreate([
      ...widths.map((widthMm, i) => ({
        id: `b${i}`,
        widthMm,
        grinds: i,
        ground: i % 2 === 0,
        figures: { limits: [widthMm] },
      })),
      { id: 'none', widthMm: null, grinds: 0, ground: false, figures: null },
      { id: `quote " and ' and \\ and ñ`, widthMm: 2, grinds: 1, ground: true, figures: null },
    ]);
    const plain = ({ id, widthMm, grinds, ground, figures }: BladeRow): BladeRow => ({
      id,
      widthMm,
      grinds,
      ground,
      figures,
    });
    const read = await rowsInJson<BladeRow>(
      models.blade,
      columnsOf<BladeRow>(models.blade),
      'FROM blade WHERE grinds < :most',
      { most: 99 },
    );
    const byModel = (await models.blade.findAll()).map(plain);
    expect(read).toEqual(byModel);
    expect(read.find(({ id }) => id === 'b0')?.widthMm).toBe(0.1 + 0.2);
  });

  it('hold the rows of several tables beside each row, without multiplying them', async () => {
    await models.blade.bulkCreate(
      ['whole', 'nicked'].map((id) => ({
        id,
        widthMm: 60,
        grinds: 0,
        ground: true,
        figures: null,
      })),
    );
    await models.nick.bulkCreate(
      [0.4, 0.7].map((depthMm, i) => ({ id: `n${i}`, bladeId: 'nicked', depthMm })),
    );
    const deepest = firstInJson(models.nick, 'nick.bladeId = blade.id', 'depthMm DESC');
    const beside = besideInJson(
      models.nick,
      'nick.bladeId = blade.id',
      columnsOf(models.nick, ['depthMm']),
    );
    const rows = await rowsInJson<{
      id: string;
      nicks: { depthMm: number }[];
      same: unknown[];
      deepest: NickRow | null;
    }>(
      models.blade,
      {
        ...columnsOf<Pick<BladeRow, 'id'>>(models.blade, ['id']),
        nicks: beside,
        same: beside,
        deepest,
      },
      'FROM blade',
    );
    expect(rows.find(({ id }) => id === 'nicked')?.nicks).toEqual([
      { depthMm: 0.4 },
      { depthMm: 0.7 },
    ]);
    expect(rows.find(({ id }) => id === 'nicked')?.deepest).toEqual({
      id: 'n1',
      bladeId: 'nicked',
      depthMm: 0.7,
    });
    expect(rows.find(({ id }) => id === 'whole')?.deepest).toBeNull();
    expect(rows.map(({ id, nicks, same }) => [id, nicks.length, same.length]).sort()).toEqual([
      ['nicked', 2, 2],
      ['whole', 0, 0],
    ]);
  });

  it('say null of a neighbour that is not there, and find none in an empty table', async () => {
    expect(await rowsInJson(models.blade, columnsOf(models.blade), 'FROM blade')).toEqual([]);
    await models.blade.create({ id: 'b', widthMm: 60, grinds: 0, ground: true, figures: null });
    const asked = () =>
      rowsInJson<{ id: string; nick: NickRow | null }>(
        models.blade,
        { id: 'blade.id', nick: joinedInJson(models.nick) },
        'FROM blade LEFT JOIN nick ON nick.bladeId = blade.id',
      );
    expect(await asked()).toEqual([{ id: 'b', nick: null }]);
    await models.nick.create({ id: 'n', bladeId: 'b', depthMm: 0.3 });
    expect(await asked()).toEqual([{ id: 'b', nick: { id: 'n', bladeId: 'b', depthMm: 0.3 } }]);
  });
});
