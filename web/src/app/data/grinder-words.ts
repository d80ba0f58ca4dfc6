import type { GrinderFigures, PRE_USE_CHECKS } from '@tally-stone/contract';
import { SHOP_GAP_MM, surfaceSpeedMPerS, wheelHeight, type Measured } from '@tally-stone/core';

export const CHECK_WORDS: Readonly<Record<(typeof PRE_USE_CHECKS)[number], string>> = {
  guards: 'Guards on and whole',
  gaps: `Work rest and tongue within ${SHOP_GAP_MM} mm of the abrasive`,
  'ring-test': 'A new wheel sounded: a clear ring, no crack',
  speed: 'Marked for the speed of this machine',
  'fuel-and-flame': 'No fuel, no naked flame near the sparks',
  extinguisher: 'Extinguisher and first aid in reach',
  protection: 'Eyes, ears, dust; gloves, sleeves and cords clear of the wheel',
};

export const WITHOUT_CHECK_WORDS = {
  'checked-on-paper': 'Checked today, on paper',
  'somebody-else-checked': 'Somebody else checked it today',
  'not-used-for-grinding': 'Only a file is used',
} as const;

/** One line of the set-up card. */
export interface SetUpLine {
  readonly name: string;
  readonly value: string;
  /** Where the figure comes from. */
  readonly note?: string;
}

const SIDE = { right: 'right side of the wheel', left: 'left side of the wheel' } as const;

/** A wheel is measured across with a rule while it stands; a blade's thickness with a caliper. */
const WHEEL_RADIUS_U_MM = 0.5;
const THICKNESS_U_MM = 0.05;

/** Height of the wheel's centre above the table, for the wheel as worn today, with its doubt. */
export function wheelHeightMm(
  figures: GrinderFigures,
  bevelDeg: number,
  thicknessMm: number,
): Measured | undefined {
  if (figures.kind !== 'wheel' || !figures.wheelDiameterMm) return undefined;
  return wheelHeight(
    {
      radiusMm: { value: figures.wheelDiameterMm / 2, u: WHEEL_RADIUS_U_MM },
      thicknessMm: { value: thicknessMm, u: THICKNESS_U_MM },
      aim: figures.aim,
    },
    bevelDeg,
  );
}

/** The card for one blade on one grinder. */
export function setUpLines(
  figures: GrinderFigures,
  blade: {
    readonly bevelDeg: number;
    readonly thicknessMm: number;
    readonly hand: 'right' | 'left';
    readonly kind: string;
  },
): SetUpLine[] {
  const height = wheelHeightMm(figures, blade.bevelDeg, blade.thicknessMm);
  const { wheelDiameterMm, spindleRpm, ratedRpm } = figures;
  const mulching = blade.kind === 'mulching';
  return [
    {
      name: 'Angle',
      value: `${blade.bevelDeg.toFixed(0)}°`,
      note: 'at the contact, flat on the table',
    },
    ...(height === undefined
      ? []
      : [
          {
            name: 'Wheel centre above the table',
            value: `${height.value.toFixed(1)} ± ${(2 * height.u).toFixed(1)} mm`,
            note: `for a ${wheelDiameterMm?.toFixed(0) ?? ''} mm wheel, aimed at the ${figures.aim === 'mean' ? 'mean of the hollow face' : 'edge'}`,
          },
        ]),
    {
      name: 'Table',
      value: mulching ? 'rounded' : figures.table,
      ...(mulching ? { note: 'the edge is curved' } : {}),
    },
    { name: 'Held on the', value: SIDE[blade.hand], note: `${blade.hand}-hand cut` },
    { name: 'Abrasive', value: figures.abrasive },
    {
      name: 'Gaps',
      value: `${SHOP_GAP_MM} mm`,
      note: 'common practice; at most 3.2 mm at the rest and 6.4 mm at the tongue (29 CFR 1910.215, from memory)',
    },
    ...(wheelDiameterMm && spindleRpm
      ? [
          {
            name: 'Surface speed',
            value: `${surfaceSpeedMPerS(wheelDiameterMm, spindleRpm).toFixed(0)} m/s`,
            ...(ratedRpm
              ? { note: `wheel marked for ${ratedRpm} rpm, machine turns ${spindleRpm}` }
              : {}),
          },
        ]
      : []),
  ];
}
