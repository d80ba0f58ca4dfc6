import type { ShopRules, SpecFigures } from '@tally-stone/contract';
import {
  ENDS,
  judge,
  limitsUnder,
  type BenchQuantity,
  type End,
  type Finding,
  type JudgedReading,
} from '@tally-stone/core';
import { carriedToday, historyKey } from '@tally-stone/cycle';
import type { ReadHere } from '../cycle/history.js';
import type { BladeRowStored } from './blade.model.js';
import { ownRecession } from '../cycle/own-recession.js';

/** What use takes away slowly, so that the last reading of it still tells. */
const LASTING: readonly BenchQuantity[] = ['mass', 'length', 'wing', 'wing-height', 'hole-wear'];

/** What a blade's last readings say against a spec's limits today, without anybody measuring it anew. */
export function judgedByLast(
  spec: SpecFigures,
  read: ReadHere,
  { grinds, knownFrom }: Pick<BladeRowStored, 'grinds' | 'knownFrom'>,
  rules: ShopRules,
): readonly Finding[] {
  const takenMm = ownRecession(spec, read, grinds, rules.usualRecessionMm);
  const reading = (
    quantity: BenchQuantity,
    end?: End,
    stationKey?: string,
  ): JudgedReading | undefined => {
    const found = read.last.get(historyKey({ quantity, end, stationKey }));
    return found
      ? {
          ...carriedToday(quantity, found, takenMm),
          repeated: true,
          carried: quantity === 'width' && (found.grindsSince ?? 0) > 0,
        }
      : undefined;
  };
  return judge({
    spec: { ...spec, limits: limitsUnder(rules.retireBy, spec.limits) },
    rules: {
      leaveNicksToMm: undefined,
      dullLandMm: rules.dullLandMm,
      recessionPerGrindMm: takenMm,
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
    cameUsed: knownFrom === 'used',
  }).findings;
}
