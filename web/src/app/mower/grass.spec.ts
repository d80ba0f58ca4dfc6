import type { GrassLookView } from '@tally-stone/contract';
import { MOWER_ID } from '../../testing/fleet';
import { AWAY, Served } from '../../testing/served';
import { Grass } from './grass';
import { GrassLookForm } from './grass-look';

const kept = { commandId: 'c', sequence: 1 };
const look = (change: Partial<GrassLookView> = {}): GrassLookView => ({
  lookId: '018f0000-0000-7000-8000-000000000601',
  at: '2026-05-03T09:00:00Z',
  by: 'Ash',
  fittedAt: '2026-05-01T08:00:00Z',
  hoursOnEdge: 6,
  tips: [],
  torn: 3,
  clean: 21,
  share: { share: 0.125, low: 0.043, high: 0.31 },
  ...change,
});
const before = look({
  lookId: '018f0000-0000-7000-8000-000000000602',
  fittedAt: '2026-04-10T08:00:00Z',
  hoursOnEdge: 11.5,
  share: { share: 0.5, low: 0.31, high: 0.69 },
});

describe('grass under the glass', () => {
  const form = (answers: Record<string, unknown> = { 'POST look-at-grass': kept }) =>
    Served.open(GrassLookForm, answers, { mowerId: MOWER_ID });
  /** A picture with nothing on it, put in as a camera does. */
  async function takePicture(page: Served<GrassLookForm>, of?: Blob): Promise<void> {
    const canvas = document.createElement('canvas');
    [canvas.width, canvas.height] = [400, 200];
    const blob = await new Promise<Blob | null>((done) => {
      canvas.toBlob(done, 'image/jpeg');
    });
    const field = page.find<HTMLInputElement>('input[type="file"]');
    const files = new DataTransfer();
    files.items.add(new File([of ?? blob ?? ''], 'tips.jpg', { type: 'image/jpeg' }));
    field.files = files.files;
    field.dispatchEvent(new Event('change'));
    await page.settle();
    await new Promise((later) => setTimeout(later, 100));
    await page.settle();
  }
  async function touch(page: Served<GrassLookForm>, x: number, y: number): Promise<void> {
    const canvas = page.find<HTMLCanvasElement>('canvas');
    const box = canvas.getBoundingClientRect();
    const at = { clientX: box.left + x * box.width, clientY: box.top + y * box.height };
    canvas.dispatchEvent(new MouseEvent('click', { ...at, bubbles: true }));
    await page.settle();
  }

  it('counts what is touched, keeps where, and sends the picture first', async () => {
    const page = await form({
      'POST look-at-grass': kept,
      'POST /api/v1/photos': { file: 'abc.jpg' },
    });
    await takePicture(page);
    await touch(page, 0.25, 0.5);
    await page.click('Touch the clean ones');
    for (const x of [0.4, 0.5, 0.6, 0.7, 0.9]) await touch(page, x, 0.5);
    page.find('[aria-label^="Clean tip 6"]').click();
    await page.settle();
    expect([await page.valueOf('Torn tips'), await page.valueOf('Clean tips')]).toEqual(['1', '4']);
    expect(page.text).toContain('20 % torn (4 to 62) of 5 tips: the more tips, the narrower.');
    await page.enter('Hour meter', '212,5');
    await page.click('Keep what the grass shows');
    const sent = page.commands.find((each) => each['type'] === 'look-at-grass');
    expect(sent).toEqual(jasmine.objectContaining({ file: 'abc.jpg', hoursH: 212.5 }));
    const { tips, torn } = sent?.['seen'] as { tips: { x: number; torn: boolean }[]; torn: number };
    expect([tips.length, torn, tips[0]?.torn]).toEqual([5, 1, true]);
    expect(tips[0]?.x).toBeCloseTo(0.25, 1);
  });

  it('takes counts without a picture, says too few at the field, and keeps them without a signal', async () => {
    const page = await form({ 'POST look-at-grass': AWAY });
    let said = '';
    page.fixture.componentInstance.kept.subscribe((words) => (said = words));
    await page.enter('Torn tips', '1');
    await page.enter('Clean tips', '2');
    await page.click('Keep what the grass shows');
    expect(await page.wrongAt('Clean tips')).toContain('look at 5 tips at least');
    await page.enter('Clean tips', '1e9');
    await page.click('Keep what the grass shows');
    expect(await page.wrongAt('Clean tips')).toContain('more than 300');
    expect(page.commands).toEqual([]);
    await page.enter('Clean tips', '19');
    await page.click('Keep what the grass shows');
    await new Promise((later) => setTimeout(later, 50));
    expect(said).toContain('No signal');
  });

  it('says of what is no picture that it is none, and keeps the counts open', async () => {
    const page = await form();
    await takePicture(page, new Blob(['none']));
    expect(page.text).toContain('not a picture that can be shown here');
    expect(page.element.querySelector('canvas')).toBeNull();
  });

  it('sets the last set beside this one, and takes a look back', async () => {
    const page = await Served.open(
      Grass,
      {
        [`/api/v1/mowers/${MOWER_ID}/grass`]: { looks: [look(), before] },
        'POST take-back-look': kept,
      },
      { mowerId: MOWER_ID, fittedAt: look().fittedAt },
    );
    const sides = [...page.element.querySelectorAll('figcaption')].map((each) => each.textContent);
    expect(sides[0]).toContain('50 % torn (31 to 69)');
    expect(sides[1]).toContain('13 % torn (4 to 31)');
    expect(page.element.querySelectorAll('circle.now')).toHaveSize(1);
    await page.click('Take it back');
    expect(page.commands[0]).toEqual(jasmine.objectContaining({ lookId: look().lookId }));
  });
});
