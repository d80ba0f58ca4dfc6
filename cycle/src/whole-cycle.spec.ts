import { Refusal } from './index.js';
import { facts } from './testing/facts.js';
import { Walk } from './testing/walk.js';

const clean = { type: 'clean', done: true };
const sound = { type: 'judge-crack', found: false };
const reading = (phase: string, quantity: string, text: string, more: object = {}) => ({
  type: 'take-reading',
  readingId: JSON.stringify([phase, quantity, text, more]),
  place: { phase, quantity, ...more },
  entered: { text, unit: quantity === 'mass' ? 'g' : quantity === 'bevel' ? 'deg' : 'mm' },
  repeat: false,
});
const tips = (A: string, B: string) => [
  reading('before', 'tip-height', A, { end: 'A' }),
  reading('before', 'tip-height', B, { end: 'B' }),
];
const readings = (phase: string, { mass, land }: { mass: string; land: string }) => [
  reading(phase, 'mass', mass),
  ...['A', 'B'].flatMap((end) => [
    reading(phase, 'bevel', '30', { end }),
    reading(phase, 'land', land, { end }),
  ]),
];
const gap = reading('before', 'straightedge-gap', '0.2');
const passes = (passId: string, end: 'A' | 'B', count: number) => ({
  type: 'count-passes',
  passId,
  end,
  zone: 'full',
  count,
});
const hung = (roundId: string, more: object) => ({
  type: 'balance-round',
  roundId,
  phase: 'after',
  device: 'bearing-shaft',
  heavyEnd: 'A',
  markDeg: 90,
  ...more,
});
const light = (end: 'A' | 'B', brightLine: boolean) => ({ type: 'light-test', end, brightLine });
const measured = [
  clean,
  sound,
  ...tips('40', '40.2'),
  ...readings('before', { mass: '1130', land: '0.5' }),
  gap,
];
const ground = [
  ...measured,
  { type: 'set-up', grinderId: 'grinder 1' },
  passes('a', 'A', 6),
  passes('b', 'B', 6),
];

