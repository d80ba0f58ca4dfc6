import { Refusal } from './index.js';
import { facts } from './testing/facts.js';
import { Walk } from './testing/walk.js';

/** What may not be in a cycle, each act with the field that says so. */
const clean = { type: 'clean', done: true };
const mm = (text: string) => ({ text, unit: 'mm' });
const reading = (quantity: string, text: string, more: object = {}) => ({
  type: 'take-reading',
  readingId: 'r',
  place: { phase: 'before', quantity, end: 'A' },
  entered: mm(text),
  repeat: false,
  ...more,
});
const mark = (kind: string, fromTip: string, depth: string, more: object = {}) => ({
  type: 'mark-damage',
  damageId: 'd',
  kind,
  end: 'A',
  fromTip: mm(fromTip),
  depth: mm(depth),
  ...more,
});
const leaveOut = (phase: string, quantity: string) => ({
  type: 'leave-out-reading',
  place: { phase, quantity },
  reason: 'cannot-reach',
});
const hung = (more: object) => ({
  type: 'balance-round',
  roundId: 'r',
  phase: 'before',
  device: 'bearing-shaft',
  heavyEnd: 'A',
  markDeg: 90,
  ...more,
});
const weighed = { weight: { text: '2', unit: 'g' }, radius: mm('230') };
const tilt = { alone: mm('4'), withWeight: mm('2') };
const photo = (i: number) => ({ type: 'attach-photo', photoId: `p${i}`, file: `${i}.jpg` });
const LAST = {
  value: 1140,
  u: 0.1,
  resolution: 0.1,
  radiusMm: undefined,
  at: '2026-04-01T09:00:00Z',
};

const known = facts({
  last: { 'mass:-:-': LAST },
  balancers: [{ balancerId: 'cone', name: 'Door cone', device: 'cone-point' }],
  grinders: facts().grinders.map((each, i) => ({ ...each, checkedToday: i === 0 })),
});
const refusalOf = (...acts: object[]): Refusal | undefined => {
  try {
    new Walk(known).do(clean, ...acts);
    return undefined;
  } catch (error) {
    if (error instanceof Refusal) return error;
    throw error;
  }
};

const REFUSED: readonly (readonly [words: string, field: string, ...acts: object[]])[] = [
  ['a land as thick as the blade', 'entered.text', reading('land', '5')],
  ['a face no wider than the steel it climbs', 'entered.text', reading('face', '5')],
  [
    'an instrument that does not read it',
    'instrument',
    reading('land', '0.4', { instrument: 'scale' }),
  ],
  ['an instrument nobody has', 'instrument', reading('land', '0.4', { instrument: 'ruler' })],
  [
    'a land in grams',
    'entered.text',
    reading('land', '0.4', { entered: { text: '0.4', unit: 'g' } }),
  ],
  ['no number', 'entered.text', reading('land', 'x')],
  ['a nick off the edge', 'fromTip.text', mark('nick', '101', '1')],
  ['a thin place beyond the hole', 'fromTip.text', mark('thin-wing', '251', '1')],
  ['a nick through the blade', 'depth.text', mark('nick', '10', '60')],
  ['a pit through the wing', 'depth.text', mark('rust-pitting', '10', '5')],
  ['a bend left out', 'place', leaveOut('before', 'tip-height')],
  ['a proof left out', 'place', leaveOut('after', 'mass')],
  ['a first reading left out', 'place', leaveOut('before', 'thickness')],
  ['a thirteenth photo', 'photoId', ...Array.from({ length: 13 }, (_, i) => photo(i))],
  ['a photo of a mark that is not there', 'damageId', { ...photo(1), damageId: 'gone' }],
  ['a grinder of another shop', 'grinderId', { type: 'set-up', grinderId: 'theirs' }],
  ['a grinder nobody checked today', 'withoutCheck', { type: 'set-up', grinderId: 'grinder 2' }],
  [
    'a retirement for no reason',
    'retireReason',
    { type: 'sign-off', outcome: 'retired', disposal: 'cut' },
  ],
  [
    'a retired blade that could be fitted',
    'disposal',
    { type: 'sign-off', outcome: 'retired', retireReason: 'not-worth-grinding' },
  ],
  ['ready before it is', 'outcome', { type: 'sign-off', outcome: 'ready' }],
  ['no test weight', 'weight', hung({ radius: mm('230') })],
  ['nowhere it lies', 'radius', hung({ weight: weighed.weight })],
  ['a test weight beyond the tip', 'radius.text', hung({ ...weighed, radius: mm('251') })],
  ['a balancer of another shop', 'balancerId', hung({ ...weighed, balancerId: 'theirs' })],
  ['a cone taken for a shaft', 'device', hung({ ...weighed, balancerId: 'cone' })],
  ['drops on a cone', 'device', hung({ device: 'cone-point', drops: [6] })],
  ['a tilt on a shaft', 'device', hung({ ...weighed, tilt })],
  ['the mean of an end alone', 'halfTurnOf', hung({ endOnly: true, halfTurnOf: 'r' })],
  [
    'the mean with a round that is not there',
    'halfTurnOf',
    hung({ ...weighed, halfTurnOf: 'gone' }),
  ],
  [
    'the mean with an end alone',
    'halfTurnOf',
    hung({ endOnly: true }),
    hung({ ...weighed, roundId: 'r2', halfTurnOf: 'r' }),
  ],
  [
    'a mean of three',
    'halfTurnOf',
    hung(weighed),
    hung({ ...weighed, roundId: 'r2', halfTurnOf: 'r' }),
    hung({ ...weighed, roundId: 'r3', halfTurnOf: 'r2' }),
  ],
  [
    'the mean over a pass',
    'halfTurnOf',
    hung({ ...weighed, phase: 'after' }),
    { type: 'count-passes', passId: 'a', end: 'A', zone: 'full', count: 1 },
    hung({ ...weighed, phase: 'after', roundId: 'r2', halfTurnOf: 'r' }),
  ],
];

