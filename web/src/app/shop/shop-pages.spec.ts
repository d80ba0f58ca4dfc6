import { DEFAULT_RULES, type DevicesView, type ShopView } from '@tally-stone/contract';
import { TestBed } from '@angular/core/testing';
import { Session } from '../data/session';
import { Units } from '../data/units';
import { problem, Served } from '../../testing/served';
import { SPEC } from '../../testing/views';
import { BalancersPage } from './balancers-page';
import { DuePage } from './due-page';
import { Devices, deviceWords } from './devices';
import { GrindersPage } from './grinders-page';
import { GrindingPage } from './grinding-page';
import { JoinCode, joinAddress } from './join-code';
import { ShopMowers } from './shop-mowers';
import { PeoplePage } from './people-page';
import { ShopHome } from './shop-home';
import { SpecsPage } from './specs-page';
import { ThisShopPage } from './this-shop-page';

const PEOPLE = [
  { personId: 'a', name: 'Ash', role: 'technician', hasPin: true },
  { personId: 'b', name: 'Elm', role: 'crew', hasPin: false },
];
const SHOP: ShopView = {
  name: 'Wagtail Yard',
  timeZone: 'Europe/London',
  rules: DEFAULT_RULES,
  grinders: [],
  balancers: [{ balancerId: 'w', name: 'Window shaft', device: 'bearing-shaft' }],
  mats: [],
  checks: [],
};
const HEALTH = { status: 'ok', shop: 'Wagtail Yard', timeZone: 'Europe/London', blades: 0 };
const RECORD = {
  head: { sequence: 1, hash: 'ab' },
  folder: '/srv/backups',
  newest: { at: '2026-05-04T02:15:00Z', file: 'x.sqlite' },
  room: { freeMb: 90_000, low: false },
  old: false,
};
const accepted = { commandId: 'c', sequence: 1 };
const refusal = (field: string, words: string) => problem('/problems/invalid-input', words, field);

describe('when sets are due', () => {
  const due = async (byGrass: unknown) => {
    TestBed.resetTestingModule();
    return Served.open(DuePage, { '/api/v1/shop': SHOP, '/api/v1/grass': byGrass });
  };
  it('is set beside what the grass says of this shop’s edges, with its range', async () => {
    const none = await due({ looks: 0, byGround: [] });
    expect(none.text).not.toContain('What the grass says');
    const few = await due({ looks: 1, byGround: [] });
    expect(few.text).toContain('1 look at the grass so far: not enough yet');
    const edge = { hours: 9.1, low: 7.4, high: 12.2, looks: 14 };
    const told = await due({
      looks: 14,
      all: edge,
      byGround: [{ ...edge, hours: 5.7, turf: 'coarse', soil: 'loam' }],
    });
    expect(told.text).toContain('torn after 9.1 h (7.4 to 12.2; 14 looks). The rule above says');
    expect(told.text).toContain('On coarse turf and loam, as mown there');
    // The rule goes by where the edge is surely still good, whole hours.
    await told.click('Change sets after 7 h');
    expect((told.commands[0]?.['rules'] as typeof DEFAULT_RULES).interval).toEqual({
      kind: 'hours',
      hours: 7,
    });
  });
});

describe('the shop’s home', () => {
  const answers = {
    '/api/v1/people': PEOPLE,
    '/api/v1/shop': SHOP,
    '/api/v1/specs': [SPEC],
    '/api/v1/fleet': { mowers: [] },
    '/api/v1/record': RECORD,
  };
  it('says of each part how it stands, and opens what wants a hand first', async () => {
    const home = await Served.open(ShopHome, answers);
    expect(home.find('h1').textContent).toContain('People: 1 of 2 without a PIN');
    expect(home.find('.next-thing').getAttribute('href')).toBe('/shop/people');
    expect(home.text).toContain('1 shaft never calibrated');
    expect(home.text).toContain('Last copy 4 May');
    expect(home.element.querySelectorAll('.wants').length).toBe(3);
  });
  it('puts a disk that is nearly full before all else', async () => {
    const home = await Served.open(ShopHome, {
      ...answers,
      '/api/v1/record': { ...RECORD, room: { freeMb: 90, low: true } },
    });
    expect(home.find('h1').textContent).toContain('the disk is nearly full');
  });
  it('still opens the parts whose state it cannot tell', async () => {
    const home = await Served.open(ShopHome, { '/api/v1/people': PEOPLE });
    expect(home.element.querySelectorAll('ol a').length).toBe(10);
  });
});

