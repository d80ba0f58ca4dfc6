import { usualLimits, usualReadings, usualStations } from '@tally-stone/core';
import type { SpecFigures } from '../specs.js';

const stations = usualStations(500);

/** A blade spec that nobody makes, for the tests of every room; with whatever one of them wants otherwise. */
export const madeUpSpec = (change: Partial<SpecFigures> = {}): SpecFigures => ({
  name: 'Test 500',
  kind: 'low-lift',
  hand: 'right',
  hole: 'round',
  holeMm: 16,
  newLengthMm: 500,
  newWidthMm: 60,
  thicknessMm: 5,
  wingMm: 5,
  newMassG: 1150,
  bevelDeg: 30,
  bevelToleranceDeg: 3,
  edgeLengthMm: 100,
  bladeSpeedRpm: 3000,
  gradeMmPerS: 40,
  stations,
  readings: usualReadings(stations),
  limits: usualLimits({ newLengthMm: 500, wingMm: 5 }),
  ...change,
});
