import { ENDS, type End } from '../../blade/shape.js';
import { QUANTITIES, QUANTITY_KEYS, type BenchQuantity } from '../../vocabulary/quantities.js';
import { againstLimit } from '../against-limit.js';
import type { Finding } from '../finding.js';
import { limitOf, type JudgeInput } from '../judged.js';

function judgeOne(
  { spec, read }: Pick<JudgeInput, 'spec' | 'read'>,
  quantity: BenchQuantity,
  end: End | undefined,
): Finding[] {
  const { limit: kind, plainly } = QUANTITIES[quantity];
  const limit = kind && limitOf(spec, kind);
  const reading = read(quantity, end);
  if (!plainly || !limit || !reading) return [];
  const id = end ? `${quantity}:${end}` : quantity;
  const about = { id, reason: 'reading', quantity, end } as const;
  return [againstLimit(about, limit, reading, plainly.watchBelow)];
}

/** Every quantity that is held against its limit just as it was read: length, hole wear, wing height. */
export const judgePlainReadings = (input: Pick<JudgeInput, 'spec' | 'read'>): Finding[] =>
  QUANTITY_KEYS.flatMap((quantity) =>
    QUANTITIES[quantity].per === 'blade'
      ? judgeOne(input, quantity, undefined)
      : ENDS.flatMap((end) => judgeOne(input, quantity, end)),
  );
