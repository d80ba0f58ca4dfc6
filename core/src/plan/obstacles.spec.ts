import { ENDS } from '../blade/shape.js';
import { blade, isAllowed } from '../testing/grind-problems.js';
import { plain } from '../testing/plain.js';
import { acrossPerPassGmm, simulatePasses } from './forward.js';
import type { Obstacle } from './obstacles.js';
import { brokenPromises, planGrind } from './plan.js';
import { nearestChoices, type Choice } from './choices.js';
import { planRows, type PlanInput } from './problem.js';
import { trailingZone, usualZones } from './zones.js';

const ANYTHING = Number.MAX_SAFE_INTEGER;
/** What is searched for is found to so much, mm and g·mm; a hundredth of it is rounding. */
const WITHIN = { floor: 0.012, straightness: 0.012, balance: 0.06 } as const;

/** The question with one demand given on by an amount, written from what the demand says, not from the product. */
const giveOn = (input: PlanInput, { about, end, nickId }: Obstacle, by: number): PlanInput => {
  if (about === 'balance')
    return {
      ...input,
      balance: input.balance && {
        ...input.balance,
        permissibleGmm: input.balance.permissibleGmm + by,
      },
    };
  if (about === 'straightness') return { ...input, rules: { ...input.rules, stepMm: by } };
  if (nickId !== undefined)
    return {
      ...input,
      nicks: input.nicks.map((nick) =>
        nick.id === nickId ? { ...nick, recessMm: Math.max(0, nick.recessMm - by) } : nick,
      ),
    };
  const stations = (of: 'A' | 'B') =>
    input.stations[of].map((station) => ({
      ...station,
      roomMm: Math.max(0, station.roomMm) + (of === end ? by : 20),
    }));
  return { ...input, stations: { A: stations('A'), B: stations('B') } };
};
/** With every nick left, or every one but this. */
const withoutNicks = (input: PlanInput, but?: string): PlanInput => ({
  ...input,
  nicks: input.nicks.map((nick) => (nick.id === but ? nick : { ...nick, recessMm: 0 })),
});
const anyBalance = (input: PlanInput): PlanInput => ({
  ...input,
  balance: input.balance && { ...input.balance, permissibleGmm: ANYTHING },
});
const anyShape = (input: PlanInput): PlanInput => ({
  ...input,
  rules: { ...input.rules, stepMm: 10 },
});
const isPossible = (input: PlanInput): boolean => planGrind(input).kind === 'plan';

/** Blades with too little steel left, or too much asked of them. */
function hopeless(seed: number): PlanInput {
  const input = blade(seed);
  const share = [0.9, 1, 0.02, 0.5, 0.6, 0.3][seed % 6] ?? 1;
  const isUneven = seed % 6 === 1;
  // The tip half of the edge is round, the rest sharp: sharpening alone makes a step.
  const thin = (of: 'A' | 'B') =>
    input.stations[of].map((station, i, all) => ({
      ...station,
      roomMm: station.roomMm * share,
      ...(isUneven ? { landMm: i < all.length / 2 ? 1.2 : 0.05, bevelDeg: 30 } : {}),
    }));
  const deep = (id: string, end: 'A' | 'B', inMm: number): PlanInput['nicks'][number] => {
    const radiusMm = input.tipRadiusMm - inMm;
    return { id, end, radiusMm, lengthMm: 5, depthMm: 4, recessMm: 4 };
  };
  const nicks =
    seed % 6 === 4 ? [deep('n', 'A', 20), ...(seed % 12 === 4 ? [deep('m', 'B', 35)] : [])] : [];
  return {
    ...input,
    rules: isUneven ? { ...input.rules, straightness: 0.001 } : input.rules,
    stations: { A: thin('A'), B: thin('B') },
    nicks: nicks.length > 0 ? nicks : seed % 4 === 0 ? [] : input.nicks,
    balance: input.balance && {
      ...input.balance,
      unbalanceGmm: input.balance.unbalanceGmm * (seed % 5 === 0 ? 3 : 1),
    },
  };
}

