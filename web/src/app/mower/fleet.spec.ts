import { TestBed } from '@angular/core/testing';
import type { DueView, FleetView, SetOffer } from '@tally-stone/contract';
import { AWAY, Served, problem } from '../../testing/served';
import {
  BARE,
  deckBlade,
  deckView,
  DECK_ID,
  fleetMower,
  fleetView,
  MOWER_ID,
  SPINDLES,
} from '../../testing/fleet';
import { ChangeSet } from './change-set';
import { Crew } from '../crew/crew';
import { DeckDrawing } from './deck-drawing';
import { DeckForm } from './deck-form';
import { MowersPage } from '../mowers/mowers-page';
import { dueWords, fleetHeadline, safeWords } from './fleet-words';
import { MowerPage } from './mower-page';

const kept = { commandId: 'c', sequence: 1 };
const strike = {
  strikeId: '018f0000-0000-7000-8000-000000000501',
  what: 'stone',
  hard: 'hard',
  vibration: true,
  at: '2026-05-03T09:00:00Z',
  by: 'Ash',
  stopUse: true,
} as const;
const now: DueView = {
  state: 'now',
  because: 'strike',
  hoursLeft: 0,
  daysLeft: 0,
  late: false,
  complaints: 0,
};

describe('the words of the fleet', () => {
  it('say the reason first, then when', () => {
    expect(dueWords(now, true)).toBe('struck something: due now');
    expect(dueWords({ ...now, because: 'complaint', complaints: 2 }, true)).toBe(
      '2 poor cuts reported: due now',
    );
    const later = { ...now, state: 'later', because: 'hours' } as const;
    expect(dueWords({ ...later, daysLeft: 3.9 }, true)).toBe('due in 3 days');
    expect(dueWords({ ...later, daysLeft: undefined, hoursLeft: 6.2 }, true)).toBe(
      'due in 6 h of mowing',
    );
    expect(dueWords(undefined, false)).toBe('no set on');
    expect(dueWords({ ...now, state: 'unplanned', because: 'nothing' }, true)).toContain(
      'cut shows',
    );
  });
  it('answer in one line what is due, and what is out of use', () => {
    const struck = fleetMower({ due: now, strike });
    expect(fleetHeadline([struck])).toBe(
      'Out of use: Yew. One set is due now: Yew, struck something',
    );
    expect(fleetHeadline([fleetMower({ held: ['47KAX'] })])).toContain('Out of use: Yew.');
    expect(fleetHeadline([fleetMower()])).toBe('No set is due. Next: Yew, due in 2 days');
    expect(safeWords('on-stands', 'deck-off')).toContain('cannot roll over');
    expect(safeWords('on-stands', 'front-up')).toContain('never on a jack');
  });
});

describe('the deck drawing', () => {
  it('says in words what is on it and what is wrong, and marks the place', async () => {
    const fine = await Served.open(DeckDrawing, {}, { deck: deckView() });
    expect(fine.find('svg').getAttribute('aria-label')).toBe(
      'Deck from above: left 44A40, right 44A41; all clear',
    );
    expect(fine.text).toContain('clear 8 mm, overlap 17 mm');
    expect(fine.element.querySelector('.bad')).toBeNull();
  });
  it('shows a clash, an empty spindle, and that a deck is not measured', async () => {
    const pairs = [{ left: 0, right: 1, neighbours: true, clearanceMm: 2, overlapMm: 17 }];
    const page = await Served.open(
      DeckDrawing,
      {},
      { deck: deckView({ pairs, faults: ['left and right come 4.0 mm too near'] }) },
    );
    expect(page.find('.bad').textContent).toContain('clear 2 mm');
    page.fixture.componentRef.setInput(
      'deck',
      deckView({ ...BARE, figures: undefined, pairs: [] }),
    );
    await page.settle();
    expect(page.find('svg').getAttribute('aria-label')).toContain(
      'left empty, right empty; not measured',
    );
    expect(page.element.querySelectorAll('.sweep.empty').length).toBe(2);
  });
});

describe('the mowers', () => {
  const open = (view: FleetView) => Served.open(MowersPage, { '/api/v1/fleet': view });
  it('stand soonest due first with the answer above them, and the bench days below', async () => {
    const page = await open(
      fleetView(
        fleetMower({ due: now, strike }),
        fleetMower({}, { mowerId: SPINDLES[0], name: 'Lark' }),
      ),
    );
    expect(page.find('h1').textContent).toContain('One set is due now: Yew');
    expect(page.text).toContain('out of use, it struck a stone; struck something: due now');
    expect(page.text).toContain(
      '6.0 h on the edge · bench 5 May · 3 of its blades ready in the rack',
    );
    expect(page.text).toContain('2 of 12 blades');
    expect(page.element.querySelectorAll('li.now').length).toBe(1);
  });
  it('an empty fleet says what to do first', async () => {
    const page = await open(fleetView());
    expect(page.text).toContain('No mower yet');
    expect(page.text).toContain('Add the first mower');
  });
});

