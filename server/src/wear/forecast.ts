import type {
  BladeView,
  LastReading,
  Quantity,
  ShopRules,
  SpecFigures,
} from '@tally-stone/contract';
import {
  bladeFutures,
  COUNT_LIMIT,
  lifeLeft,
  lossAhead,
  named,
  type BladeWear,
  type End,
  type LearnedLives,
  type LifeQuestion,
  type LifeSpan,
  type RetireSchool,
  type Room,
} from '@tally-stone/core';
import { historyKey, reckonedFromNew } from '@tally-stone/cycle';
import type { ReadHere } from '../cycle/history.js';
import { standsAt, type WidthsAsked } from '../cycle/own-recession.js';
import { allowances } from './histories.js';

/** A blade whose life is asked for: what it has lost so far, and how it was read. */
export interface Asked extends WidthsAsked {
  readonly wear: BladeWear;
}

/** The quantity and place behind a limit's key, as `width:A:tip`. */
export function placeOf(limit: string): { quantity: Quantity; end: End; stationKey?: string } {
  const [quantity, end, stationKey] = limit.split(':') as [Quantity, End, string?];
  return { quantity, end, ...(stationKey ? { stationKey } : {}) };
}

const readAt = ({ last }: ReadHere, limit: string): LastReading | undefined =>
  last.get(historyKey(placeOf(limit)));

/** What a new blade has at a place with a limit, mm. */
export const newAt = (spec: SpecFigures, limit: string): number =>
  limit.startsWith('wing') ? spec.wingMm : spec.newWidthMm;

/**
 * Room above a limit as it was read last, and how many grinds ago: what those took is for the forecast to say. A place that
 * was never read has what a new blade has; of a blade that came worn it is as likely at its limit as new (a rectangle,
 * JCGM 100:2008, 4.3.7).
 */
function roomAt({ spec, grinds, read }: Asked, key: string, allowedMm: number): Room {
  const found = readAt(read, key);
  if (found) {
    const { value, u, grindsSince } = found;
    return { key, roomMm: allowedMm - (newAt(spec, key) - value), u, grindsSince };
  }
  if (read.cameWorn) return { key, roomMm: allowedMm / 2, u: allowedMm / Math.sqrt(12) };
  const { u = 0 } = reckonedFromNew(spec, placeOf(key).quantity, 0, 0) ?? {};
  return { key, roomMm: allowedMm, u, grindsSince: grinds };
}

/** What a blade's life depends on; nothing where its spec has no limit that wear meets. */
export function lifeQuestion(asked: Asked, retireBy: RetireSchool): LifeQuestion | undefined {
  const { wear, spec, grinds } = asked;
  const { allowanceMm, mostGrinds } = allowances(spec, retireBy);
  const rooms = Object.entries(allowanceMm).map(([key, allowedMm]) =>
    roomAt(asked, key, allowedMm),
  );
  if (rooms.length === 0) return undefined;
  return {
    wear,
    rooms,
    ...(mostGrinds === undefined ? {} : { grindsAllowed: Math.max(0, mostGrinds - grinds) }),
  };
}

/** The same of a blade that was read somewhere: one nobody has measured is as its spec says, which is no forecast of its own. */
export const measuredQuestion = (
  asked: Asked,
  retireBy: RetireSchool,
): LifeQuestion | undefined => {
  const question = lifeQuestion(asked, retireBy);
  return question?.rooms.some(({ key }) => readAt(asked.read, key)) ? question : undefined;
};

/** A limit by its key, in words. */
function limitWords(limit: string, { stations }: SpecFigures): string {
  if (limit === COUNT_LIMIT) return $localize`the number of grinds`;
  const { quantity, end, stationKey } = placeOf(limit);
  if (quantity === 'wing') return $localize`the lift wing at end ${end}`;
  const station = stations.find(({ key }) => key === stationKey);
  return $localize`width at end ${end}, ${named(station?.name ?? stationKey ?? '')}`;
}

/** Is it a place with a limit that nobody has read. */
const isUnread = (first: string, { read }: Asked): boolean =>
  first !== COUNT_LIMIT && !readAt(read, first);

/** The limit that is met first, in the words of a list, and whether anybody has read the blade there. */
export function firstInList(first: string, asked: Asked): string {
  const words = limitWords(first, asked.spec);
  return isUnread(first, asked) ? $localize`unmeasured: ${words}` : words;
}

/** The same in a sentence. */
function firstWords(first: string, asked: Asked): string {
  const words = limitWords(first, asked.spec);
  return isUnread(first, asked) ? $localize`${words}, which nobody has measured` : words;
}

const view = ({ median, low, high, past }: LifeSpan) => ({
  median,
  low,
  high,
  past,
});

/** Grinds and hours until the first limit is met; nothing while no place with a limit was read. */
export function forecastOf(
  asked: Asked,
  { retireBy }: ShopRules,
  { fleet, guard }: LearnedLives,
): NonNullable<BladeView['forecast']> | undefined {
  const question = measuredQuestion(asked, retireBy);
  if (!question) return undefined;
  const left = lifeLeft(fleet, question, guard);
  const middle = (room: Room): number => {
    const { grinds } = bladeFutures(fleet, { wear: question.wear, rooms: [room] });
    return grinds[grinds.length >> 1] ?? 0;
  };
  return {
    grinds: view(left.grinds),
    hours: view(left.hours),
    guess: left.guess,
    first: left.first,
    firstWords: firstWords(left.first, asked),
    grindsAt: Object.fromEntries(question.rooms.map((room) => [room.key, middle(room)])),
  };
}

const MOST_FAN = 12;
/** The ends of the 80 % range and its middle. */
const FAN_CHANCES = [0.1, 0.5, 0.9];

/** Where each width and wing with a limit that was read is likely to be after one, two, … further grinds. */
export function fanOf(
  asked: Asked,
  rules: ShopRules,
  { fleet }: LearnedLives,
  grindsAhead: number,
): BladeView['fan'] {
  const { wear, spec, read } = asked;
  const ahead = Math.min(MOST_FAN, Math.max(1, Math.ceil(grindsAhead)));
  const keys = Object.keys(allowances(spec, rules.retireBy).allowanceMm).filter((key) =>
    readAt(read, key),
  );
  const lost = lossAhead(fleet, wear, keys, ahead, FAN_CHANCES);
  return Object.fromEntries(
    keys.map((key) => {
      const now = standsAt(asked, placeOf(key))?.value ?? 0;
      return [
        key.replace('width:', ''),
        (lost[key] ?? []).map(([least = 0, middle = 0, most = 0], grinds) => ({
          grinds,
          low: now - most,
          median: now - middle,
          high: now - least,
        })),
      ];
    }),
  );
}
