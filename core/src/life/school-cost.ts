import { BenchError, notNegative, positive } from '../errors.js';
import { nickRecessMm, type NickPolicy } from '../plan/schools.js';

/** One finished grind of the shop's history. */
export interface GrindOfHistory {
  /** How far the edge went back, mean over its places, mm. */
  readonly recessionMm: number;
  /** The deepest nick, chip or roll that was marked on it, mm; 0 for none. */
  readonly deepestMm: number;
}

/** What a school is reckoned on: blades of one spec, as the shop has ground and mown with them. */
export interface SchoolBasis {
  readonly grinds: readonly GrindOfHistory[];
  /** Width of a new blade above its limit, where least is left, mm. */
  readonly roomMm: number;
  /** Grinds until a limit is met that grinding does not touch: a wing that sand thins. */
  readonly otherLimitGrinds?: number | undefined;
  readonly hoursPerEdge: number;
  readonly dullHoursPerEdge: number;
  /** Blades lost to cracks and bends, per hour. */
  readonly lostPerHour: number;
}

export interface SchoolPrices {
  readonly blade: number;
  readonly minutesPerBlade: number;
  readonly benchHour: number;
  readonly abrasivePerGrind: number;
  readonly dullHour: number;
}

/** A way to grind and to retire. */
export interface SchoolChoice {
  readonly nicks: NickPolicy;
  /** Retired after so many grinds, whatever is left; by measured limits alone without it. */
  readonly afterGrinds?: number | undefined;
}

/** What an hour mown costs under a school, part by part, in the money of the prices. */
export interface SchoolCost {
  readonly recessionMm: number;
  /** Grinds a blade gets, on the mean. */
  readonly grinds: number;
  readonly hours: number;
  readonly blade: number;
  readonly bench: number;
  readonly abrasive: number;
  readonly dull: number;
  /** What the school moves: steel, bench and abrasive, all but the hours mown dull. */
  readonly ground: number;
  readonly total: number;
}

const mean = (values: readonly number[]): number =>
  values.reduce((sum, each) => sum + each, 0) / values.length;

/**
 * Mean recession of a grind under a nick policy, replayed over the shop's history: a grind without a nick as it was;
 * with one, what sharpening alone takes or what the policy asks of the deepest nick, whichever is more. The other end
 * follows for balance.
 *
 * Errors: `grinds` when empty, `recessionMm` or `deepestMm` negative.
 * Example: grinds of 0.4 mm, every other one with a nick of 1.2 mm: clearing all of it makes 0.8 mm a grind.
 * @example recessionUnder([{ recessionMm: 0.4, deepestMm: 0 }, { recessionMm: 0.9, deepestMm: 1.2 }], { kind: 'clear-all' }) // 0.8
 */
export function recessionUnder(grinds: readonly GrindOfHistory[], nicks: NickPolicy): number {
  if (grinds.length === 0) throw new BenchError('grinds', $localize`must hold at least one grind`);
  const whole = grinds.filter(({ deepestMm }) => notNegative('deepestMm', deepestMm) === 0);
  const sharpeningMm = mean(
    (whole.length > 0 ? whole : grinds).map(({ recessionMm }) =>
      notNegative('recessionMm', recessionMm),
    ),
  );
  return mean(
    grinds.map(({ recessionMm, deepestMm }) =>
      deepestMm === 0 ? recessionMm : Math.max(sharpeningMm, nickRecessMm(nicks, deepestMm)),
    ),
  );
}

/**
 * What an hour mown costs under a school. A blade gets at most K = min(room/recession, other limit, count) grinds,
 * whole ones, and mows on its factory edge before the first of them; each edge lasts h hours and loses the blade
 * with p = 1 − exp(−λh), so it gets (1 − (1 − p)^(K+1))/p edges on the mean and a grind less (renewal-reward: cost of
 * a life over the hours of a life). Prices are the shop's; no source.
 *
 * Errors: `roomMm` or `hoursPerEdge` not above zero, the rest when negative, by name.
 * Example: 6 mm of room at 0.5 mm a grind, 20 h an edge, nothing lost, a blade of 24: 12 grinds after the factory edge, 260 h, 0.092 an hour for steel.
 * @example schoolCost({ grinds: [{ recessionMm: 0.5, deepestMm: 0 }], roomMm: 6, hoursPerEdge: 20, dullHoursPerEdge: 0, lostPerHour: 0 }, { nicks: { kind: 'leave-all' } }, { blade: 24, minutesPerBlade: 12, benchHour: 30, abrasivePerGrind: 0, dullHour: 0 }).blade // 0.092
 */
export function schoolCost(
  basis: SchoolBasis,
  { nicks, afterGrinds }: SchoolChoice,
  prices: SchoolPrices,
): SchoolCost {
  const recessionMm = recessionUnder(basis.grinds, nicks);
  const h = positive('hoursPerEdge', basis.hoursPerEdge);
  const most = Math.min(
    // A count that comes out whole must not lose one to rounding.
    Math.floor(positive('roomMm', basis.roomMm) / Math.max(recessionMm, 1e-9) + 1e-9),
    Math.floor(notNegative('otherLimitGrinds', basis.otherLimitGrinds ?? Number.MAX_VALUE)),
    Math.floor(notNegative('afterGrinds', afterGrinds ?? Number.MAX_VALUE)),
  );
  const lost = -Math.expm1(-notNegative('lostPerHour', basis.lostPerHour) * h);
  const edges = lost === 0 ? most + 1 : -Math.expm1((most + 1) * Math.log1p(-lost)) / lost;
  const grinds = edges - 1;
  const hours = edges * h;
  const blade = notNegative('blade', prices.blade) / hours;
  const bench =
    (((notNegative('minutesPerBlade', prices.minutesPerBlade) *
      notNegative('benchHour', prices.benchHour)) /
      60) *
      grinds) /
    hours;
  const abrasive = (notNegative('abrasivePerGrind', prices.abrasivePerGrind) * grinds) / hours;
  const dull =
    (notNegative('dullHoursPerEdge', basis.dullHoursPerEdge) *
      notNegative('dullHour', prices.dullHour)) /
    h;
  const ground = blade + bench + abrasive;
  return {
    recessionMm,
    grinds,
    hours,
    blade,
    bench,
    abrasive,
    dull,
    ground,
    total: ground + dull,
  };
}
