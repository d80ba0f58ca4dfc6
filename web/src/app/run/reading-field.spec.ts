import { provideHttpClient } from '@angular/common/http';
import { HttpTestingController, provideHttpClientTesting } from '@angular/common/http/testing';
import { provideZonelessChangeDetection } from '@angular/core';
import { TestBed, type ComponentFixture } from '@angular/core/testing';
import type { InstrumentView } from '@tally-stone/contract';
import { OutboxForTests } from '../../testing/served';
import { cycleView, slot } from '../../testing/views';
import { EMPTY, Subject } from 'rxjs';
import { Changes } from '../data/changes';
import { Instruments } from '../data/instruments';
import { Outbox } from '../data/outbox';
import { Units } from '../data/units';
import { ReadingField } from './reading-field';
import { RunStore } from './run-store';

const SCALE: InstrumentView = {
  key: 'scale',
  name: 'Bench scale',
  reads: ['mass'],
  unit: 'g',
  resolution: 0.1,
  u: 0.06,
  tolerance: 0.25,
  windowS: 0.8,
  plugged: true,
  by: 'stand-in',
};

const WIDTH = {
  readingId: 'r1',
  phase: 'before',
  quantity: 'width',
  value: 51.2,
  u: 0.05,
  resolution: 0.01,
  repeat: false,
  source: 'typed',
  entered: { text: '51.2', unit: 'mm' },
  at: '2026-05-01T08:00:00Z',
} as const;