/** Blades that have no plan, with what is told of them: anew in each test, so that a mutation is seen by each. */
const impossible = () =>
  Array.from({ length: 54 }, (_, seed) => ({ seed, input: hopeless(seed) })).flatMap(
    ({ seed, input }) => {
      const none = planGrind(input);
      return none.kind === 'plan' ? [] : [{ seed, input, none }];
    },
  );

describe('what is in the way of a plan', () => {
  it('is told by exactly how much: so much less and there is none, so much and there is one', () => {
    const seen = new Map<string, number>();
    for (const { seed, input, none } of impossible()) {
      expect(none.obstacles.length).withContext(`blade ${seed}`).toBeGreaterThan(0);
      for (const each of none.obstacles) {
        const name = each.nickId === undefined ? each.about : 'nick';
        // By itself; with all nicks left; with the balance and the shape given on whole; with nothing else asked at all.
        const others = [
          input,
          withoutNicks(input, each.nickId),
          anyShape(anyBalance(input)),
          anyShape(withoutNicks(input)),
          anyShape(anyBalance(withoutNicks(input))),
        ];
        const short = each.short - WITHIN[each.about];
        const exact = others.some(
          (other) =>
            isPossible(giveOn(other, each, each.short)) &&
            (short <= 0 || !isPossible(giveOn(other, each, short))),
        );
        expect(exact).withContext(`blade ${seed}: ${each.words}`).toBeTrue();
        expect(plain(each.words)).toContain(each.short.toFixed(each.about === 'balance' ? 0 : 2));
        seen.set(name, (seen.get(name) ?? 0) + 1);
      }
    }
    // Each kind of obstacle was met.
    for (const name of ['nick', 'floor', 'balance', 'straightness'])
      expect(seen.get(name) ?? 0)
        .withContext(name)
        .toBeGreaterThan(1);
  });

  it('is one single demand wherever giving on one is enough', () => {
    let tried = 0;
    for (const { seed, input, none } of impossible()) {
      const nicks = input.nicks.filter(({ recessMm }) => recessMm > 0);
      const enough = [
        ...nicks.map(({ id }) => ({ about: 'floor', nickId: id }) as const),
        { about: 'balance' } as const,
        { about: 'straightness' } as const,
      ].filter((one) =>
        isPossible(
          giveOn(input, { short: 0, words: '', ...one }, one.about === 'balance' ? ANYTHING : 10),
        ),
      );
      if (enough.length === 0) continue;
      tried += 1;
      const told = none.obstacles.map(({ about, nickId }) => [about, nickId]);
      expect(told)
        .withContext(`blade ${seed}`)
        .toEqual(enough.map((one) => [one.about, 'nickId' in one ? one.nickId : undefined]));
    }
    expect(tried).toBeGreaterThan(8);
  });

  it('says on which end the edge would step, and where', () => {
    for (const uneven of ENDS) {
      const input = withoutNicks(blade(19));
      const other = uneven === 'A' ? 'B' : 'A';
      // The tip half of one end is round and the rest of it sharp; the other end is even.
      const round = input.stations[uneven].map((station, i, all) => ({
        ...station,
        wornMm: 0,
        // The sharp half has no steel to follow it back.
        roomMm: i < all.length / 2 ? 8 : 0.4,
        landMm: i < all.length / 2 ? 1.4 : 0.05,
        bevelDeg: 30,
      }));
      const even = input.stations[other].map((station) => ({ ...station, wornMm: 0, roomMm: 8 }));
      const none = planGrind({
        ...input,
        stations: uneven === 'A' ? { A: round, B: even } : { A: even, B: round },
        rules: { ...input.rules, straightness: 0.001 },
        balance: undefined,
      });
      if (none.kind === 'plan') throw new Error('there is a plan');
      const [obstacle] = none.obstacles;
      expect([obstacle?.about, obstacle?.end]).toEqual(['straightness', uneven]);
      const sharp = round.findIndex(({ landMm }) => landMm < 1);
      // Where the halves meet, or at the place beside it: the least step of all may be shared by two.
      const apartMm = round[0]!.radiusMm - round[1]!.radiusMm;
      expect(Math.abs(obstacle!.radiusMm! - round[sharp]!.radiusMm)).toBeLessThan(1.01 * apartMm);
    }
  });

  it('says where the steel is short: the place with least room of the end that lacks it', () => {
    const input = withoutNicks(blade(7));
    const B = input.stations.B.map((station, i) => ({ ...station, roomMm: i === 2 ? -0.5 : 0 }));
    const none = planGrind({ ...input, stations: { ...input.stations, B } });
    if (none.kind === 'plan') throw new Error('there is a plan');
    const [obstacle] = none.obstacles;
    expect([obstacle?.end, obstacle?.radiusMm]).toEqual(['B', B[2]!.radiusMm]);
    const inMm = (input.tipRadiusMm - B[2]!.radiusMm).toFixed(0);
    expect(plain(obstacle?.words)).toContain(`End B, ${inMm} mm from the tip: sharpening needs`);
  });
});

