import { upkeepDue, upkeepOf, UPKEEP, type MowerMoment } from './upkeep.js';

const at = (iso: string, hoursH = 100): MowerMoment => ({ at: new Date(iso), hoursH });

describe('what is looked at while the blades are off', () => {
  it('is all due on a mower that nobody has looked at', () => {
    expect(UPKEEP.every((what) => upkeepDue(what, undefined, at('2026-05-01')))).toBeTrue();
  });
  it('comes again with the days or hours that are gone by, at the edge exactly', () => {
    const last = at('2026-05-01T08:00:00Z', 100);
    expect(upkeepDue('air-filter', last, at('2026-05-08T07:59:59Z'))).toBeFalse();
    expect(upkeepDue('air-filter', last, at('2026-05-08T08:00:00Z'))).toBeTrue();
    expect(upkeepDue('grease', last, at('2027-05-01', 124.9))).toBeFalse();
    expect(upkeepDue('grease', last, at('2026-05-01', 125))).toBeTrue();
  });
  it('comes with every set: due again from when this one went on', () => {
    const last = at('2026-05-01T08:00:00Z');
    const later = at('2026-06-01', 160);
    expect(upkeepDue('belt', last, later, new Date('2026-05-01T08:10:00Z'))).toBeTrue();
    expect(upkeepDue('belt', last, later, new Date('2026-04-20T08:00:00Z'))).toBeFalse();
    // No set on it: it was looked at since the last came off.
    expect(upkeepDue('belt', last, later)).toBeFalse();
  });
  it('has no air filter on a battery mower', () => {
    expect(upkeepOf('battery')).not.toContain('air-filter');
    expect(upkeepOf('petrol')).toEqual([...UPKEEP]);
  });
});
