import type { SpecRevision } from '@tally-stone/contract';
import { Served } from '../../testing/served';
import { cycleView } from '../../testing/views';
import { TestBed } from '@angular/core/testing';
import { Region } from '../data/region';
import { Units } from '../data/units';
import { SpecPage } from './spec-page';

const revision: SpecRevision = cycleView().spec;
const { specId } = revision;
/** Waits for the page's question to the server, which comes once typing has settled; no longer, however slow it is. */
async function asked(page: Served<SpecPage>): Promise<void> {
  const previews = (): number => page.commands.filter((body) => 'figures' in body).length;
  const before = previews();
  while (previews() === before) await page.settle();
  await page.settle();
}

async function open(more: Record<string, unknown> = {}) {
  return Served.open(SpecPage, { '/api/v1/specs': [revision], ...more }, { specId });
}
/** The first limit with a width, by its field's name. */
const widthField = (page: Served<SpecPage>): string => {
  const found = [...page.element.querySelectorAll('input')].find((each) =>
    each.getAttribute('aria-label')?.startsWith('Width at least'),
  );
  return `input[aria-label="${found?.getAttribute('aria-label') ?? ''}"]`;
};

describe('the limits of a spec', () => {
  it('stand with whose they are and where it says so', async () => {
    const page = await open();
    expect(page.text).toContain(revision.figures.name);
    expect(page.text).toContain('Nothing is changed yet');
    expect(page.element.querySelectorAll('ts-spec-limits li').length).toBe(
      revision.figures.limits.length,
    );
  });
  it('stand in their fields as the shop writes decimals, every digit of them', async () => {
    const [first, ...rest] = revision.figures.limits;
    const limits = [{ ...first!, value: 51.25 }, ...rest];
    const page = await open({
      '/api/v1/specs': [{ ...revision, figures: { ...revision.figures, limits } }],
      // What the limits would do is asked while they are typed, on a busy machine before the test is through.
      'POST ': { judged: 0, retires: [] },
    });
    const shown = (): string => page.find<HTMLInputElement>(widthField(page)).value;
    expect(shown()).toBe('51.25');
    // Whoever turns to inches sees the same limit, and has changed nothing.
    const units = TestBed.inject(Units);
    units.system.set('inch');
    TestBed.inject(Region).written.update((all) => ({ ...all, decimal: 'comma' }));
    await page.settle();
    expect(shown()).toBe('2,0177');
    expect(page.text).toContain('Nothing is changed yet');
    await page.type('input[aria-label="Hole wear at most"]', '0,02');
    units.system.set('metric');
    await page.settle();
    expect(shown()).toBe('51,25');
    expect(page.find<HTMLInputElement>('input[aria-label="Hole wear at most"]').value).toBe(
      '0,508',
    );
    units.system.set('inch');
    await page.settle();
    await page.type(widthField(page), '40');
    const said = page.find('.bad').textContent;
    expect(said).toContain('is not below the new blade');
    expect(said).toContain(' in');
    expect(said).not.toContain('mm');
  });
  it('turn the mass to ounces with the rest, and take it in any unit of mass', async () => {
    const page = await open({
      'POST ': { judged: 0, retires: [] },
      'POST change-spec': { commandId: 'c', sequence: 1 },
    });
    const field = 'input[aria-label="Mass when new"]';
    const shown = (): string => page.find<HTMLInputElement>(field).value;
    const units = TestBed.inject(Units);
    const { newMassG } = revision.figures;
    expect(shown()).toBe(String(newMassG));
    units.system.set('inch-ounce');
    await page.settle();
    expect(shown()).toBe(String(Number((newMassG / 28.349523125).toFixed(4))));
    expect(page.text).toContain('Nothing is changed yet');
    await page.type(field, '2 lb');
    await asked(page);
    await page.click('The maker says so');
    await page.click('Keep this spec');
    const sent = page.commands.find(({ type }) => type === 'change-spec') as unknown as {
      figures: { newMassG: number };
    };
    expect(sent.figures.newMassG).toBeCloseTo(907.18, 1);
  });
  it('tell whom a change would retire, ask why, and are kept with the reason', async () => {
    const page = await open({
      [`POST `]: {
        judged: 9,
        retires: [
          {
            bladeId: '018f0000-0000-7000-8000-000000000701',
            code: '44A4',
            state: 'ready',
            place: 'Rack',
            words: 'End A, tip: 50.1 mm wide, limit 51.5 mm',
          },
        ],
      },
      'POST change-limits': { commandId: 'c', sequence: 1 },
    });
    await page.type(widthField(page), '51.5');
    await asked(page);
    expect(page.text).toContain('It would retire 1 of 9');
    expect(page.text).toContain('ready, Rack: goes on hold');
    expect(page.button('Keep these limits').disabled).toBeTrue();
    await page.click('Wear as we saw it');
    await page.click('Keep these limits');
    const sent = page.commands.find(({ type }) => type === 'change-limits') as unknown as {
      limits: { value: number }[];
      reason: string;
    };
    expect(sent.reason).toBe('wear-seen');
    expect(sent.limits.some(({ value }) => value === 51.5)).toBeTrue();
    expect(page.text).toContain('they count from now on');
  });
  it('may be a count of grinds too, added and taken away again', async () => {
    const page = await open({ 'POST ': { judged: 2, retires: [] } });
    await page.click('Add: Grinds at most');
    expect(page.find('[aria-label="Grinds at most"]')).toBeTruthy();
    expect(page.text).not.toContain('Add: Grinds at most');
    await asked(page);
    expect(page.text).toContain('It would retire none of 2');
    await page.click('Take away');
    expect(page.text).toContain('Nothing is changed yet');
  });
  it('and its sizes can be changed, drawn as one types, kept whole with the reason', async () => {
    const page = await open({
      'POST ': { judged: 3, retires: [] },
      'POST change-spec': { commandId: 'c', sequence: 1 },
    });
    const length = page.find<HTMLInputElement>('input[aria-label="Length"]');
    length.value = '498';
    length.dispatchEvent(new Event('input'));
    await asked(page);
    expect(page.text).toContain('It would retire none of 3');
    await page.click('It was typed wrongly');
    await page.click('Keep this spec');
    const sent = page.commands.find(({ type }) => type === 'change-spec') as unknown as {
      figures: { newLengthMm: number; newWidthMm: number };
    };
    expect(sent.figures.newLengthMm).toBe(498);
    expect(sent.figures.newWidthMm).toBe(revision.figures.newWidthMm);
    length.value = '';
    length.dispatchEvent(new Event('input'));
    await page.settle();
    expect(page.find('.sizes .bad').textContent).toContain('is empty: type the figure');
    // And on the drawing: the dimension line of the length.
    expect(page.find('ts-spec-sheet .line.wrong')).toBeTruthy();
  });
  it('refuse to trim to nothing, as to any length that is none', async () => {
    const page = await open();
    for (const length of ['0', 'short', '900']) {
      await page.type('.trimming input', length);
      expect(page.element.querySelector('.trimming .bad')?.textContent)
        .withContext(length)
        .toBeTruthy();
      expect(page.text).not.toContain('Nothing is changed yet');
    }
  });
  it('name at the field what is wrong, mark it on the drawing, and keep what was typed', async () => {
    const page = await open();
    const marked = () => page.element.querySelectorAll('ts-spec-sheet .leaders .wrong').length;
    await page.type(widthField(page), '900');
    expect(page.find('.bad').textContent).toContain('is not below the new blade');
    expect(marked()).toBe(1);
    // A second one that is no figure at all: both are said, and both marked.
    await page.type('input[aria-label="Hole wear at most"]', 'wide');
    expect(page.text).toContain('is not below the new blade');
    expect(page.text).toContain('is not a number');
    expect(marked()).toBe(2);
    expect(page.find<HTMLInputElement>(widthField(page)).value).toBe('900');
    expect(page.button('Keep these limits').disabled).toBeTrue();
  });
  it('are each typed on the drawing, but for one that has no place there', async () => {
    const [tip] = revision.figures.stations;
    const more = ['a', 'b', 'c'].map((key) => ({ key, name: key, radiusMm: 50 }));
    const stations = [...revision.figures.stations, ...more];
    const fourth = { ...revision.figures.limits[0]!, stationKey: 'c', value: 50 };
    const figures = { ...revision.figures, stations, limits: [...revision.figures.limits, fourth] };
    const page = await open({ '/api/v1/specs': [{ ...revision, figures }] });
    const drawn = page.element.querySelectorAll('ts-spec-sheet input[aria-label*=" at "]').length;
    expect(drawn).toBe(revision.figures.limits.length);
    expect(page.element.querySelectorAll('ts-spec-limits .limit input')).toHaveSize(1);
    await page.type('ts-spec-limits .limit input', '49');
    expect(page.find<HTMLInputElement>('ts-spec-limits .limit input').value).toBe('49');
    expect(page.find(`input[aria-label="Width at least, ${tip!.name}"]`)).toBeTruthy();
  });
});
