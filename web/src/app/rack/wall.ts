import type { BladeRow, RackMower, RackView } from '@tally-stone/contract';

type Size = RackView['sizes'][number];
type SetOffer = RackView['sets'][number];

/** A peg as it is drawn: its blades, what is still missing on it, and the mower it is for. */
export interface PegDrawn {
  readonly name: string;
  readonly mower?: RackMower | undefined;
  readonly set?: SetOffer | undefined;
  readonly blades: readonly BladeRow[];
  /** So many of them, the first, are the next set: tied together where it hangs here whole. */
  readonly tied: number;
  /** Places on the peg that nobody can fill. */
  readonly missing: readonly number[];
}
export interface SizeDrawn extends Omit<Size, 'pegs'> {
  readonly heightPx: number;
  readonly pegs: readonly PegDrawn[];
}

/** The longest blade of the wall is drawn so long. */
const TALLEST_PX = 220;
const LEAST_WIDTH_PX = 24;

/** How many of a set nobody has ready; none where a set stands ready for the mower. */
const lacking = ({ deck }: RackMower, set: SetOffer | undefined): number =>
  set && set.blades.length === 0 ? Math.max(0, deck.spindles.length - deck.readyBlades) : 0;

/** The wall of a rack, size by size, each blade to one scale. */
export function wallOf(rack: RackView): SizeDrawn[] {
  const longest = Math.max(1, ...rack.sizes.map(({ lengthMm }) => lengthMm));
  const blades = new Map(rack.ready.map((blade) => [blade.bladeId, blade]));
  return rack.sizes.map((size) => {
    return {
      ...size,
      heightPx: (size.lengthMm / longest) * TALLEST_PX,
      pegs: size.pegs.map(({ name, mowerId, bladeIds }) => {
        const mower = rack.mowers.find((each) => each.mowerId === mowerId);
        const set = mower && rack.sets.find((each) => each.mowerId === mowerId);
        const next = new Set(set?.blades.map(({ bladeId }) => bladeId));
        const hung = bladeIds.flatMap((id) => blades.get(id) ?? []);
        const ofSet = hung.filter(({ bladeId }) => next.has(bladeId));
        const missing = mower ? lacking(mower, set) : 0;
        return {
          name,
          mower,
          set,
          blades: [...ofSet, ...hung.filter(({ bladeId }) => !next.has(bladeId))],
          tied: next.size > 0 && ofSet.length === next.size ? next.size : 0,
          missing: Array.from({ length: missing }, (_, i) => i),
        };
      }),
    };
  });
}

/** Between two blades of a peg. */
const GAP_PX = 6;
/** The cord from the first hole to the last of so many blades. */
export const cordPx = (size: SizeDrawn, blades: number): number =>
  (blades - 1) * (widthPx(size) + GAP_PX);

/** Drawn width of a blade, wide enough for its code. */
export const widthPx = ({ lengthMm, widthMm, heightPx }: SizeDrawn): number =>
  Math.max(LEAST_WIDTH_PX, (widthMm / lengthMm) * heightPx);