describe('a blade through its whole cycle', () => {
  it('is cleaned, looked at and measured first, and says what is missing', () => {
    const walk = new Walk();
    expect(walk.stands.nextStep).toBe('clean');
    expect(walk.done).toBe('');
    expect(walk.blocks).toEqual([
      'clean: The blade is not cleaned',
      'inspect: Cracks have not been looked for',
      'inspect: Both tips are not read for bend',
      'measure: 6 readings before grinding missing: Mass, Bevel, end A, Bevel, end B, Land, end A, Land, end B, Gap under a straightedge',
      'balance: The blade is not balanced',
      'prove: End A: no light test',
      'prove: End B: no light test',
    ]);
    walk.do(clean);
    expect([walk.done, walk.stands.nextStep]).toEqual(['clean', 'inspect']);
    walk.do(sound);
    expect(walk.wordsOf('inspect')).toBe('Both tips are not read for bend');
    walk.do(...tips('40', '40.2'));
    expect([walk.done, walk.stands.nextStep]).toEqual(['clean inspect', 'measure']);
    expect(walk.wordsOf('inspect')).toBe('0 marks');
    walk.do(...readings('before', { mass: '1130', land: '0.5' }));
    expect(walk.wordsOf('measure')).toBe(
      '1 reading before grinding missing: Gap under a straightedge',
    );
    walk.do(gap);
    expect([walk.done, walk.stands.nextStep]).toEqual(['clean inspect measure verdict', 'set-up']);
    expect(walk.stands.before.verdict).toBe('grind');
    expect(walk.stateOf('verdict')).toBe('done');
  });

  it('is set up, ground and deburred before it is hung, and hung again after every further pass', () => {
    const walk = new Walk().do(...measured);
    expect(walk.wordsOf('set-up')).toBe('No grinder set up');
    walk.do({ type: 'set-up', grinderId: 'grinder 1' });
    expect([walk.wordsOf('set-up'), walk.stands.nextStep]).toEqual(['Belt 1', 'grind']);
    walk.do(passes('a', 'A', 1));
    expect(walk.wordsOf('grind')).toBe('1 pass');
    walk.do(passes('b', 'B', 6));
    expect([walk.wordsOf('grind'), walk.stands.nextStep]).toEqual(['7 passes', 'balance']);
    expect(walk.stands.burr).toBeTrue();
    expect(walk.wordsOf('balance')).toBe('Not deburred since the last grinding');
    walk.do({ type: 'deburr', done: true });
    expect(walk.wordsOf('balance')).toBe('The blade is not balanced');
    walk.do(hung('r0', { endOnly: true }));
    expect(walk.wordsOf('balance')).toMatch(
      /^End A hangs low, nobody knows by how much: take 0\.6\sg there/,
    );
    walk.do(hung('r1', { weight: { text: '2', unit: 'g' }, radius: { text: '230', unit: 'mm' } }));
    expect(walk.wordsOf('balance')).toMatch(/^End A is 460\sg·mm heavy, permissible 144\sg·mm$/);
    const round = walk.stands.rounds.at(-1);
    expect([round?.within, round?.heavyEnd, round?.endOnly]).toEqual([false, 'A', undefined]);
    expect(round?.correctionG).toBeCloseTo(460 / 225, 6);
    walk.do(passes('c', 'A', 2));
    expect(walk.wordsOf('balance')).toBe('Not deburred since the last grinding');
    walk.do({ type: 'deburr', done: true });
    expect(walk.wordsOf('balance')).toBe(
      'Passes were counted after the last balance reading: hang it again',
    );
    walk.do(hung('r2', { heavyEnd: 'level' }));
    expect([walk.stateOf('balance'), walk.wordsOf('balance')]).toEqual([
      'done',
      'Within its grade',
    ]);
    expect(walk.stands.nextStep).toBe('prove');
  });

  it('a hanging that the one before and the passes since do not account for is made again', () => {
    const weighed = (roundId: string, grams: string, heavyEnd: 'A' | 'B' = 'A') =>
      hung(roundId, {
        heavyEnd,
        weight: { text: grams, unit: 'g' },
        radius: { text: '230', unit: 'mm' },
      });
    const walk = new Walk().do(
      ...measured,
      { type: 'set-up', grinderId: 'grinder 1' },
      passes('a', 'A', 1),
      passes('b', 'B', 6),
      { type: 'deburr', done: true },
      weighed('r1', '5'),
      // So much grinding takes about 0.6 g of the 1,150 g·mm away, not nearly all of it.
      passes('c', 'A', 1),
      { type: 'deburr', done: true },
      weighed('r2', '0.4'),
    );
    const doubted = walk.stands.rounds.at(-1);
    expect(doubted?.within).toBeTrue();
    expect(doubted?.expected?.unbalanceGmm).toBeCloseTo(1150 - 0.6 * 225, -2);
    expect(walk.wordsOf('balance')).toMatch(
      /^By the hanging before and the passes since, end A should be [\d,]+\sg·mm heavy, give or take \d+\sg·mm: hang it again$/,
    );
    expect(walk.stands.nextStep).toBe('balance');
    // Two that agree are believed, whatever the first one said.
    walk.do(weighed('r3', '0.5'));
    expect(walk.stands.rounds.at(-1)?.expected).toBeUndefined();
    expect(walk.wordsOf('balance')).toBe('Within its grade');
    // And the other end heavy is no agreement.
    walk.do(weighed('r4', '3', 'B'));
    expect(walk.stateOf('balance')).toBe('todo');
  });

  it('is proved by what is read after and by the light, and only then signed ready', () => {
    const walk = new Walk().do(
      ...ground,
      { type: 'deburr', done: true },
      hung('r', { heavyEnd: 'level' }),
    );
    expect(walk.blocks[0]).toBe('prove: 1 reading after grinding missing: Mass');
    walk.do(...readings('after', { mass: '1122', land: '0.5' }));
    // Read again it is as dull as before: back to the grind.
    expect(walk.blocks.some((words) => words.startsWith('grind: End A, 0.50'))).toBeTrue();
    walk.do(...readings('after', { mass: '1122', land: '0.15' }));
    expect(walk.blocks).toEqual(['prove: End A: no light test', 'prove: End B: no light test']);
    walk.do(light('A', false), light('B', true));
    expect(walk.blocks).toEqual(['grind: End B shows a bright line: still dull']);
    expect(() => walk.do({ type: 'sign-off', outcome: 'ready' })).toThrowError(Refusal);
    walk.do(light('B', false));
    expect([walk.blocks, walk.stands.nextStep]).toEqual([[], 'sign-off']);
    expect(walk.stands.signOff.allowed).toEqual(['ready', 'hold', 'retired']);
    expect(walk.stands.now.verdict).toBe('fine');
    walk.do({ type: 'sign-off', outcome: 'ready' });
    expect([walk.stateOf('sign-off'), walk.wordsOf('sign-off')]).toEqual(['done', 'ready']);
  });

  it('is read again where it was ground on since: what was read then speaks of another edge', () => {
    const proved = () =>
      new Walk().do(
        ...ground,
        { type: 'deburr', done: true },
        hung('r', { heavyEnd: 'level' }),
        ...readings('after', { mass: '1122', land: '0.15' }),
        light('A', false),
        light('B', true),
      );
    const after = (walk: Walk) =>
      walk.stands.slots.filter(({ phase, needed, taken }) => phase === 'after' && needed && !taken);
    expect(after(proved())).toEqual([]);
    const on = proved().do(passes('c', 'B', 2));
    // Mass and what was read of end B; end A is as it was.
    expect(after(on).map(({ label, why }) => `${label}: ${why}`)).toEqual([
      jasmine.stringMatching(/^Mass: ground since it was read \(1122(\.0)?\sg\)$/),
      jasmine.stringMatching(/^Bevel, end B: ground since/),
      jasmine.stringMatching(/^Land, end B: ground since it was read \(0\.15\smm\)$/),
    ]);
    expect(on.stands.witnesses.said.scale).toBeUndefined();
    expect(on.blocks.some((words) => words.startsWith('prove: 3 readings after'))).toBeTrue();
    // Pressed by mistake and taken back: everything stands as it did.
    expect(after(on.do({ type: 'undo-passes', passId: 'c' }))).toEqual([]);

    // Held as it is, its record does not say of the blade what was read before its last passes.
    const held = proved().do(passes('c', 'B', 2), { type: 'sign-off', outcome: 'hold' });
    const massHeld = held.stands.slots.find(({ key }) => key === 'after:mass:-:-');
    expect([massHeld?.taken, massHeld?.why]).toEqual([
      undefined,
      jasmine.stringMatching(/^ground since/),
    ]);

    // Read again it is the only one: no mean with what it was before.
    const again = proved().do(passes('c', 'B', 2), {
      ...reading('after', 'mass', '1120.6'),
      repeat: true,
    });
    const mass = again.stands.slots.find(({ key }) => key === 'after:mass:-:-');
    expect([mass?.taken?.value, mass?.repeats]).toEqual([1120.6, 1]);
    expect(again.stands.witnesses.said.scale?.value).toBeCloseTo(1130 - 1120.6, 6);
  });

  it('is hung and read again where that was done over the burr, unless it was off by then', () => {
    const overBurr = () =>
      new Walk().do(
        ...ground,
        hung('r', { heavyEnd: 'level' }),
        ...readings('after', { mass: '1122', land: '0.15' }),
        light('A', false),
        light('B', false),
      );
    expect(overBurr().blocks).toEqual(['balance: Not deburred since the last grinding']);
    expect(overBurr().stands.overBurr).toBeTrue();

    const off = overBurr().do({ type: 'deburr', done: true });
    expect(off.stands.overBurr).toBeFalse();
    expect(off.blocks).toEqual([
      'balance: Hung over the burr, which is off now: hang it again',
      jasmine.stringMatching(/^prove: 5 readings after grinding missing/),
      'prove: End A: no light test',
      'prove: End B: no light test',
    ]);
    expect(off.stands.slots.find(({ key }) => key === 'after:land:A:-')?.why).toMatch(
      /^read over the burr \(0\.15\smm\)$/,
    );
    // Hung anew it need not fit the hanging over the burr.
    off.do(
      hung('r2', { weight: { text: '0.4', unit: 'g' }, radius: { text: '230', unit: 'mm' } }),
      ...readings('after', { mass: '1121.8', land: '0.15' }),
      light('A', false),
      light('B', false),
    );
    expect([off.blocks, off.stands.rounds.at(-1)?.expected]).toEqual([[], undefined]);
    expect(off.stands.witnesses.said.scale?.value).toBeCloseTo(1130 - 1121.8, 6);

    const wasOff = overBurr().do({ type: 'deburr', done: true, alreadyOff: true });
    expect([wasOff.blocks, wasOff.stands.overBurr]).toEqual([[], false]);
    // What was done before the grind was done over no burr.
    expect(
      wasOff.stands.slots.filter(({ phase, why }) => phase === 'before' && why?.includes('burr')),
    ).toEqual([]);
  });

  it('needs no grinder and no grind where it is sharp already', () => {
    const sharp = [
      clean,
      sound,
      ...tips('40', '40'),
      ...readings('before', { mass: '1130', land: '0.1' }),
      gap,
    ];
    const walk = new Walk().do(...sharp);
    expect(walk.done).toBe('clean inspect measure verdict set-up grind');
    expect(walk.stands.nextStep).toBe('balance');
    expect(new Walk(facts({ grinders: [] })).do(...measured).stateOf('set-up')).toBe('done');
  });

  it('calls for attention where tips are bent, a reading is asked about, or it is held', () => {
    const bent = new Walk().do(clean, sound, ...tips('40', '46'));
    expect([bent.stateOf('inspect'), bent.stateOf('verdict')]).toEqual(['attention', 'attention']);
    expect(bent.stands.nextStep).toBe('sign-off');
    expect(bent.stands.signOff.retireReasons).toEqual(['bend']);
    expect(() => bent.do({ type: 'sign-off', outcome: 'ready' })).toThrowError(
      'This blade cannot be signed off as ready: its verdict is to retire it.',
    );
    const held = new Walk().do(clean, sound, ...tips('40', '43'));
    expect([held.stateOf('inspect'), held.stateOf('verdict')]).toEqual(['done', 'attention']);
    expect(held.blocks.some((words) => words.startsWith('measure: Bend'))).toBeTrue();
    const asked = new Walk().do(...measured, reading('before', 'mass', '1500'));
    expect(asked.stateOf('measure')).toBe('attention');
    expect(asked.blocks.some((words) => words.startsWith('measure: Mass: 1500'))).toBeTrue();
  });

  it('is hung as the shop hangs its blades: before and after, or seldom', () => {
    const rules = facts().shopRules;
    const both = new Walk(facts({ shopRules: { ...rules, balanceWhen: 'before-and-after' } }));
    both.do(...measured);
    expect(both.stands.nextStep).toBe('balance');
    expect(both.wordsOf('balance')).toContain('Not hung before the grind');
    both.do(hung('b', { phase: 'before', endOnly: true }));
    expect(both.stands.nextStep).toBe('set-up');
    const seldom = new Walk(facts({ shopRules: { ...rules, balanceWhen: 'seldom' } })).do(
      ...measured,
    );
    expect(seldom.stateOf('balance')).toBe('done');
    const unhung = seldom.stands.now.findings.find(({ id }) => id === 'not-balanced');
    expect(unhung?.severity).toBe('watch');
  });
});
