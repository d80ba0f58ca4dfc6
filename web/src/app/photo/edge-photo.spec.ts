import { provideZonelessChangeDetection, signal } from '@angular/core';
import { TestBed } from '@angular/core/testing';
import { provideHttpClient } from '@angular/common/http';
import { provideRouter } from '@angular/router';
import { TestbedHarnessEnvironment } from '@angular/cdk/testing/testbed';
import { MatCheckboxHarness } from '@angular/material/checkbox/testing';
import { MatInputHarness } from '@angular/material/input/testing';
import type { EdgePhoto, PhotoRefused } from '@tally-stone/core';
import { of, Subject } from 'rxjs';
import { FIGURES } from '../../testing/views';
import { Api } from '../data/api';
import { RunStore } from '../run/run-store';
import { EdgePhotoPanel } from './edge-photo';
import { PHOTO_TROUBLES } from './photo-words';
import { PhotoReader } from './photo-reader';
import type { PhotoAnswer } from './photo.worker';

const [tip, middle, root] = FIGURES.stations;
const FOUND: EdgePhoto = {
  end: 'A',
  widthsMm: Array.from({ length: 220 }, () => 61.2345678),
  placeU: 0.01,
  sharedU: 0.045,
  bodyWidthMm: 63.5,
  damage: [
    {
      kind: 'nick',
      fromTipMm: 24,
      depthMm: 0.82,
      lengthMm: 3.1,
      depthU: 0.03,
      at: { xPx: 3, yPx: 3 },
    },
    {
      kind: 'nick',
      fromTipMm: 60,
      depthMm: 0.5,
      lengthMm: 2,
      depthU: 0.03,
      at: { xPx: 5, yPx: 3 },
    },
  ],
  tip: { roundedByMm: 0.4, u: 0.2 },
  outline: [
    { xPx: 1, yPx: 3, sure: true },
    { xPx: 7, yPx: 3, sure: true },
  ],
  quality: {
    matNumber: 1,
    markersSeen: 14,
    pxPerMm: 9,
    misfitMm: 0.004,
    blurMm: 0.1,
    tiltDeg: 4,
    hidden: 0,
  },
};

async function open(
  read: readonly { readonly stationKey: string; readonly value: number }[] = [],
  standIns = ['photo-stand'],
) {
  const answers = new Subject<PhotoAnswer>();
  const acts: Record<string, unknown>[] = [];
  const files: (Blob | undefined)[] = [];
  const asked: string[] = [];
  const server = { marks: '', meanwhile: (): void => undefined };
  const readings = read.map(({ stationKey, value }) => ({
    phase: 'before',
    quantity: 'width',
    end: 'A',
    stationKey,
    value,
    u: 0.08,
  }));
  const mats = [{ matNumber: 1, across: 1, down: 1, u: 0.001, measuredAt: '2026-05-01T08:00:00Z' }];
  const bench = {
    state: { readings, edges: [] },
    facts: { spec: FIGURES, mats, lastEdges: {}, shopRules: { standIns } },
  };
  const store = {
    id: signal('cycle'),
    view: signal({
      bench,
      damage: [{ damageId: 'noted', end: 'A', kind: 'chip', fromTipMm: 61, depthMm: 0.7 }],
    }),
    focusNext$: new Subject<void>(),
    settled: () => Promise.resolve(),
    act: (act: Record<string, unknown>, file?: Blob) => {
      acts.push(act);
      files.push(file);
      const { marks, meanwhile } = server;
      if (act['type'] === 'read-edge') meanwhile();
      return Promise.resolve(
        marks && act['type'] === 'mark-damage' ? { words: marks, fields: {} } : undefined,
      );
    },
  };
  TestBed.configureTestingModule({
    providers: [
      provideZonelessChangeDetection(),
      provideHttpClient(),
      provideRouter([]),
      { provide: RunStore, useValue: store },
      { provide: PhotoReader, useValue: { read: () => answers } },
      {
        provide: Api,
        useValue: {
          standPhoto: ({ end }: { readonly end: string }) => {
            asked.push(end);
            return of(new Blob(['picture']));
          },
        },
      },
    ],
  });
  const fixture = TestBed.createComponent(EdgePhotoPanel);
  fixture.componentRef.setInput('end', 'A');
  fixture.componentRef.setInput('phase', 'before');
  await fixture.whenStable();
  const host = fixture.nativeElement as HTMLElement;
  const press = async (words: RegExp): Promise<void> => {
    const button = [...host.querySelectorAll('button')].find(({ textContent }) =>
      words.test(textContent),
    );
    if (!button) throw new Error(`no button ${String(words)}`);
    button.click();
    await fixture.whenStable();
  };
  const hear = async (found: EdgePhoto | PhotoRefused): Promise<void> => {
    const shown = new OffscreenCanvas(8, 6);
    shown.getContext('2d');
    answers.next({
      shown: shown.transferToImageBitmap(),
      kept: new Blob(['kept']),
      shrunk: 1,
      found,
    });
    await fixture.whenStable();
  };
  const loader = TestbedHarnessEnvironment.loader(fixture);
  return { host, press, hear, answers, acts, files, asked, server, loader, fixture };
}

