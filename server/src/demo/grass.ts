import type { ShopAct } from '@tally-stone/contract';
import { dutyFactor, TORN_SHOWS, type Duty } from '@tally-stone/core';
import { v7 as uuidv7 } from 'uuid';
import type { Dice } from './dice.js';

/** The demo's edges: hours on soft turf and loam after which a third of the tips are torn, and how fast it comes. */
const TORN_AFTER_H = 24;
const ODDS_AN_HOUR = 0.16;
const TIPS = 24;

/** What a crew sees of cut tips after so many hours of an edge on some ground. */
export function grassSeen(
  mower: { readonly mowerId: string; readonly duty: Duty },
  hoursOnEdge: number,
  hoursH: number,
  dice: Dice,
): Extract<ShopAct, { type: 'look-at-grass' }> {
  const odds =
    Math.log(TORN_SHOWS / (1 - TORN_SHOWS)) +
    ODDS_AN_HOUR * (hoursOnEdge * dutyFactor(mower.duty) - TORN_AFTER_H) +
    dice.normal(0, 0.25);
  // A tip or two are spoilt by wheels and fingers.
  const share = 0.04 + 0.96 / (1 + Math.exp(-odds));
  const torn = Array.from({ length: TIPS }).filter(() => dice.chance(share)).length;
  return {
    type: 'look-at-grass',
    lookId: uuidv7(),
    mowerId: mower.mowerId,
    seen: { tips: [], torn, clean: TIPS - torn },
    file: '',
    hoursH,
  };
}
