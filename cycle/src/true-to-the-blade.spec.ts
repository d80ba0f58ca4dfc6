import fc from 'fast-check';
import { Refusal } from './index.js';
import { Walk } from './testing/walk.js';

/** What really happens at the bench, in order: one command each. */
type Happening =
  | { readonly what: 'ground'; readonly end: 'A' | 'B'; readonly count: number }
  | { readonly what: 'taken back'; readonly nth: number }
  | { readonly what: 'deburred' }
  | { readonly what: 'hung' }
  | { readonly what: 'read'; readonly quantity: 'mass' | 'land' | 'bevel'; readonly end: 'A' | 'B' }
  | { readonly what: 'lit'; readonly end: 'A' | 'B' };

const end = fc.constantFrom('A' as const, 'B' as const);
const happening: fc.Arbitrary<Happening> = fc.oneof(
  {
    weight: 1,
    arbitrary: fc.record({
      what: fc.constant('ground' as const),
      end,
      count: fc.constant(1),
    }),
  },
  { weight: 1, arbitrary: fc.record({ what: fc.constant('taken back' as const), nth: fc.nat(5) }) },
  { weight: 3, arbitrary: fc.constant({ what: 'deburred' } as const) },
  { weight: 3, arbitrary: fc.constant({ what: 'hung' } as const) },
  {
    weight: 6,
    arbitrary: fc.record({
      what: fc.constant('read' as const),
      quantity: fc.constantFrom('mass' as const, 'land' as const, 'bevel' as const),
      end,
    }),
  },
  { weight: 4, arbitrary: fc.record({ what: fc.constant('lit' as const), end }) },
);

/** A pass too many taken back, and another one ground: as many are counted as before. */
const countedAnew: fc.Arbitrary<Happening[]> = fc.record({ nth: fc.nat(5), end }).map((each) => [
  { what: 'taken back', nth: each.nth },
  { what: 'ground', end: each.end, count: 1 },
]);
/** Everything after the grind but the deburring and the hanging. */
const READ_ANEW = (['A', 'B'] as const).flatMap((at): Happening[] => [
  { what: 'read', quantity: 'mass', end: at },
  { what: 'read', quantity: 'land', end: at },
  { what: 'lit', end: at },
]);

const take = (phase: string, quantity: string, text: string, at?: string) => ({
  type: 'take-reading',
  readingId: `${phase} ${quantity} ${at ?? ''}`,
  place: { phase, quantity, ...(at ? { end: at } : {}) },
  entered: { text, unit: { mass: 'g', bevel: 'deg' }[quantity] ?? 'mm' },
  repeat: false,
});
const MEASURED = [
  { type: 'clean', done: true },
  { type: 'judge-crack', found: false },
  take('before', 'tip-height', '40', 'A'),
  take('before', 'tip-height', '40.2', 'B'),
  take('before', 'mass', '1130'),
  ...['A', 'B'].flatMap((at) => [
    take('before', 'bevel', '30', at),
    take('before', 'land', '0.5', at),
  ]),
  take('before', 'straightedge-gap', '0.2'),
  { type: 'set-up', grinderId: 'grinder 1' },
];
/** Ground and proved once; what happens then is drawn. */
const PROVED: Happening[] = [
  { what: 'ground', end: 'A', count: 5 },
  { what: 'ground', end: 'B', count: 1 },
  { what: 'ground', end: 'B', count: 4 },
  { what: 'deburred' },
  { what: 'hung' },
  ...READ_ANEW,
];

/** The blade itself: what was done to it last, whatever anybody wrote down. */
class Bench {
  readonly walk = new Walk().do(...MEASURED);
  private readonly passes: { id: string; end: 'A' | 'B'; at: number }[] = [];
  private readonly last: Record<string, number> = {};
  private readonly overBurr = new Set<string>();
  private now = 0;

