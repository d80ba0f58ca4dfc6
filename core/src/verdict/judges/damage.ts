import { finite } from '../../errors.js';
import { COVERAGE_K, rss } from '../../reading/uncertainty.js';
import { DAMAGE } from '../../vocabulary/damage.js';
import { againstLimit } from '../against-limit.js';
import type { Finding, FindingSource } from '../finding.js';
import { limitOf, type JudgedDamage, type JudgeInput } from '../judged.js';
import { widthRoomMm } from './width.js';

/** How sure the rounding of a tip is that was marked on the drawing, mm. Common practice, no source. */
const ROUNDING_U_MM = 0.25;
const WATCH_ROUNDING_MM = 1;

/** How sure the depth of a nick is, mm. Common practice, no source. */
const DEPTH_U_MM = 0.1;

/** A nick, chip or rolled edge: cleared, dressed to what may stay, left, or beyond saving. */
function judgeGroundOut(
  { spec, rules, widths }: JudgeInput,
  mark: JudgedDamage,
  about: Pick<Finding, 'id' | 'end' | 'fromTipMm' | 'damage'>,
): Finding {
  const policy = rules.leaveNicksToMm;
  const leave =
    mark.choice === 'clear' ? 0 : mark.choice === 'leave' ? mark.depthMm : (policy ?? mark.depthMm);
  const source: FindingSource = mark.choice
    ? { by: 'nick-choice', choice: mark.choice, damage: mark.kind }
    : { by: 'nick-policy', leaveToMm: policy };
  const roomMm = widthRoomMm(spec, widths, mark.end, spec.newLengthMm / 2 - mark.fromTipMm);
  const needed = Math.max(0, finite(`${about.id}.depthMm`, mark.depthMm) - leave);
  const base = { ...about, value: mark.depthMm, limit: leave, unit: 'mm', roomMm, source };
  const left = roomMm === undefined ? undefined : roomMm - needed;
  const widthU = Math.max(0, ...widths.filter(({ end }) => end === mark.end).map(({ u }) => u));
  const doubt = COVERAGE_K * rss(widthU, DEPTH_U_MM);
  if (left !== undefined && needed > 0 && left < doubt) {
    const judged = { ...base, margin: left, expandedUncertainty: doubt };
    if (left < -doubt) return { ...judged, reason: 'damage-beyond-saving', severity: 'retire' };
    if (left < 0) return { ...judged, reason: 'damage-undecided', severity: 'hold' };
  }
  return needed > 0
    ? { ...base, reason: 'damage-ground-out', severity: 'grind', margin: left }
    : { ...base, reason: 'damage-left', severity: 'watch', margin: roomMm };
}

function judgeMark(input: JudgeInput, mark: JudgedDamage): Finding[] {
  const kind = DAMAGE[mark.kind];
  const about = {
    id: `damage:${mark.id}`,
    end: mark.end,
    fromTipMm: mark.fromTipMm,
    damage: mark.kind,
  };
  if (kind.groundOut) return [judgeGroundOut(input, mark, about)];
  if (kind.retires) {
    const source = { by: 'safety' } as const;
    return [{ ...about, reason: 'damage-retires', severity: 'retire', source }];
  }
  const limit = kind.limit && limitOf(input.spec, kind.limit);
  if (limit) {
    const depth = { value: mark.depthMm, u: ROUNDING_U_MM, repeated: true, carried: false };
    return [againstLimit({ ...about, reason: 'damage-limit' }, limit, depth, WATCH_ROUNDING_MM)];
  }
  const source = { by: 'practice' } as const;
  if (kind.heldUntilRead) {
    const reading = input.read(kind.heldUntilRead);
    const read = reading && !reading.carried;
    return [{ ...about, reason: 'damage-to-measure', severity: read ? 'watch' : 'hold', source }];
  }
  if (kind.keptInSight) {
    const value = mark.depthMm;
    const limit = kind.spoilsWidthWithinMm;
    return [{ ...about, reason: 'damage-in-sight', severity: 'watch', value, limit, source }];
  }
  return [];
}

/** What was marked on the steel. What thins the wing is judged with the wing. */
export const judgeDamage = (input: JudgeInput): Finding[] =>
  input.damage.flatMap((mark) => judgeMark(input, mark));
