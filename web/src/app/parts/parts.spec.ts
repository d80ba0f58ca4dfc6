import { provideZonelessChangeDetection, type Type } from '@angular/core';
import { TestBed, type ComponentFixture } from '@angular/core/testing';
import { provideHttpClient } from '@angular/common/http';
import { FIGURES } from '../../testing/views';
import { Icons } from '../data/icons';
import { WidthChart } from '../blade/width-chart';
import { DAMAGE_KINDS } from '@tally-stone/core';
import { BladeDrawing } from './blade-drawing';
import { nextToDo } from './focus-order';
import { PageState } from './state';
import { Tally } from './tally';
import { VerdictTag } from './verdict-tag';

async function show<T>(
  component: Type<T>,
  inputs: Record<string, unknown>,
): Promise<ComponentFixture<T>> {
  localStorage.clear();
  TestBed.configureTestingModule({
    providers: [provideZonelessChangeDetection(), provideHttpClient()],
  });
  TestBed.inject(Icons);
  const fixture = TestBed.createComponent(component);
  for (const [name, value] of Object.entries(inputs)) fixture.componentRef.setInput(name, value);
  await fixture.whenStable();
  return fixture;
}

const element = (fixture: ComponentFixture<unknown>): HTMLElement =>
  fixture.nativeElement as HTMLElement;

describe('Tally', () => {
  it('tallies more than forty in tens, with thick marks', async () => {
    const fixture = await show(Tally, { count: 57, what: 'strokes' });
    const path = (fixture.nativeElement as HTMLElement).querySelector('path');
    expect(path?.getAttribute('d')?.split('M').slice(1)).toHaveSize(5);
    expect(Number(path?.style.strokeWidth)).toBeGreaterThan(4);
  });

  it('draws no more than it can show, however large the count', async () => {
    for (const count of [900, 1e9]) {
      const fixture = await show(Tally, { count, what: 'passes' });
      const path = element(fixture).querySelector('path');
      expect((path?.getAttribute('d') ?? '').split('M').length).toBeLessThanOrEqual(61);
      expect(element(fixture).querySelector('svg')?.getAttribute('aria-label')).toBe(
        `${count} passes`,
      );
      fixture.destroy();
      TestBed.resetTestingModule();
    }
  });

  it('groups strokes in fives, the fifth across the four', async () => {
    const fixture = await show(Tally, { count: 7, what: 'passes' });
    const drawn = element(fixture).querySelector('path')?.getAttribute('d') ?? '';
    const strokes = drawn.split('M').slice(1);
    expect(strokes).toHaveSize(7);
    expect(strokes[4]).toContain('23 L');
    expect(element(fixture).querySelector('svg')?.getAttribute('aria-label')).toBe('7 passes');
  });
});

describe('VerdictTag', () => {
  it('says the verdict in a word and a shape', async () => {
    const fixture = await show(VerdictTag, { severity: 'hold' });
    expect(element(fixture).textContent).toContain('Measure again');
    expect(element(fixture).querySelector('svg')).not.toBeNull();
  });
});

describe('BladeDrawing', () => {
  const widths = { A: [{ radiusMm: 240, widthMm: 50 }], B: [{ radiusMm: 240, widthMm: 58 }] };

  it('is to scale: its box is the blade in millimetres', async () => {
    const fixture = await show(BladeDrawing, {
      spec: FIGURES,
      lengthMm: 500,
      widths,
      code: '4447M',
    });
    const box =
      element(fixture).querySelector('svg')?.getAttribute('viewBox')?.split(' ').map(Number) ?? [];
    expect(box[2]).toBe(528);
    expect(element(fixture).querySelector('.steel')?.getAttribute('d')).toContain('L-250.00 20.00');
  });

  it('puts end A left and end B right, with their widths', async () => {
    const fixture = await show(BladeDrawing, { spec: FIGURES, lengthMm: 500, widths });
    const letters = [...element(fixture).querySelectorAll('.letter')];
    const x = (i: number): number => Number(letters[i]?.getAttribute('x'));
    expect(x(0)).toBeLessThan(0);
    expect(x(1)).toBeGreaterThan(0);
    expect(element(fixture).textContent).toContain('50.0 mm');
    expect(element(fixture).textContent).toContain('58.0 mm');
  });

  it('says which widths are worked out rather than read', async () => {
    const [A] = widths.A;
    const fixture = await show(BladeDrawing, {
      spec: FIGURES,
      lengthMm: 500,
      widths: { ...widths, A: [{ ...A, worked: true }] },
    });
    expect(element(fixture).textContent).toContain('≈ 50.0');
    expect(element(fixture).textContent).not.toContain('≈ 58.0');
  });

  it('puts damage where it is on the steel', async () => {
    const damage = [{ damageId: 'd', kind: 'nick', end: 'B', fromTipMm: 20, depthMm: 2 }];
    const fixture = await show(BladeDrawing, { spec: FIGURES, lengthMm: 500, widths, damage });
    const notch = element(fixture).querySelector('.mark')?.getAttribute('d') ?? '';
    expect(notch).toContain('L230.00');
    expect(element(fixture).querySelector('.mark title')?.textContent).toContain('Nick, end B');
    expect(element(fixture).querySelector('.mark title')?.textContent).toContain(
      '20 mm from the tip',
    );
  });

  it('draws each kind of damage as what it is: cut out of the steel, or a line on it', async () => {
    const damage = DAMAGE_KINDS.map((kind, i) => ({
      damageId: kind,
      kind,
      end: 'A',
      fromTipMm: 10 + 9 * i,
      depthMm: 2,
    }));
    const fixture = await show(BladeDrawing, { spec: FIGURES, lengthMm: 500, widths, damage });
    const marks = [...element(fixture).querySelectorAll('.mark')];
    // Each by itself, whatever its place along the edge.
    const shapes = marks.map((mark) =>
      (mark.getAttribute('d') ?? '').replace(/-?[\d.]+/g, '').replace(/\s+/g, ' '),
    );
    expect(new Set(shapes).size).toBeGreaterThanOrEqual(DAMAGE_KINDS.length - 1);
    const open = marks.filter((mark) => mark.classList.contains('open'));
    expect(open.map((mark) => mark.querySelector('title')?.textContent?.split(',')[0])).toEqual([
      'Rolled edge',
      'Crack',
      'Rounded tip',
      'Thin wing',
      'Worn hole',
    ]);
  });

  it('draws a mulching edge curved, through the widths that were read; a photographed one as it is', async () => {
    const spec = { ...FIGURES, kind: 'mulching' as const };
    const fixture = await show(BladeDrawing, { spec, lengthMm: 500, widths });
    const edge = (): string => element(fixture).querySelector('.edge')?.getAttribute('d') ?? '';
    expect(edge()).toContain('Q');
    // At the station that was read, 50 mm from the trailing edge.
    expect(edge()).toMatch(/-240\.00 20\.00/);
    fixture.componentRef.setInput('edges', { A: [{ radiusMm: 240, widthMm: 50 }] });
    await fixture.whenStable();
    expect(edge()).not.toContain('Q');
  });

  it('shows which end hangs low and where the caliper goes next', async () => {
    const fixture = await show(BladeDrawing, {
      spec: FIGURES,
      lengthMm: 500,
      widths,
      heavyEnd: 'A',
      here: 'B:tip',
    });
    expect(element(fixture).querySelector('.letter.heavy')?.textContent?.trim()).toBe('A');
    expect(element(fixture).querySelectorAll('.caliper')).toHaveSize(1);
  });
});

