import { PHOTO_MAT } from '@tally-stone/cycle';
import type { CycleView, Entered, Phase } from '@tally-stone/contract';
import { isRounded, notedNotches, type EdgePhoto, type End } from '@tally-stone/core';
import { newId } from '../data/commands';

type Mark = CycleView['damage'][number];

/** Damage the photo proposes; each is kept, changed or thrown away by one touch. */
export interface Proposal {
  /** The mark it becomes; the one it is on the drawing already, where it is known. */
  readonly damageId: string;
  readonly kind: EdgePhoto['damage'][number]['kind'] | 'rounded-tip';
  readonly fromTipMm: number;
  readonly depthMm: number;
  readonly lengthMm?: number;
  readonly kept: boolean;
  /** Its mark on the drawing: kept, it takes the photo's depth. */
  readonly known: Mark | undefined;
  /** The depth as somebody typed it in the photo's place. */
  readonly typed?: Entered;
}

/** What a photo proposes beside the marks that stand: new damage is ticked before the grind, the rest is not. */
export function proposedBy(
  { damage, tip }: Pick<EdgePhoto, 'damage' | 'tip'>,
  end: End,
  phase: Phase,
  marks: readonly Mark[],
): Proposal[] {
  const here = marks.filter((mark) => mark.end === end);
  const proposal = (
    seen: Pick<Proposal, 'kind' | 'fromTipMm' | 'depthMm' | 'lengthMm'>,
    known: Mark | undefined,
  ): Proposal => ({
    ...seen,
    damageId: known?.damageId ?? newId(),
    kept: phase === 'before' && !known,
    known,
  });
  const noted = notedNotches(damage, here);
  const notches = damage.map(({ kind, fromTipMm, depthMm, lengthMm }, i) =>
    proposal({ kind, fromTipMm, depthMm, lengthMm }, noted[i]),
  );
  if (!isRounded(tip)) return notches;
  const seen = { kind: 'rounded-tip', fromTipMm: 0, depthMm: tip.roundedByMm } as const;
  return [
    ...notches,
    proposal(
      seen,
      here.find(({ kind }) => kind === 'rounded-tip'),
    ),
  ];
}

const mm = (value: number): Entered => ({ text: value.toFixed(2), unit: 'mm' });

/** What is sent to put it on the drawing. A depth that somebody typed was not read by the photo. */
export const asMark = (each: Proposal, end: End) => ({
  type: 'mark-damage' as const,
  damageId: each.damageId,
  kind: each.known?.kind ?? each.kind,
  end,
  fromTip: mm(each.known?.fromTipMm ?? each.fromTipMm),
  depth: each.typed ?? mm(each.depthMm),
  ...(each.lengthMm !== undefined && { length: mm(each.lengthMm) }),
  ...(each.typed ? {} : { instrument: PHOTO_MAT }),
});
