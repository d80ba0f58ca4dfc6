import { inHand, learnHand, learnZones, type HandGrind, predictRemoval } from '../index.js';
import { normal, seeded } from '../testing/dice.js';

const PRIORS = [{ key: 'full', gramsPerPass: 0.6 }];
const HANDS: Readonly<Record<string, number>> = { light: 0.85, heavy: 1.15 };

/** One tool, two hands in turn, each pressing in its own way. */
function replay(
  dice: () => number,
  count: number,
  who: (i: number) => string = (i) => (i % 2 ? 'light' : 'heavy'),
) {
  return Array.from({ length: count }, (_, i): HandGrind => {
    const by = who(i);
    const passes = { full: 6 + Math.floor(10 * dice()) };
    const removedG = passes.full * 0.55 * (HANDS[by] ?? 1) * (1 + 0.1 * normal(dice));
    return { by, passes, removedG };
  });
}

describe('learnHand', () => {
  it('is no difference without grinds, and as unsure as hands differ', () => {
    expect(learnHand('ash', [], PRIORS)).toEqual({
      factor: { value: 1, u: 0.15 },
      grinds: 0,
      known: false,
    });
  });
  it('tells two hands on one tool apart, and foretells them better than the tool alone', () => {
    const dice = seeded(5);
    let alone = 0;
    let known = 0;
    for (let tool = 0; tool < 30; tool++) {
      const grinds = replay(dice, 40);
      const [next] = replay(dice, 1, () => (tool % 2 ? 'light' : 'heavy'));
      if (!next) continue;
      const hand = learnHand(next.by ?? '', grinds, PRIORS);
      expect(hand.known).toBeTrue();
      expect(hand.factor.value > 1).toBe(next.by === 'heavy');
      const learned = learnZones(grinds, PRIORS);
      alone += Math.abs(predictRemoval(learned, next.passes).value - next.removedG);
      known += Math.abs(predictRemoval(inHand(learned, hand), next.passes).value - next.removedG);
    }
    expect(known).toBeLessThan(0.85 * alone);
  });
  it('leaves one alone on a tool as the tool is, and a newcomer too', () => {
    const dice = seeded(6);
    const solo = learnHand(
      'heavy',
      replay(dice, 40, () => 'heavy'),
      PRIORS,
    );
    expect(solo.known).toBeFalse();
    expect(solo.factor.value).toBe(1);
    const fresh = learnHand(
      'light',
      replay(dice, 20, (i) => (i < 16 ? 'heavy' : 'light')),
      PRIORS,
    );
    expect(fresh).toEqual(jasmine.objectContaining({ known: false, grinds: 4 }));
    const learned = learnZones([], PRIORS);
    expect(inHand(learned, fresh)).toBe(learned);
  });
  it('refuses a spread that is none', () => {
    expect(() => learnHand('ash', [], PRIORS, { spread: 0, enough: 8 })).toThrowError(/spread/);
  });
});