describe('one mower', () => {
  it('gives the torque as the manual does and in every other unit, and its tip speed with the limit', async () => {
    const page = await Served.open(
      MowerPage,
      { '/api/v1/fleet': fleetView(fleetMower()) },
      { mowerId: MOWER_ID },
    );
    expect(page.text).toContain("40 lbf·ft, the manual's54.2 N·m · 480 lbf·in · 5.5 kgf·m");
    expect(page.text).toContain('79.6 m/sat most 96.5 m/s');
  });
  it('is not run while a blade on it is on hold, and says which', async () => {
    const page = await Served.open(
      MowerPage,
      { '/api/v1/fleet': fleetView(fleetMower({ held: ['47KAX'] })) },
      { mowerId: MOWER_ID },
    );
    expect(page.text).toContain('Nobody runs it.');
    expect(page.text).toContain('47KAX on it is on hold since a reading was corrected');
  });

  it('stays out of use while it is not sound, and comes back when it is', async () => {
    const page = await Served.open(
      MowerPage,
      {
        '/api/v1/fleet': fleetView(fleetMower({ strike, due: now })),
        'POST clear-strike': problem('/problems/invalid-input', 'is not so', 'spindleSound'),
      },
      { mowerId: MOWER_ID },
    );
    expect(page.text).toContain('Nobody runs it before blades, spindle and mount are looked at');
    await page.click('Not sound');
    expect(page.commands.at(-1)).toEqual(
      jasmine.objectContaining({ type: 'clear-strike', spindleSound: false, mountSound: false }),
    );
    expect(page.text).toContain('Then it stays out of use');
  });
});

describe('the deck form', () => {
  const open = (more: Record<string, unknown> = { 'POST set-deck': kept }) =>
    Served.open(
      DeckForm,
      { '/api/v1/specs': [], '/api/v1/fleet': fleetView(fleetMower()), ...more },
      { deck: deckView() },
    );
  it('starts from what stands, and keeps spacing and stagger from spindle to spindle', async () => {
    const page = await open();
    await page.enter('Across from left', '445');
    await page.enter('Ahead of left', '-150');
    await page.click('Keep the deck');
    const sent = page.commands.find(({ type }) => type === 'set-deck') as unknown as {
      figures: { spindles: unknown[]; stack: string[]; boltTorque: unknown };
    };
    expect(sent.figures.spindles).toEqual([
      { spindleId: SPINDLES[0], acrossMm: 0, aheadMm: 0 },
      { spindleId: SPINDLES[1], acrossMm: 445, aheadMm: -150 },
    ]);
    expect(sent.figures.boltTorque).toEqual({ text: '40', unit: 'lbf·ft' });
    expect(sent.figures.stack).toEqual(['wave washer']);
  });
  it('lays washers and spacers on the bolt by a touch, drawn in their order', async () => {
    const page = await open();
    const drawn = (): string | null => page.find('ts-bolt-stack svg').getAttribute('aria-label');
    expect(drawn()).toBe('Spindle, wave washer, blade, bolt');
    await page.click('+ spacer');
    await page.enter('Part 2', 'spacer 5 mm');
    await page.click('+ cup washer');
    expect(drawn()).toBe('Spindle, wave washer, spacer 5 mm, cup washer, blade, bolt');
    // A dished washer is no flat one.
    expect(page.element.querySelectorAll('ts-bolt-stack path.part')).toHaveSize(2);
    page.find('[aria-label="Take away part 1"]').click();
    await page.enter('Part 2', ' ');
    await page.click('Keep the deck');
    expect(await page.wrongAt('Part 2')).not.toBe('');
    expect(page.commands.filter(({ type }) => type === 'set-deck')).toEqual([]);
    await page.enter('Part 2', 'cup washer');
    await page.click('Keep the deck');
    const sent = page.commands.find(({ type }) => type === 'set-deck') as unknown as {
      figures: { stack: string[] };
    };
    expect(sent.figures.stack).toEqual(['spacer 5 mm', 'cup washer']);
  });
  it('draws the deck as it is typed, and marks the dimension whose blades come too near', async () => {
    const page = await open();
    const between = (): string =>
      page.find('ts-deck-drawing .bad text, ts-deck-drawing g:not(.bad) > line + text').textContent;
    const wrong = (): number => page.element.querySelectorAll('.line.wrong').length;
    await page.enter('Across from left', '445');
    const wide = Number(/clear (-?\d+)/.exec(between())?.[1]);
    expect(wrong()).toBe(0);
    await page.enter('Across from left', '420');
    const near = Number(/clear (-?\d+)/.exec(between())?.[1]);
    expect(near).toBeLessThan(wide);
    expect(wrong()).toBe(1);
    // One that cannot be read is marked too.
    await page.enter('Across from left', 'wide');
    expect(wrong()).toBe(1);
    // Its field keeps its place, also while no more than a first digit is typed.
    const widthOf = (): string => page.find('.gap').style.getPropertyValue('--to');
    const [from] = [page.find('.gap').style.getPropertyValue('--from')];
    expect(parseFloat(widthOf()) - parseFloat(from)).toBeGreaterThan(20);
    for (const figure of ['4', '99999']) {
      await page.enter('Across from left', figure);
      expect(parseFloat(widthOf()) - parseFloat(from)).toBeGreaterThan(20);
    }
    await page.enter('Ahead of left', '90000');
    expect(parseFloat(widthOf()) - parseFloat(from)).toBeGreaterThan(20);
    await page.enter('Clear by at least', '-5');
    await page.click('Keep the deck');
    expect(await page.wrongAt('Clear by at least')).toContain('must not be negative');
    expect(page.commands).toEqual([]);
  });
  it('names what cannot be read and keeps it; says by how much blades clash', async () => {
    const page = await open({
      'POST set-deck': problem(
        '/problems/invalid-input',
        'does not fit this deck: new blades at left and right come 9.0 mm too near',
        'figures.specId',
      ),
    });
    await page.enter('Across from left', 'wide');
    await page.click('Keep the deck');
    expect(await page.wrongAt('Across from left')).toContain('is not a number');
    expect(await page.valueOf('Across from left')).toBe('wide');
    await page.enter('Across from left', '400');
    await page.click('Keep the deck');
    expect(await page.wrongAt('Blades it takes')).toContain('come 9.0 mm too near');
  });
});

