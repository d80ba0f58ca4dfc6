import type { SeasonSpan } from '@tally-stone/core';

/** Where a spell lies in its lane, px: the back of the steel is the top, what a whole edge life takes is `wearsPx`. */
export interface LanePlace {
  readonly leftPx: number;
  readonly rightPx: number;
  readonly topPx: number;
  readonly tallPx: number;
  /** How far the edge has gone back at its start and at its end, 0 fresh and 1 used up. */
  readonly usedAtStart: number;
  readonly usedAtEnd: number;
}

/** What an edge loses of the strip's height until it is used up. */
const WEARS = 0.5;
const CORNER_PX = 5;
const NICK_PX = 4;
const TOOTH_PX = 3;

const at = (x: number, y: number): string => `${x.toFixed(1)} ${y.toFixed(1)}`;
const edgeY = ({ topPx, tallPx }: LanePlace, used: number): number =>
  topPx + tallPx * (1 - WEARS * used);

/** A strip of steel, its first corner cut like a blade's where a set goes on, its edge gone back to the right. */
export function steelOf(place: LanePlace, goesOn: boolean): string {
  const { leftPx, rightPx, topPx, usedAtStart, usedAtEnd } = place;
  const corner = goesOn ? Math.min(CORNER_PX, (rightPx - leftPx) / 2) : 0;
  return `M${at(leftPx + corner, topPx)}L${at(rightPx, topPx)}L${at(rightPx, edgeY(place, usedAtEnd))}L${at(leftPx, edgeY(place, usedAtStart))}L${at(leftPx, topPx + corner)}Z`;
}

/** Its edge: a line while it cuts, teeth where it tears. */
export function edgeOf(place: LanePlace, state: SeasonSpan['state']): string {
  const { leftPx, rightPx, usedAtStart, usedAtEnd } = place;
  if (state === 'stopped') return '';
  const [from, to] = [edgeY(place, usedAtStart), edgeY(place, usedAtEnd)];
  if (state === 'sharp') return `M${at(leftPx, from)}L${at(rightPx, to)}`;
  const teeth = Math.max(1, Math.round((rightPx - leftPx) / (2 * TOOTH_PX)));
  const step = (rightPx - leftPx) / teeth;
  return Array.from(
    { length: teeth },
    (_, i) =>
      `L${at(leftPx + (i + 0.5) * step, from + TOOTH_PX)}L${at(leftPx + (i + 1) * step, from)}`,
  ).reduce((path, tooth) => path + tooth, `M${at(leftPx, from)}`);
}

/** The nick a stone made, out of the edge where the spell ends. */
export function nickOf(place: LanePlace): string {
  const y = edgeY(place, place.usedAtEnd) + 1;
  return `M${at(place.rightPx - 2 * NICK_PX, y)}L${at(place.rightPx - NICK_PX, y - 2.2 * NICK_PX)}L${at(place.rightPx, y)}Z`;
}
