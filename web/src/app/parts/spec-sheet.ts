import { NgTemplateOutlet } from '@angular/common';
import {
  ChangeDetectionStrategy,
  Component,
  computed,
  input,
  type TemplateRef,
} from '@angular/core';
import type { SpecFigures } from '@tally-stone/contract';
import type { LimitKind } from '@tally-stone/core';
import { BladeDrawing } from './blade-drawing';

/** What can be typed at a place of the drawing. */
export const DIMENSIONS = [
  'newLengthMm',
  'edgeLengthMm',
  'newWidthMm',
  'leastTipMm',
  'leastMiddleMm',
  'leastRootMm',
  'holeMm',
  'bevelDeg',
  'thicknessMm',
  'wingMm',
  'newMassG',
  'bladeSpeedRpm',
  'gradeMmPerS',
] as const;
/** The three width limits, from the tip inwards, and where their fields stand, per cent of the drawing's width. */
const LEAST = ['leastTipMm', 'leastMiddleMm', 'leastRootMm'] as const;
/** What limits are typed at; a width's is one of its stations. */
const LIMITED = {
  wing: 'leastWingMm',
  'wing-height': 'leastWingHeightMm',
  length: 'leastLengthMm',
  'tip-rounding': 'mostTipRoundingMm',
  bend: 'mostBendMm',
  'hole-wear': 'mostHoleWearMm',
  grinds: 'mostGrinds',
  'mass-loss': 'mostMassLossPercent',
} as const satisfies Readonly<Record<Exclude<LimitKind, 'width'>, string>>;
export type Dimension = (typeof DIMENSIONS)[number] | (typeof LIMITED)[keyof typeof LIMITED];

/** Where a limit of a spec is typed; none for the width of a station past the third. */
export function dimensionOfLimit(
  { kind, stationKey }: SpecFigures['limits'][number],
  stations: SpecFigures['stations'],
): Dimension | undefined {
  if (kind !== 'width') return LIMITED[kind];
  return LEAST[stations.findIndex(({ key }) => key === stationKey)];
}

const FIELD_AT = [7, 21, 35] as const;
/** What has no place on the steel. */
const REST = [
  'newMassG',
  'mostMassLossPercent',
  'bladeSpeedRpm',
  'gradeMmPerS',
  'mostGrinds',
] as const;
/** What is seen from the side. */
const SIDE = ['wingMm', 'leastWingMm', 'leastWingHeightMm', 'mostBendMm'] as const;
/** As the drawing of a blade has it, mm beside the steel and above it. */
const BESIDE_MM = 14;
const ABOVE_MM = 17;
const TALLEST_PX = 190;

/** A drawn section: so many pixels a millimetre, and never larger than its place. */
const SECTION_PX = 110;

/**
 * A blade spec as a drawing with its dimensions, each typed where it is: fields come from whoever shows the sheet, by
 * their dimension. A dimension that is wrong is marked on the drawing too.
 */
@Component({
  selector: 'ts-spec-sheet',
  imports: [BladeDrawing, NgTemplateOutlet],
  changeDetection: ChangeDetectionStrategy.OnPush,
  templateUrl: './spec-sheet.html',
  styleUrl: './spec-sheet.scss',
})
export class SpecSheet {
  readonly spec = input.required<SpecFigures>();
  readonly field = input.required<TemplateRef<{ $implicit: Dimension }>>();
  /** Dimensions that have a field. */
  readonly typed = input<readonly Dimension[]>(DIMENSIONS);
  readonly wrong = input<ReadonlySet<string>>(new Set());
  /** Widths along the edges, for a blade rather than a spec. */
  readonly widths = input<{ A: []; B: [] }>({ A: [], B: [] });

  protected readonly rest = REST;
  protected readonly sides = SIDE;
  protected readonly has = (dimension: Dimension): boolean => this.typed().includes(dimension);
  protected readonly bad = (dimension: Dimension): boolean => this.wrong().has(dimension);