describe('the ways on of a blade without a plan', () => {
  const GRADES = [20, 90, 400, 2000].map((permissibleGmm) => ({
    name: `${permissibleGmm}`,
    gradeMmPerS: permissibleGmm,
    permissibleGmm,
  }));
  /** What a way on gives on, written from its words; the nicks it leaves, the grade, the step. */
  const taking = (input: PlanInput, { nickIds, grade, stepMm, kind }: Choice): PlanInput => ({
    ...input,
    nicks: input.nicks.map((nick) => (nickIds.includes(nick.id) ? { ...nick, recessMm: 0 } : nick)),
    balance: input.balance && {
      ...input.balance,
      permissibleGmm:
        grade?.permissibleGmm ??
        (kind === 'nearest-balance' ? ANYTHING : input.balance.permissibleGmm),
    },
    rules: { ...input.rules, stepMm: stepMm ?? 0 },
  });

  it('are plans at the price they say, single steps before several, grades only where they allow more', () => {
    const seen = new Set<string>();
    for (const { seed, input, none } of impossible()) {
      const ways = nearestChoices(input, none, GRADES);
      for (const way of ways) {
        const { kind, grade, metalG, worstRecessionMm, unbalanceAfterGmm } = way;
        seen.add(kind);
        const about = `blade ${seed}, ${kind}`;
        if (grade)
          expect(grade.permissibleGmm)
            .withContext(about)
            .toBeGreaterThan(input.balance!.permissibleGmm);
        if (kind === 'nearest-balance') {
          // The softness of the balance has another weight at another allowance: only its nearness is asked.
          const short = none.obstacles.find((each) => each.about === 'balance')?.short;
          if (short !== undefined)
            expect(Math.abs(unbalanceAfterGmm!))
              .withContext(about)
              .toBeLessThanOrEqual(input.balance!.permissibleGmm + short + 1e-6);
          continue;
        }
        const plan = planGrind(taking(input, way));
        if (plan.kind === 'no-plan') {
          // Both at once is the last way: the step is what is told of it.
          expect(kind).withContext(about).toBe('allow-step');
          continue;
        }
        expect(metalG).withContext(about).toBeCloseTo(plan.forward.metalG, 6);
        expect(worstRecessionMm)
          .withContext(about)
          .toBeCloseTo(
            plan.forward.stations.reduce((most, each) => Math.max(most, each.recessionMm), 0),
            9,
          );
      }
      const kinds = ways.map(({ kind }) => kind);
      if (kinds.includes('leave-nick')) expect(kinds).not.toContain('leave-nicks');
    }
    for (const kind of ['leave-nick', 'leave-nicks', 'grade', 'nearest-balance', 'allow-step'])
      expect([...seen]).toContain(kind);
  });
});