describe('an edge by photo', () => {
  it('has a sentence for all that can be wrong, which says what to do', () => {
    for (const words of Object.values(PHOTO_TROUBLES)) {
      const said = words({ found: 0.03, otherEnd: 'B', percent: (share) => `${100 * share} %` });
      expect(said).toMatch(/\.$|\?$/);
      expect(said).not.toContain('undefined');
    }
  });

  it('begins with the stand where one is simulated, else with a picture of one’s own', async () => {
    const focused = (): string => document.activeElement?.textContent.trim() ?? '';
    await open();
    expect(focused()).toBe('Picture from the stand');
    TestBed.resetTestingModule();
    const real = await open([], []);
    expect(real.host.textContent).not.toContain('stand');
    expect(real.host.querySelector('[data-todo="true"]')?.textContent.trim()).toBe(
      'Take a picture',
    );
  });

  it('says why a picture is not used, and goes on from there', async () => {
    const panel = await open();
    await panel.press(/Picture from the stand/);
    await panel.hear({ refused: 'too-slanted', found: 38.4 });
    expect(panel.host.querySelector('[role="alert"]')?.textContent).toContain('slant of 38°');
    await panel.press(/Picture from the stand/);
    expect(panel.host.querySelector('[role="alert"]')).toBeNull();
    expect(panel.host.querySelector('mat-progress-bar')).not.toBeNull();
    await panel.press(/^\s*Stop/);
    expect(panel.host.querySelector('mat-progress-bar')).toBeNull();
  });

  it('keeps the edge, the widths nobody has read, and the marks that were not thrown away', async () => {
    const panel = await open([{ stationKey: tip?.key ?? '', value: 61.25 }]);
    await panel.press(/Picture from the stand/);
    await panel.hear(FOUND);
    const boxes = await panel.loader.getAllHarnesses(MatCheckboxHarness);
    const checked = await Promise.all(boxes.map((box) => box.isChecked()));
    // The tip was read by caliper and stands; the second nick is on the drawing already, not so deep.
    expect(checked).toEqual([false, true, true, true, false]);
    expect(panel.host.querySelectorAll('.bad').length).toBe(0);
    await panel.press(/Keep 2 widths and 1 mark/);
    const [edge, mark] = panel.acts;
    expect(edge?.['type']).toBe('read-edge');
    expect((edge?.['readings'] as { stationKey: string }[]).map((each) => each.stationKey)).toEqual(
      [middle?.key ?? '', root?.key ?? ''],
    );
    expect((edge?.['edge'] as { widthsMm: number[] }).widthsMm[0]).toBe(61.235);
    expect(panel.files[0]?.size).toBe(4);
    expect(mark).toEqual(
      jasmine.objectContaining({
        type: 'mark-damage',
        fromTip: { text: '24.00', unit: 'mm' },
        depth: { text: '0.82', unit: 'mm' },
        instrument: 'photo-mat',
      }),
    );
    expect(panel.acts.length).toBe(2);
  });

  it('takes the photo’s depth for a mark that stands, by one touch', async () => {
    const panel = await open();
    await panel.press(/Picture from the stand/);
    await panel.hear(FOUND);
    const [, noted] = await panel.loader.getAllHarnesses(
      MatCheckboxHarness.with({ label: /from the tip/ }),
    );
    await noted?.check();
    await panel.press(/Keep 3 widths and 2 marks/);
    expect(panel.acts[2]).toEqual(
      jasmine.objectContaining({
        damageId: 'noted',
        kind: 'chip',
        fromTip: { text: '61.00', unit: 'mm' },
        depth: { text: '0.50', unit: 'mm' },
      }),
    );
  });

  it('lets what it is and how deep be changed: a typed depth was not read by the photo', async () => {
    const panel = await open();
    await panel.press(/Picture from the stand/);
    await panel.hear(FOUND);
    await panel.press(/^\s*Change/);
    await panel.press(/Rolled/);
    const field = await panel.loader.getHarness(MatInputHarness);
    expect(await field.getValue()).toBe('0.82');
    await field.setValue('1.1');
    await panel.press(/Keep it so/);
    await panel.press(/Keep 3 widths and 1 mark/);
    expect(panel.acts[1]).toEqual(
      jasmine.objectContaining({ kind: 'roll', depth: { text: '1.1', unit: 'mm' } }),
    );
    expect(panel.acts[1]?.['instrument']).toBeUndefined();
  });

  it('throws a mark away by one touch', async () => {
    const panel = await open();
    await panel.press(/Picture from the stand/);
    await panel.hear(FOUND);
    const boxes = await panel.loader.getAllHarnesses(MatCheckboxHarness.with({ label: /Nick/ }));
    await boxes[0]?.uncheck();
    await panel.press(/Keep 3 widths/);
    expect(panel.acts.map((act) => act['type'])).toEqual(['read-edge']);
  });

  it('takes the picture of the other end with the same touch that keeps this one', async () => {
    const { fixture, ...panel } = await open();
    fixture.componentRef.setInput('other', 'B');
    fixture.componentInstance.kept.subscribe(() => {
      fixture.componentRef.setInput('end', 'B');
      fixture.componentRef.setInput('other', undefined);
    });
    await panel.press(/Picture from the stand/);
    await panel.hear(FOUND);
    expect(panel.host.textContent).toContain('lay end B on the mat');
    await panel.press(/Keep 3 widths and 1 mark, picture of end B/);
    expect(panel.asked).toEqual(['A', 'B']);
    expect(panel.host.querySelector('mat-progress-bar')).not.toBeNull();
    await panel.hear({ ...FOUND, end: 'B' });
    await panel.press(/Keep 3 widths and 2 marks\s*$/);
    expect(panel.asked).toEqual(['A', 'B']);
  });

  it('keeps it once, however often it is pressed meanwhile', async () => {
    const panel = await open();
    await panel.press(/Picture from the stand/);
    await panel.hear(FOUND);
    await Promise.all([panel.press(/Keep 3 widths/), panel.press(/Keep 3 widths/)]);
    expect(panel.acts.map(({ type }) => type)).toEqual(['read-edge', 'mark-damage']);
  });

  it('marks what was seen at the end it was seen at, though the panel turns to the other meanwhile', async () => {
    const { fixture, ...panel } = await open();
    await panel.press(/Picture from the stand/);
    await panel.hear(FOUND);
    panel.server.meanwhile = () => fixture.componentRef.setInput('end', 'B');
    await panel.press(/Keep 3 widths and 1 mark/);
    expect(panel.acts.map(({ type, end }) => [type, end])).toEqual([
      ['read-edge', 'A'],
      ['mark-damage', 'A'],
    ]);
  });

  it('stays with an end that is doubted, and with a mark that was refused', async () => {
    const panel = await open([{ stationKey: middle?.key ?? '', value: 60.6 }]);
    panel.fixture.componentRef.setInput('other', 'B');
    await panel.press(/Picture from the stand/);
    await panel.hear(FOUND);
    panel.server.marks = 'Too deep for this blade.';
    await panel.press(/Keep 2 widths and 1 mark\s*$/);
    expect(panel.host.querySelector('p[role="alert"]')?.textContent).toContain('Too deep');
    panel.server.marks = '';
    await panel.press(/Keep 2 widths and 1 mark\s*$/);
    expect(panel.acts.filter(({ type }) => type === 'mark-damage').length).toBe(2);
  });

  it('asks which to repeat where caliper and photo disagree', async () => {
    const panel = await open([{ stationKey: middle?.key ?? '', value: 60.6 }]);
    await panel.press(/Picture from the stand/);
    await panel.hear(FOUND);
    expect(panel.host.querySelector('.stations .bad')?.textContent).toMatch(
      /disagree by 3\.5 times what their ± allows.*caliper again/s,
    );
  });
});