describe('the people of a shop', () => {
  it('take the first person as whoever stands here', async () => {
    const page = await Served.open(PeoplePage, {
      '/api/v1/people': [],
      'POST add-person': accepted,
    });
    await page.click('Add a person');
    // What is typed next lands in the form, not in the keys of the page.
    expect(document.activeElement).toBe(page.find('form[aria-label="Another person"] input'));
    await page.click('Keep');
    expect(await page.wrongAt('Name')).toContain('is empty');
    expect(page.commands).toEqual([]);
    await page.enter('Name', 'Rowan');
    await page.pick('Work', 'manager');
    await page.click('Keep');
    const [command] = page.commands;
    expect(command).toEqual(jasmine.objectContaining({ name: 'Rowan', role: 'manager' }));
    expect(command?.['personId']).toBe(command?.['newPersonId']);
  });

  it('have a PIN set, changed with the one before, and a refusal stands at its field', async () => {
    const page = await Served.open(PeoplePage, {
      '/api/v1/people': PEOPLE,
      'POST set-pin': refusal('byPin', 'is not their PIN'),
    });
    await page.click('Set a PIN');
    expect(page.element.querySelectorAll('form[aria-label="PIN"] input').length).toBe(1);
    await page.click('Change the PIN');
    await page.enter('The PIN so far', '1111');
    await page.enter('New PIN for Ash', '24');
    await page.click('Keep the PIN');
    expect(await page.wrongAt('New PIN for Ash')).toContain('four to eight digits');
    await page.enter('New PIN for Ash', '2468');
    await page.click('Keep the PIN');
    expect(page.commands).toEqual([
      jasmine.objectContaining({ type: 'set-pin', ofPersonId: 'a', pin: '2468', byPin: '1111' }),
    ]);
    expect(await page.wrongAt('The PIN so far')).toContain('is not their PIN');
  });

  it('of the crew join by a code, where somebody has to sign in', async () => {
    const code = await Served.open(
      JoinCode,
      { '/api/v1/join-links': {}, 'POST ': { token: 'k3y', until: '2026-05-04T10:15:00Z' } },
      { person: PEOPLE[1] },
    );
    expect(code.text).toContain('until 10:15');
    expect(code.text).toContain(joinAddress(location.origin, 'k3y'));
    expect(joinAddress('https://shed.local', 'k3y')).toBe('https://shed.local/join#k3y');
    expect(code.find('canvas').getAttribute('aria-label')).toContain('/join#k3y');
  });

  it('see the devices they are signed in on, and end each but this one', async () => {
    const device = {
      deviceId: 'd1',
      name: 'Elm',
      device: 'Mozilla/5.0 (Linux; Android 14) Mobile',
      address: '10.0.0.8',
      since: '2026-05-04T08:00:00Z',
      seenAt: '2026-05-04T09:00:00Z',
      here: false,
    };
    const view: DevicesView = {
      devices: [device, { ...device, deviceId: 'd2', name: 'Ash', here: true }],
    };
    const page = await Served.open(Devices, {
      '/api/v1/devices': view,
      'POST ': { devices: view.devices.slice(1) },
    });
    expect(page.text).toContain('ElmAndroid phone, 10.0.0.8');
    expect(page.element.querySelectorAll('td button').length).toBe(1);
    await page.click('Sign out');
    expect(page.text).not.toContain('Elm');
    expect(deviceWords('Mozilla/5.0 (Windows NT 10.0; Win64)')).toBe('Windows');
    expect(deviceWords('curl')).toBe('Another device');
  });

  it('are listed without devices where nobody signs in', async () => {
    const page = await Served.open(PeoplePage, { '/api/v1/people': PEOPLE });
    expect(TestBed.inject(Session).locked()).toBeFalse();
    expect(page.element.querySelector('ts-devices')).toBeNull();
  });
});

