import type { CycleFacts, CycleState } from '@tally-stone/contract';
import { QUANTITY_KEYS } from '@tally-stone/core';
import {
  decide,
  foldCycle,
  foldOn,
  foldWaiting,
  INSTRUMENTS,
  leftOf,
  mayUndo,
  Refusal,
  signOffOf,
  standingOf,
} from './index.js';
import { facts, opened } from './testing/facts.js';
import { command } from './testing/walk.js';

const after = (known: CycleFacts, ...acts: object[]): CycleState =>
  acts.reduce<CycleState>(
    (state, act) => foldOn(state, decide(command(act), state, known)),
    foldCycle([opened]),
  );
const refusalOf = (work: () => unknown): Refusal => {
  try {
    work();
  } catch (error) {
    if (error instanceof Refusal) return error;
    throw error;
  }
  throw new Error('nothing was refused');
};
const reading = (quantity: string, text: string, more: object = {}) => ({
  type: 'take-reading',
  readingId: `${quantity} ${text}`,
  place: { phase: 'before', quantity, ...more },
  entered: { text, unit: quantity === 'mass' ? 'g' : quantity === 'bevel' ? 'deg' : 'mm' },
  repeat: false,
});
const clean = { type: 'clean', done: true };

describe('what may happen in a cycle', () => {
  it('believes no balance reading that no blade can have', () => {
    const round = (act: object) =>
      refusalOf(() =>
        after(facts(), clean, {
          type: 'balance-round',
          roundId: 'r1',
          phase: 'before',
          device: 'bearing-shaft',
          heavyEnd: 'A',
          markDeg: 90,
          ...act,
        }),
      ).errors[0];
    expect(round({ drops: [0.45] })).toEqual({
      field: 'drops',
      message: jasmine.stringMatching(/no blade of this mass is more than .* out: read it again/),
    });
    expect(round({ drops: [0.33, 6.04] })?.field).toBe('drops');
    const weighed = { weight: { text: '120', unit: 'g' }, radius: { text: '240', unit: 'mm' } };
    expect(round(weighed)?.field).toBe('weight.text');
  });

  it('refuses a reading of a dirty blade, and one at a place the spec does not have', () => {
    const dirty = refusalOf(() => after(facts(), reading('mass', '1150')));
    expect(dirty.detail).toContain('Clean the blade first');
    const nowhere = reading('width', '60', { end: 'A', stationKey: 'elbow' });
    expect(refusalOf(() => after(facts(), clean, nowhere)).errors[0]?.field).toBe(
      'place.stationKey',
    );
    const noEnd = reading('wing', '5');
    expect(refusalOf(() => after(facts(), clean, noEnd)).errors[0]?.field).toBe('place.end');
  });

  it('knows an instrument for every quantity', () => {
    const read = INSTRUMENTS.flatMap(({ reads }) => reads);
    expect([...read].sort()).toEqual([...QUANTITY_KEYS].sort());
  });

  it('remembers on which tool passes were counted, as it was set up then', () => {
    const known = facts();
    const [first, second] = known.grinders;
    const state = after(
      known,
      clean,
      { type: 'set-up', grinderId: first?.grinderId },
      { type: 'count-passes', passId: 'a', end: 'A', zone: 'full', count: 3 },
      { type: 'set-up', grinderId: second?.grinderId },
      { type: 'count-passes', passId: 'b', end: 'B', zone: 'full', count: 2 },
    );
    expect(state.passes.map(({ grinderId }) => grinderId)).toEqual([
      first?.grinderId,
      second?.grinderId,
    ]);
  });

  it('retires for a crack found, for nothing else then, and for no reason of the shop’s', () => {
    const state = after(facts(), clean, { type: 'judge-crack', found: true, where: 'near-tip' });
    const view = signOffOf(state, facts());
    expect([view.proposed, view.allowed, view.retireReasons]).toEqual([
      'retired',
      ['retired'],
      ['crack'],
    ]);
    const shops = { type: 'sign-off', outcome: 'retired', retireReason: 'no-mower-for-it' };
    expect(
      refusalOf(() => decide(command({ ...shops, disposal: 'cut' }), state, facts())).errors[0]
        ?.field,
    ).toBe('retireReason');
  });

  it('undoes only a retirement of the shop’s own, and only at the bench', () => {
    const sign = { type: 'sign-off', outcome: 'retired', disposal: 'bent' };
    const own = after(facts(), clean, { ...sign, retireReason: 'not-worth-grinding' });
    expect(mayUndo(own, facts({ stillAtBench: true }))).toBeTrue();
    expect(mayUndo(own, facts({ stillAtBench: false }))).toBeFalse();
    const undone = foldOn(
      own,
      decide(command({ type: 'undo-retirement' }), own, facts({ stillAtBench: true })),
    );
    expect(undone.signedOff).toBeUndefined();
    const crack = { type: 'judge-crack', found: true };
    const cracked = after(facts(), clean, crack, { ...sign, retireReason: 'crack' });
    expect(mayUndo(cracked, facts({ stillAtBench: true }))).toBeFalse();
  });
});

