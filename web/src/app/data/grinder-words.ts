import type { GrinderFigures, GrinderKind, ShopRules } from '@tally-stone/contract';
import type { Units } from './units';
import {
  hasTable,
  said,
  SHOP_GAP_MM,
  surfaceSpeedMPerS,
  startOf,
  switching,
  wheelHeight,
  type GrindingPoint,
  type Holds,
  type InkLeft,
  type InkTells,
  type Measured,
  type PreUseCheck,
  named,
} from '@tally-stone/core';

const WHOLE_WORDS: Readonly<Partial<Record<GrinderKind, string>>> = {
  belt: $localize`Belt whole, its joint sound, running true`,
  'flap-disc': $localize`Disc whole and not worn to its backing`,
  'drill-stone': $localize`Stone whole, tight in the chuck`,
  file: $localize`Handle firm on the tang, teeth clean`,
};

const CHECK_WORDS: Readonly<Record<PreUseCheck, string>> = {
  'abrasive-whole': $localize`Abrasive whole`,
  clamped: $localize`Blade clamped flat in the vise, top side up, its edge clear`,
  guards: $localize`Guards on and whole`,
  gaps: $localize`Work rest and tongue within ${said(SHOP_GAP_MM, 'mm')} of the abrasive`,
  'ring-test': $localize`A new wheel sounded: a clear ring, no crack`,
  speed: $localize`Marked for the speed of this machine`,
  'fuel-and-flame': $localize`No fuel, no naked flame near the sparks`,
  extinguisher: $localize`Extinguisher and first aid in reach`,
  protection: $localize`Eyes, ears, dust; gloves, sleeves and cords clear of the wheel`,
};

/** Which way to grind, and what not to do. */
export const GRINDING_WORDS: Readonly<Record<GrindingPoint, string>> = {
  'up-the-face': $localize`Grind up the face, away from the edge: heat and burr stay out of it.`,
  'keep-it-cool': $localize`Short passes with rests: an edge too hot to touch is near to turning blue.`,
  'stop-short': $localize`Stop short of the inner corner: a belt cuts on its face only.`,
  'into-the-corner': $localize`The wheel may go right into the inner corner.`,
  'never-reverse': $localize`Forward or reverse is set while it stands, never while it turns.`,
  'spacer-before-nut': $localize`Wheel, then spacer, then nut; the nut may have a left-hand thread.`,
  'keep-moving': $localize`Keep it moving along the edge: where it rests it digs and burns.`,
  'whole-strokes': $localize`Whole strokes one way, off the edge; lift it on the way back.`,
};

/** Where ink is left on the face, seen from above: the edge is below. */
export const INK_WORDS: Readonly<Record<InkLeft, string>> = {
  nowhere: $localize`Nowhere`,
  'at-the-back': $localize`At the back`,
  'at-the-edge': $localize`At the edge`,
  'to-one-side': $localize`To one side`,
  'in-a-strip': $localize`In a strip`,
};

/** What to correct on the machine, or in the hand. */
export const INK_TELLS_WORDS: Readonly<Record<InkTells, string>> = {
  'contact-right': $localize`The face lies right: go on. The last millimetre at the edge is what counts.`,
  'too-steep': $localize`Only the edge was touched: it is set too steep. Lower the angle a little and ink it again.`,
  'too-flat': $localize`Only the back was touched: it is set too flat. Raise the angle a little and ink it again.`,
  tilted: $localize`One side was not touched: the blade lies askew. Square it to the table and ink it again.`,
  'not-held-flat': $localize`A strip was missed: it was not held flat all along. Press it down over the contact.`,
};

/** A point of the day's look over a tool, as it is said of that kind. */
export const checkWords = (point: PreUseCheck, kind: GrinderKind): string =>
  (point === 'abrasive-whole' ? WHOLE_WORDS[kind] : undefined) ?? CHECK_WORDS[point];

export const WITHOUT_CHECK_WORDS = {
  'checked-on-paper': $localize`Checked today, on paper`,
  'somebody-else-checked': $localize`Somebody else checked it today`,
  'not-used-for-grinding': $localize`Nothing is ground on it today`,
} as const;

/** One line of the set-up card. */
export interface SetUpLine {
  readonly name: string;
  readonly value: string;
  /** What belongs to the figure. */
  readonly note?: string;
  /** Which law, standard or practice it comes from. */
  readonly source?: string;
}

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

const HOLDS_WORDS: Readonly<Record<Holds, string>> = {
  holds: $localize`the supply holds`,
  'may-trip': $localize`the supply may trip as it starts`,
  trips: $localize`the supply trips`,
};

