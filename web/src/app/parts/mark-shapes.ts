import type { DamageKind } from '@tally-stone/core';

/** Where a mark lies on the drawing, mm, and which way the steel is from there: y grows by `into`. */
export interface MarkAt {
  readonly xMm: number;
  readonly yMm: number;
  readonly into: 1 | -1;
  /** Towards the blade's middle along x. */
  readonly inward: 1 | -1;
  readonly halfMm: number;
  readonly deepMm: number;
}

type Draw = (at: MarkAt) => string;

const dot = (xMm: number, yMm: number, r: number): string =>
  `M${(xMm - r).toFixed(2)} ${yMm.toFixed(2)}a${r} ${r} 0 1 0 ${2 * r} 0a${r} ${r} 0 1 0 ${-2 * r} 0Z`;

const line = (points: readonly (readonly [number, number])[]): string =>
  points.map(([x, y], i) => `${i === 0 ? 'M' : 'L'}${x.toFixed(2)} ${y.toFixed(2)}`).join(' ');

/** A V out of the edge. */
const nick: Draw = ({ xMm, yMm, into, halfMm, deepMm }) =>
  `${line([
    [xMm - halfMm, yMm - into],
    [xMm, yMm + into * deepMm],
    [xMm + halfMm, yMm - into],
  ])} Z`;

/** A piece broken out, its floor uneven. */
const chip: Draw = ({ xMm, yMm, into, halfMm, deepMm }) =>
  `${line([
    [xMm - halfMm, yMm - into],
    [xMm - 0.6 * halfMm, yMm + into * deepMm],
    [xMm, yMm + 0.7 * into * deepMm],
    [xMm + 0.5 * halfMm, yMm + into * deepMm],
    [xMm + halfMm, yMm - into],
  ])} Z`;

/** A lip turned over the edge. */
const roll: Draw = ({ xMm, yMm, into, halfMm }) =>
  `M${(xMm - halfMm).toFixed(2)} ${yMm.toFixed(2)} q${halfMm.toFixed(2)} ${(-5 * into).toFixed(2)} ${(2 * halfMm).toFixed(2)} 0`;

/** A crack runs jagged into the steel; what is given as its depth is its length. */
const crack: Draw = ({ xMm, yMm, into, deepMm }) => {
  const length = Math.max(8, deepMm);
  return line(
    Array.from({ length: 6 }, (_, i) => [
      xMm + (i === 0 ? 0 : i % 2 === 0 ? 1.6 : -1.6),
      yMm + (into * length * i) / 5,
    ]),
  );
};

/** The corner rounded off, from the tip inwards. */
const rounded: Draw = ({ xMm, yMm, into, inward, halfMm }) =>
  `M${(xMm + inward * 2 * halfMm).toFixed(2)} ${yMm.toFixed(2)} q${(-inward * 2 * halfMm).toFixed(2)} 0 ${(-inward * 2 * halfMm).toFixed(2)} ${(into * 2 * halfMm).toFixed(2)}`;

/** Pits, spread about the place. */
const pits: Draw = ({ xMm, yMm, into }) =>
  (
    [
      [-4, 3, 1.1],
      [0, 6, 1.5],
      [4, 3.5, 1],
      [-2.5, 9, 0.9],
      [3, 9.5, 1.2],
    ] as const
  )
    .map(([dx, dy, r]) => dot(xMm + dx, yMm + into * dy, r))
    .join('');

/** Steel worn thin: short strokes beside each other. */
const thin: Draw = ({ xMm, yMm, into }) =>
  [-5, 0, 5].map((dx) => `M${xMm + dx - 2} ${yMm + into * 3}l4 ${into * 8}`).join('');

/** A bloom of heat along the edge. */
const blued: Draw = ({ xMm, yMm, into, halfMm }) => {
  const half = Math.max(5, halfMm);
  return `M${(xMm - half).toFixed(2)} ${yMm.toFixed(2)} q${half.toFixed(2)} ${(into * 9).toFixed(2)} ${(2 * half).toFixed(2)} 0Z`;
};

const ring: Draw = ({ xMm, yMm, into }) => dot(xMm, yMm + into * 6, 4);

const SHAPES: Readonly<Record<DamageKind, { readonly draw: Draw; readonly open?: true }>> = {
  nick: { draw: nick },
  chip: { draw: chip },
  roll: { draw: roll, open: true },
  crack: { draw: crack, open: true },
  'rounded-tip': { draw: rounded, open: true },
  'thin-wing': { draw: thin, open: true },
  'rust-pitting': { draw: pits },
  burnt: { draw: blued },
  'worn-hole': { draw: ring, open: true },
};

/** A mark drawn as what it is; an open one is a line, the others are cut out of the steel. */
export function markShape(
  kind: DamageKind,
  at: MarkAt,
): { readonly path: string; readonly open: boolean } {
  const { draw, open = false } = SHAPES[kind];
  return { path: draw(at), open };
}