describe('this shop', () => {
  it('keeps name and zone, and says at the field what is wrong with them', async () => {
    const page = await Served.open(ThisShopPage, {
      '/api/v1/health': HEALTH,
      '/api/v1/record': RECORD,
      'POST name-shop': refusal('name', 'is taken'),
    });
    expect(await page.valueOf('Name of the shop')).toBe('Wagtail Yard');
    await page.enter('Time zone', 'Nowhere');
    await page.click('Keep');
    expect(await page.wrongAt('Time zone')).toContain('is not a time zone');
    expect(page.commands).toEqual([]);
    await page.enter('Time zone', 'Pacific/Auckland');
    await page.click('Keep');
    expect(page.commands[0]?.['timeZone']).toBe('Pacific/Auckland');
    expect(await page.wrongAt('Name of the shop')).toContain('is taken');
  });
});

describe('how a shop grinds', () => {
  it('keeps its figures in any unit, and says at the field what cannot be', async () => {
    const page = await Served.open(GrindingPage, {
      '/api/v1/shop': SHOP,
      'POST set-rules': accepted,
    });
    await page.enter('Dull above a flat of', '1/64 in');
    await page.enter('Tip falls back at most', '-1');
    await page.click('Keep these figures');
    expect(await page.wrongAt('Tip falls back at most')).toBe('must not be negative');
    expect(page.commands).toEqual([]);
    await page.enter('Tip falls back at most', '0,9');
    await page.click('Keep these figures');
    const rules = page.commands[0]?.['rules'] as typeof DEFAULT_RULES;
    expect(rules.dullLandMm).toBeCloseTo(0.396875, 9);
    expect(rules.tipMostMm).toBe(0.9);
    expect(page.text).toContain('Kept.');
  });
  it('shows the same in inches once they are asked for', async () => {
    const page = await Served.open(GrindingPage, { '/api/v1/shop': SHOP });
    await page.enter('Tip square over its outer', '50.8');
    TestBed.inject(Units).toggle();
    await page.settle();
    expect(await page.valueOf('Tip square over its outer')).toBe('2');
  });
});

describe('grinders and balancers', () => {
  it('are added with what is on them, a wheel’s figures left empty for a belt', async () => {
    const page = await Served.open(GrindersPage, {
      '/api/v1/shop': SHOP,
      'POST add-grinder': accepted,
    });
    await page.click('Add a grinder');
    await page.enter('Name', 'Long belt');
    await page.enter('Wheel or belt on it', 'P60');
    await page.enter('Wheel marked for', '1e9');
    await page.click('Keep this grinder');
    expect(await page.wrongAt('Wheel marked for')).toContain('is more than');
    await page.enter('Wheel marked for', '');
    await page.pick('Kind', 'file');
    await page.click('Keep this grinder');
    expect(page.commands[0]?.['figures']).toEqual(
      jasmine.objectContaining({ name: 'Long belt', kind: 'file', counts: 'stroke' }),
    );
  });
  it('name a balancer before it is kept', async () => {
    const page = await Served.open(BalancersPage, {
      '/api/v1/shop': SHOP,
      'POST add-balancer': accepted,
    });
    expect(page.text).toContain('never calibrated');
    await page.click('Add a balancer');
    await page.click('Keep this balancer');
    expect(await page.wrongAt('Name')).toContain('is empty');
    await page.enter('Name', 'Door nail');
    await page.pick('Kind', /nail/i);
    await page.click('Keep this balancer');
    expect(page.commands[0]).toEqual(
      jasmine.objectContaining({ name: 'Door nail', device: 'nail' }),
    );
  });
});

