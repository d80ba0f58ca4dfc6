import type {
  CountedPasses,
  CycleFacts,
  CycleState,
  GrinderView,
  LastReading,
  ToolRemoval,
} from '@tally-stone/contract';
import {
  carriedForward,
  QUANTITIES,
  type BenchQuantity,
  type Measured,
  type PlanZone,
  type Wheel,
} from '@tally-stone/core';

/** The machine a blade goes to: the one it was set up on, else the shop's first. */
export const toolOf = (state: CycleState, { grinders }: CycleFacts): GrinderView | undefined =>
  grinders.find(({ grinderId }) => grinderId === state.setUp?.grinderId) ?? grinders[0];

/** The wheel of that machine as worn today, and what its height is set to aim at; nothing for a plane. */
export function wheelOf(state: CycleState, facts: CycleFacts): Wheel | undefined {
  const figures = toolOf(state, facts)?.figures;
  return figures?.kind === 'wheel' && figures.wheelDiameterMm
    ? { radiusMm: figures.wheelDiameterMm / 2, aim: figures.aim }
    : undefined;
}

interface Place {
  readonly quantity: string;
  readonly end?: string | null | undefined;
  readonly stationKey?: string | null | undefined;
}

/** A reading's place without its phase: `width:A:tip`. */
export const historyKey = ({ quantity, end, stationKey }: Place): string =>
  [quantity, end ?? '-', stationKey ?? '-'].join(':');

/** One name for a tool and what was on it; `none` where nobody has said. */
export const toolKey = (tool: {
  readonly grinderId?: string | null | undefined;
  readonly abrasiveId?: string | null | undefined;
}): string => (tool.grinderId && tool.abrasiveId ? `${tool.grinderId} ${tool.abrasiveId}` : 'none');

/** What the tool takes that passes were made with. */
export const removalOf = (
  passes: Pick<CountedPasses, 'grinderId' | 'abrasiveId'>,
  { removals }: Pick<CycleFacts, 'removals'>,
): ToolRemoval | undefined => removals[toolKey(passes)];

/** Every zone of a tool that passes may have gone to. */
export const zonesOfTool = ({
  zones,
  trailing,
  special = [],
}: ToolRemoval): readonly PlanZone[] => [...zones, trailing, ...special];

/** The flat that mowing leaves on an edge that went out sharp, mm. Common practice, no source. */
const MOWED_LAND: Measured = { value: 0.45, u: 0.15 };

/**
 * A last reading as it counts today, its uncertainty grown by a cycle's work. A width goes with every grind: it is
 * less by what each since has taken, where that is said, and less sure with each; the rest waits for the full look.
 */
export function carriedToday(
  quantity: BenchQuantity,
  last: Measured & Pick<LastReading, 'grindsSince'>,
  recessionPerGrindMm = 0,
): Measured {
  if (quantity === 'land' && last.value < MOWED_LAND.value) return MOWED_LAND;
  if (quantity !== 'width') return carriedForward(last, QUANTITIES[quantity].changePerCycle);
  const cycles = 1 + (last.grindsSince ?? 0);
  return carriedForward(last, QUANTITIES.width.changePerCycle, cycles, recessionPerGrindMm);
}
