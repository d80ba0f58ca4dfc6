import { ENDS } from '../../blade/shape.js';
import { DAMAGE } from '../../vocabulary/damage.js';
import { againstLimit } from '../against-limit.js';
import type { Finding } from '../finding.js';
import { limitOf, type JudgedReading, type JudgeInput } from '../judged.js';

/** How sure a depth is that was marked on the drawing, mm. Common practice, no source. */
const MARKED_U_MM = 0.1;
/** Less room than this is worth watching, mm. Common practice, no source. */
const WATCH_THICKNESS_MM = 0.3;

/** The lift wing at its thinnest: by the caliper, or by a mark of what has eaten into it. */
export function judgeWings({
  spec,
  read,
  damage,
}: Pick<JudgeInput, 'spec' | 'read' | 'damage'>): Finding[] {
  const limit = limitOf(spec, 'wing');
  if (!limit) return [];
  return ENDS.flatMap((end) => {
    const measured = read('wing', end);
    const thinnest = damage
      .filter((mark) => DAMAGE[mark.kind].thinsWing && mark.end === end)
      .reduce((left, { depthMm }) => Math.min(left, spec.wingMm - depthMm), Infinity);
    const byMark: JudgedReading = {
      value: thinnest,
      u: MARKED_U_MM,
      repeated: measured?.repeated ?? false,
      carried: false,
    };
    const reading = thinnest < (measured?.value ?? Infinity) ? byMark : measured;
    if (!reading) return [];
    const about = { id: `wing:${end}`, reason: 'wing', end } as const;
    return [againstLimit(about, limit, reading, WATCH_THICKNESS_MM)];
  });
}
