import type { ShopRules, SpecFigures } from '@tally-stone/contract';
import {
  ENDS,
  judge,
  limitsUnder,
  type End,
  type Finding,
  type JudgedReading,
  type Measured,
} from '@tally-stone/core';
import { carriedToday } from '../cycles/facts.js';

/** What a blade's last readings say against a spec's limits today, without anybody measuring it anew. */
export function judgedByLast(
  spec: SpecFigures,
  last: ReadonlyMap<string, Measured>,
  grinds: number,
  rules: ShopRules,
): readonly Finding[] {
  const reading = (
    quantity: 'mass' | 'length' | 'wing' | 'width' | 'hole-wear',
    end?: End,
    stationKey?: string,
  ): JudgedReading | undefined => {
    const found = last.get([quantity, end ?? '-', stationKey ?? '-'].join(':'));
    return found ? { ...carriedToday(quantity, found), repeated: true, carried: false } : undefined;
  };
  return judge({
    spec: { ...spec, limits: limitsUnder(rules.retireBy, spec.limits) },
    rules: {
      leaveNicksToMm: undefined,
      dullLandMm: rules.dullLandMm,
      recessionPerGrindMm: rules.usualRecessionMm,
    },
    tipHeights: {},
    widths: ENDS.flatMap((end) =>
      spec.stations.flatMap(({ key }) => {
        const width = reading('width', end, key);
        return width ? [{ ...width, end, stationKey: key }] : [];
      }),
    ),
    mass: reading('mass'),
    length: reading('length'),
    hole: reading('hole-wear'),
    wing: Object.fromEntries(
      ENDS.flatMap((end) => {
        const wing = reading('wing', end);
        return wing ? [[end, wing]] : [];
      }),
    ),
    bevel: {},
    land: {},
    damage: [],
    grinds,
  }).findings;
}
