import { TestBed } from '@angular/core/testing';
import { Served, problem } from '../../testing/served';
import { cycleView, slot } from '../../testing/views';
import { Who } from '../data/who';
import { Run } from './run';

const PEOPLE = [
  { personId: 'ash', name: 'Ash', role: 'technician' as const, hasPin: true },
  { personId: 'juniper', name: 'Juniper', role: 'technician' as const, hasPin: true },
];
const signedOff = { outcome: 'retired' as const, personId: 'ash', at: '2026-05-01T09:00:00Z' };
const kept = { commandId: 'x', sequence: 1 };

async function open(more: Parameters<typeof cycleView>[0], answers: Record<string, unknown> = {}) {
  const view = cycleView({
    nextStep: 'sign-off',
    signedOff: { ...signedOff, retireReason: 'crack', disposal: 'scrapped' },
    crack: { found: true },
    slots: [slot({ taken: undefined })],
    ...more,
  });
  const page = await Served.open(
    Run,
    {
      [`/api/v1/cycles/${view.cycleId}`]: view,
      [`/api/v1/cycles/${view.cycleId}/plan`]: { kind: 'not-yet', words: 'later' },
      ...answers,
    },
    { cycleId: view.cycleId },
  );
  TestBed.inject(Who).people.set(PEOPLE);
  await page.settle();
  return page;
}

describe('corrections of a signed-off blade', () => {
  it('corrects a crack that was none, with the reason', async () => {
    const page = await open({}, { 'POST correct-crack': kept });
    await page.click('Correct a reading');
    await page.click('Keep the correction');
    expect(await page.wrongAt('Reading')).toBe('is empty: pick one');
    await page.pick('Reading', 'The crack that was found');
    await page.click('Keep the correction');
    expect(page.commands.at(-1)).toEqual(
      jasmine.objectContaining({ type: 'correct-crack', reason: 'scratch' }),
    );
  });

  it('says why it stays retired while something still retires it', async () => {
    const page = await open({
      takeBack: { blocks: ['still retires it: Bend 4.0 mm, limit 3.0'] },
    });
    expect(page.text).toContain('It stays retired: a reading still retires it: Bend 4.0 mm');
    expect(page.text).not.toContain('Take it back');
  });

  it('takes it back with a second person and the blade in the hand, and says what is missing', async () => {
    const page = await open(
      { takeBack: { blocks: [] } },
      {
        'POST take-back': problem(
          '/problems/invalid-input',
          'is not said: never comes back',
          'whole',
        ),
      },
    );
    await page.click('Take it back');
    expect(await page.wrongAt('Who looked at it with you')).toBe('is empty: pick one');
    await page.pick('Who looked at it with you', 'Juniper');
    await page.enter('Their PIN', '2468');
    await page.click('Take it back');
    expect(page.commands.at(-1)).toEqual(
      jasmine.objectContaining({
        type: 'take-back',
        secondPersonId: 'juniper',
        secondPin: '2468',
        whole: false,
      }),
    );
    expect(page.find('ts-corrections [role=alert]').textContent).toContain(
      'That the blade is whole is not said',
    );
  });

  it('shows what was corrected and who took it back', async () => {
    const page = await open({
      corrections: [
        {
          correctionId: '1',
          what: 'crack',
          label: '',
          reason: 'scratch',
          by: 'Ash',
          at: '2026-05-02T09:00:00Z',
        },
        {
          correctionId: '2',
          what: 'taken-back',
          label: '',
          reason: 'nothing retires it any more',
          by: 'Ash',
          second: 'Juniper',
          at: '2026-05-02T09:05:00Z',
        },
      ],
    });
    expect(page.text).toContain('Crack: signed as found, corrected to none by Ash');
    expect(page.text).toContain('Brought back from retirement by Ash with Juniper');
  });
});