  /** Per cent of the drawing's width, from the hole's middle outwards in mm. */
  private readonly at = computed(() => {
    const { newLengthMm } = this.spec();
    return (xMm: number): number =>
      (100 * (xMm + newLengthMm / 2 + BESIDE_MM)) / (newLengthMm + 2 * BESIDE_MM);
  });
  /** So wide at most, that the drawing fills its place and the dimensions lie on it. */
  protected readonly widestPx = computed(() => {
    const { newLengthMm, newWidthMm } = this.spec();
    return (TALLEST_PX * (newLengthMm + 2 * BESIDE_MM)) / (newWidthMm + 2 * ABOVE_MM);
  });
  protected readonly lengthwise = computed(() => {
    const half = this.spec().newLengthMm / 2;
    return { from: this.at()(-half), to: 100 - this.at()(half) };
  });
  protected readonly edge = computed(() => {
    const { newLengthMm, edgeLengthMm } = this.spec();
    const half = newLengthMm / 2;
    return { from: this.at()(half - edgeLengthMm), to: 100 - this.at()(half) };
  });
  /** Above and below the steel, per cent of the drawing's height. */
  protected readonly across = computed(
    () => (100 * ABOVE_MM) / (this.spec().newWidthMm + 2 * ABOVE_MM),
  );
  /** From the stations of end A, or of end B where its edge is the lower one, down to the fields of their limits. */
  protected readonly leaders = computed(() => {
    const { stations, hand } = this.spec();
    const side = hand === 'right' ? -1 : 1;
    return LEAST.flatMap((key, i) => {
      const station = stations[i];
      const field = side < 0 ? (FIELD_AT[i] ?? 0) : 100 - (FIELD_AT[i] ?? 0);
      return station && this.has(key)
        ? [{ key, from: this.at()(side * station.radiusMm), field }]
        : [];
    });
  });

  /** On the side away from the width limits: the rounding of the other tip, and the wear of the hole. */
  protected readonly away = computed(() => {
    const field = (per: number): number => (this.spec().hand === 'right' ? 100 - per : per);
    const tip = this.spec().hand === 'right' ? 100 - this.lengthwise().to : this.lengthwise().from;
    return [
      { key: 'mostHoleWearMm', from: 50, field: field(33) },
      { key: 'mostTipRoundingMm', from: tip, field: field(9) },
    ] as const;
  });

  /** The tip cut through: its bevel on the left, as thick as it is. */
  protected readonly section = computed(() => {
    const { thicknessMm, bevelDeg } = this.spec();
    const run = thicknessMm / Math.tan((bevelDeg * Math.PI) / 180);
    const scale = Math.min(8, SECTION_PX / Math.max(run, thicknessMm, 1));
    const [width, height] = [run * scale, thicknessMm * scale];
    return {
      box: `-4 -4 ${width + 96} ${height + 8}`,
      steel: `M0 ${height}L${width} 0H${width + 84}V${height}Z`,
      face: `M0 ${height}L${width} 0`,
      arc: `M26 ${height}A26 26 0 0 0 ${26 * Math.cos((bevelDeg * Math.PI) / 180)} ${height - 26 * Math.sin((bevelDeg * Math.PI) / 180)}`,
      widthPx: width + 100,
      heightPx: height + 8,
    };
  });

  /** From the side: the wing stands up at both tips. */
  protected readonly side = computed(() => {
    const { kind, thicknessMm } = this.spec();
    const lift = { 'low-lift': 9, 'medium-lift': 16, 'high-lift': 26, mulching: 14 }[kind];
    const thick = Math.max(3, thicknessMm * 0.8);
    const end =
      kind === 'mulching'
        ? `M0 ${40 - lift}q16 ${lift / 2} 30 ${-lift / 3}T62 40`
        : `M0 ${40 - lift}H22L62 40`;
    const other =
      kind === 'mulching'
        ? `L238 40q14 ${-lift} 30 ${-lift / 3}T300 ${40 - lift}`
        : `L238 40L278 ${40 - lift}H300`;
    return { path: `${end}${other}`, thick };
  });
}
