import type { BladeList } from '@tally-stone/contract';
import { problem, Served } from '../../testing/served';
import { BLADE, SPEC } from '../../testing/views';
import { FindBlade } from '../bench/find-blade';
import { ShopPage } from './shop-page';

const SHOP = {
  '/api/people': [],
  '/api/health': { status: 'ok', shop: 'Wagtail Yard', timeZone: 'Europe/London', blades: 0 },
  '/api/specs': [SPEC],
  '/api/mowers': [],
};
const accepted = { commandId: 'c', sequence: 1 };

describe('the shop', () => {
  it('shows every spec with its limits and where each comes from', async () => {
    const shop = await Served.open(ShopPage, SHOP);
    expect(shop.text).toContain('Test 500');
    expect(shop.text).toContain('maker: manual');
    expect(shop.text).toContain('shop rule: tips level within 3 mm');
  });

  it('takes the first person as whoever stands here', async () => {
    const shop = await Served.open(ShopPage, { ...SHOP, 'POST add-person': accepted });
    await shop.click('Add a person');
    await shop.type('[aria-label="People"] input', 'Rowan');
    shop.find('[aria-label="People"] form button').click();
    await shop.settle();
    const [command] = shop.commands.filter(({ type }) => type === 'add-person');
    expect(command?.['name']).toBe('Rowan');
    expect(command?.['personId']).toBe(command?.['newPersonId']);
  });

  it('sets a PIN, and asks for the one that stands before it is changed', async () => {
    const people = [
      { personId: 'a', name: 'Ash', role: 'technician', hasPin: true },
      { personId: 'b', name: 'Elm', role: 'crew', hasPin: false },
    ];
    const shop = await Served.open(ShopPage, {
      ...SHOP,
      '/api/people': people,
      'POST set-pin': problem('/problems/invalid-input', 'is not their PIN', 'byPin'),
    });
    await shop.click('Set a PIN');
    expect(shop.element.querySelectorAll('form[aria-label="PIN"] input').length).toBe(1);
    await shop.click('Change the PIN');
    await shop.type('input[formControlName="byPin"]', '1111');
    await shop.type('input[formControlName="pin"]', '2468');
    await shop.click('Keep the PIN');
    expect(shop.commands.at(-1)).toEqual(
      jasmine.objectContaining({ type: 'set-pin', ofPersonId: 'a', pin: '2468', byPin: '1111' }),
    );
    expect(shop.text).toContain('The PIN that stands now is not their PIN');
  });

  it('keeps the name and the time zone, and says what is wrong with them', async () => {
    const shop = await Served.open(ShopPage, {
      ...SHOP,
      'POST name-shop': problem('/problems/invalid-input', 'is not a time zone', 'timeZone'),
    });
    const form = shop.find('[aria-label="Name and time zone"]');
    expect(form.querySelector('input')?.value).toBe('Wagtail Yard');
    form.querySelector('button')?.click();
    await shop.settle();
    expect(shop.text).toContain('timeZone is not a time zone');
  });

  it('reads spindles from left to right out of one line', async () => {
    const shop = await Served.open(ShopPage, { ...SHOP, 'POST add-mower': accepted });
    await shop.click('Add a mower');
    await shop.type('input[formControlName="positions"]', 'left, , centre ,right');
    await shop.click('Keep this mower');
    const spindles = shop.commands[0]?.['spindles'] as { position: string }[];
    expect(spindles.map(({ position }) => position)).toEqual(['left', 'centre', 'right']);
  });

  it('names a size that is not a number before anything is sent', async () => {
    const shop = await Served.open(ShopPage, SHOP);
    await shop.click('Add a spec');
    await shop.click('Keep this spec');
    expect(shop.text).toContain('Length is empty');
    expect(shop.commands).toEqual([]);
  });
});

describe('finding a blade without its code', () => {
  const found: BladeList = { blades: [BLADE], total: 1 };
  const later = () => new Promise((next) => setTimeout(next, 250));

  it('asks by mower, place and size, and hands on the one that is picked', async () => {
    const finder = await Served.open(FindBlade, { '/api/mowers': [], '/api/blades': found });
    let picked = '';
    finder.fixture.componentInstance.found.subscribe(({ code }) => (picked = code));
    await later();
    await finder.settle();
    expect(finder.text).toContain('Blades that fit: 1');
    finder.find('.found button').click();
    expect(picked).toBe('4447M');
  });

  it('says what is wrong with a length and still looks by the rest', async () => {
    const finder = await Served.open(FindBlade, {
      '/api/mowers': [],
      '/api/blades': { blades: [], total: 0 },
    });
    await finder.type('input[formControlName="length"]', 'long');
    await later();
    await finder.settle();
    expect(finder.text).toContain('Length is not a number');
    expect(finder.text).toContain('No blade fits.');
  });
});