describe('what is refused in a cycle, at its field', () => {
  for (const [words, field, ...acts] of REFUSED)
    it(words, () => {
      const refusal = refusalOf(...acts);
      expect(refusal?.errors.map((each) => each.field)).toEqual([field]);
      expect(refusal?.errors[0]?.message.length).toBeGreaterThan(8);
    });

  it('is nothing that lies just inside', () => {
    for (const acts of [
      [reading('land', '4.99')],
      [reading('face', '5.1')],
      [reading('land', '0.4', { instrument: 'caliper' })],
      [mark('nick', '100', '1')],
      [mark('thin-wing', '250', '1')],
      [mark('nick', '10', '59.9')],
      [mark('rust-pitting', '10', '4.9')],
      [leaveOut('before', 'mass')],
      Array.from({ length: 12 }, (_, i) => photo(i)),
      [{ type: 'set-up', grinderId: 'grinder 2', withoutCheck: 'done-by-another' }],
      [hung({ ...weighed, radius: mm('250') })],
      [hung({ device: 'cone-point', balancerId: 'cone', ...weighed })],
      [hung(weighed), hung({ ...weighed, roundId: 'r2', halfTurnOf: 'r' })],
    ])
      expect(refusalOf(...acts)?.detail)
        .withContext(JSON.stringify(acts[0]))
        .toBeUndefined();
  });
});

describe('what is kept of a reading', () => {
  it('is the instrument’s resolution and doubt, or those of what was typed', () => {
    const taken = (more: object) =>
      new Walk(known)
        .do(clean, reading('land', '0.4', more))
        .stands.slots.find(({ key }) => key === 'before:land:A:-')?.taken;
    expect(taken({ instrument: 'caliper' })).toEqual(
      jasmine.objectContaining({ source: 'instrument', instrument: 'caliper', value: 0.4 }),
    );
    expect(taken({})?.source).toBe('typed');
    const inches = taken({ entered: { text: '1/64', unit: 'in' } });
    expect(inches?.value).toBeCloseTo(0.396875, 6);
  });

  it('is carried forward where it was left out, with the doubt it has today', () => {
    const slot = new Walk(known)
      .do(clean, leaveOut('before', 'mass'))
      .stands.slots.find(({ key }) => key === 'before:mass:-:-');
    expect(slot?.carried?.value).toBe(1140);
    expect(slot?.carried?.u).toBeGreaterThan(0.1);
  });
});
