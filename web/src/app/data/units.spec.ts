import { provideZonelessChangeDetection } from '@angular/core';
import { TestBed } from '@angular/core/testing';
import { parseQuantity } from '@tally-stone/core';
import { Days } from './days';
import { Drafts } from './drafts';
import { Keys } from './keys';
import { Region } from './region';
import { Units } from './units';

describe('Units', () => {
  beforeEach(() => {
    localStorage.clear();
    TestBed.configureTestingModule({ providers: [provideZonelessChangeDetection()] });
  });

  afterEach(() => {
    localStorage.clear();
  });

  it('turn from millimetres to inches, to inches and ounces, and back, and remember it', () => {
    const units = TestBed.inject(Units);
    expect(units.show(51.2, 'mm')).toBe('51.2 mm');
    units.toggle();
    expect(units.show(51.2, 'mm')).toBe('2.016 in');
    expect(units.show(30, 'deg')).toBe('30.0°');
    expect(units.show(54.23, 'N·m')).toBe('40.0 lbf·ft');
    expect(localStorage.getItem('tally-stone.units')).toBe('inch');
    expect(units.show(8.5, 'g')).toBe('8.5 g');
    // 19 000 ft/min is the limit of a tip in feet.
    expect(units.speed(96.52, 1)).toBe('19,000 ft/min');
    units.toggle();
    expect(units.show(8.5, 'g')).toBe('0.300 oz');
    expect(units.plusMinus({ value: 360, u: 36 }, 'g·mm', 0)).toBe('0.500 ± 0.100 oz·in');
    expect(units.named().short).toBe('inch, oz');
    units.toggle();
    expect(units.show(51.2, 'mm')).toBe('51.2 mm');
    expect(units.speed(96.52, 1)).toBe('96.5 m/s');
  });

  it('write a figure into a field so that it is read again as the same', () => {
    const units = TestBed.inject(Units);
    const region = TestBed.inject(Region);
    for (const decimal of ['point', 'comma'] as const) {
      region.written.update((all) => ({ ...all, decimal }));
      for (const mm of [0.8, 51.25, 12_345.6]) {
        for (const system of ['metric', 'inch'] as const) {
          units.system.set(system);
          const read = parseQuantity(units.typed(mm, 'mm'), units.length()).value;
          expect(read).withContext(`${mm} mm, ${decimal}, ${system}`).toBeCloseTo(mm, 2);
        }
      }
    }
    expect(units.typed(51.25, 'mm')).toBe('2,0177');
    // A page opened anew writes as the shop did last, before it has said so again.
    region.tell({ dates: 'year-first', decimal: 'comma', weekBegins: 7 });
    expect(new Region().written()).toEqual(region.written());
    expect(units.typedNumber(6.3)).toBe('6,3');
  });

  it('say a finding in the reader’s unit from its own figures, and one signed long ago as it was signed', () => {
    const units = TestBed.inject(Units);
    const finding = {
      id: 'width:A:tip',
      reason: 'width',
      severity: 'retire',
      end: 'A',
      stationName: 'tip',
      fromTipMm: 10,
      value: 51.26,
      limit: 52,
      margin: -0.74,
      unit: 'mm',
      rule: { by: 'maker', text: 'manual, 52 mm' },
      words: 'not used',
    } as const;
    expect(units.finding(finding)).toBe(
      'End A, tip, 10 mm from the tip: 51.3 mm wide, limit 52.0 mm (maker: manual, 52 mm), 0.7 mm past it',
    );
    units.toggle();
    // 51.26 mm is 2.0181 in: from the reading itself, not from the rounded millimetres.
    expect(units.finding(finding)).toBe(
      'End A, tip, 0.39 in from the tip: 2.018 in wide, limit 2.047 in (maker: manual, 52 mm), 0.029 in past it',
    );
    const signedLongAgo = { id: 'x', severity: 'fine', words: 'Tip 51.2 mm wide' } as const;
    expect(units.finding(signedLongAgo)).toBe('Tip 51.2 mm wide');
  });

  it('write figures, money and days as the shop does', () => {
    const region = TestBed.inject(Region);
    const units = TestBed.inject(Units);
    const days = TestBed.inject(Days);
    expect(region.money(1234.5, 'USD')).toBe('$1,234.50');
    region.written.set({ dates: 'month-first', decimal: 'comma', weekBegins: 7 });
    expect(units.show(51.2, 'mm')).toBe('51,2 mm');
    expect(units.number(-0.04, 1)).toBe('0,0');
    expect(units.number(12345.6, 1)).toBe('12.345,6');
    expect(days.full('2026-11-28T12:00:00Z')).toBe('Nov 28, 2026');
    expect(days.weekdays().map(({ name }) => name)[0]).toBe('Sun');
    region.written.set({ dates: 'year-first', decimal: 'point', weekBegins: 1 });
    expect(days.full('2026-11-28T12:00:00Z')).toBe('2026-11-28');
    // A shop brought over from letters that name no currency shows its amounts, not a dead page.
    expect(region.money(18, '?')).toContain('18.00');
  });
});

describe('Days', () => {
  it('are the shop’s own, also across a change of the clocks', () => {
    TestBed.configureTestingModule({ providers: [provideZonelessChangeDetection()] });
    const days = TestBed.inject(Days);
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
