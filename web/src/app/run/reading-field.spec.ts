import { provideHttpClient } from '@angular/common/http';
import { HttpTestingController, provideHttpClientTesting } from '@angular/common/http/testing';
import { provideZonelessChangeDetection } from '@angular/core';
import { TestBed, type ComponentFixture } from '@angular/core/testing';
import { cycleView, slot } from '../../testing/views';
import { figuresFrom, type TypedSpec } from '../setup/spec-figures';
import { ReadingField } from './reading-field';
import { RunStore } from './run-store';

describe('ReadingField', () => {
  let fixture: ComponentFixture<ReadingField>;
  let http: HttpTestingController;

  async function show(inputs: Record<string, unknown>): Promise<HTMLInputElement> {
    TestBed.configureTestingModule({
      providers: [
        provideZonelessChangeDetection(),
        provideHttpClient(),
        provideHttpClientTesting(),
        RunStore,
      ],
    });
    http = TestBed.inject(HttpTestingController);
    TestBed.inject(RunStore).view.set(cycleView());
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
    await new Promise((next) => setTimeout(next));
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
    http.expectOne('/api/commands').flush(
      {
        type: '/problems/invalid-input',
        title: '',
        status: 422,
        detail: '',
        errors: [{ field: 'entered.text', message: 'is in mm, which measures length' }],
      },
      { status: 422, statusText: 'no' },
    );
    await new Promise((next) => setTimeout(next));
    http
      .match(() => true)
      .forEach((request) => {
        request.flush(cycleView());
      });
    await new Promise((next) => setTimeout(next));
    await fixture.whenStable();
    expect(says()).toContain('which measures length');
    expect(field.value).toBe('12 mm');
    expect(Object.values({ ...localStorage })).toContain('12 mm');
  });

  it('sends text and unit as typed, and drops the draft once kept', async () => {
    const field = await show({ slot: slot() });
    await type(field, '1148.5');
    const request = http.expectOne('/api/commands');
    expect((request.request.body as { entered: unknown }).entered).toEqual({
      text: '1148.5',
      unit: 'g',
    });
    request.flush({ commandId: 'x', sequence: 1, revision: 4 });
    await new Promise((next) => setTimeout(next));
    http
      .match(() => true)
      .forEach((each) => {
        each.flush(cycleView());
      });
    await new Promise((next) => setTimeout(next));
    expect(Object.keys({ ...localStorage }).filter((key) => key.includes('draft'))).toEqual([]);
  });

  it('asks a doubtful reading again in words', async () => {
    await show({ slot: slot({ question: '815.0 g is 3.0 g above before the grind' }) });
    expect(says()).toContain('3.0 g above');
  });

  it('says what was carried forward and how sure it is', async () => {
    await show({
      slot: slot({
        carried: { value: 1140, u: 1.5, at: '2026-05-01T08:00:00Z' },
        leftOut: 'crew-waiting',
      }),
    });
    expect(says()).toContain('carried 1140.0 g ± 3.0');
  });
});

describe('figuresFrom', () => {
  const typed: TypedSpec = {
    name: 'New',
    kind: 'low-lift',
    hand: 'left',
    hole: 'star',
    source: 'maker',
    sourceText: 'manual',
    sizes: {
      newLengthMm: '20 1/2 in',
      newWidthMm: '2 1/2 in',
      thicknessMm: '1/4 in',
      holeMm: '16',
      edgeLengthMm: '100',
      newMassG: '1.5 kg',
      bevelDeg: '30',
      bladeSpeedRpm: '3000',
      leastTipMm: '50',
      leastMiddleMm: '52',
      leastRootMm: '54',
    },
  };
  it('reads sizes in any unit into SI and gives each width limit its source', () => {
    const figures = figuresFrom(typed, 'mm');
    expect(figures.newLengthMm).toBeCloseTo(520.7, 9);
    expect(figures.thicknessMm).toBeCloseTo(6.35, 9);
    expect(figures.newMassG).toBe(1500);
    expect(
      figures.limits
        .filter(({ kind }) => kind === 'width')
        .map(({ value, source }) => [value, source]),
    ).toEqual([
      [50, 'maker'],
      [52, 'maker'],
      [54, 'maker'],
    ]);
  });
  it('names the field that is not a number', () => {
    expect(() =>
      figuresFrom({ ...typed, sizes: { ...typed.sizes, newMassG: 'heavy' } }, 'mm'),
    ).toThrowError(/Mass when new is not a number/);
  });
});