describe('how a cycle stands', () => {
  it('leads through the work in its order, straight to the sign-off where it must retire', () => {
    const steps = (...acts: object[]) => standingOf(after(facts(), ...acts), facts()).nextStep;
    expect(steps()).toBe('clean');
    expect(steps(clean)).toBe('inspect');
    expect(steps(clean, { type: 'judge-crack', found: true })).toBe('sign-off');
    // Signed off it stays there, whatever was left undone.
    expect(steps(clean, { type: 'sign-off', outcome: 'hold' })).toBe('sign-off');
  });

  it('calls a mark that thins the wing past its limit what it retires for', () => {
    const pit = {
      type: 'mark-damage',
      damageId: 'pit',
      kind: 'rust-pitting',
      end: 'B',
      fromTip: { text: '60', unit: 'mm' },
      depth: { text: '4', unit: 'mm' },
    };
    const state = after(facts(), clean, pit);
    expect(signOffOf(state, facts()).retireReasons).toEqual(['wing-limit']);
    const { before } = standingOf(state, facts());
    expect(before.findings[0]?.words).toMatch(/^End B, lift wing at its thinnest: 1\.0\smm thick/);
  });
});

describe('what a grind left of a mark', () => {
  const mats = [{ matNumber: 1, across: 1, down: 1, u: 0.001, measuredAt: '2026-05-01T08:00:00Z' }];
  const known = facts({ mats });
  const ground = [
    clean,
    {
      type: 'mark-damage',
      damageId: 'nick',
      kind: 'nick',
      end: 'A',
      fromTip: { text: '40', unit: 'mm' },
      depth: { text: '1.2', unit: 'mm' },
    },
    { type: 'set-up', grinderId: known.grinders[0]?.grinderId },
    { type: 'count-passes', passId: 'a', end: 'A', zone: 'full', count: 6 },
  ];
  const photo = (deepMm: number) => ({
    type: 'read-edge',
    edgeId: 'edge',
    file: 'edge.jpg',
    end: 'A',
    phase: 'after',
    edge: {
      matNumber: 1,
      widthsMm: Array.from(
        { length: 220 },
        (_, i) => 59 - Math.max(0, deepMm * (1 - Math.abs(i / 2 - 41) / 2)),
      ),
      placeU: 0.01,
      sharedU: 0.04,
      pxPerMm: 9,
      misfitMm: 0.01,
      blurMm: 0.1,
    },
    readings: [],
  });
  const leftBy = (...more: object[]) => {
    const state = after(known, ...ground, ...more);
    const [mark] = state.damage;
    return mark && leftOf(state, known, mark);
  };

  it('is what a photo after it shows, also where the tool’s passes tell nothing yet', () => {
    expect(leftBy()).toBeUndefined();
    const shown = leftBy(photo(0.7));
    expect(shown?.by).toBe('photo');
    expect(shown?.value).toBeCloseTo(0.75, 1);
    expect(leftBy(photo(0))).toEqual(jasmine.objectContaining({ by: 'photo', value: 0 }));
  });
});