describe('changing the set', () => {
  const offer: SetOffer = {
    blades: [deckBlade(5, '47AAA'), deckBlade(6, '47CCC')],
    worst: 0.1,
    over: [],
    spread: { lengthMm: 0, widthMm: 0.2, massG: 3 },
    faults: [],
  };
  const open = (mower = fleetMower(), more: Record<string, unknown> = {}) =>
    Served.open(
      ChangeSet,
      {
        '/api/v1/fleet': fleetView(mower),
        [`/api/v1/decks/${DECK_ID}/offer`]: offer,
        'POST pull-set': kept,
        'POST note-upkeep': kept,
        'POST fit-set': kept,
        'POST clear-strike': kept,
        ...more,
      },
      { mowerId: MOWER_ID },
    );
  const tickAll = async (page: Served<ChangeSet>): Promise<void> => {
    for (const box of page.element.querySelectorAll<HTMLInputElement>('input[type=checkbox]')) {
      if (!box.checked) box.click();
    }
    await page.settle();
  };
  const sent = (page: Served<ChangeSet>, type: string) =>
    page.commands.find((command) => command['type'] === type);

  it('goes hand over hand: safe, meter, off, on with torque', async () => {
    const page = await open();
    expect(page.button('All done').disabled).toBeTrue();
    await tickAll(page);
    await page.click('All done');
    // Typing goes where it is wanted, without a hunt for the field.
    expect(document.activeElement).toBe(page.find('input'));
    await page.click('Go on');
    expect(await page.wrongAt('The meter shows')).toContain('is empty');
    await page.enter('The meter shows', '108,5');
    await page.click('Go on');
    await page.pick('bolt at right', 'worn');
    await page.click('The set is off');
    expect(sent(page, 'pull-set')).toEqual(
      jasmine.objectContaining({
        hoursH: 108.5,
        place: 'Heap by Yew',
        found: [
          { spindleId: SPINDLES[0], bolt: 'sound', mount: 'sound' },
          { spindleId: SPINDLES[1], bolt: 'worn', mount: 'sound' },
        ],
      }),
    );
    // While they are off somebody looks: what it wants has to be said, what was not looked at is not.
    expect(page.find('h1').textContent).toContain('while the blades are off');
    expect(document.activeElement).toBe(page.find('h1'));
    expect(page.text).toContain('wants work: frayed at one edge');
    const chosen = async (of: string, words: string): Promise<void> => {
      const row = page.find(`[aria-label^="${of}"]`);
      [...row.querySelectorAll('button')]
        .find((each) => each.textContent?.includes(words))
        ?.click();
      await page.settle();
    };
    await chosen('Deck', 'Wants work');
    await page.click('Go on');
    expect(await page.wrongAt('What it wants')).toContain('is empty: say what it wants');
    await chosen('Deck', 'Scraped');
    await chosen('Belt', 'Changed');
    await page.click('Go on');
    expect(sent(page, 'note-upkeep')?.['looked']).toEqual([
      jasmine.objectContaining({ kind: 'deck', found: 'done' }),
      jasmine.objectContaining({ kind: 'belt', found: 'done' }),
    ]);
    expect(page.text).toContain('The most alike of the rack, apart by at most 0.0 mm in length');
    expect(page.text).toContain("Bolts to 40 lbf·ft, the manual's figure");
    expect(page.button('The set is on').disabled).toBeTrue();
    await tickAll(page);
    await page.click('The set is on');
    expect(sent(page, 'fit-set')).toEqual(
      jasmine.objectContaining({
        torqued: true,
        blades: [
          jasmine.objectContaining({ spindleId: SPINDLES[0], bladeId: offer.blades[0]?.bladeId }),
          jasmine.objectContaining({ spindleId: SPINDLES[1], bladeId: offer.blades[1]?.bladeId }),
        ],
      }),
    );
    expect(page.text).toContain('the set is on');
  });

  it('takes the next set by scan or by code; a wrong blade is refused on the spot, by how much', async () => {
    const path = `/api/v1/decks/${DECK_ID}/offer`;
    const page = await open(fleetMower(), {
      [`${path}?with=47CCC`]: { ...offer, blades: [...offer.blades].reverse() },
      [`${path}?with=47CCC,47LNG`]: problem(
        '/problems/invalid-input',
        '47LNG is a Long 500: 12\u00a0mm too long',
        'with',
      ),
    });
    await tickAll(page);
    await page.click('All done');
    await page.enter('The meter shows', '108');
    await page.click('Go on');
    await page.click('The set is off');
    await page.click('Go on');
    page.lines.next('scanner 1.00 47CCC');
    await page.settle();
    expect(page.text).toContain('47CCC picked');
    expect(page.text).toContain('With those you picked, the most alike of the rack');
    await page.enter('Scan a blade, or type its code', '47lng');
    await page.click('Take it');
    expect(await page.wrongAt('Scan a blade, or type its code')).toBe(
      '47LNG is a Long 500: 12 mm too long',
    );
    await tickAll(page);
    await page.click('The set is on');
    expect(sent(page, 'fit-set')?.['blades']).toEqual([
      jasmine.objectContaining({ spindleId: SPINDLES[0], bladeId: offer.blades[1]?.bladeId }),
      jasmine.objectContaining({ spindleId: SPINDLES[1], bladeId: offer.blades[0]?.bladeId }),
    ]);
  });

  it('looks at the meter as it is read: less than last time wants a reason, before a blade comes off', async () => {
    const page = await open(fleetMower(), { 'POST read-hours': kept });
    await tickAll(page);
    await page.click('All done');
    await page.enter('The meter shows', '90');
    await page.click('Go on');
    expect(page.find('h1').textContent).toContain('read the meter');
    expect(await page.wrongAt('The meter shows')).toContain('is less than last time');
    expect(await page.valueOf('The meter shows')).toBe('90');
    expect(page.commands).toEqual([]);
    await page.click('New meter');
    await page.click('Go on');
    expect(sent(page, 'read-hours')).toEqual(
      jasmine.objectContaining({ hoursH: 90, because: 'new-meter' }),
    );
    expect(page.find('h1').textContent).toContain('the set comes off');
  });

  it('leads back to the meter when the server refuses its reading, and keeps what was typed', async () => {
    const page = await open(fleetMower(), {
      'POST pull-set': problem('/problems/invalid-input', 'is too far ahead', 'hoursH'),
    });
    await tickAll(page);
    await page.click('All done');
    await page.enter('The meter shows', '9000');
    await page.click('Go on');
    await page.click('The set is off');
    expect(page.find('h1').textContent).toContain('read the meter');
    expect(await page.wrongAt('The meter shows')).toContain('is too far ahead');
    expect(await page.valueOf('The meter shows')).toBe('9000');
  });

  it('presets nothing after a strike, and keeps a mower stopped whose spindle is not sound', async () => {
    const page = await open(fleetMower({ strike }));
    await tickAll(page);
    await page.click('All done');
    await page.enter('The meter shows', '106');
    await page.click('Go on');
    await page.click('The set is off');
    expect(page.find('[role=alert]').textContent).toContain('Look at bolt and mount of left first');
    for (const place of ['left', 'right'])
      for (const part of ['bolt', 'mount']) await page.pick(`${part} at ${place}`, 'worn');
    await page.click('The set is off');
    await page.click('Go on');
    await page.click('Not sound: it stays out of use');
    expect(page.text).toContain('Yew stays out of use.');
    expect(sent(page, 'clear-strike')).toBeUndefined();
  });

  it('has spindle and mount looked at first after a strike, and says why there is no set', async () => {
    const page = await open(fleetMower({ ...BARE, strike }), {
      [`/api/v1/decks/${DECK_ID}/offer`]: { ...offer, blades: [], refused: '2 short of a set' },
    });
    await tickAll(page);
    await page.click('All done');
    await page.enter('The meter shows', '106');
    await page.click('Go on');
    expect(page.text).toContain('Turn each spindle by hand');
    await page.click('Spindles run true');
    expect(sent(page, 'clear-strike')).toEqual(jasmine.objectContaining({ spindleSound: true }));
    expect(page.find('[role=alert]').textContent).toContain('2 short of a set');
  });
});

