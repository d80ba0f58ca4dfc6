import type { CycleAct } from '@tally-stone/contract';
import { cycleView, slot } from '../../testing/views';
import { withActs } from './overlay';

const acts = (...list: CycleAct[]): CycleAct[] => list;

describe('the run while the server is away', () => {
  it('shows what was done here over what the server last said', () => {
    const view = withActs(
      cycleView({ cleaned: false, slots: [slot()] }),
      acts(
        { type: 'clean', done: true },
        { type: 'judge-crack', found: false },
        {
          type: 'take-reading',
          readingId: 'r',
          place: { phase: 'before', quantity: 'mass' },
          entered: { text: '1.1', unit: 'kg' },
        },
        { type: 'count-passes', passId: 'p', end: 'A', count: 5 },
        { type: 'count-passes', passId: 'q', end: 'B', zone: 'outer-half', count: 2 },
        { type: 'undo-passes', passId: 'p' },
        { type: 'light-test', end: 'A', brightLine: false },
        {
          type: 'mark-damage',
          damageId: 'd',
          kind: 'nick',
          end: 'B',
          fromTip: { text: '20', unit: 'mm' },
          depth: { text: '0.6', unit: 'mm' },
        },
      ),
    );
    expect(view.cleaned).toBeTrue();
    expect(view.crack?.found).toBeFalse();
    expect(view.slots[0]?.taken?.value).toBe(1100);
    expect(view.passes).toEqual([{ passId: 'q', end: 'B', zone: 'outer-half', count: 2 }]);
    expect(view.lightTest).toEqual({ A: false });
    expect(view.damage[0]).toEqual(jasmine.objectContaining({ fromTipMm: 20, depthMm: 0.6 }));
  });

  it('works a test weight out, and says that the server has the last word', () => {
    const { rounds } = withActs(
      cycleView(),
      acts({
        type: 'balance-round',
        roundId: 'x',
        phase: 'after',
        device: 'bearing-shaft',
        heavyEnd: 'B',
        weight: { text: '0.4', unit: 'g' },
        radius: { text: '200', unit: 'mm' },
      }),
    );
    expect(rounds[0]?.unbalanceGmm).toBeCloseTo(-80, 6);
    expect(rounds[0]?.within).toBeTrue();
    expect(rounds[0]?.gradeSource).toContain('when it is back');
  });

  it('makes the signed mean of a half turn, as the server will', () => {
    const round = (roundId: string, heavyEnd: 'A' | 'B', weight: string, halfTurnOf?: string) => ({
      type: 'balance-round' as const,
      roundId,
      phase: 'after' as const,
      device: 'bearing-shaft' as const,
      heavyEnd,
      weight: { text: weight, unit: 'g' as const },
      radius: { text: '200', unit: 'mm' as const },
      ...(halfTurnOf ? { halfTurnOf } : {}),
    });
    const { rounds } = withActs(
      cycleView(),
      acts(round('x', 'A', '0.9'), round('y', 'B', '0.3', 'x')),
    );
    expect(rounds[1]?.unbalanceGmm).toBeCloseTo(60, 6);
    expect(rounds[1]?.halfTurn).toEqual(
      jasmine.objectContaining({ firstGmm: 180, turnedGmm: -60, offsetGmm: 120 }),
    );
    expect(rounds[1]?.expandedUncertaintyGmm).toBeLessThan(rounds[0]?.expandedUncertaintyGmm ?? 0);
  });

  it('works drops and a tilt out by the usual figures, and leaves what makes no sense', () => {
    const round = (more: Partial<Extract<CycleAct, { type: 'balance-round' }>>): CycleAct => ({
      type: 'balance-round',
      roundId: 'x',
      phase: 'after',
      device: 'bearing-shaft',
      heavyEnd: 'A',
      ...more,
    });
    const mm = (text: string) => ({ text, unit: 'mm' as const });
    const tilted = round({
      device: 'cone-point',
      weight: { text: '2', unit: 'g' },
      radius: mm('200'),
      tilt: { alone: mm('4'), withWeight: mm('12') },
    });
    const shown = (act: CycleAct) => withActs(cycleView(), acts(act)).rounds[0];
    const quick = shown(round({ drops: [3, 3.1, 3] }))?.unbalanceGmm ?? 0;
    const slow = shown(round({ drops: [6, 6.1, 6] }))?.unbalanceGmm ?? 0;
    expect(quick).toBeGreaterThan(2.5 * slow);
    // τ₂ = 3·τ₁, so the weight's 400 g·mm is twice the unbalance.
    expect(shown(tilted)?.unbalanceGmm).toBeCloseTo(200, 0);
    expect(shown(tilted)?.byTilt).toBeTrue();
    expect(shown(round({ drops: [0] }))).toBeUndefined();
  });

  it('keeps a reading that cannot be read as it was', () => {
    const view = withActs(
      cycleView(),
      acts({
        type: 'take-reading',
        readingId: 'r',
        place: { phase: 'before', quantity: 'mass' },
        entered: { text: 'heavy', unit: 'g' },
      }),
    );
    expect(view.slots[0]?.taken).toBeUndefined();
  });
});
