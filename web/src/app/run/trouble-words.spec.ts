import type { CycleAct } from '@tally-stone/contract';
import type { Trouble } from '../data/problem';
import { troubleWords } from './trouble-words';

const SLOTS = [
  { phase: 'before', quantity: 'width', end: 'B', stationKey: 'tip', label: 'Width, end B, tip' },
  { phase: 'before', quantity: 'bevel', end: 'A', label: 'Bevel, end A' },
] as const;
const wrong = (field: string, message: string): Trouble => ({
  kind: 'problem',
  type: '/problems/invalid-input',
  words: `${field}: ${message}`,
  fields: { [field]: message },
});
const reading = (place: object): CycleAct =>
  ({ type: 'take-reading', readingId: 'r', place, entered: { text: '', unit: 'mm' } }) as CycleAct;

describe('what was refused', () => {
  it('is a reading by its place on the blade, not by its path', () => {
    const empty = wrong('entered.text', 'is empty: type a number');
    const width = { phase: 'before', quantity: 'width', end: 'B', stationKey: 'tip' };
    expect(troubleWords(reading(width), empty, SLOTS)).toBe(
      'Width, end B, tip is empty: type a number',
    );
    const face = { phase: 'before', quantity: 'face', end: 'A' };
    expect(troubleWords(reading(face), empty, SLOTS)).toBe('Bevel, end A is empty: type a number');
    expect(troubleWords(reading(width), empty, [])).toBe('The reading is empty: type a number');
  });

  it('is a field by its name on the screen; words of the server stand where there is no field', () => {
    const act = { type: 'deburr', done: true } as CycleAct;
    expect(troubleWords(act, wrong('depth.text', 'must be above zero'), SLOTS)).toBe(
      'Depth must be above zero',
    );
    expect(troubleWords(act, wrong('other', 'is odd'), SLOTS)).toBe('other: is odd');
    const plain = { ...wrong('other', 'x'), words: 'Somebody was quicker.', fields: {} };
    expect(troubleWords(act, plain, SLOTS)).toBe('Somebody was quicker.');
  });
});