describe('ReadingField', () => {
  let fixture: ComponentFixture<ReadingField>;
  let http: HttpTestingController;

  async function show(inputs: Record<string, unknown>): Promise<HTMLInputElement> {
    TestBed.configureTestingModule({
      providers: [
        provideZonelessChangeDetection(),
        provideHttpClient(),
        provideHttpClientTesting(),
        { provide: Outbox, useFactory: () => new OutboxForTests() },
        RunStore,
      ],
    });
    http = TestBed.inject(HttpTestingController);
    TestBed.inject(RunStore).show(cycleView());
    fixture = TestBed.createComponent(ReadingField);
    for (const [name, value] of Object.entries(inputs)) fixture.componentRef.setInput(name, value);
    await fixture.whenStable();
    return (fixture.nativeElement as HTMLElement).querySelector('input') as HTMLInputElement;
  }

  const says = (): string =>
    (fixture.nativeElement as HTMLElement).querySelector('.says')?.textContent?.trim() ?? '';

  async function type(field: HTMLInputElement, text: string): Promise<void> {
    field.value = text;
    field.dispatchEvent(new Event('input'));
    field.dispatchEvent(new KeyboardEvent('keydown', { key: 'Enter' }));
    await new Promise((next) => setTimeout(next, 10));
  }

  beforeEach(() => {
    localStorage.clear();
  });

  it('shows the last reading and the limit with its source', async () => {
    await show({
      slot: slot({
        key: 'before:width:A:tip',
        quantity: 'width',
        unit: 'mm',
        last: { value: 51.4, u: 0.4 },
        limit: 48,
        limitSource: 'maker: manual',
      }),
    });
    expect(says()).toBe('last 51.4 mm · limit 48.0 mm, maker');
  });

  it('keeps what was typed when the server refuses it, and says why at the field', async () => {
    const field = await show({ slot: slot() });
    await type(field, '12 mm');
    http.expectOne('/api/v1/commands').flush(
      {
        type: '/problems/invalid-input',
        title: '',
        status: 422,
        detail: '',
        errors: [{ field: 'entered.text', message: 'is in mm, which measures length' }],
      },
      { status: 422, statusText: 'no' },
    );
    await new Promise((next) => setTimeout(next, 10));
    http
      .match(() => true)
      .forEach((request) => {
        request.flush(cycleView());
      });
    await new Promise((next) => setTimeout(next, 10));
    await fixture.whenStable();
    expect(says()).toContain('which measures length');
    expect(field.value).toBe('12 mm');
    expect(Object.values({ ...localStorage })).toContain('12 mm\tg');
  });

  it('sends text and unit as typed, and drops the draft once kept', async () => {
    const field = await show({ slot: slot() });
    await type(field, '1148.5');
    const request = http.expectOne('/api/v1/commands');
    expect((request.request.body as { entered: unknown }).entered).toEqual({
      text: '1148.5',
      unit: 'g',
    });
    request.flush({ commandId: 'x', sequence: 1, revision: 4 });
    await new Promise((next) => setTimeout(next, 10));
    http
      .match(() => true)
      .forEach((each) => {
        each.flush(cycleView());
      });
    await new Promise((next) => setTimeout(next, 10));
    expect(Object.keys({ ...localStorage }).filter((key) => key.includes('draft'))).toEqual([]);
  });

  it('asks a doubtful reading again in words', async () => {
    await show({
      slot: slot({ question: '815.0 g is 3.0 g more than the 812.0 g before the grind' }),
    });
    expect(says()).toContain('3.0 g more');
  });

  it('asks for a second look, not for the same number pressed in twice, and offers what was meant', async () => {
    const taken = {
      readingId: 'r1',
      phase: 'before' as const,
      quantity: 'mass' as const,
      value: 185.9,
      u: 0.1,
      resolution: 0.1,
      repeat: false,
      source: 'typed' as const,
      entered: { text: '185.9', unit: 'g' as const },
      at: '2026-05-01T08:00:00Z',
    };
    const question = '185.9 g is 1676.1 g below: a decimal place too far? Read it again';
    const field = await show({ slot: slot({ taken, question, meant: 1859 }) });
    const enter = () => field.dispatchEvent(new KeyboardEvent('keydown', { key: 'Enter' }));
    enter();
    http.expectNone('/api/v1/commands');
    await type(field, '185.9');
    const again = http.expectOne('/api/v1/commands');
    expect((again.request.body as { entered: unknown }).entered).toEqual(taken.entered);
    again.flush({ commandId: 'x', sequence: 1, revision: 4 });
    await new Promise((next) => setTimeout(next, 10));
    http
      .match(() => true)
      .forEach((each) => {
        each.flush(cycleView());
      });
    await new Promise((next) => setTimeout(next, 10));
    await fixture.whenStable();
    [...(fixture.nativeElement as HTMLElement).querySelectorAll('button')]
      .find((each) => each.textContent?.includes('It is 1859.0 g'))
      ?.click();
    await new Promise((next) => setTimeout(next, 10));
    expect(
      (http.expectOne('/api/v1/commands').request.body as { entered: unknown }).entered,
    ).toEqual({
      text: '1859',
      unit: 'g',
    });
  });

  it('says the same when the units are turned, kept or not yet, and Enter over it takes nothing anew', async () => {
    const field = await show({ slot: slot({ unit: 'mm', quantity: 'width', taken: WIDTH }) });
    const units = TestBed.inject(Units);
    expect(field.value).toBe('51.2');
    units.system.set('inch');
    await fixture.whenStable();
    // Beside "in" it once stood as 51.2, and Enter took it so.
    expect(field.value).toBe('2.0157');
    field.dispatchEvent(new KeyboardEvent('keydown', { key: 'Enter' }));
    http.expectNone('/api/v1/commands');
    units.system.set('metric');
    await fixture.whenStable();
    field.value = '50,8';
    field.dispatchEvent(new Event('input'));
    units.system.set('inch-ounce');
    await fixture.whenStable();
    expect(field.value).toBe('2');
    units.system.set('metric');
    await fixture.whenStable();
    expect(field.value).toBe('50.8');
    fixture.componentRef.setInput('slot', slot({ unit: 'g', quantity: 'mass', taken: undefined }));
    await fixture.whenStable();
    field.value = 'heavy';
    field.dispatchEvent(new Event('input'));
    units.system.set('inch-ounce');
    await fixture.whenStable();
    expect(field.value).toBe('heavy');
  });

  it('keeps what was being typed with its unit', async () => {
    const open = slot({ unit: 'mm', quantity: 'width' });
    const field = await show({ slot: open });
    field.value = '51.2';
    field.dispatchEvent(new Event('input'));
    await fixture.whenStable();
    fixture.destroy();
    TestBed.resetTestingModule();
    localStorage.setItem('tally-stone.units', 'inch');
    const again = await show({ slot: open });
    expect(again.value).toBe('51.2 mm');
    again.dispatchEvent(new KeyboardEvent('keydown', { key: 'Enter' }));
    await new Promise((next) => setTimeout(next, 10));
    const sent = http.expectOne('/api/v1/commands').request.body as Record<string, unknown>;
    expect(sent['entered']).toEqual({ text: '51.2 mm', unit: 'in' });
    fixture.destroy();
    TestBed.resetTestingModule();
    // Typed over a reading that was kept before: it is new, not the kept one again.
    const corrected = await show({ slot: { ...open, taken: { ...WIDTH, value: 50.9 } } });
    corrected.dispatchEvent(new KeyboardEvent('keydown', { key: 'Enter' }));
    await new Promise((next) => setTimeout(next, 10));
    expect(http.match('/api/v1/commands')).toHaveSize(1);
  });

  it('says what was carried forward and how sure it is', async () => {
    await show({
      slot: slot({
        carried: { value: 1140, u: 1.5, at: '2026-05-01T08:00:00Z' },
        leftOut: 'crew-waiting',
      }),
    });
    expect(says()).toContain('carried 1140.0 ± 3.0 g');
  });

  it('takes a reading from its instrument once it stands still, and keeps it with its source', async () => {
    const lines = new Subject<string>();
    TestBed.overrideProvider(Changes, { useValue: { all$: EMPTY, lines$: lines } });
    const field = await show({ slot: slot() });
    TestBed.inject(Instruments).all.set([SCALE]);
    await fixture.whenStable();
    field.dispatchEvent(new KeyboardEvent('keydown', { key: 't' }));
    await new Promise((next) => setTimeout(next));
    http.expectOne('/api/v1/instruments/scale').flush({ instruments: [] });
    const say = (timeS: number, value: number): void =>
      lines.next(`scale ${timeS.toFixed(2)} ${value.toFixed(1)} g 0.1 0.06 ok`);
    // Coming to rest: nothing is taken from a moving value.
    for (let i = 0; i < 20; i++) say(i * 0.05, 1150 + 40 * Math.exp(-i / 4));
    await fixture.whenStable();
    expect(field.value).not.toBe('1150.0');
    http.expectNone('/api/v1/commands');
    for (let i = 20; i < 60; i++) say(i * 0.05, 1148.3);
    await new Promise((next) => setTimeout(next, 10));
    const sent = http.expectOne('/api/v1/commands').request.body as Record<string, unknown>;
    expect(sent).toEqual(
      jasmine.objectContaining({
        type: 'take-reading',
        instrument: 'scale',
        entered: { text: '1148.3', unit: 'g' },
      }),
    );
  });

  it('takes what a gauge types for a reading with the instrument, and what a hand types for typed', async () => {
    const field = await show({ slot: slot() });
    TestBed.inject(Instruments).all.set([SCALE]);
    // As far apart as a gauge's keys are, however slow the machine of the test.
    for (const [i, key] of [...'1148.5'].entries()) {
      const event = new KeyboardEvent('keydown', { key });
      Object.defineProperty(event, 'timeStamp', { value: 5 * i });
      field.dispatchEvent(event);
    }
    await type(field, '1148.5');
    const sent = http.expectOne('/api/v1/commands').request.body as Record<string, unknown>;
    expect([sent['instrument'], sent['entered']]).toEqual(['scale', { text: '1148.5', unit: 'g' }]);
  });

  it('takes nothing from what never stands still, and says what to do', async () => {
    const lines = new Subject<string>();
    TestBed.overrideProvider(Changes, { useValue: { all$: EMPTY, lines$: lines } });
    const field = await show({ slot: slot() });
    TestBed.inject(Instruments).all.set([SCALE]);
    await fixture.whenStable();
    field.dispatchEvent(new KeyboardEvent('keydown', { key: 't' }));
    await new Promise((next) => setTimeout(next));
    const began = Date.now();
    const clock = spyOn(Date, 'now');
    for (let i = 0; i < 260; i++) {
      clock.and.returnValue(began + i * 50);
      lines.next(`scale ${(i * 0.05).toFixed(2)} ${(1148 + (i % 2) * 3).toFixed(1)} g 0.1 0.06 ok`);
    }
    await new Promise((next) => setTimeout(next, 10));
    await fixture.whenStable();
    expect(says()).toContain('does not stand still: hold it quiet and take it again, or type it');
    expect(field.value).toBe('');
    http.expectNone('/api/v1/commands');
  });

  it('says that the instrument was unplugged, and lets one type', async () => {
    const lines = new Subject<string>();
    TestBed.overrideProvider(Changes, { useValue: { all$: EMPTY, lines$: lines } });
    const field = await show({ slot: slot() });
    TestBed.inject(Instruments).all.set([SCALE]);
    await fixture.whenStable();
    field.dispatchEvent(new KeyboardEvent('keydown', { key: 't' }));
    await new Promise((next) => setTimeout(next));
    lines.next('scale 0.10 1180.0 g 0.1 0.06 ok');
    lines.next('scale 0.15 0.0 g 0.1 0.06 unplugged');
    await new Promise((next) => setTimeout(next, 10));
    await fixture.whenStable();
    expect(says()).toContain('was unplugged: plug it in, or type it');
    expect(field.value).toBe('');
  });

  it('says at once what the instrument answers that cannot take the blade on', async () => {
    const field = await show({ slot: slot() });
    TestBed.inject(Instruments).all.set([SCALE]);
    await fixture.whenStable();
    field.dispatchEvent(new KeyboardEvent('keydown', { key: 't' }));
    await new Promise((next) => setTimeout(next));
    const detail = 'The bench scale is not simulated in this shop: type what it shows.';
    http
      .expectOne(({ url }) => url.endsWith('/instruments/scale'))
      .flush(
        { type: '/problems/invalid-input', title: '', status: 422, detail },
        { status: 422, statusText: 'No' },
      );
    await new Promise((next) => setTimeout(next, 10));
    await fixture.whenStable();
    expect(says()).toContain(detail);
  });
});
