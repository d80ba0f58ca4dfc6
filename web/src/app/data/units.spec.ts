import { provideZonelessChangeDetection } from '@angular/core';
import { TestBed } from '@angular/core/testing';
import { Days } from './days';
import { Drafts } from './drafts';
import { Keys } from './keys';
import { Units } from './units';

describe('Units', () => {
  beforeEach(() => {
    localStorage.clear();
    TestBed.configureTestingModule({ providers: [provideZonelessChangeDetection()] });
  });

  afterEach(() => {
    localStorage.clear();
  });

  it('show millimetres or inches at a switch and remember it', () => {
    const units = TestBed.inject(Units);
    expect(units.show(51.2, 'mm')).toBe('51.2 mm');
    units.toggle();
    expect(units.show(51.2, 'mm')).toBe('2.016 in');
    expect(units.show(30, 'deg')).toBe('30.0°');
    expect(units.show(54.23, 'N·m')).toBe('40.0 lbf·ft');
    expect(localStorage.getItem('tally-stone.units')).toBe('inch');
  });
});

describe('Days', () => {
  it('are the shop’s own, also across a change of the clocks', () => {
    const days = new Days();
    days.zone.set('Europe/London');
    // Half past midnight by summer time is still the day before by UTC.
    expect(days.full('2026-06-30T23:30:00Z')).toBe('1 Jul 2026');
    expect(days.full('2026-01-31T23:30:00Z')).toBe('31 Jan 2026');
    days.zone.set('Pacific/Auckland');
    expect(days.short('2026-01-31T12:30:00Z')).toBe('1 Feb');
  });
});

describe('Drafts', () => {
  it('keep what was typed until it is dropped', () => {
    const drafts = new Drafts();
    drafts.set('c.k', '51.');
    expect(drafts.get('c.k')).toBe('51.');
    drafts.set('c.k', '');
    expect(drafts.get('c.k')).toBe('');
  });
});

describe('Keys', () => {
  let keys: Keys;
  let pressed: string[];
  beforeEach(() => {
    TestBed.configureTestingModule({ providers: [provideZonelessChangeDetection()] });
    keys = TestBed.inject(Keys);
    pressed = [];
  });
  const press = (
    key: string,
    target: HTMLElement = document.body,
    more: KeyboardEventInit = {},
  ): boolean => {
    const event = new KeyboardEvent('keydown', { key, ...more });
    Object.defineProperty(event, 'target', { value: target });
    return keys.press(event);
  };

  it('run the newest binding and give it back when it leaves', () => {
    keys.use([{ key: 'a', does: 'old', run: () => pressed.push('old') }]);
    const stop = keys.use([{ key: 'a', does: 'new', run: () => pressed.push('new') }]);
    press('a');
    stop();
    press('a');
    expect(pressed).toEqual(['new', 'old']);
  });

  it('stay out of the way of typing, of a focused button’s Space, and of Ctrl', () => {
    keys.use([
      { key: ' ', does: 'count', run: () => pressed.push('count') },
      { key: 'b', does: 'b', run: () => pressed.push('b') },
    ]);
    expect(press('b', document.createElement('input'))).toBeFalse();
    expect(press(' ', document.createElement('button'))).toBeFalse();
    expect(press('b', document.body, { ctrlKey: true })).toBeFalse();
    expect(press('b', document.createElement('button'))).toBeTrue();
    expect(pressed).toEqual(['b']);
    expect(keys.nameOf(' ')).toBe('Space');
    const tick = document.createElement('input');
    tick.type = 'checkbox';
    expect(press('b', tick)).toBeTrue();
  });

  it('may take Space from a button, and work in a field that is still empty', () => {
    keys.use([
      { key: ' ', does: 'count', overButtons: true, run: () => pressed.push('count') },
      { key: 'f', does: 'find', inEmptyField: true, run: () => pressed.push('find') },
    ]);
    const field = document.createElement('input');
    expect(press(' ', document.createElement('button'))).toBeTrue();
    expect(press(' ', field)).toBeFalse();
    expect(press('f', field)).toBeTrue();
    field.value = '47';
    expect(press('f', field)).toBeFalse();
    expect(pressed).toEqual(['count', 'find']);
  });
});
