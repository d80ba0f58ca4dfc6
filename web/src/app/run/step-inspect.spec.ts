import { TestbedHarnessEnvironment } from '@angular/cdk/testing/testbed';
import { MatSnackBarHarness } from '@angular/material/snack-bar/testing';
import type { InstrumentView } from '@tally-stone/contract';
import { AWAY, Served } from '../../testing/served';
import { cycleView } from '../../testing/views';
import { TestBed } from '@angular/core/testing';
import { Region } from '../data/region';
import { Run } from './run';

const kept = { commandId: 'x', sequence: 1, revision: 4 };
const nick = {
  damageId: '018f0000-0000-7000-8000-0000000000d1',
  kind: 'nick',
  end: 'A',
  fromTipMm: 20,
  radiusMm: 230,
  depthMm: 0.8,
} as const;

async function open(
  answers: Record<string, unknown>,
  change: Parameters<typeof cycleView>[0] = {},
) {
  const view = cycleView({ nextStep: 'inspect', damage: [nick], ...change });
  return Served.open(
    Run,
    {
      [`/api/v1/cycles/${view.cycleId}`]: view,
      [`/api/v1/cycles/${view.cycleId}/plan`]: { kind: 'not-yet', words: 'later' },
      ...answers,
    },
    { cycleId: view.cycleId },
  );
}

/** A file chosen in the dialog that a test cannot open. */
async function choose(run: Served<Run>, file: File): Promise<void> {
  const picker = run.find<HTMLInputElement>('input[type="file"]');
  const chosen = new DataTransfer();
  chosen.items.add(file);
  picker.files = chosen.files;
  picker.dispatchEvent(new Event('change'));
  await run.settle();
}
const jpeg = new File(['picture'], 'nick.jpg', { type: 'image/jpeg' });
const attached = (run: Served<Run>) =>
  run.commands.filter((each) => each['type'] === 'attach-photo');

describe('the size of a mark', () => {
  it('stands in its field with the shop’s decimal sign, and is no other size for that', async () => {
    const run = await open({});
    TestBed.inject(Region).written.update((all) => ({ ...all, decimal: 'comma' }));
    await run.settle();
    // A stripped comma once made 8 mm of it.
    expect(run.find<HTMLInputElement>(`#depth-${nick.damageId}`).value).toBe('0,8');
  });
});

describe('photos at inspect', () => {
  it('of one mark are sent with it, and shown under what they are of', async () => {
    const run = await open(
      { 'POST /api/v1/photos': { file: 'abc.jpg' }, 'POST attach-photo': kept },
      { photos: [{ photoId: nick.damageId, file: 'old.jpg', damageId: nick.damageId }] },
    );
    expect(run.find<HTMLImageElement>('figure img').alt).toBe('Nick, end A');
    run.find('[aria-label="Photo of this Nick"]').click();
    await choose(run, jpeg);
    expect(attached(run)[0]).toEqual(
      jasmine.objectContaining({ file: 'abc.jpg', damageId: nick.damageId }),
    );
  });

  it('of 60 MB, or of something else, are refused before they are sent', async () => {
    const run = await open({});
    const large = new File([new Uint8Array(60 * 2 ** 20)], 'large.jpg', { type: 'image/jpeg' });
    await choose(run, large);
    expect(run.find('[role="alert"]').textContent).toContain('larger than 12 MB');
    await choose(run, new File(['text'], 'notes.txt', { type: 'text/plain' }));
    expect(run.find('[role="alert"]').textContent).toContain('not a picture');

    expect(attached(run)).toEqual([]);
  });

  it('wait in the browser while the server is away', async () => {
    const run = await open({ 'POST /api/v1/photos': AWAY });
    await choose(run, jpeg);
    expect(run.text).toContain('1 photo kept here until the server is back');
  });
});

