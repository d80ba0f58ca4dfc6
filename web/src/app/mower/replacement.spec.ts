import { deckBlade, fleetMower, fleetView, SPINDLES } from '../../testing/fleet';
import { Served } from '../../testing/served';
import { Replacement } from './replacement';

const broken = fleetMower({
  spindles: [
    { spindleId: SPINDLES[0], position: 'left', blade: deckBlade(0, '44A40') },
    { spindleId: SPINDLES[1], position: 'right' },
  ],
});
const offer = (change: object = {}) => ({
  blades: [deckBlade(5, '47KMT')],
  worst: 0.4,
  over: [],
  spread: { lengthMm: 1, widthMm: 1.2, massG: 9 },
  faults: [],
  ...change,
});
const open = (found: object) =>
  Served.open(
    Replacement,
    {
      [`/api/v1/decks/${broken.deck.deckId}/replacement`]: found,
      'POST fit-blade': { commandId: 'c', sequence: 1 },
      '/api/v1/fleet': fleetView(broken),
    },
    { mower: broken },
  );

describe('a set with a blade missing', () => {
  it('is offered its best match, how alike the whole set is then, and fitted once made safe', async () => {
    const page = await open(offer());
    expect(page.find('h2').textContent).toContain('right without a blade');
    expect(page.text).toContain('47KMT for right.');
    expect(page.text).toContain('The whole set is then apart by 1.0 mm in length');
    expect(page.button('It is on').disabled).toBeTrue();
    page.find<HTMLInputElement>('input[type=checkbox]').click();
    await page.settle();
    await page.click('It is on');
    expect(page.commands.at(-1)).toEqual(
      jasmine.objectContaining({ type: 'fit-blade', spindleId: SPINDLES[1], hoursH: 106 }),
    );
  });
  it('says when even the best does not match, and when there is none', async () => {
    const odd = await open(offer({ over: ['widthMm'], oddCode: '47KMT' }));
    expect(odd.text).toContain('may cut in steps or shake. 47KMT is the odd one');
  });
  it('says how many are short where the rack has none', async () => {
    const page = await open(offer({ blades: [], refused: '1 short of a set: 0 of 1 ready.' }));
    expect(page.text).toContain('1 short of a set');
  });
});
