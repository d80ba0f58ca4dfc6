import { DEFAULT_RULES, type GrinderView, type ShopRules } from '@tally-stone/contract';
import { Served } from '../../testing/served';
import { Power } from './power';

const grinder = (name: string, runW?: number): GrinderView => ({
  grinderId: name,
  abrasiveId: 'a',
  checkedToday: true,
  figures: {
    name,
    kind: 'belt',
    counts: 'pass',
    abrasive: 'Grit 60',
    aim: 'mean',
    table: 'flat',
    ...(runW === undefined ? {} : { runW }),
  },
});
async function open(rules: Partial<ShopRules> = {}) {
  const page = await Served.open(
    Power,
    {},
    {
      rules: { ...DEFAULT_RULES, ...rules },
      grinders: [grinder('Long belt', 1100), grinder('Mill file')],
    },
  );
  const chosen: ShopRules[] = [];
  page.fixture.componentInstance.chosen.subscribe((each) => chosen.push(each));
  return { page, chosen };
}
const collector = { name: 'Dust collector', runW: 750 };

describe('power at the grinder', () => {
  it('says in which order what is switched on, and which order trips', async () => {
    const { page } = await open({ supply: { ratedW: 2800, surgeW: 3500, beside: [collector] } });
    expect(page.text).toContain('Long belt, then dust collector');
    expect(page.text).toContain(
      'switched on last, with the others running, it may trip: up to 4050 of 3500 W',
    );
    expect(page.text).not.toContain('Mill file');
  });
  it('says where no order holds, and at which start', async () => {
    const { page } = await open({ supply: { ratedW: 1800, surgeW: 2300, beside: [collector] } });
    expect(page.text).toContain('the supply trips, at the dust collector: a wheel that stops');
  });
  it('is kept as typed, refused at its field, and taken away where nothing is said', async () => {
    const { page, chosen } = await open();
    await page.click('Keep what is plugged in');
    expect(chosen.pop()?.supply).toBeUndefined();
    await page.enter('For a moment', '2500');
    await page.click('Keep what is plugged in');
    expect(await page.wrongAt('The supply gives')).toContain('is empty: read the plate');
    await page.enter('The supply gives', '3000');
    await page.click('Keep what is plugged in');
    expect(await page.wrongAt('For a moment')).toContain('is less than its running power');
    await page.enter('The supply gives', '1e9');
    await page.click('Keep what is plugged in');
    expect(await page.wrongAt('The supply gives')).toContain('is more than 50000');
    await page.enter('The supply gives', '2000');
    await page.click('Keep what is plugged in');
    expect(chosen.pop()?.supply).toEqual({ ratedW: 2000, surgeW: 2500, beside: [] });
  });
});