describe('what nobody has read', () => {
  it('is said to be new, from its spec, where the blade is new, and carried where it is not', () => {
    const words = (known: CycleFacts): string =>
      standingOf(after(known, clean), known)
        .before.findings.map((finding) => finding.words)
        .join('; ');
    const fresh = words(facts({ blade: { id: 'blade', grinds: 0, knownFrom: 'new' } }));
    expect(fresh).toContain('; new, from its spec');
    expect(fresh).not.toContain('carried from last time');
    expect(words(facts())).toContain('carried from last time');
  });
});

describe('a trimmed blade', () => {
  it('is no new one, whatever it came as, and has grinds nobody knows of only where it came used', () => {
    const { spec } = facts();
    const most = { kind: 'grinds', value: 20, unit: 'grinds' } as const;
    const limits = [...spec.limits, { ...most, source: 'shop', sourceText: 'rule' } as const];
    const words = (knownFrom: 'new' | 'used'): string => {
      const known = facts({
        spec: { ...spec, limits },
        blade: { id: 'blade', grinds: 0, knownFrom, trimmed: true },
        last: {},
      });
      return standingOf(after(known, clean), known)
        .before.findings.map((finding) => finding.words)
        .join('; ');
    };
    expect(words('used')).toContain('how many before it came nobody knows');
    expect(words('new')).not.toContain('how many before it came nobody knows');
    for (const each of ['new', 'used'] as const)
      expect(words(each)).not.toContain('new, from its spec');
  });
});

describe('a reading that cannot be right', () => {
  const limits = [
    ...facts().spec.limits,
    {
      kind: 'width',
      value: 52,
      unit: 'mm',
      stationKey: 'root',
      source: 'shop',
      sourceText: 'rule',
    } as const,
  ];
  const at = '2026-04-01T09:00:00Z';
  const known = facts({
    spec: { ...facts().spec, newWidthMm: 70, limits },
    last: { 'width:A:root': { value: 69.1, u: 0.2, resolution: 0.1, radiusMm: 160, at } },
  });
  const root = (text: string) => reading('width', text, { end: 'A', stationKey: 'root' });
  const whole = { type: 'judge-crack', found: false };
  const standing = (...acts: object[]) => standingOf(after(known, clean, whole, ...acts), known);
  const rootOf = ({ slots }: ReturnType<typeof standing>) =>
    slots.find(({ key }) => key === 'before:width:A:root');

  it('is asked about before any verdict follows: a root of 30 after 69.1 retires nothing', () => {
    const doubted = standing(root('30'));
    expect(rootOf(doubted)?.question).toMatch(/39\.1\smm less than .* after the last cycle/);
    expect(doubted.before.verdict).not.toBe('retire');
    expect(doubted.nextStep).not.toBe('sign-off');
  });

  it('is believed once it was read again, and retires then', () => {
    const again = standing(root('30'), { ...root('30.1'), readingId: 'again' });
    expect(rootOf(again)?.question).toBeUndefined();
    expect(again.before.verdict).toBe('retire');
    expect(again.nextStep).toBe('sign-off');
    const other = standing(root('30'), root('68.4'));
    expect(rootOf(other)?.question).toBeUndefined();
    expect(other.before.verdict).not.toBe('retire');
  });
});

describe('entries that wait', () => {
  it('go through the same rules: what will be refused changes nothing', () => {
    const known = facts();
    const state = foldCycle([opened]);
    const pass = { type: 'count-passes', passId: 'a', end: 'A', zone: 'full', count: 3 };
    const commands = [
      command(reading('mass', '1150')),
      command(clean),
      command(reading('mass', '1150')),
      command(pass),
      command({ type: 'undo-passes', passId: 'never counted' }),
    ];
    const on = foldWaiting(state, known, commands);
    expect([on.cleaned, on.readings.length, on.passes.length]).toEqual([true, 1, 1]);
    expect(on.revision).toBe(3);
  });

  it('leave the sign-off to the server', () => {
    const sign = command({
      type: 'sign-off',
      outcome: 'retired',
      retireReason: 'shop-decision',
      disposal: 'cut',
    });
    const state = foldCycle([opened]);
    expect(foldWaiting(state, facts(), [sign])).toBe(state);
  });
});
