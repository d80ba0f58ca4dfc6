import type { Phase, Quantity } from '@tally-stone/contract';
import type { End } from '@tally-stone/core';

export interface Place {
  readonly phase: Phase;
  readonly quantity: Quantity;
  readonly end?: End | undefined;
  readonly stationKey?: string | undefined;
}