describe('WidthChart', () => {
  const cycle = (widthA: number) => ({
    cycleId: 'c',
    openedAt: '2026-05-01T08:00:00Z',
    passes: { A: 1, B: 1 },
    counts: 'pass',
    recessionMm: {},
    bevelDeg: {},
    widthsMm: { 'A:tip': widthA, 'B:tip': widthA - 1 },
    verdictWords: '',
  });

  it('draws a line an end and the limit, and says it in words', async () => {
    const fixture = await show(WidthChart, {
      spec: FIGURES,
      cycles: [cycle(58), cycle(56), cycle(54)],
    });
    expect(element(fixture).querySelectorAll('.end')).toHaveSize(2);
    expect(element(fixture).querySelectorAll('.dot')).toHaveSize(6);
    expect(element(fixture).querySelector('.limit-name')?.textContent).toBe('limit 48');
    expect(element(fixture).querySelector('svg')?.getAttribute('aria-label')).toBe(
      'Width over 3 cycles: end A 54.0 mm, end B 53.0 mm, limit 48.0 mm',
    );
  });
});

describe('nextToDo', () => {
  it('goes forward to the next open thing, then round, then to the big button', () => {
    const panel = document.createElement('div');
    panel.innerHTML =
      '<input id="a" data-todo="true"><input id="b" data-todo="false"><input id="c" data-todo="true"><button class="next-thing"></button>';
    document.body.append(panel);
    const at = (id: string): Element | null => panel.querySelector(`#${id}`);
    expect(nextToDo(panel, at('b'))?.id).toBe('c');
    expect(nextToDo(panel, at('c'))?.id).toBe('a');
    panel.querySelectorAll('[data-todo]').forEach((input) => {
      input.setAttribute('data-todo', 'false');
    });
    expect(nextToDo(panel, at('c'))?.className).toBe('next-thing');
    panel.remove();
  });
});

describe('What a screen shows without anything to show', () => {
  const shownState = async (inputs: Record<string, unknown>) =>
    element(await show(PageState, { what: 'The bench', doing: 'Fetching the bench …', ...inputs }));

  it('waits, without a button that could do nothing', async () => {
    const page = await shownState({});
    expect(page.querySelector('[role=status]')?.textContent.trim()).toBe('Fetching the bench …');
    expect(page.querySelector('button')).toBeNull();
  });

  it('says what cannot be shown and why, and asks again by its one button', async () => {
    const fixture = await show(PageState, {
      what: 'The bench',
      main: true,
      trouble: { kind: 'offline', type: '', words: 'The server does not answer.', fields: {} },
    });
    let asked = 0;
    fixture.componentInstance.again.subscribe(() => (asked += 1));
    const page = element(fixture);
    expect(page.querySelector('h1')?.textContent).toBe('The bench cannot be shown');
    expect(page.querySelector('[role=alert]')?.textContent).toContain('does not answer');
    page.querySelector('button')?.click();
    expect(asked).toBe(1);
  });

  it('says that there is nothing, as the heading where it stands for the page', async () => {
    const nothing = 'No mower is known yet.';
    expect((await shownState({ nothing })).textContent).toContain(nothing);
    TestBed.resetTestingModule();
    expect((await shownState({ nothing, main: true })).querySelector('h1')?.textContent).toBe(
      nothing,
    );
  });
});
