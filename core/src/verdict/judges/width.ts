import { interpolateMm, type End } from '../../blade/shape.js';
import { rss } from '../../reading/uncertainty.js';
import { DAMAGE } from '../../vocabulary/damage.js';
import { againstLimit } from '../against-limit.js';
import type { Finding } from '../finding.js';
import { limitOf, type JudgedSpec, type JudgedWidth, type JudgeInput } from '../judged.js';

/**
 * A width with what spoils it: read beside a pit it may be too small by the pit's depth, which is a rectangle of that
 * half width in its uncertainty (JCGM 100:2008, 4.3.7).
 */
function withPits(
  width: JudgedWidth,
  fromTipMm: number,
  damage: JudgeInput['damage'],
): JudgedWidth {
  const deepest = damage
    .filter(({ kind, end, fromTipMm: at }) => {
      const within = DAMAGE[kind].spoilsWidthWithinMm;
      return within !== undefined && end === width.end && Math.abs(at - fromTipMm) <= within;
    })
    .reduce((most, { depthMm }) => Math.max(most, depthMm), 0);
  return deepest === 0 ? width : { ...width, u: rss(width.u, deepest / Math.sqrt(3)) };
}

/** Each measured station against its least width. */
export function judgeWidths({
  spec,
  widths,
  rules,
  damage,
}: Pick<JudgeInput, 'spec' | 'widths' | 'rules' | 'damage'>): Finding[] {
  return widths.flatMap((width) => {
    const { end, stationKey } = width;
    const station = spec.stations.find(({ key }) => key === stationKey);
    const limit = limitOf(spec, 'width', stationKey);
    if (!station || !limit) return [];
    const fromTipMm = spec.newLengthMm / 2 - station.radiusMm;
    const about = {
      id: `width:${end}:${stationKey}`,
      reason: 'width',
      end,
      stationKey,
      stationName: station.name,
      fromTipMm,
    } as const;
    const reading = withPits(width, fromTipMm, damage);
    return [againstLimit(about, limit, reading, rules.recessionPerGrindMm)];
  });
}

/**
 * The width limit at a place, mm, by straight lines between the stations that have one; nothing where none has.
 * @example widthLimitMm({ stations: [{ key: 'tip', name: 'tip', radiusMm: 250, fromTipMm: 10 }], limits: [{ kind: 'width', value: 50, unit: 'mm', stationKey: 'tip', source: 'maker', sourceText: '' }] }, 200) // 50
 */
export function widthLimitMm(
  spec: Pick<JudgedSpec, 'stations' | 'limits'>,
  radiusMm: number,
): number | undefined {
  const limits = spec.stations.flatMap((station) => {
    const limit = limitOf(spec, 'width', station.key);
    return limit ? [{ radiusMm: station.radiusMm, valueMm: limit.value }] : [];
  });
  return limits.length === 0 ? undefined : interpolateMm(limits, radiusMm);
}

/**
 * Room above the width limit at a place of one end, mm, by straight lines between the measured stations,
 * or `undefined` where no width or no limit is known.
 * @example widthRoomMm({ stations: [{ key: 'tip', name: 'tip', radiusMm: 250, fromTipMm: 10 }], limits: [{ kind: 'width', value: 50, unit: 'mm', stationKey: 'tip', source: 'maker', sourceText: '' }] }, [{ value: 52, u: 0, repeated: false, carried: false, end: 'A', stationKey: 'tip' }], 'A', 250) // 2
 */
export function widthRoomMm(
  spec: Pick<JudgedSpec, 'stations' | 'limits'>,
  widths: readonly JudgedWidth[],
  end: End,
  radiusMm: number,
): number | undefined {
  const rooms = widths
    .filter((width) => width.end === end)
    .flatMap((width) => {
      const station = spec.stations.find(({ key }) => key === width.stationKey);
      const limit = limitOf(spec, 'width', width.stationKey);
      return station && limit
        ? [{ radiusMm: station.radiusMm, valueMm: width.value - limit.value }]
        : [];
    });
  return rooms.length === 0 ? undefined : interpolateMm(rooms, radiusMm);
}
