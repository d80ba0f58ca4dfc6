import type { ShopRules } from './shop.js';

/** Default schools and figures of a shop. Common practice, no source. */
export const DEFAULT_RULES: ShopRules = {
  schools: {
    finish: 'working',
    bevel: 'spec',
    fixedBevelDeg: 30,
    nicks: { kind: 'leave-to', depthMm: 0.8 },
    balancePlace: 'cutting',
  },
  dullLandMm: 0.25,
  usualRecessionMm: 0.6,
  straightness: 0.02,
  tipReachMm: 50,
  tipMostMm: 0.8,
  wearWeightG: 6,
  fullLookCycles: 4,
  // Commercial mowing changes after 8 to 10 hours.
  interval: { kind: 'hours', hours: 10 },
  benchWeekdays: [2, 4],
  benchBlades: 12,
  fullLookDays: 120,
  checkMassG: 500,
  checkWidthMm: 50,
  checkLevelG: 1,
  balanceWhen: 'after',
  balanceDevice: 'bearing-shaft',
  // A figure nobody measured must be asked for.
  standIns: [],
  retireBy: { kind: 'limits' },
  region: { dates: 'day-first', decimal: 'point', weekBegins: 1 },
  prices: {
    currency: 'GBP',
    blade: 18,
    minutesPerBlade: 12,
    benchHour: 28,
    abrasivePerGrind: 0.3,
    dullHour: 6,
    stoppedHour: 45,
  },
};
