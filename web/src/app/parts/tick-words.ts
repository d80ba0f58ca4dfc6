import { tickStep } from 'd3-array';
import type { NumberValue, ScaleLinear } from 'd3-scale';
import type { Region } from '../data/region';

/** What stands at an axis' ticks, in the shop's figures: as many decimals as the step between them has. */
export function tickWords(
  scale: ScaleLinear<number, number>,
  count: number,
  region: Region,
): (tick: NumberValue) => string {
  const [from = 0, to = 1] = scale.domain();
  const digits = Math.max(0, -Math.floor(Math.log10(tickStep(from, to, count))));
  return (tick) => region.number(tick.valueOf(), digits);
}
