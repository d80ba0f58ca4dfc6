import { TestbedHarnessEnvironment } from '@angular/cdk/testing/testbed';
import { TestBed } from '@angular/core/testing';
import { MatRadioButtonHarness } from '@angular/material/radio/testing';
import { AWAY, Served } from '../../testing/served';
import { balanceView, BLADE, cycleView } from '../../testing/views';
import { Run } from './run';

const kept = { commandId: 'x', sequence: 1, revision: 4 };

async function open(
  answers: Record<string, unknown>,
  change: Parameters<typeof cycleView>[0] = {},
) {
  const view = cycleView({ nextStep: 'sign-off', ...change });
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

describe('signing off', () => {
  it('names what is still in the way, and leads there', async () => {
    const run = await open(
      {},
      {
        signOff: {
          proposed: 'ready',
          allowed: ['hold', 'retired'],
          blocks: [{ step: 'prove', words: 'No light test at end B' }],
          retireReasons: ['shop-decision'],
        },
      },
    );
    await run.click('No light test at end B');
    expect(run.find('.rail .here').textContent).toContain('Prove');
  });

  it('while the server is away waits in the browser, says so, and goes on to the next blade', async () => {
    const run = await open({ 'POST light-test': AWAY, 'POST sign-off': AWAY });
    expect(run.text).toContain('Everything is proved');
    await run.click('Prove');
    await run.click('No line: sharp');
    await run.click('Sign off');
    expect(run.text).toContain('It knows nothing yet of what you entered since');
    await run.click('Sign off as ready, to be judged');
    expect(run.text).toContain('Signed off as ready, waiting for the server');
    expect(run.text).not.toContain('Put it on hold');
    expect(run.button('Next blade').classList).toContain('next-thing');
  });

  it('does not call a balance proved that the balancer cannot tell', async () => {
    const run = await open(
      {},
      {
        rounds: [
          balanceView({
            phase: 'after',
            device: 'nail',
            tooCoarse: true,
            expandedUncertaintyGmm: 1286,
            permissibleGmm: 192,
          }),
        ],
      },
    );
    expect(run.text).toContain('Proved, but for a sure balance');
    expect(run.text).toContain('known to ± 1286 g·mm only, more than the 192 g·mm allowed');
    expect(run.button('Ready for the rack')).toBeTruthy();
  });

  it('says of each mark whether the count has ground it out, or what it has left', async () => {
    const mark = { kind: 'nick', end: 'A', radiusMm: 200, depthMm: 0.8 } as const;
    const run = await open(
      {},
      {
        damage: [
          { ...mark, damageId: 'gone', fromTipMm: 30, left: { value: 0, u: 0.1 } },
          { ...mark, damageId: 'deep', fromTipMm: 60, left: { value: 0.3, u: 0.1 } },
        ],
      },
    );
    expect(run.text).toContain('Nick, end A, 30 mm from the tip: ground out, by the count');
    expect(run.text).toContain('60 mm from the tip: 0.3 ± 0.2 mm of it left, by the count');
    expect(run.element.querySelectorAll('.mark.gone').length).toBe(1);
  });

  it('signed off says what was foretold and found, and cannot be parked any more', async () => {
    const run = await open(
      {},
      {
        blade: { ...BLADE, state: 'ready', place: 'Peg 7' },
        signedOff: {
          outcome: 'ready',
          personId: '018f0000-0000-7000-8000-0000000000aa',
          at: '2026-05-01T08:00:00Z',
        },
        witnesses: {
          said: { scale: { value: 7.9, u: 0.15 }, passes: { value: 8.2, u: 1.6 } },
          pairs: [],
          agree: true,
        },
        agreement: { tool: 'Long belt', grinds: 20, biasG: 0.2, rmsG: 0.9 },
      },
    );
    expect(run.text).toContain('Hang it on peg 7.');
    expect(run.text).toContain('The count foretold 8.2 g, the scale found 7.9 g. Long belt');
    expect(run.text).not.toContain('Park it');
  });

  it('retires with the way the blade was made unusable', async () => {
    const run = await open(
      { 'POST sign-off': kept },
      {
        signOff: {
          proposed: 'retired',
          allowed: ['retired'],
          blocks: [],
          retireReasons: ['width-limit'],
        },
      },
    );
    await run.click('Bent');
    expect(run.commands.find(({ type }) => type === 'sign-off')).toEqual(
      jasmine.objectContaining({
        outcome: 'retired',
        retireReason: 'width-limit',
        disposal: 'bent',
      }),
    );
  });

  const unproved = {
    signOff: {
      proposed: 'ready' as const,
      allowed: ['hold' as const, 'retired' as const],
      blocks: [{ step: 'clean' as const, words: 'The blade is not cleaned' }],
      retireReasons: ['shop-decision' as const],
    },
  };

  it('retires what no reading retires only for a reason, told what is lost, by a second act', async () => {
    const run = await open({ 'POST sign-off': kept }, unproved);
    const signed = () => run.commands.filter(({ type }) => type === 'sign-off');
    await run.click('Retire it all the same');
    expect(run.text).toContain('although no limit says so');
    expect(run.text).toContain('a blade with 7 grinds in its life');
    expect(document.activeElement?.getAttribute('type')).toBe('radio');
    await run.click('for good');
    expect(run.find('ts-retire-anyway [role=alert]').textContent).toContain('Pick why');
    expect(signed()).toEqual([]);
    const pick = async (words: string): Promise<void> => {
      const radios = await TestbedHarnessEnvironment.loader(run.fixture).getAllHarnesses(
        MatRadioButtonHarness.with({ label: words }),
      );
      await radios[0]?.check();
      await run.settle();
    };
    await pick('No mower takes it any more');
    await run.click('for good');
    expect(run.find('ts-retire-anyway [role=alert]').textContent).toContain('made unusable');
    await run.click('Keep the blade');
    expect(run.element.querySelector('ts-retire-anyway')).toBeNull();
    await run.click('Retire it all the same');
    await pick('No mower takes it any more');
    await pick('Bent over');
    await run.click('for good');
    expect(signed()).toEqual([
      jasmine.objectContaining({
        outcome: 'retired',
        retireReason: 'no-mower-for-it',
        disposal: 'bent',
      }),
    ]);
  });

  it('offers to undo a retirement as long as the blade lies at the bench, and no longer', async () => {
    const retired = {
      outcome: 'retired' as const,
      retireReason: 'shop-decision' as const,
      disposal: 'bent' as const,
      personId: '018f0000-0000-7000-8000-0000000000aa',
      at: '2026-05-01T08:00:00Z',
    };
    const gone = await open({}, { signedOff: retired });
    expect(gone.text).not.toContain('Undo');
    TestBed.resetTestingModule();
    const run = await open(
      { 'POST undo-retirement': kept },
      { signedOff: { ...retired, undoable: true } },
    );
    await run.click('Undo: keep the blade');
    expect(run.commands.at(-1)).toEqual(jasmine.objectContaining({ type: 'undo-retirement' }));
  });

  it('says what the scale found as corrected beside what was signed', async () => {
    const said = { scale: { value: 8.5, u: 0.15 }, passes: { value: 9, u: 1.6 } };
    const run = await open(
      {},
      {
        blade: { ...BLADE, state: 'ready', place: 'Peg 7' },
        signedOff: {
          outcome: 'ready',
          personId: '018f0000-0000-7000-8000-0000000000aa',
          at: '2026-05-01T08:00:00Z',
        },
        witnesses: { said, pairs: [], agree: true },
        corrected: {
          witnesses: { said: { ...said, scale: { value: 9.1, u: 0.15 } }, pairs: [], agree: true },
          now: { verdict: 'fine', findings: [] },
          widths: { A: [], B: [] },
        },
      },
    );
    expect(run.text).toContain('the scale found 8.5 g, 9.1 g as corrected since');
    await run.click('Prove');
    expect(run.find('.witnesses').textContent).toContain('8.5 ± 0.3 g, corrected 9.1 ± 0.3 g');
  });

  it('says that a blade signed off as ready is held since a reading was corrected, why, and where it is', async () => {
    const signedOff = { outcome: 'ready', personId: 'p', at: '2026-05-01T09:00:00Z' } as const;
    const words = 'End A, root: 48.5 mm wide, limit 57.0';
    const corrected = {
      witnesses: { said: {}, pairs: [], agree: true },
      now: {
        verdict: 'retire' as const,
        findings: [
          { id: 'width:A:root', severity: 'retire' as const, words, rule: { by: 'spec' as const } },
        ],
      },
      widths: { A: [{ radiusMm: 165, widthMm: 48.5 }], B: [] },
    };
    const held = (place: string) =>
      open({}, { signedOff, corrected, blade: { ...BLADE, state: 'hold', place } } as Parameters<
        typeof cycleView
      >[0]);
    const onHook = await held('Hold hook');
    expect(onHook.text).toContain('On hold: corrected since it was signed off as ready');
    expect(onHook.text).toContain('48.5 mm wide');
    expect(onHook.text).toContain('hang it on the hold hook');
    expect(onHook.text).not.toContain('Ready, in the rack');
    expect(onHook.find('ts-verdict-tag').textContent).toContain('Retire');
    TestBed.resetTestingModule();
    const scrapped = await open(
      {},
      {
        signedOff: { ...signedOff, outcome: 'retired' },
        now: { verdict: 'retire', findings: [] },
        passes: [{ passId: 'p', end: 'A', zone: 'full', count: 1 }],
        corrected: { ...corrected, now: { verdict: 'fine', findings: [] } },
        blade: { ...BLADE, state: 'retired', place: 'Scrap bin' },
      },
    );
    // Corrected to fine it is still retired, until two people take it back.
    expect(scrapped.find('ts-verdict-tag').textContent).toContain('Retire');
    TestBed.resetTestingModule();
    const onMower = await held('Heron, left');
    expect(onMower.text).toContain('It is on Heron, left: nobody runs the mower');
  });
});