describe('zones as a shop names them', () => {
  it('take the grams of the whole edge by their share of its length', () => {
    const zones = usualZones(140, 0.7).map(({ key, reachMm, featherMm, gramsPerPass }) => [
      key,
      reachMm,
      featherMm,
      Number(gramsPerPass.toFixed(9)),
    ]);
    expect(zones).toEqual([
      ['full', 140, 10, 0.7],
      ['outer-half', 70, 10, 0.35],
      ['outer-50', 50, 10, 0.25],
    ]);
    // 65 mm is 1.3 times the outer 50: about the half already.
    expect(usualZones(130, 0.7)).toHaveSize(2);
    expect(usualZones(16, 0.7).map(({ featherMm }) => featherMm)).toEqual([8, 4]);
    const back = trailingZone(100, 0.6);
    expect([back.reachMm, back.featherMm, back.gramsPerPass]).toEqual([50, 10, 0.3]);
    const short = trailingZone(30, 0.6);
    expect([short.reachMm, short.featherMm, short.gramsPerPass]).toEqual([15, 7.5, 0.3]);
  });
});

describe('the certificate of a plan', () => {
  it('names every promise that passes break, and none that they keep', () => {
    const seen = new Set<string>();
    for (let seed = 0; seed < 60; seed++) {
      const input = blade(seed, { across: seed % 3 === 0, trailing: seed % 3 === 0 });
      const rows = planRows(input);
      const pick = (z: number, end: number): number =>
        (seed * 31 + z * 17 + end * 7) % (z === 0 ? 14 : 9);
      const passes = {
        A: input.zones.map((_, z) => pick(z, 0)),
        B: input.zones.map((_, z) => pick(z, 1)),
      };
      const broken = brokenPromises(input, passes);
      for (const end of ENDS) {
        // By the definitions alone.
        const own = broken.filter(
          (name) => name.split(' ')[1] === end || name.startsWith(`straightness t_${end}`),
        );
        const counted = own.filter((name) => !name.startsWith('passes'));
        expect(counted.length === 0)
          .withContext(`blade ${seed}, end ${end}: ${counted.join(', ')}`)
          .toBe(isAllowed(input, rows, end, passes[end]));
      }
      const left = (per: (z: number) => number, from: number): number =>
        passes.A.reduce((sum, n, z) => sum - n * per(z) + (passes.B[z] ?? 0) * per(z), from);
      const { momentGmm } = simulatePasses(input, rows, passes);
      const { unbalanceGmm, acrossGmm, permissibleGmm } = input.balance!;
      const along = unbalanceGmm - momentGmm.A + momentGmm.B;
      const across =
        acrossGmm === undefined ? 0 : left((z) => acrossPerPassGmm(input.zones[z]!), acrossGmm);
      expect(broken.includes('balance'))
        .withContext(`blade ${seed}`)
        .toBe(Math.hypot(along, across) > permissibleGmm);
      for (const name of broken) seen.add(name.split(/[ _]/)[0] ?? '');
    }
    expect([...seen].sort()).toEqual(['balance', 'ceiling', 'floor', 'straightness']);
  });

  it('counts no more passes than a zone may have, and no fewer', () => {
    const input = withoutNicks(blade(2));
    const [full, outer] = input.zones;
    const zones = [{ ...full!, leastPasses: 2, mostPasses: 5 }, outer!];
    const counted = (A: number): string[] =>
      brokenPromises({ ...input, zones }, { A: [A, 0], B: [2, 0] }).filter((name) =>
        name.startsWith('passes'),
      );
    expect([2, 5].flatMap(counted)).toEqual([]);
    expect([...counted(1), ...counted(6)]).toEqual(['passes A  full', 'passes A  full']);
  });
});
