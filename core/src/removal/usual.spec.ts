import {
  COUNTED,
  GRINDER_KINDS,
  hasTable,
  learnZones,
  lookPoints,
  preUseChecks,
  teachesOf,
  usualGramsPer,
  usuallyCounted,
} from '../index.js';

/** What comes off an end in an ordinary grind, g: some 6 g a blade. Common practice, no source. */
const AN_END_G = 3;

describe('what a tool takes of what is counted on it', () => {
  it('makes an ordinary end of some 5 passes, 50 strokes of a file, 25 s of a flap disc', () => {
    // Common practice, no source: "about 50 strokes an end" with a file.
    const anEnd = (kind: (typeof GRINDER_KINDS)[number]): number =>
      AN_END_G / usualGramsPer({ kind, counts: usuallyCounted(kind) });
    expect(anEnd('belt')).toBeCloseTo(5, 9);
    expect(anEnd('wheel')).toBeCloseTo(5, 9);
    expect(anEnd('file')).toBeCloseTo(50, 9);
    expect(anEnd('flap-disc')).toBeCloseTo(25, 9);
    expect(anEnd('drill-stone')).toBeCloseTo(60, 9);
  });

  it('has a start for every tool in every unit', () => {
    for (const kind of GRINDER_KINDS)
      for (const counts of COUNTED) expect(usualGramsPer({ kind, counts })).toBeGreaterThan(0);
  });

  it('teaches tools of its pace counted alike, and no other', () => {
    const belt = { kind: 'belt', counts: 'pass' } as const;
    expect(teachesOf(belt, { kind: 'wheel', counts: 'pass' })).toBeTrue();
    expect(teachesOf(belt, { kind: 'belt', counts: 'second' })).toBeFalse();
    expect(teachesOf(belt, { kind: 'file', counts: 'pass' })).toBeFalse();
  });

  it('is learned of a file as of a machine: ten blades of 60 strokes and 4.2 g an end', () => {
    const start = usualGramsPer({ kind: 'file', counts: 'stroke' });
    const grinds = Array.from({ length: 10 }, () => ({ passes: { full: 120 }, removedG: 8.4 }));
    const { perZone } = learnZones(grinds, [{ key: 'full', gramsPerPass: start }]);
    expect(perZone['full']?.value).toBeCloseTo(0.07, 2);
  });

  it('is looked over for what can go wrong with it: a wheel is sounded, a file throws no sparks', () => {
    for (const kind of GRINDER_KINDS) {
      expect(preUseChecks(kind)).toContain('protection');
      expect(preUseChecks(kind).includes('ring-test')).toBe(kind === 'wheel');
      expect(preUseChecks(kind).includes('gaps')).toBe(hasTable(kind));
      expect(preUseChecks(kind).includes('clamped')).toBe(!hasTable(kind));
      expect(preUseChecks(kind).includes('fuel-and-flame')).toBe(kind !== 'file');
    }
  });

  it('is looked at after eight strokes of fifty, not after three', () => {
    expect(lookPoints(50, 0.15)).toEqual([8, 38, 50]);
    expect(lookPoints(20, 0.15)[0]).toBe(3);
  });
});
