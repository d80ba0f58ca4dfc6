import type { BladeView, SpecFigures } from '@tally-stone/contract';
import {
  type BenchQuantity,
  type End,
  bladeFutures,
  COUNT_LIMIT,
  lifeLeft,
  lossAhead,
  type BladeWear,
  type LearnedLives,
  type LifeQuestion,
  type LifeSpan,
  type Room,
  named,
} from '@tally-stone/core';
import { carriedToday, historyKey } from '@tally-stone/cycle';
import type { ReadHere } from '../cycle/history.js';
import { ownRecession } from '../cycle/own-recession.js';

interface Reading {
  readonly value: number;
  readonly u: number;
}
export interface ForecastInput {
  readonly wear: BladeWear;
  readonly spec: SpecFigures;
  readonly grinds: number;
  /** What may be lost at each place, and how many grinds are allowed. */
  readonly allowanceMm: Readonly<Record<string, number>>;
  readonly mostGrinds?: number | undefined;
  /** The last reading of a place, as `width:A:tip`. */
  readonly last: (place: string) => Reading | undefined;
}

/**
 * A blade's readings by the key of a place with a limit, as they stand after its last grind: one that later grinds
 * followed is carried over them. What mowing has taken since is part of the loss to come.
 */
export function standsAt(
  spec: SpecFigures,
  read: ReadHere,
  grinds: number,
  usualRecessionMm: number,
): ForecastInput['last'] {
  const takenMm = ownRecession(spec, read, grinds, usualRecessionMm);
  return (place) => {
    const [quantity, end, stationKey] = placeParts(place);
    const found = read.last.get(historyKey({ quantity, end, stationKey }));
    return found?.grindsSince ? carriedToday(quantity, found, takenMm) : found;
  };
}

const placeParts = (place: string): [BenchQuantity, End, string | undefined] =>
  place.split(':') as [BenchQuantity, End, string | undefined];

/** What a new blade has at a place with a limit, mm. */
export const newAt = (spec: SpecFigures, place: string): number =>
  place.startsWith('wing') ? spec.wingMm : spec.newWidthMm;

/** What is asked about a blade; nothing where no place with a limit was read. */
export function lifeQuestion(input: ForecastInput): LifeQuestion | undefined {
  const rooms = Object.entries(input.allowanceMm).flatMap(([key, allowedMm]): Room[] => {
    const reading = input.last(key);
    if (!reading) return [];
    return [{ key, roomMm: allowedMm - (newAt(input.spec, key) - reading.value), u: reading.u }];
  });
  if (rooms.length === 0) return undefined;
  const { wear, grinds, mostGrinds } = input;
  return {
    wear,
    rooms,
    ...(mostGrinds === undefined ? {} : { grindsAllowed: Math.max(0, mostGrinds - grinds) }),
  };
}

/** A limit by its key, in words. */
export const limitWords = (first: string, spec: SpecFigures): string => {
  const [quantity, end, stationKey] = first.split(':');
  if (first === COUNT_LIMIT) return $localize`the number of grinds`;
  if (quantity === 'wing') return $localize`the lift wing at end ${end ?? ''}`;
  const station = spec.stations.find(({ key }) => key === stationKey);
  return $localize`width at end ${end ?? ''}, ${named(station?.name ?? stationKey ?? '')}`;
};

const view = ({ median, low, high, held, judged }: LifeSpan) => ({
  median,
  low,
  high,
  held,
  judged,
});

/** Grinds and hours until the first limit is met; nothing while no place with a limit was read. */
export function forecastOf(
  input: ForecastInput,
  { fleet, guard }: LearnedLives,
): NonNullable<BladeView['forecast']> | undefined {
  const question = lifeQuestion(input);
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
    firstWords: limitWords(left.first, input.spec),
    grindsAt: Object.fromEntries(question.rooms.map((room) => [room.key, middle(room)])),
  };
}

const MOST_FAN = 12;
/** The ends of the 80 % range and its middle. */
const FAN_CHANCES = [0.1, 0.5, 0.9];

/** Where each width and wing with a limit is likely to be after one, two, … further grinds. */
export function fanOf(
  input: ForecastInput,
  { fleet }: LearnedLives,
  grindsAhead: number,
): BladeView['fan'] {
  const ahead = Math.min(MOST_FAN, Math.max(1, Math.ceil(grindsAhead)));
  const keys = (lifeQuestion(input)?.rooms ?? []).map(({ key }) => key);
  const lost = lossAhead(fleet, input.wear, keys, ahead, FAN_CHANCES);
  return Object.fromEntries(
    keys.map((key) => {
      const now = input.last(key)?.value ?? 0;
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