/** In which order a grinder and what runs beside it are switched on, and whether the supply holds; nothing unknown. */
export function switchingLine(
  { name, runW, startW }: GrinderFigures,
  supply: ShopRules['supply'],
): SetUpLine | undefined {
  if (!supply || !runW) return undefined;
  const grinder = { name, runW, startW };
  const { order, holds, worst } = switching(grinder, supply.beside, supply);
  const last = startOf(grinder, supply.beside, supply);
  const wrong = last.holds === 'trips' ? $localize`trips` : $localize`may trip`;
  const switchedLast =
    holds === 'holds' && last.holds !== 'holds'
      ? $localize`; switched on last, with the others running, it ${wrong}:ph0:: up to ${Math.round(last.toW)} of ${supply.surgeW} W`
      : '';
  const which =
    order.length > 1 && holds !== 'holds' ? $localize`, at the ${worst.toLowerCase()}` : '';
  return {
    name: $localize`Switch on`,
    value: order.map((each, i) => (i === 0 ? each : each.toLowerCase())).join($localize`, then `),
    note: `${HOLDS_WORDS[holds]}${which}${holds === 'holds' ? switchedLast : $localize`\: a wheel that stops in the cut`}`,
  };
}

/** The card for one blade on one grinder. */
export function setUpLines(
  figures: GrinderFigures,
  blade: {
    readonly bevelDeg: number;
    readonly thicknessMm: number;
    readonly hand: 'right' | 'left';
    readonly kind: string;
    /** A curved edge is ground on both tables. */
    readonly secondTable?: boolean | undefined;
  },
  units: Pick<Units, 'show' | 'number' | 'speed'>,
): SetUpLine[] {
  const { show } = units;
  const height = wheelHeightMm(figures, blade.bevelDeg, blade.thicknessMm);
  const { wheelDiameterMm, spindleRpm, ratedRpm } = figures;
  const mulching = blade.kind === 'mulching';
  const onTable = hasTable(figures.kind);
  return [
    {
      name: $localize`Angle`,
      value: show(blade.bevelDeg, 'deg', 0),
      note: onTable
        ? $localize`at the contact, flat on the table`
        : $localize`by the hand: lay a card cut to it beside the edge`,
    },
    ...(height === undefined
      ? []
      : [
          {
            name: $localize`Wheel centre above the table`,
            value: `${show(height.value, 'mm')} ± ${show(2 * height.u, 'mm')}`,
            note: $localize`for a ${show(wheelDiameterMm ?? 0, 'mm', 0)} wheel, aimed at the ${figures.aim === 'mean' ? $localize`mean of the hollow face` : $localize`edge`}`,
          },
        ]),
    ...(onTable
      ? [
          {
            name: $localize`Table`,
            value: !mulching
              ? named(figures.table)
              : blade.secondTable
                ? $localize`flat, then rounded`
                : named('rounded'),
            ...(mulching
              ? {
                  note: blade.secondTable
                    ? $localize`flat for the outer part, rounded for the curve`
                    : $localize`the edge is curved`,
                }
              : {}),
          },
          {
            name: $localize`Held on the`,
            value: $localize`${named(blade.hand)} side of the ${named(figures.kind)}`,
            note: $localize`${named(blade.hand)}-hand cut`,
          },
        ]
      : [
          {
            name: $localize`Blade`,
            value: $localize`in the vise, top side up`,
            note: $localize`${named(blade.hand)}-hand cut; whole strokes along the edge, the bevel on the top side only`,
          },
        ]),
    {
      name: figures.kind === 'file' ? $localize`File` : $localize`Abrasive`,
      value: figures.abrasive,
    },
    ...(onTable
      ? [
          {
            name: $localize`Gaps`,
            value: show(SHOP_GAP_MM, 'mm'),
            source: $localize`Common practice. The law asks for at most 3.1 mm (1/8 in) at the rest and 6.3 mm (1/4 in) at the tongue, rounded down (29 CFR 1910.215, from memory). The machine’s manual may ask for less.`,
          },
        ]
      : []),
    ...(!onTable && ratedRpm && spindleRpm
      ? [
          {
            name: $localize`Speed`,
            value: `${spindleRpm} rpm`,
            note: $localize`what is on it is marked for ${ratedRpm} rpm`,
          },
        ]
      : []),
    ...(onTable && wheelDiameterMm && spindleRpm
      ? [
          {
            name: $localize`Surface speed`,
            value: units.speed(surfaceSpeedMPerS(wheelDiameterMm, spindleRpm)),
            ...(ratedRpm
              ? { note: $localize`wheel marked for ${ratedRpm} rpm, machine turns ${spindleRpm}` }
              : {}),
          },
        ]
      : []),
  ];
}
