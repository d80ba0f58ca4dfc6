import type { SpecRevision } from '@tally-stone/contract';
import { Served } from '../../testing/served';
import { ListsPage } from './lists-page';
import { readList } from './read-file';

const MESSY = `\uFEFFFleet of the yard, as of spring
;;;;;;
Fleet No.;Works at;Fuel;Blades;RPM;Engine hrs;Notes
Dunnock;Lock banks;Gas;3;2.900,0;412,5;new belt
;;;;;;
Wren;Kerb round;steam;2;3000;;
Kestrel;;diesel;2;3000;10;
`;
const MOWERS = [{ mowerId: 'm1', name: 'Kestrel', spindles: [] }];
const SPECS = [{ specId: 's1', figures: { name: 'High 533' } }] as unknown as SpecRevision[];
const kept = { commandId: 'list-1', sequence: 1 };

describe('bringing a list in', () => {
  beforeEach(() => {
    localStorage.clear();
  });
  const open = (of: string, answers: Record<string, unknown> = {}) =>
    Served.open(
      ListsPage,
      { '/api/v1/mowers': MOWERS, '/api/v1/specs': SPECS, ...answers },
      { of },
    );
  const choose = async (page: Served<ListsPage>, text: string, name = 'fleet.csv') => {
    const field = page.find<HTMLInputElement>('input[type=file]');
    const files = new DataTransfer();
    files.items.add(new File([text], name));
    field.files = files.files;
    field.dispatchEvent(new Event('change'));
    await page.until('table');
  };

  it('understands a messy list, shows what is wrong at its cell, and brings in what is right', async () => {
    const page = await open('mowers', { 'POST bring-list': kept, 'POST undo-list': kept });
    await choose(page, MESSY);
    expect(page.text).toContain('Bring in 1 mower');
    expect(page.text).toContain('"steam" is not one of petrol, diesel, battery');
    expect(page.text).toContain('is a mower of this shop already');
    expect(page.text).toContain('2 rows stay out as they are: line 6, 7');
    await page.click('Bring in 1 mower');
    expect(page.commands.at(-1)).toEqual(
      jasmine.objectContaining({
        type: 'bring-list',
        mowers: [
          jasmine.objectContaining({
            name: 'Dunnock',
            site: 'Lock banks',
            energy: 'petrol',
            bladeSpeedRpm: 2900,
            hoursH: 412.5,
            spindles: ['left', 'centre', 'right'].map((position) =>
              jasmine.objectContaining({ position }),
            ),
          }),
        ],
        blades: [],
        hours: [],
      }),
    );
    expect(page.text).toContain('1 mower brought in.');
    await page.click('Take it all back');
    expect(page.commands.at(-1)).toEqual(
      jasmine.objectContaining({ type: 'undo-list', listId: 'list-1' }),
    );
    expect(page.text).toContain('as it was before');
  });

  it('lets a column be picked, and remembers it for the next list with the same heads', async () => {
    const list = 'Thing,Stock\nhigh 533,12\n';
    const page = await open('blades');
    await choose(page, list);
    expect(page.text).toContain('has no column: pick one');
    await page.pick('Spec', 'Thing');
    expect(page.text).toContain('Bring in 1 row of blades');
    const again = JSON.parse(localStorage.getItem('tally-stone.list-columns') ?? '{}') as object;
    expect(again).toEqual({ 'blades: Thing|Stock': { specId: 0, count: 1 } });
  });

  it('reads specs in the units of their columns, and judges their sizes at the cell', async () => {
    const page = await open('specs', { 'POST bring-list': kept });
    await choose(
      page,
      'Blade;Length (in);Width;Thick;Hole;Weight, g;Min width\nBank 533;21;2,5;1/4;5/8;1560;2\nStub;6;2,5;1/4;5/8;700;\nWide;21;2,5;9;5/8;1560;2,6\n',
    );
    // Widths are taken for millimetres where the head does not say: nothing of it is a blade.
    expect(page.text).toContain('3 rows stay out');
    for (const field of ['Width', 'Thickness', 'Hole', 'Least width'])
      await page.pick(`${field} in`, 'in');
    expect(page.text).toContain('Bring in 1 spec');
    expect(page.text).toContain('is too short for stations');
    expect(page.text).toContain('is more than');
    await page.click('Bring in 1 spec');
    const [spec] = page.commands.at(-1)?.['specs'] as { figures: SpecRevision['figures'] }[];
    expect(spec?.figures).toEqual(
      jasmine.objectContaining({
        name: 'Bank 533',
        newLengthMm: 533.4,
        thicknessMm: 6.35,
        holeMm: 15.875,
        newMassG: 1560,
        kind: 'medium-lift',
      }),
    );
    const widths = spec?.figures.limits.filter(({ kind }) => kind === 'width');
    expect(widths?.map(({ value, source }) => [value, source])).toEqual(
      Array.from({ length: 3 }, () => [50.8, 'shop']),
    );
    // Remembered for the next list with the same heads.
    expect(localStorage.getItem('tally-stone.list-units')).toContain('"newWidthMm":"in"');
  });

  it('looks through 50,000 rows, and brings in no more than one transaction holds', async () => {
    const page = await open('mowers');
    const rows = Array.from({ length: 50_000 }, (_, i) => `m${i},3,3000`);
    await choose(page, ['Name,Spindles,RPM', ...rows].join('\n'));
    expect(page.text).toContain('More than 5000 rows at once: split the list.');
    expect(page.text).toMatch(/200 of 50.?000 rows are shown/);
    expect(page.text).not.toContain('Bring in 50');
  });

  it('says what a refused row was refused for, and keeps the list', async () => {
    const page = await open('hours', {
      'POST bring-list': {
        status: 422,
        body: {
          type: 'x',
          title: '',
          status: 422,
          detail: 'Row 1: hoursH is less than the 40 h last read on Kestrel',
          errors: [
            { field: 'hours.0.hoursH', message: 'is less than the 40 h last read on Kestrel' },
          ],
        },
      },
    });
    await choose(page, 'Mower,Hours\nkestrel,3\n');
    await page.click('Bring in 1 hour meter');
    expect(page.find('[role=alert]').textContent).toContain('less than the 40 h');
    expect(page.text).toContain('Bring in 1 hour meter');
  });

  it('reads files of older spreadsheets, and refuses what is no list', async () => {
    const old = new File(
      [new Uint8Array([0x4e, 0xe9, 0x65, 0x2c, 0x31, 0x0a, 0x61, 0x2c, 0x62])],
      'a.csv',
    );
    expect(await readList(old)).toEqual([
      ['Née', '1'],
      ['a', 'b'],
    ]);
    await expectAsync(readList(new File(['a\0b'], 'a.csv'))).toBeRejectedWithError(/not a list/);
    await expectAsync(readList(new File(['PK\x03\x04 no'], 'a.xlsx'))).toBeRejectedWithError(
      /save it as CSV/,
    );
  });
});
