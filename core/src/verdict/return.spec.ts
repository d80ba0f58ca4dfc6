import { backFromRetirement, type Finding, type ReturnRequest } from '../index.js';
import { plain } from '../testing/plain.js';

const request: ReturnRequest = {
  findings: [{ id: 'land:A', reason: 'land', severity: 'grind' }],
  corrected: true,
  by: 'ash',
  second: 'juniper',
  whole: true,
};
const fields = (more: Partial<ReturnRequest>): string[] =>
  backFromRetirement({ ...request, ...more }).map(({ field }) => field);

describe('backFromRetirement', () => {
  it('takes a blade back whose reading is corrected, with two people and the blade in the hand', () => {
    expect(backFromRetirement(request)).toEqual([]);
  });
  it('is blocked for a second person by one alone', () => {
    expect(fields({ second: 'ash' })).toEqual(['secondPersonId']);
    expect(fields({ second: '' })).toEqual(['secondPersonId']);
  });
  it('is blocked while anything still retires it, and says what', () => {
    const findings: Finding[] = [
      { id: 'bend', reason: 'bend', severity: 'retire', value: 4, limit: 3, unit: 'mm' },
    ];
    expect(fields({ findings })).toEqual(['reading']);
    expect(plain(backFromRetirement({ ...request, findings })[0]?.words)).toContain(
      '4.0 mm apart, limit 3.0',
    );
  });
  it('is blocked where nothing was corrected, and where the blade is spoilt', () => {
    expect(fields({ corrected: false })).toEqual(['reading']);
    expect(fields({ whole: false })).toEqual(['whole']);
  });
});
