import type { ShopRules, SpecFigures } from '@tally-stone/contract';
import {
  ENDS,
  judge,
  limitsUnder,
  type BenchQuantity,
  type End,
  type Finding,
  type JudgedReading,
  type Measured,
} from '@tally-stone/core';
import { carriedToday } from '@tally-stone/cycle';

/** What use takes away slowly, so that the last reading of it still tells. */
const LASTING: readonly BenchQuantity[] = ['mass', 'length', 'wing', 'wing-height', 'hole-wear'];

/** What a blade's last readings say against a spec's limits today, without anybody measuring it anew. */
export function judgedByLast(
  spec: SpecFigures,
  last: ReadonlyMap<string, Measured>,
  grinds: number,
  rules: ShopRules,
): readonly Finding[] {
  const reading = (
    quantity: BenchQuantity,
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
    // Old bends, bevels and lands say nothing of how the blade stands today.
    read: (quantity, end) => (LASTING.includes(quantity) ? reading(quantity, end) : undefined),
    widths: ENDS.flatMap((end) =>
      spec.stations.flatMap(({ key }) => {
        const width = reading('width', end, key);
        return width ? [{ ...width, end, stationKey: key }] : [];
      }),
    ),
    damage: [],
    grinds,
  }).findings;
}