describe('from the crew', () => {
  const open = (more: Record<string, unknown> = {}, mower = fleetMower()) =>
    Served.open(Crew, { '/api/v1/fleet': fleetView(mower), ...more });

  it('shows which set is on and which is ready', async () => {
    const page = await open();
    expect(page.text).toContain('On it: left 44A40, right 44A41. 6.0 h on the edge, due in 2 days');
    expect(page.text).toContain('One set is ready in the rack');
  });
  it('reports a strike, and says to stop after a hard one', async () => {
    const page = await open({ 'POST report-strike': kept });
    await page.click('It struck something');
    expect(page.button('Report the strike').disabled).toBeTrue();
    await page.click('a kerb or edging');
    await page.click('A hard knock');
    page.find('input[type=checkbox]').click();
    await page.click('Report the strike');
    expect(page.commands.at(-1)).toEqual(
      jasmine.objectContaining({ what: 'kerb-or-edging', hard: 'hard', vibration: true }),
    );
    expect(page.text).toContain('Stop: do not run it');
  });
  it('keeps a strike on the phone where there is no signal, and still says to stop', async () => {
    const page = await open({ 'POST report-strike': AWAY });
    await page.click('It struck something');
    await page.click('A hard knock');
    await page.click('Report the strike');
    expect(page.find('.said').textContent).toContain('No signal: kept on this phone');
    expect(page.find('.said').textContent).toContain('Stop: do not run it');
    expect(page.element.querySelector('.bad')).toBeNull();
  });
  it('reports what the grass shows', async () => {
    const page = await open({ 'POST report-cut': kept });
    await page.click('The cut is poor');
    await page.click('Torn tips');
    await page.click('Cuts in steps');
    await page.click('Torn tips');
    await page.click('Report the cut');
    expect(page.commands.at(-1)).toEqual(jasmine.objectContaining({ signs: ['steps'] }));
  });
  it('asks why a meter shows less, and keeps what was typed when it is refused', async () => {
    const page = await open({
      'POST read-hours': problem(
        '/problems/invalid-input',
        'is less than the 106 h last read',
        'hoursH',
      ),
    });
    await page.click('Enter the hours');
    await page.enter('The meter shows', 'many');
    await page.click('Keep the hours');
    expect(await page.wrongAt('The meter shows')).toContain('is not a number');
    await page.enter('The meter shows', '12');
    expect(page.text).toContain('That is less than last time. Why?');
    await page.click('Keep the hours');
    expect(await page.wrongAt('The meter shows')).toContain('less than the 106 h');
    await page.click('New meter');
    await page.click('Keep the hours');
    expect(page.commands.at(-1)).toEqual(
      jasmine.objectContaining({ type: 'read-hours', hoursH: 12, because: 'new-meter' }),
    );
    expect(await page.valueOf('The meter shows')).toBe('12');
  });
  it('says in red that a mower is out of use', async () => {
    const page = await open({}, fleetMower({ strike }));
    expect(page.find('[role=alert]').textContent).toContain('Do not run Yew');
    TestBed.resetTestingModule();
    const held = await open({}, fleetMower({ held: ['47KAX', '47KBT'] }));
    expect(held.find('[role=alert]').textContent).toContain('47KAX and 47KBT on it are on hold');
    // What wants work, and what is looked at with the next set, the crew knows too.
    expect(held.text).toContain('Wants work. Belt: frayed at one edge');
    expect(held.text).toContain('With the next set: deck.');
  });
});