  happens(each: Happening): void {
    this.now += 1;
    switch (each.what) {
      case 'ground': {
        const id = `pass ${this.now}`;
        this.passes.push({ id, end: each.end, at: this.now });
        this.do({
          type: 'count-passes',
          passId: id,
          end: each.end,
          zone: 'full',
          count: each.count,
        });
        return;
      }
      // Counted by mistake: that pass was never ground.
      case 'taken back': {
        const [wrong] = this.passes.splice(each.nth % Math.max(1, this.passes.length), 1);
        if (wrong) this.do({ type: 'undo-passes', passId: wrong.id });
        return;
      }
      case 'deburred':
        // What was hung, read or held to the light over the burr says nothing of the blade without it.
        if (this.hasBurr) for (const what of this.overBurr) this.last[what] = 0;
        this.did('deburred', { type: 'deburr', done: true });
        this.overBurr.clear();
        return;
      case 'hung':
        this.did('hung', {
          ...{ type: 'balance-round', roundId: `round ${this.now}`, phase: 'after' },
          ...{ device: 'bearing-shaft', heavyEnd: 'level', markDeg: 90 },
        });
        return;
      case 'read': {
        const at = each.quantity === 'mass' ? undefined : each.end;
        const text = { mass: '1122', land: '0.15', bevel: '30' }[each.quantity];
        this.did(
          at ? `${each.quantity} ${at}` : each.quantity,
          take('after', each.quantity, text, at),
        );
        return;
      }
      case 'lit':
        this.did(`lit ${each.end}`, { type: 'light-test', end: each.end, brightLine: false });
    }
  }

  private get hasBurr(): boolean {
    return this.passes.some((pass) => pass.at > (this.last['deburred'] ?? 0));
  }

  private did(what: string, act: object): void {
    if (!this.do(act)) return;
    this.last[what] = this.now;
    if (this.hasBurr) this.overBurr.add(what);
    else this.overBurr.delete(what);
  }

  private do(act: object): boolean {
    try {
      this.walk.do(act);
      return true;
    } catch (error) {
      if (error instanceof Refusal) return false;
      throw error;
    }
  }

  /** What was done before the blade was ground or deburred for the last time, or not at all; a bevel need not be read. */
  get owed(): string[] {
    // It came in dull.
    if (this.passes.length === 0) return ['ground'];
    const groundAt = (at?: string): number =>
      Math.max(0, ...this.passes.filter((pass) => !at || pass.end === at).map((pass) => pass.at));
    const everRead = (what: string): boolean => this.last[what] !== undefined;
    const needs: (readonly [what: string, end?: string])[] = [
      ['deburred'],
      ['hung'],
      ['mass'],
      ...['A', 'B'].flatMap((at) => [
        [`land ${at}`, at] as const,
        [`lit ${at}`, at] as const,
        ...(everRead(`bevel ${at}`) ? [[`bevel ${at}`, at] as const] : []),
      ]),
    ];
    return needs.flatMap(([what, at]) => ((this.last[what] ?? 0) > groundAt(at) ? [] : [what]));
  }
}

describe('a blade that may be signed ready', () => {
  it('was deburred after its last pass, then hung, read and held to the light, whatever was counted and taken back', () => {
    let ready = 0;
    fc.assert(
      fc.property(
        fc.array(
          fc.oneof(
            { weight: 8, arbitrary: happening },
            { weight: 1, arbitrary: countedAnew },
            { weight: 2, arbitrary: fc.constant(READ_ANEW) },
          ),
          { minLength: 1, maxLength: 15 },
        ),
        (happenings) => {
          const bench = new Bench();
          for (const each of [...PROVED, ...happenings.flat()]) {
            bench.happens(each);
            if (!bench.walk.stands.signOff.allowed.includes('ready')) continue;
            ready += 1;
            if (bench.owed.length > 0)
              throw new Error(`ready, though owed: ${bench.owed.join(', ')}`);
          }
        },
      ),
      { numRuns: 150, seed: 2026 },
    );
    expect(ready).toBeGreaterThan(100);
  });
});
