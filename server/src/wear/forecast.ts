import type { BladeView, SpecFigures } from '@tally-stone/contract';
import {
  ENDS,
  lifeLeft,
  lossNotExceeded,
  ownWear,
  type End,
  type LifeLeft,
  type LifeQuestion,
  type WearingLimit,
} from '@tally-stone/core';
import type { Clock, FleetWear } from './fleet-wear.js';

interface Reading {
  readonly value: number;
  readonly u: number;
}
export interface ForecastInput {
  readonly bladeId: string;
  readonly specId: string;
  readonly spec: SpecFigures;
  readonly grinds: number;
  /** The last reading of a place, as `width:A:tip`. */
  readonly last: (place: string) => Reading | undefined;
}

const limitsOn = (clock: Clock, input: ForecastInput, fleet: FleetWear): WearingLimit[] => {
  const { spec, specId, bladeId } = input;
  const one = (
    place: string,
    family: string,
    cause: string,
    end: End,
    least: number,
  ): WearingLimit[] => {
    const reading = input.last(place);
    if (!reading) return [];
    return [
      {
        key: place,
        cause,
        end,
        room: reading.value - least,
        u: reading.u,
        record: fleet.record(clock, bladeId, place),
        prior: fleet.prior(clock, specId, family),
      },
    ];
  };
  return ENDS.flatMap((end) => [
    ...spec.limits
      .filter(({ kind, stationKey }) => kind === 'width' && stationKey)
      .flatMap(({ stationKey, value }) =>
        one(
          `width:${end}:${stationKey ?? ''}`,
          `width:${stationKey ?? ''}`,
          'grinding',
          end,
          value,
        ),
      ),
    ...spec.limits
      .filter(({ kind }) => kind === 'wing')
      .flatMap(({ value }) => one(`wing:${end}`, 'wing', 'sand', end, value)),
  ]);
};

/** A limit on the number of grinds cuts every forecast short. */
function capped(left: LifeLeft, grindsLeft: number | undefined, perGrind: number): LifeLeft {
  if (grindsLeft === undefined) return left;
  const most = Math.max(0, grindsLeft * perGrind);
  return {
    median: Math.min(left.median, most),
    low: Math.min(left.low, most),
    high: Math.min(left.high, most),
    first: left.median > most ? 'grinds' : left.first,
  };
}

const wordsOf = (first: string, spec: SpecFigures): string => {
  const [quantity, end, stationKey] = first.split(':');
  if (quantity === 'grinds') return 'the number of grinds';
  if (quantity === 'wing') return `the lift wing at end ${end ?? ''}`;
  const station = spec.stations.find(({ key }) => key === stationKey);
  return `width at end ${end ?? ''}, ${station?.name ?? stationKey ?? ''}`;
};

const span = ({ median, low, high }: LifeLeft) => ({ median, low, high });

/** A blade's life in mowing hours as a question, with damage as another end; nothing without a limit. */
export function hoursLife(
  input: ForecastInput,
  fleet: FleetWear,
  otherEndsPer: number,
): LifeQuestion | undefined {
  const limits = limitsOn('hours', input, fleet);
  return limits.length === 0
    ? undefined
    : {
        limits,
        lag: fleet.hoursPerGrind / 2,
        together: { grinding: fleet.together.hours },
        otherEndsPer,
      };
}

/** Grinds and hours until the first limit is met; nothing while no place with a limit was read. */
export function forecastOf(
  input: ForecastInput,
  fleet: FleetWear,
): NonNullable<BladeView['forecast']> | undefined {
  const byGrinds = limitsOn('grinds', input, fleet);
  if (byGrinds.length === 0) return undefined;
  const countLimit = input.spec.limits.find(({ kind }) => kind === 'grinds')?.value;
  const grindsLeft = countLimit === undefined ? undefined : countLimit - input.grinds;
  const together = (clock: Clock) => ({ grinding: fleet.together[clock] });
  const grinds = capped(
    lifeLeft({ limits: byGrinds, lag: 0, together: together('grinds'), otherEndsPer: 0 }),
    grindsLeft,
    1,
  );
  const hours = capped(
    lifeLeft(hoursLife(input, fleet, 0) ?? { limits: byGrinds, lag: 0, otherEndsPer: 0 }),
    grindsLeft,
    fleet.hoursPerGrind,
  );
  return {
    grinds: span(grinds),
    hours: span(hours),
    first: grinds.first,
    firstWords: wordsOf(grinds.first, input.spec),
    grindsAt: Object.fromEntries(
      byGrinds.map((limit) => [
        limit.key,
        lifeLeft({ limits: [limit], lag: 0, otherEndsPer: 0 }).median,
      ]),
    ),
  };
}

const MOST_FAN = 12;

/** Where each width and wing with a limit is likely to be after one, two, … further grinds. */
export function fanOf(
  input: ForecastInput,
  fleet: FleetWear,
  grindsAhead: number,
): BladeView['fan'] {
  const ahead = Math.min(MOST_FAN, Math.max(1, Math.ceil(grindsAhead)));
  return Object.fromEntries(
    limitsOn('grinds', input, fleet).map(({ key, prior, record }) => {
      const own = ownWear(prior, record);
      const now = input.last(key)?.value ?? 0;
      return [
        key.replace('width:', ''),
        Array.from({ length: ahead + 1 }, (_, grinds) => ({
          grinds,
          low: now - lossNotExceeded(own, grinds, 0.9),
          median: now - lossNotExceeded(own, grinds, 0.5),
          high: now - lossNotExceeded(own, grinds, 0.1),
        })),
      ];
    }),
  );
}
