import { ChangeDetectionStrategy, Component } from '@angular/core';
import { TestBed } from '@angular/core/testing';
import { Router } from '@angular/router';
import { DEFAULT_RULES } from '@tally-stone/contract';
import { Served } from '../../testing/served';
import { TourBar } from './tour-bar';
import { TourOffer } from './tour-offer';

@Component({
  selector: 'ts-on-tour',
  imports: [TourBar, TourOffer],
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: '<ts-tour-offer /><ts-tour-bar />',
})
class OnTour {}

const CYCLE = '018f0000-0000-7000-8000-0000000000c1';

describe('the look round', () => {
  const open = (
    standIns: readonly string[] = ['scale'],
    atBench: object[] = [{ cycleId: CYCLE }],
  ) =>
    Served.open(OnTour, {
      '/api/v1/shop': { rules: { ...DEFAULT_RULES, standIns } },
      '/api/v1/bench': { atBench },
    });
  const where = (): string => TestBed.inject(Router).url;

  it('goes through five stops, there and back, and ends at the bench', async () => {
    const page = await open();
    await page.click('Look round');
    expect(page.text).toContain('1 of 5: The bench.');
    expect(page.text).not.toContain('First time here?');
    await page.click('On to: a blade in hand');
    expect(where()).toBe(`/run/${CYCLE}`);
    await page.click('Back');
    expect(where()).toBe('/');
    const been: string[] = [];
    for (const next of ['a blade in hand', 'the rack', 'the mowers', 'the months ahead']) {
      await page.click(`On to: ${next}`);
      been.push(where());
    }
    expect(been).toEqual([`/run/${CYCLE}`, '/rack', '/mowers', '/ahead']);
    await page.click('Done');
    expect(where()).toBe('/');
    expect(page.element.querySelector('aside')).toBeNull();
  });

  it('is left at once, and not offered again here', async () => {
    const page = await open();
    await page.click('Look round');
    await page.click('Leave');
    expect(page.element.querySelector('aside')).toBeNull();
    expect(page.text).not.toContain('First time here?');
    expect(localStorage.getItem('tally-stone.tour')).toBe('left');
  });

  it('is not offered to a shop at work, nor to who says no', async () => {
    expect((await open([])).text).not.toContain('First time here?');
    TestBed.resetTestingModule();
    const asked = await open();
    await asked.click('No, thank you');
    expect(asked.text).not.toContain('First time here?');
  });

  it('stays at the bench where no blade is in hand', async () => {
    const page = await open(['scale'], []);
    await page.click('Look round');
    await page.click('On to: a blade in hand');
    expect(where()).toBe('/');
    expect(page.text).toContain('2 of 5');
  });
});
