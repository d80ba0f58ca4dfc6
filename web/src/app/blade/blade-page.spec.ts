import { TestBed } from '@angular/core/testing';
import type { BladeView, MowerView } from '@tally-stone/contract';
import { fleetMower, fleetView } from '../../testing/fleet';
import { problem, Served } from '../../testing/served';
import { BLADE, SPEC } from '../../testing/views';
import { Blade } from './blade';
import { TrimForm } from './trim-blade';

const MOWERS: MowerView[] = [
  {
    mowerId: 'm',
    name: 'Heron',
    energy: 'diesel',
    site: 'Towpath',
    bladeSpeedRpm: 3000,
    hoursH: 120,
    spindles: [
      { spindleId: 's1', position: 'left', bladeId: 'other', code: '444CC' },
      { spindleId: 's2', position: 'right' },
    ],
  },
];

const gone = problem('/problems/not-found', 'There is no such blade.');

const life = (change: Partial<BladeView> = {}): BladeView => ({
  blade: { ...BLADE, state: 'ready' },
  spec: SPEC,
  lengthMm: 500,
  widths: { A: [{ radiusMm: 240, widthMm: 55 }], B: [{ radiusMm: 240, widthMm: 54 }] },
  cycles: [
    {
      cycleId: 'c1',
      openedAt: '2026-05-01T08:00:00Z',
      signedAt: '2026-05-01T09:00:00Z',
      signedBy: 'Ash',
      outcome: 'ready',
      tools: [{ name: 'Long belt', counts: 'pass', passes: { A: 7, B: 5 } }],
      removedG: { value: 8.2, u: 0.2 },
      recessionMm: { A: 0.6, B: 0.4 },
      bevelDeg: {},
      unbalanceBeforeGmm: 320,
      unbalanceAfterGmm: -60,
      permissibleGmm: 150,
      widthsMm: { 'A:tip': 55, 'B:tip': 54 },
      verdictWords: '',
    },
  ],
  marks: [],
  series: { 'wing:A': [{ cycle: 1, value: 4.8 }], mass: [{ cycle: 1, value: 1140 }] },
  timeline: [
    { at: '2026-04-01T08:00:00Z', kind: 'came', words: 'Registered as new' },
    {
      at: '2026-05-01T09:00:00Z',
      kind: 'ground',
      words: 'Ground, 12 passes, ready (Ash)',
      cycleId: 'c1',
    },
  ],
  cost: {
    currency: 'GBP',
    blade: 18,
    bench: 5.6,
    abrasive: 0.3,
    total: 23.9,
    hours: 42,
    perHour: 0.57,
  },
  forecast: {
    grinds: { median: 9, low: 7, high: 12, past: { held: 41, sooner: 5, later: 4, running: 30 } },
    hours: { median: 92, low: 74, high: 116, past: { held: 38, sooner: 8, later: 4, running: 30 } },
    guess: false,
    first: 'width:B:tip',
    firstWords: 'width at end B, tip',
    grindsAt: { 'width:B:tip': 9.4 },
  },
  fan: {
    'B:tip': [
      { grinds: 0, low: 54, median: 54, high: 54 },
      { grinds: 1, low: 53.1, median: 53.4, high: 53.7 },
    ],
  },
  left: [
    {
      id: 'width:B:tip',
      severity: 'fine',
      about: 'End B, tip',
      words: '',
      value: 54,
      limit: 48,
      unit: 'mm',
      margin: 6,
      source: 'maker: manual',
    },
  ],
  fits: [
    {
      mowerName: 'Heron',
      position: 'left',
      from: '2026-04-01T08:00:00Z',
      to: '2026-05-01T07:00:00Z',
      hoursH: 42,
    },
  ],
  damage: [],
  photos: [{ photoId: BLADE.bladeId, file: 'f.jpg' }],
  edges: [],
  ...change,
});

const open = (view: BladeView, more: Record<string, unknown> = {}) =>
  Served.open(
    Blade,
    { [`/api/v1/blades/${BLADE.bladeId}`]: view, '/api/v1/mowers': MOWERS, ...more },
    { bladeId: BLADE.bladeId },
  );

const openAnew = (view: BladeView) => {
  TestBed.resetTestingModule();
  return open(view);
};

