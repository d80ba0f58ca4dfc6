import type { CycleFacts, ToolRemoval } from '@tally-stone/contract';
import { learnZones, trailingZone, usualZones } from '@tally-stone/core';
import {
  foldCycle,
  foldOn,
  decide,
  onEachTool,
  removedByCount,
  removedByTool,
  standingOf,
} from './index.js';
import { facts, opened } from './testing/facts.js';
import { command } from './testing/walk.js';

/** What a tool takes that has not been used yet. */
const takes = (gramsEach: number): ToolRemoval => {
  const zones = usualZones(100, gramsEach);
  const trailing = trailingZone(100, gramsEach);
  return { learned: learnZones([], [...zones, trailing]), zones, trailing };
};
const [belt, file] = facts().grinders as [
  CycleFacts['grinders'][number],
  CycleFacts['grinders'][number],
];
const known = facts({
  grinders: [
    belt,
    { ...file, figures: { ...file.figures, name: 'File', kind: 'file', counts: 'stroke' } },
  ],
  removals: { 'grinder 1 belt 1': takes(0.6), 'grinder 2 belt 2': takes(0.06) },
});

const after = (...acts: object[]) =>
  acts.reduce<ReturnType<typeof foldCycle>>(
    (state, act) => foldOn(state, decide(command(act), state, known)),
    foldCycle([opened]),
  );
const refused = (...acts: object[]): string => {
  try {
    after(...acts);
  } catch (error) {
    return String(error);
  }
  return 'nothing was refused';
};
let passId = 0;
const count = (end: string, n: number) => ({
  type: 'count-passes',
  passId: `pass ${passId++}`,
  end,
  zone: 'full',
  count: n,
});
const weigh = (phase: string, text: string) => ({
  type: 'take-reading',
  readingId: `${phase} ${text}`,
  place: { phase, quantity: 'mass' },
  entered: { text, unit: 'g' },
  repeat: false,
});
const on = (n: number, grams?: string) => ({
  type: 'set-up',
  grinderId: `grinder ${n}`,
  ...(grams ? { mass: { text: grams, unit: 'g' } } : {}),
});
const CLEAN = { type: 'clean', done: true };
const ON_BOTH = [CLEAN, weigh('before', '1150.0'), on(1), count('A', 5), count('B', 4)];

describe('a cycle on several tools', () => {
  it('counts strokes of a file as a file takes them, not as passes of the belt it began on', () => {
    const state = after(...ON_BOTH, on(2), count('A', 12));
    expect(removedByCount(state, known)?.value).toBeCloseTo(9 * 0.6 + 12 * 0.06, 9);
  });

  it('is not ready while an end was ground square and has no bevel since', () => {
    const square = (end: string) => ({ ...count(end, 2), zone: 'square' });
    const blocksAfter = (...acts: object[]): string[] =>
      standingOf(after(CLEAN, on(1), ...acts), known)
        .signOff.blocks.filter(({ step }) => step === 'grind')
        .map(({ words }) => words);
    expect(blocksAfter(square('A'), square('B'), count('A', 5))).toEqual([
      'End B was ground square: bring its bevel back',
    ]);
    expect(blocksAfter(square('A'), count('A', 5))).toEqual([]);
  });

  it('keeps which tool took which passes, in order', () => {
    const state = after(...ON_BOTH, on(2), count('A', 12), on(1), count('B', 1));
    expect(
      onEachTool(state).map(({ grinderId, passes }) => [grinderId, passes.map((one) => one.count)]),
    ).toEqual([
      ['grinder 1', [5, 4, 1]],
      ['grinder 2', [12]],
    ]);
  });

  it('lets each tool learn from what it took itself, where it was weighed between them', () => {
    const state = after(...ON_BOTH, on(2, '1144.5'), count('A', 12), weigh('after', '1143.9'));
    const removed = removedByTool(state, known);
    expect(removed['grinder 1 belt 1']?.value).toBeCloseTo(5.5, 9);
    expect(removed['grinder 2 belt 2']?.value).toBeCloseTo(0.6, 9);
    const back = after(
      ...ON_BOTH,
      on(2, '1144.5'),
      count('A', 12),
      on(1, '1143.9'),
      count('A', 1),
      weigh('after', '1143.2'),
    );
    expect(removedByTool(back, known)['grinder 1 belt 1']?.value).toBeCloseTo(6.2, 9);
  });

  it('says of no tool by itself what nobody weighed', () => {
    expect(removedByTool(after(...ON_BOTH, on(2), count('A', 12), weigh('after', '1143.9')), known))
      .withContext('not weighed between')
      .toEqual({});
    expect(removedByTool(after(...ON_BOTH, weigh('after', '1144.5')), known))
      .withContext('one tool')
      .toEqual({});
    const once = after(...ON_BOTH, on(2, '1144.5'), count('A', 12), on(1), count('A', 1));
    expect(removedByTool(once, known)).withContext('not weighed after').toEqual({});
  });

  it('is finished on another tool than the one in hand, and no longer once it is on that', () => {
    const finish = { type: 'finish-on', grinderId: 'grinder 2' };
    expect(after(on(1), finish).finishOn?.grinderId).toBe('grinder 2');
    expect(after(on(1), finish, on(2)).finishOn).toBeUndefined();
    expect(after(on(1), finish, { type: 'finish-on' }).finishOn).toBeUndefined();
    expect(refused(on(2), finish)).toContain('is the tool it is set up on');
    expect(refused({ ...finish, grinderId: 'none' })).toContain('is not a grinder of this shop');
  });

  it('refuses a mass between two tools that says nothing or cannot be', () => {
    expect(refused(...ON_BOTH, on(2, '1150.4'))).toContain('it had before these passes');
    expect(refused(CLEAN, on(1, '1150.0'))).toContain('tells nothing here');
    expect(refused(...ON_BOTH, { ...on(2, '1144.0'), instrument: 'caliper' })).toContain(
      'does not read this',
    );
  });
});