describe('a mark’s depth by caliper', () => {
  const caliper = {
    key: 'caliper',
    name: 'Caliper',
    reads: ['width'],
    unit: 'mm',
    resolution: 0.01,
    u: 0.02,
    tolerance: 0.1,
    windowS: 0.5,
    plugged: true,
    by: 'stand-in',
  } satisfies InstrumentView;
  const at = (change: Partial<InstrumentView> = {}) => ({
    '/api/v1/instruments': { instruments: [{ ...caliper, ...change }] },
    'POST put-mark': { instruments: [caliper] },
    'POST mark-damage': kept,
  });
  const press = (run: Served<Run>): Promise<void> => {
    const field = run.find(`[id="depth-${nick.damageId}"]`);
    field.dispatchEvent(new KeyboardEvent('keydown', { key: 't' }));
    return run.settle();
  };

  it('is taken once it stands still, and kept with what it was read with', async () => {
    const run = await open(at());
    await press(run);
    expect(run.commands.at(-1)).toEqual(
      jasmine.objectContaining({ act: 'put-mark', damageId: nick.damageId, what: 'depth' }),
    );
    for (let i = 0; i < 30; i++)
      run.lines.next(`caliper ${(i * 0.05).toFixed(2)} 0.62 mm 0.01 0.02 ok`);
    await run.settle();
    expect(run.commands.at(-1)).toEqual(
      jasmine.objectContaining({
        type: 'mark-damage',
        damageId: nick.damageId,
        depth: { text: '0.62', unit: 'mm' },
        fromTip: { text: '20', unit: 'mm' },
        instrument: 'caliper',
      }),
    );
  });

  it('says at the mark that the caliper is unplugged; what is typed is kept as typed', async () => {
    const run = await open(at({ plugged: false }));
    await press(run);
    expect(run.find('li.bad').textContent).toContain('caliper is unplugged');
    const field = run.find<HTMLInputElement>(`[id="depth-${nick.damageId}"]`);
    field.value = '0.9';
    field.dispatchEvent(new Event('change'));
    await run.settle();
    const sent = run.commands.at(-1);
    expect(sent?.['depth']).toEqual({ text: '0.9', unit: 'mm' });
    expect(sent?.['instrument']).toBeUndefined();
  });
});

describe('a mark taken off', () => {
  it('is offered back as it was, its length with it', async () => {
    const marked = { ...nick, lengthMm: 4 };
    const run = await open(
      { 'POST erase-damage': kept, 'POST mark-damage': kept },
      { damage: [marked] },
    );
    await run.click('Not there');
    const bar = await TestbedHarnessEnvironment.documentRootLoader(run.fixture).getHarness(
      MatSnackBarHarness,
    );
    expect(await bar.getMessage()).toContain('is off the drawing');
    await bar.dismissWithAction();
    await run.settle();
    expect(run.commands.at(-1)).toEqual(
      jasmine.objectContaining({
        type: 'mark-damage',
        damageId: nick.damageId,
        depth: { text: String(nick.depthMm), unit: 'mm' },
        length: { text: '4', unit: 'mm' },
      }),
    );
  });
});

describe('the focus', () => {
  it('goes by Enter from a nick’s depth to its length, and from there on to what is next', async () => {
    const run = await open({ 'POST mark-damage': kept });
    const enter = async (what: 'depth' | 'length', text: string): Promise<void> => {
      const field = run.find<HTMLInputElement>(`[id="${what}-${nick.damageId}"]`);
      field.focus();
      field.value = text;
      field.dispatchEvent(new KeyboardEvent('keydown', { key: 'Enter' }));
      await run.settle();
      await new Promise((soon) => setTimeout(soon));
    };
    await enter('depth', '0.9');
    expect(document.activeElement?.id).toBe(`length-${nick.damageId}`);
    await enter('length', '4');
    expect(document.activeElement?.id).not.toBe(`length-${nick.damageId}`);
    expect(run.commands.map((each) => [each['depth'], each['length']])).toEqual([
      [jasmine.objectContaining({ text: '0.9' }), undefined],
      [jasmine.anything(), jasmine.objectContaining({ text: '4' })],
    ]);
  });

  it('goes to what is next once an entry is kept, but stays where somebody has gone on to meanwhile', async () => {
    const judged = cycleView({
      nextStep: 'inspect',
      damage: [nick],
      crack: { found: false },
      revision: 9,
    });
    const run = await open({ 'POST judge-crack': { ...kept, view: judged } });
    const depth = run.find<HTMLInputElement>('input[id^="depth-"]');
    run.button('No crack').focus();
    run.button('No crack').click();
    depth.focus();
    depth.value = '1.2';
    await run.settle();
    expect(run.commands.map(({ type }) => type)).toEqual(['judge-crack']);
    expect(document.activeElement).toBe(depth);
    run.button('No crack').focus();
    await run.click('No crack');
    expect(run.commands.length).toBe(2);
    expect(document.activeElement).not.toBe(run.button('No crack'));
  });
});