describe('the blade’s page', () => {
  it('forecasts grinds and hours with their range, and which limit comes first', async () => {
    const page = await open(life());
    expect(page.text).toContain('9 (7 to 12) grinds left');
    expect(page.text).toContain('92 (74 to 116) mowing hours');
    expect(page.text).toContain('First comes width at end B, tip');
    expect(page.text).toContain(
      'Of 80 such forecasts of this shop’s past 41 held, 5 ended sooner, 4 later, and 30 still run.',
    );
    expect(page.element.querySelector('.fan-B path')).not.toBeNull();
  });

  it('says that a forecast is a guess, or that it was never tried', async () => {
    const known = life().forecast;
    if (!known) throw new Error('no forecast');
    const guess = await open(life({ forecast: { ...known, guess: true } }));
    expect(guess.text).toContain('not measured, and no promise');
    expect(guess.text).not.toContain('41 held');
    const grinds = { ...known.grinds, past: { held: 3, sooner: 1, later: 0, running: 90 } };
    const untried = await openAnew(life({ forecast: { ...known, grinds } }));
    expect(untried.text).toContain('too few of this shop’s blades came to their end');
  });

  it('lists its cycles with metal, recession per end, unbalance before and after', async () => {
    const page = await open(life());
    const cells = (selector: string): string[] =>
      [...page.element.querySelectorAll(`${selector} td`)].map(
        (cell) => cell.textContent?.replace(/\s+/g, ' ').trim() ?? '',
      );
    const cycle = cells('[aria-label="Cycles"] tbody');
    expect(cycle).toContain('8.2 g');
    expect(cycle).toContain('0.6 mm');
    expect(cycle).toContain('A 320 → B 60 of 150');
    expect(cells('[aria-label="What is left"] tbody')).toEqual([
      'End B, tipmaker: manual',
      '54.0 mm',
      '48.0 mm',
      '6.0 mm≈ 9 grinds',
    ]);
  });

  it('marks a width that is reckoned, and opens the chart where somebody read something', async () => {
    const { left, forecast } = life();
    if (!forecast) throw new Error('no forecast');
    const page = await open(
      life({
        left: left.map((finding) => ({ ...finding, carried: true })),
        widths: { A: [], B: [{ radiusMm: 240, widthMm: 54, worked: true }] },
        forecast: { ...forecast, first: 'wing:B', firstWords: 'the lift wing at end B' },
        series: {},
      }),
    );
    const cells = (of: HTMLElement): string[] =>
      [...of.querySelectorAll('[aria-label="What is left"] td')].map(
        (cell) => cell.textContent?.trim().replace(/\s+/g, ' ') ?? '',
      );
    expect(cells(page.element)[1]).toBe('≈ 54.0 mm');
    expect(page.find('ts-blade-drawing').textContent).toContain('≈ 54.0');
    expect(page.find('ts-width-chart [aria-checked="true"]').textContent).toContain('tip');
    const counted = { id: 'grinds', severity: 'fine', words: '', unit: 'grinds' } as const;
    const used = await openAnew(
      life({ left: [{ ...counted, value: 2, limit: 8, margin: 6, moreBefore: true }] }),
    );
    expect(cells(used.element).slice(1)).toEqual(['≥ 2 grinds', '8 grinds', '≤ 6 grinds']);
  });

  it('fans out from the last cycle, though an end was read before it', async () => {
    const [cycle] = life().cycles;
    if (!cycle) throw new Error('no cycle');
    const later = { ...cycle, cycleId: 'c2', widthsMm: { 'A:tip': 54.5 } };
    const page = await open(life({ cycles: [cycle, later] }));
    const startOf = (path: string): number =>
      Number(/^M([\d.]+)/.exec(page.find(path).getAttribute('d') ?? '')?.[1]);
    expect(startOf('.fan-B .likely')).toBeGreaterThan(startOf('.end-B path'));
  });

  it('says strokes of a file as strokes, tallied in tens', async () => {
    const [cycle] = life().cycles;
    const filed = cycle
      ? [{ ...cycle, tools: [{ counts: 'stroke' as const, passes: { A: 52, B: 9 } }] }]
      : [];
    const page = await open(life({ cycles: filed }));
    const row = page.find('[aria-label="Cycles"] tbody tr');
    expect(row.textContent).toContain('52 strokes');
    expect(row.querySelector('svg')?.getAttribute('aria-label')).toBe('52 strokes');
    expect(row.querySelector('path')?.getAttribute('d')?.split('M').slice(1)).toHaveSize(5);
  });

  it('tells what happened, newest first, what it cost, and when its set is due', async () => {
    const page = await open(
      life({
        blade: {
          ...BLADE,
          state: 'on-mower',
          mowerName: 'Heron',
          usedSince: '2026-04-01T08:00:00Z',
        },
        due: { state: 'now', because: 'strike', late: false, complaints: 0 },
      }),
    );
    const entries = [...page.element.querySelectorAll('.timeline li')].map((each) =>
      each.textContent?.replace(/\s+/g, ' ').trim(),
    );
    expect(entries[0]).toContain('Ground, 12 passes, ready (Ash)');
    expect(entries[1]).toContain('Registered as new');
    expect(page.text).toContain('£23.90, £0.57 an hour over 42 h');
    expect(page.text).toContain('came in used 1 Apr');
    expect(page.find('.due').textContent).toContain('due now');
  });

  it('maps damage along both edges, and frames what came back', async () => {
    const mark = (n: number, change: object) => ({
      damageId: `m${n}`,
      kind: 'nick' as const,
      end: 'A' as const,
      fromTipMm: 12,
      depthMm: 0.6,
      cycle: n,
      returns: false,
      ...change,
    });
    const page = await open(
      life({
        marks: [mark(1, {}), mark(2, { returns: true }), mark(3, { end: 'B', fromTipMm: 80 })],
      }),
    );
    expect(page.find('ts-nick-map svg').getAttribute('aria-label')).toBe(
      '3 marks over its life: 2 at end A, 1 at end B, 2 of them in the outer half; 1 came back at an old place.',
    );
    expect(page.element.querySelectorAll('ts-nick-map .mark.back').length).toBe(1);
  });

  it('shows wing and mass against their limits too', async () => {
    const page = await open(life());
    await page.click('wing');
    expect(page.find('ts-width-chart svg').getAttribute('aria-label')).toContain(
      'Wing over 1 cycle: end A 4.8 mm',
    );
    await page.click('mass');
    expect(page.find('ts-width-chart svg').getAttribute('aria-label')).toContain('1140 g');
  });

  it('fits a ready blade only on a free spindle', async () => {
    const page = await open(life(), { 'POST fit-blade': { commandId: 'x', sequence: 1 } });
    await page.click('Fitted');
    expect(await page.wrongAt('Fit on')).toContain('pick the spindle it goes on');
    expect(await page.optionsOf('Fit on')).toEqual(['Heron, right']);
    await page.pick('Fit on', 'Heron, right');
    await page.click('Fitted');
    expect(page.commands[0]).toEqual(
      jasmine.objectContaining({ type: 'fit-blade', spindleId: 's2', hoursH: 120 }),
    );
  });

  it('says why a fit is refused', async () => {
    const page = await open(life(), {
      'POST fit-blade': problem('/problems/invalid-input', 'the hour meter ran back', 'hoursH'),
    });
    await page.pick('Fit on', 'Heron, right');
    await page.click('Fitted');
    expect(await page.wrongAt('Hour meter')).toBe('the hour meter ran back');
  });

  it('brings a blade in from its mower', async () => {
    const page = await open(
      life({ blade: { ...BLADE, state: 'on-mower', mowerName: 'Heron', position: 'left' } }),
      {
        'POST bring-in': { commandId: 'x', sequence: 1 },
      },
    );
    await page.click('Bring it in');
    expect(page.commands[0]).toEqual(
      jasmine.objectContaining({ type: 'bring-in', place: 'Heap by Heron' }),
    );
  });

  it('says first what the bench finds now, and marks readings that are not signed off', async () => {
    const view = life();
    const atBench = life({
      blade: { ...BLADE, state: 'at-bench' },
      inHand: { cycleId: 'c2', verdict: 'retire', words: 'End B, tip: 47.2 mm wide, limit 48.0' },
      cycles: [
        ...view.cycles,
        {
          cycleId: 'c2',
          openedAt: '2026-06-01T08:00:00Z',
          tools: [],
          recessionMm: {},
          bevelDeg: {},
          widthsMm: { 'B:tip': 47.2 },
          verdictWords: '',
        },
      ],
    });
    const page = await open(atBench);
    const said = page.find('.in-hand').textContent?.replace(/\s+/g, ' ') ?? '';
    expect(said).toContain('Retire');
    expect(said).toContain('End B, tip: 47.2 mm wide, limit 48.0');
    expect(said).toContain('as last signed off');
    expect(page.element.querySelectorAll('.end-B .dot.unsigned').length).toBe(1);
    expect(page.find('.end-B text').textContent).toBe('end B, not signed');
    expect(page.find('.end-A text').textContent).toBe('end A');
    const signed = await openAnew(view);
    expect(signed.element.querySelector('.in-hand')).toBeNull();
    expect(signed.element.querySelector('.unsigned')).toBeNull();
  });

  it('offers nothing to do with a retired blade', async () => {
    const page = await open(life({ blade: { ...BLADE, state: 'retired' } }));
    expect(page.text).toContain('Never fitted again');
    expect(page.element.querySelector('.acts button')).toBeNull();
  });

  it('says that a blade is not there, and leads back to the bench', async () => {
    const page = await Served.open(
      Blade,
      { [`/api/v1/blades/${BLADE.bladeId}`]: gone, '/api/v1/mowers': MOWERS },
      { bladeId: BLADE.bladeId },
    );
    expect(page.find('h1').textContent).toBe('This blade cannot be shown');
    expect(page.text).toContain('There is no such blade.');
    expect(page.find<HTMLAnchorElement>('.empty a').getAttribute('href')).toBe('/');
    expect(page.text).not.toContain('Fetching');
  });

  it('has something to say about a blade without a cycle', async () => {
    const page = await open(
      life({ blade: { ...BLADE, state: 'new' }, cycles: [], left: [], fits: [] }),
    );
    expect(page.text).toContain('No cycle yet');
    expect(page.text).toContain('Nothing measured yet.');
  });

  describe('where the maker lets it be trimmed', () => {
    const trimmable = (change: Partial<BladeView> = {}): BladeView =>
      life({
        blade: { ...BLADE, state: 'ready', cycleId: undefined },
        spec: {
          ...SPEC,
          figures: {
            ...SPEC.figures,
            trimming: { leastLengthMm: 440, sourceText: 'service sheet' },
          },
        },
        ...change,
      });
    const FLEET = { '/api/v1/fleet': fleetView(fleetMower()) };
    // The page fetches the form when it is wanted; a test looks at the form itself.
    const form = (): Promise<Served<TrimForm>> =>
      Served.open(TrimForm, FLEET, { life: trimmable() });

    it('says at once what a length takes off, and which deck takes it', async () => {
      const page = await form();
      await page.enter('Trim it to', '452');
      // Spindles 440 apart with 10 mm overlap: at least 450. √((√(440² + 160²) − 6)² − 60²) = 458.28 at most.
      expect(page.text).toContain('24.0 mm off each end');
      expect(page.text).toContain('450.0 mm to 458.2 mm');
      expect(page.text).toContain('fits');
      await page.enter('Trim it to', '470');
      expect(page.text).not.toContain('fits');
      await page.enter('Trim it to', '430');
      expect(page.text).toContain('must be at least the 440 mm the maker allows');
    });

    it('records it once both halves are measured and the cut is said to be cold', async () => {
      const page = await form();
      await page.enter('Trim it to', '452');
      await page.enter('Hole centre to tip, end A', '226.3');
      await page.enter('Hole centre to tip, end B', '225.9');
      expect(page.text).toContain('End A is 0.4 mm longer');
      await page.click('Record the trimming');
      expect(page.commands).toEqual([]);
      expect(page.text).toContain('Tick it once it is so');
      await page.tick('Cut cold at both ends, square, and deburred');
      await page.click('Record the trimming');
      expect(page.commands[0]).toEqual(
        jasmine.objectContaining({
          type: 'trim-blade',
          toLengthMm: 452,
          halves: { A: { text: '226.3', unit: 'mm' }, B: { text: '225.9', unit: 'mm' } },
        }),
      );
    });

    it('offers it only then, and takes it back while nobody took the blade up', async () => {
      const page = await open(trimmable());
      expect(page.text).toContain('Trim to length');
      const trimmed = { trimId: BLADE.bladeId, fromMm: 500, toMm: 452, canTakeBack: true };
      const after = await openAnew(trimmable({ trimmed }));
      expect(after.text).toContain('Trimmed from 500.0 mm to');
      await after.click('It was not trimmed: take it back');
      expect(after.commands[0]?.['type']).toBe('take-back-trim');
      const not = await openAnew(life());
      expect(not.text).not.toContain('Trim to length');
    });
  });
});