describe('specs and mowers', () => {
  it('shows every spec with its limits and where each comes from', async () => {
    const page = await Served.open(SpecsPage, { '/api/v1/specs': [SPEC] });
    expect(page.text).toContain('Test 500');
    expect(page.text).toContain('maker: manual');
    expect(page.text).toContain('shop rule: tips level within 3 mm');
  });
  it('names every size that is wrong at its field, and keeps a spec in SI', async () => {
    const page = await Served.open(SpecsPage, { '/api/v1/specs': [], 'POST add-spec': accepted });
    await page.click('Add a spec');
    await page.click('Keep this spec');
    expect(await page.wrongAt('Length')).toContain('is empty');
    expect(page.commands).toEqual([]);
    const typed: Record<string, string> = {
      Name: 'New',
      Length: '20 1/2 in',
      Width: '2 1/2 in',
      Thickness: '1/4 in',
      Hole: '16',
      'Cutting edge': '100',
      'Mass when new': 'heavy',
      'Least, tip': '50',
      'Least, middle': '52',
      'Least, root': '1e9',
      'Where it says so': 'manual',
    };
    for (const [label, words] of Object.entries(typed)) await page.enter(label, words);
    await page.pick('Width limits from', 'the maker');
    await page.click('Keep this spec');
    expect(await page.wrongAt('Mass when new')).toContain('is not a number');
    expect(await page.wrongAt('Least, root')).not.toBe('');
    // What is wrong is marked on the drawing too: the leader of its limit.
    expect(page.element.querySelectorAll('ts-spec-sheet .leaders .wrong')).toHaveSize(1);
    await page.enter('Least, root', '64.5');
    expect(page.element.querySelectorAll('ts-spec-sheet .leaders .wrong')).toHaveSize(1);
    await page.enter('Mass when new', '1.5 kg');
    // A decimal point in the wrong place.
    await page.enter('Least, root', '5.4');
    expect(page.element.querySelectorAll('ts-spec-sheet .leaders .wrong')).toHaveSize(1);
    await page.enter('Least, root', '54');
    expect(page.element.querySelector('ts-spec-sheet .wrong')).toBeNull();
    // Drawn as typed, the inches too.
    const box = page.find('ts-spec-sheet ts-blade-drawing svg').getAttribute('viewBox');
    expect(Number(box?.split(' ')[2])).toBeCloseTo(520.7 + 28, 6);
    await page.click('Keep this spec');
    const figures = page.commands[0]?.['figures'] as typeof SPEC.figures;
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
  it('adds spindles by a touch, names them as usual until somebody does, and keeps them from the left', async () => {
    const page = await Served.open(ShopMowers, {
      '/api/v1/mowers': [],
      'POST add-mower': accepted,
    });
    const names = (): string[] =>
      [...page.element.querySelectorAll<HTMLInputElement>('ts-spindles input')].map(
        ({ value }) => value,
      );
    await page.click('Add a mower');
    await page.enter('Name', 'Yew');
    await page.enter('Where it works', 'North');
    await page.enter('Hour meter', '12,5');
    expect(names()).toEqual(['left', 'right']);
    await page.click('One more spindle');
    expect(names()).toEqual(['left', 'centre', 'right']);
    await page.enter('Spindle 2', 'middle');
    await page.click('One more spindle');
    expect(names()).toEqual(['left', 'middle', 'right', 'spindle 4']);
    page.find('[aria-label="Take away spindle 4"]').click();
    await page.settle();
    await page.enter('Spindle 1', '');
    await page.click('Keep this mower');
    expect(await page.wrongAt('Spindle 1')).not.toBe('');
    expect(page.commands).toEqual([]);
    await page.enter('Spindle 1', 'port');
    await page.click('Keep this mower');
    const spindles = page.commands[0]?.['spindles'] as { position: string }[];
    expect(spindles.map(({ position }) => position)).toEqual(['port', 'middle', 'right']);
    expect(page.commands[0]?.['hoursH']).toBe(12.5);
  });
});
