import type { BatchView, StepKey } from '@tally-stone/contract';
import { behindInBatch, bladesOf, workOf, type BatchMode } from '../data/batch';
import { STEP_NAMES } from './step-names';

/** How far the batch is that a blade in hand is one of: blades done, or whose turn this step still is. */
export function batchWords(
  open: NonNullable<BatchView['batch']>,
  mode: BatchMode,
  bladeId: string,
  at: StepKey,
): string {
  if (mode === 'blade') {
    const all = bladesOf(open);
    return $localize`Batch: ${all.filter(({ step }) => !step).length} of ${all.length} done`;
  }
  const step = STEP_NAMES[workOf(at)].toLowerCase();
  const left = behindInBatch(open, bladeId, at);
  return left.length === 0
    ? $localize`Batch: the last to ${step}`
    : $localize`Batch: ${left.map(({ blade }) => blade.code).join(', ')} still to ${step}`;
}
