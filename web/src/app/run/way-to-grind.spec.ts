import { provideZonelessChangeDetection } from '@angular/core';
import { TestbedHarnessEnvironment } from '@angular/cdk/testing/testbed';
import { TestBed } from '@angular/core/testing';
import { MatExpansionPanelHarness } from '@angular/material/expansion/testing';
import { GRINDER_KINDS, grindingPoints } from '@tally-stone/core';
import { GRINDING_WORDS } from '../data/grinder-words';
import { WayToGrind } from './way-to-grind';

async function shown(grinderId: string, begun = false) {
  const fixture = TestBed.createComponent(WayToGrind);
  fixture.componentRef.setInput('grinderId', grinderId);
  fixture.componentRef.setInput('figures', { kind: 'belt', name: 'Long belt' });
  fixture.componentRef.setInput('begun', begun);
  await fixture.whenStable();
  const panel =
    await TestbedHarnessEnvironment.loader(fixture).getHarness(MatExpansionPanelHarness);
  const text = (fixture.nativeElement as HTMLElement).textContent;
  return { fixture, isOpen: () => panel.isExpanded(), text };
}

describe('which way to grind', () => {
  beforeEach(() => {
    localStorage.clear();
    TestBed.configureTestingModule({ providers: [provideZonelessChangeDetection()] });
  });

  it('is told of each tool once, before its first pass, and is a touch away afterwards', async () => {
    const first = await shown('long');
    expect(await first.isOpen()).toBeTrue();
    expect(first.text).toContain('Stop short of the inner corner');
    expect(first.text).not.toContain('right into the inner corner');
    first.fixture.componentRef.setInput('begun', true);
    await first.fixture.whenStable();
    expect(await first.isOpen()).toBeFalse();
    expect(await (await shown('long')).isOpen()).toBeFalse();
    expect(await (await shown('short')).isOpen()).toBeTrue();
  });

  it('says from the ink that is left what to correct', async () => {
    const { fixture } = await shown('long');
    const host = fixture.nativeElement as HTMLElement;
    const press = async (words: string): Promise<string> => {
      const buttons = [...host.querySelectorAll('button')];
      buttons.find(({ textContent }) => textContent.includes(words))?.click();
      await fixture.whenStable();
      return host.querySelector('[role=status]')?.textContent ?? '';
    };
    expect(await press('At the back')).toContain('too steep');
    expect(await press('At the edge')).toContain('too flat');
    expect(await press('Nowhere')).toContain('go on');
  });

  it('has something to say of every kind, and never that a belt goes where it must not', () => {
    for (const kind of GRINDER_KINDS)
      for (const point of grindingPoints(kind)) expect(GRINDING_WORDS[point]).toMatch(/\.$/);
    expect(grindingPoints('belt')).not.toContain('into-the-corner');
    expect(grindingPoints('belt')).not.toContain('spacer-before-nut');
  });
});
