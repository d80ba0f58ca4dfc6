import type { CycleAct, ReadingSlot } from '@tally-stone/contract';
import type { Trouble } from '../data/problem';

/** Fields of the run as its screens name them. */
const FIELD_NAMES: Readonly<Record<string, string>> = {
  'fromTip.text': $localize`From the tip`,
  'depth.text': $localize`Depth`,
  'length.text': $localize`Length`,
  'weight.text': $localize`Test weight`,
  'radius.text': $localize`Distance from the hole centre`,
  heavyEnd: $localize`Heavy end`,
  drops: $localize`The drops`,
  withoutCheck: $localize`The day’s look over the grinder`,
  disposal: $localize`How it was made unusable`,
};

/** What was refused, by the name it has on the screen rather than its path in the command. */
export function troubleWords(
  act: CycleAct,
  { words, fields }: Trouble,
  slots: readonly Pick<ReadingSlot, 'phase' | 'quantity' | 'end' | 'stationKey' | 'label'>[],
): string {
  const [wrong] = Object.entries(fields);
  if (!wrong) return words;
  const [field, message] = wrong;
  if (!('place' in act)) return FIELD_NAMES[field] ? `${FIELD_NAMES[field]} ${message}` : words;
  // A bevel may be read by the width of its face.
  const quantity = act.place.quantity === 'face' ? 'bevel' : act.place.quantity;
  const slot = slots.find(
    (each) =>
      each.phase === act.place.phase &&
      each.quantity === quantity &&
      each.end === act.place.end &&
      each.stationKey === act.place.stationKey,
  );
  return `${slot?.label ?? $localize`The reading`} ${message}`;
}
