import { FormGroup } from '@angular/forms';
import { TestBed } from '@angular/core/testing';
import * as z from 'zod';
import { passes, QuantityControl, readsAs, refuse, text, wordsOf } from './fields';
import { Units } from './units';

const UpTo100 = z.number().min(0, 'must not be negative').max(100, 'is more than 100 mm');

describe('a field for a quantity', () => {
  let units: Units;
  beforeEach(() => {
    localStorage.clear();
    units = TestBed.inject(Units);
  });
  const typed = (words: string, optional = false): QuantityControl => {
    const control = new QuantityControl('mm', UpTo100, units, { optional });
    control.setValue(words);
    return control;
  };

  it('reads points, commas, fractions and units, and is judged in its base unit', () => {
    for (const [words, mm] of [
      ['51.2', 51.2],
      ['51,2', 51.2],
      ['1/8 in', 3.175],
      ['2 1/2 in', 63.5],
    ] as const) {
      expect(typed(words).quantity).withContext(words).toBeCloseTo(mm, 9);
      expect(wordsOf(typed(words)))
        .withContext(words)
        .toBe('');
    }
    expect(wordsOf(typed('4 in'))).toBe('is more than 100 mm');
    expect(wordsOf(typed('-1'))).toBe('must not be negative');
    expect(wordsOf(typed('wide'))).toContain('is not a number');
    expect(wordsOf(typed('1e9'))).not.toBe('');
    expect(wordsOf(typed(''))).toContain('is empty');
    expect(wordsOf(typed('', true))).toBe('');
    expect(typed('wide').quantity).toBeUndefined();
  });

  it('keeps what was typed when the shop turns to inches, and says it in inches', () => {
    const control = typed('50.8');
    units.toggle();
    expect(control.quantity).toBe(50.8);
    control.turn();
    expect(control.value).toBe('2');
    expect(control.quantity).toBeCloseTo(50.8, 9);
    expect(control.entered).toEqual({ text: '2', unit: 'in' });
    control.setValue('wide');
    units.toggle();
    control.turn();
    expect(control.value).toBe('wide');
  });

  it('keeps every digit of a figure that nobody typed over, in whatever unit it is shown', () => {
    const stored = new QuantityControl('mm', UpTo100, units, { start: 6.3 });
    for (let turns = 0; turns < 6; turns++) {
      units.toggle();
      stored.turn();
      // 0.248 in alone would be 6.2992 mm.
      expect(stored.quantity).withContext(stored.value).toBe(6.3);
    }
    expect(stored.value).toBe('6.3');
    const anew = typed('7.1');
    units.toggle();
    anew.turn();
    units.system.set('metric');
    anew.turn();
    expect([anew.value, anew.quantity]).toEqual(['7.1', 7.1]);
  });

  it('of a plain number takes a comma, and no letters', () => {
    const hours = new QuantityControl('h', UpTo100, units, { start: 8.5 });
    expect([hours.value, hours.mark()]).toEqual(['8.5', 'h']);
    hours.setValue('8,25');
    expect(hours.quantity).toBe(8.25);
    hours.setValue('8h');
    expect(wordsOf(hours)).toBe('is not a number');
  });

  it('that the server refused says so until something else is typed, and can be tried again', () => {
    const control = typed('50');
    const form = new FormGroup({ control, name: text('x', z.string().min(2, 'is too short')) });
    refuse(control, 'is taken');
    control.updateValueAndValidity();
    expect(wordsOf(control)).toBe('is taken');
    expect(passes(form)).toBeFalse();
    expect([wordsOf(control), wordsOf(form.controls.name)]).toEqual(['', 'is too short']);
    refuse(control, 'is taken');
    control.setValue('51');
    expect(wordsOf(control)).toBe('');
  });

  it('that is kept as typed only has to be readable in its unit', () => {
    const torque = text();
    torque.addValidators(readsAs(() => 'N·m'));
    for (const [words, wrong] of [
      ['', false],
      ['40 lbf·ft', false],
      ['tight', true],
    ] as const) {
      torque.setValue(words);
      expect(wordsOf(torque) !== '')
        .withContext(words)
        .toBe(wrong);
    }
  });
});
