import { listNumber, namesOf, type KnownNames } from './list-fields.js';
import { guessColumns, guessUnits, headRow, readList } from './list.js';

const NAMES: KnownNames = {
  mowers: namesOf([
    ['m1', 'Kestrel'],
    ['m2', 'Lark 2'],
  ]),
  specs: namesOf([['s1', 'Towpath high-lift 533']]),
};

describe('a list from elsewhere', () => {
  it('finds its columns by what people call them, and takes none twice', () => {
    expect(
      guessColumns('mowers', [
        'Fleet No.',
        'Location',
        'FUEL',
        'No. of blades',
        'RPM',
        'Engine hrs',
        'Notes',
      ]),
    ).toEqual({ name: 0, site: 1, energy: 2, spindles: 3, bladeSpeedRpm: 4, hoursH: 5 });
    expect(guessColumns('hours', ['Name', 'Reading'])).toEqual({ mowerId: 0, hoursH: 1 });
    expect(guessColumns('blades', ['Colour', 'Shelf'])).toEqual({});
  });

  it('reads numbers as any country writes them, and asks where one may be two', () => {
    const read = (text: string) => listNumber(text, 0, 99_999);
    for (const [text, value] of [
      ['1234.5', 1234.5],
      ['1234,5', 1234.5],
      ['1,234.5', 1234.5],
      ['1.234,5', 1234.5],
      ["12'345", 12_345],
      ['1 234,50', 1234.5],
      ['812 h', 812],
      ['0', 0],
    ] as const)
      expect(read(text)).withContext(text).toEqual({ value });
    expect(read('1,234')).toEqual({ trouble: jasmine.stringMatching('1234 or 1.234') });
    for (const text of ['abc', '1.2.3', '1,23,4', '=1+1', '-5', '1e9', '12..5', '100000', 'NaN'])
      expect(read(text))
        .withContext(text)
        .toEqual({ trouble: jasmine.any(String) });
  });

  it('reads mowers, fills in what a list does not say, and says at its cell what is wrong', () => {
    const columns = { name: 0, energy: 1, spindles: 2, bladeSpeedRpm: 3, hoursH: 4 };
    const rows = readList(
      'mowers',
      [
        ['Dunnock', 'Gas', '3', '2900', '412,5'],
        ['', '', '', '', ''],
        ['Wren', 'steam', 'left; left', '9000', ''],
        ['  dunnock ', '', '2', '3000', ''],
        ['KESTREL', '', '12', '', 'x'],
      ],
      columns,
      NAMES,
    );
    expect(rows.map(({ line }) => line)).toEqual([2, 4, 5, 6]);
    expect(rows[0]).toEqual({
      line: 2,
      values: {
        name: 'Dunnock',
        energy: 'petrol',
        site: '',
        spindles: ['left', 'centre', 'right'],
        bladeSpeedRpm: 2900,
        hoursH: 412.5,
      },
      troubles: {},
    });
    expect(rows[1]?.troubles).toEqual({
      energy: '"steam" is not one of petrol, diesel, battery',
      spindles: 'names a spindle twice',
      bladeSpeedRpm: '9000 is not between 500 and 6000',
    });
    expect(rows[2]?.troubles).toEqual({ name: 'is on line 2 already' });
    expect(Object.keys(rows[3]?.troubles ?? {}).sort()).toEqual([
      'bladeSpeedRpm',
      'hoursH',
      'name',
      'spindles',
    ]);
    expect(rows[3]?.troubles['name']).toBe('is a mower of this shop already');
  });

  it('finds the heads under a title, and takes the first row that says anything where it knows none', () => {
    const list = [['Our blades, hours and names'], ['', ''], ['Mower', 'Hrs'], ['Kestrel', '412']];
    expect(headRow('hours', list)).toBe(2);
    expect(
      headRow('hours', [
        ['', ''],
        ['Thing', 'Stock'],
        ['a', '1'],
      ]),
    ).toBe(1);
    expect(headRow('blades', [])).toBe(0);
    const [row] = readList('hours', [['Kestrel', '412']], { mowerId: 0, hoursH: 1 }, NAMES, {
      firstLine: 4,
    });
    expect(row?.line).toBe(4);
  });

  it('reads specs in whatever unit each column or cell is in', () => {
    const heads = ['Blade type', 'Length (in)', 'Width', 'Thick, mm', 'Bore', 'Weight lb', 'Lift'];
    const columns = guessColumns('specs', heads);
    expect(columns).toEqual({
      name: 0,
      newLengthMm: 1,
      newWidthMm: 2,
      thicknessMm: 3,
      holeMm: 4,
      newMassG: 5,
      kind: 6,
    });
    const units = guessUnits('specs', heads, columns, { mm: 'in', g: 'g' });
    expect(units['newLengthMm']).toBe('in');
    expect(units['newWidthMm']).toBe('in');
    expect(units['thicknessMm']).toBe('mm');
    expect(units['newMassG']).toBe('lb');
    const rows = readList(
      'specs',
      [
        ['Flail 533', '21', '2 1/2', '6,35', '5/8', '3.5', 'Hi-lift'],
        ['flail 533', '533 mm', '2.5', '6.35', '5/8', '3.5 lb', 'mulch'],
        ['Towpath HIGH-lift 533', '21 g', '', '6 furlongs', '1/0', '3.5', 'none'],
      ],
      columns,
      NAMES,
      { units },
    );
    expect(rows[0]?.troubles).toEqual({});
    expect(rows[0]?.values).toEqual({
      name: 'Flail 533',
      newLengthMm: 533.4,
      newWidthMm: 63.5,
      thicknessMm: 6.35,
      holeMm: 15.875,
      newMassG: 1587.5733,
      kind: 'high-lift',
      hole: 'round',
      hand: 'right',
      edgeLengthMm: 100,
      bevelDeg: 30,
      bladeSpeedRpm: 3000,
    });
    expect(rows[1]?.troubles).toEqual({ name: 'is on line 2 already' });
    expect(rows[1]?.values['newLengthMm']).toBe(533);
    expect(rows[2]?.troubles).toEqual({
      name: 'is a spec of this shop already',
      newLengthMm: jasmine.stringMatching('measures mass'),
      newWidthMm: 'is empty',
      thicknessMm: jasmine.stringMatching('unit that is not known'),
      holeMm: jasmine.stringMatching('fraction over zero'),
      kind: jasmine.stringMatching('"none" is not one of low-lift'),
    });
  });

  it('holds blades and meters against the names the shop has', () => {
    const blades = readList(
      'blades',
      [
        ['towpath HIGH lift 533', '12', 'x'],
        ['Kerb 480', '2.5', 'maybe'],
      ],
      { specId: 0, count: 1, used: 2 },
      NAMES,
    );
    expect(blades[0]?.values).toEqual({ specId: 's1', count: 12, used: true });
    expect(Object.keys(blades[1]?.troubles ?? {})).toEqual(['specId', 'count', 'used']);
    const hours = readList(
      'hours',
      [
        ['lark-2', '88'],
        ['Lark 2', '90'],
        ['Rook', '1'],
      ],
      { mowerId: 0, hoursH: 1 },
      NAMES,
    );
    expect(hours.map(({ troubles }) => troubles['mowerId'])).toEqual([
      undefined,
      'is on line 2 already',
      jasmine.stringMatching('no mower of this shop'),
    ]);
    expect(readList('hours', [['Lark 2']], { mowerId: 0 }, NAMES)[0]?.troubles['hoursH']).toContain(
      'pick one',
    );
  });
});
