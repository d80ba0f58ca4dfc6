import { inject, Injectable, signal } from '@angular/core';
import {
  PHOTO_MOST_BYTES,
  type CycleView,
  type DamageKind,
  type Entered,
} from '@tally-stone/contract';
import { DAMAGE, type End } from '@tally-stone/core';
import { newId } from '../data/commands';
import { Undo } from '../data/undo';
import type { Trouble } from '../data/problem';
import type { MarkPlace } from '../parts/blade-drawing';
import { RunStore } from './run-store';

/** Where an edge usually turns blue first, mm from the tip. Common practice, no source. */
const HEAT_FROM_TIP_MM = 10;
const mm = (value: number | undefined): Entered | undefined =>
  value === undefined ? undefined : { text: String(value), unit: 'mm' };

/** Marks of damage on the blade in hand, and its photos. */
@Injectable()
export class Marks {
  private readonly store = inject(RunStore);
  private readonly undo = inject(Undo);
  /** The kind of damage the next touch of the drawing marks, and the mark made last. */
  readonly markKind = signal<DamageKind>('nick');
  readonly justMarked = signal('');

  /** Puts a mark of the kind in hand where the drawing was touched; its depth is then asked for. */
  async place({ end, fromTipMm }: MarkPlace): Promise<void> {
    const damageId = newId();
    const kind = this.markKind();
    const trouble = await this.store.act({
      type: 'mark-damage',
      damageId,
      kind,
      end,
      fromTip: { text: String(fromTipMm), unit: 'mm' },
      depth: { text: String(DAMAGE[kind].usualDepthMm), unit: 'mm' },
    });
    if (!trouble) this.justMarked.set(damageId);
  }

  /** Notes that an end turned blue while grinding; the mark is moved to its place on the drawing. */
  async markHeat(end: End): Promise<Trouble | undefined> {
    const damageId = newId();
    const trouble = await this.store.act({
      type: 'mark-damage',
      damageId,
      kind: 'burnt',
      end,
      fromTip: { text: String(HEAT_FROM_TIP_MM), unit: 'mm' },
      depth: { text: String(DAMAGE.burnt.usualDepthMm), unit: 'mm' },
    });
    if (!trouble) this.justMarked.set(damageId);
    return trouble;
  }

  /** Puts a photo on the blade, or on one mark of it. What is plainly no photo is not even kept. */
  attachPhoto(file: Blob, damageId?: string): Promise<Trouble | undefined> {
    const most = Math.round(PHOTO_MOST_BYTES / 2 ** 20);
    const wrong =
      file.size > PHOTO_MOST_BYTES
        ? $localize`is larger than ${most} MB: take it with fewer pixels`
        : file.type !== '' && !file.type.startsWith('image/')
          ? $localize`is not a picture: take a JPEG, PNG or WebP`
          : '';
    if (wrong) return this.store.refused($localize`The photo ${wrong}.`, { photo: wrong });
    return this.store.act(
      { type: 'attach-photo', photoId: newId(), file: '', ...(damageId ? { damageId } : {}) },
      file,
    );
  }

  /** Moves a mark along its edge; what was measured of it stays. */
  async moveMark(to: MarkPlace & { readonly damageId: string }): Promise<void> {
    const mark = this.store.view()?.damage.find(({ damageId }) => damageId === to.damageId);
    if (mark) await this.remark({ ...mark, ...to });
  }

  /** Takes a mark off, with a way back for as long as nothing else is done. */
  async erase(damageId: string): Promise<void> {
    const mark = this.store.view()?.damage.find((each) => each.damageId === damageId);
    const trouble = await this.store.act({ type: 'erase-damage', damageId });
    if (!trouble && mark)
      this.undo.offer(
        $localize`${DAMAGE[mark.kind].words}, end ${mark.end}, is off the drawing.`,
        () => {
          void this.remark(mark);
        },
      );
  }

  /** Says a mark again with something about it changed. */
  remark(
    mark: CycleView['damage'][number],
    typed: { depth?: Entered; length?: Entered } = {},
    instrument?: string,
  ): Promise<Trouble | undefined> {
    const length = typed.length ?? mm(mark.lengthMm);
    // Moved as it is it keeps what it was read with; typed anew it was typed.
    const readWith = instrument ?? (typed.depth || typed.length ? undefined : mark.instrument);
    return this.store.act({
      type: 'mark-damage',
      damageId: mark.damageId,
      kind: mark.kind,
      end: mark.end,
      fromTip: { text: String(mark.fromTipMm), unit: 'mm' },
      depth: typed.depth ?? { text: String(mark.depthMm), unit: 'mm' },
      ...(length ? { length } : {}),
      ...(readWith ? { instrument: readWith } : {}),
    });
  }
}
