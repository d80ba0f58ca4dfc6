import {
  booleanAttribute,
  ChangeDetectionStrategy,
  Component,
  computed,
  inject,
  input,
} from '@angular/core';
import type { CycleView, SpecFigures } from '@tally-stone/contract';
import {
  bladeOutline,
  edgePoint,
  edgeRadiiMm,
  edgeSide,
  ENDS,
  endSide,
  runFromBevelMm,
  type End,
  type OutlineInput,
  type OutlinePoint,
} from '@tally-stone/core';
import { Units } from '../data/units';

const MARGIN_MM = 14;
const LABEL_MM = 17;

export interface DrawnMark {
  readonly damageId: string;
  readonly kind: string;
  readonly end: End;
  readonly fromTipMm: number;
  readonly depthMm: number;
}

const path = (points: readonly OutlinePoint[], close = false): string =>
  points
    .map(({ xMm, yMm }, i) => `${i === 0 ? 'M' : 'L'}${xMm.toFixed(2)} ${yMm.toFixed(2)}`)
    .join(' ') + (close ? ' Z' : '');

/**
 * The blade across the page, to scale from its own measurements: end A left, end B right, top side up.
 * Shows the edges with their bevels, the wear limit, the stations with their widths, damage where it is on
 * the steel, and which end hangs low.
 */
@Component({
  selector: 'ts-blade-drawing',
  changeDetection: ChangeDetectionStrategy.OnPush,
  templateUrl: './blade-drawing.html',
  styleUrl: './blade-drawing.scss',
})
export class BladeDrawing {
  protected readonly units = inject(Units);
  readonly spec = input.required<SpecFigures>();
  readonly lengthMm = input.required<number>();
  readonly widths = input.required<CycleView['widths']>();
  readonly damage = input<readonly DrawnMark[]>([]);
  readonly code = input('');
  readonly heavyEnd = input<End | 'level' | undefined>(undefined);
  /** The station the caliper goes to next, as `A:tip`. */
  readonly here = input('');

  /** Where the plan takes the edge to, place by place. */
  readonly planned = input<readonly { end: End; radiusMm: number; recessionMm: number }[]>([]);
  /** A spec rather than a blade: no widths to ask for. */
  readonly plain = input(false, { transform: booleanAttribute });

  protected readonly ends = ENDS;
  private readonly shape = computed<OutlineInput>(() => ({
    lengthMm: this.lengthMm(),
    newWidthMm: this.spec().newWidthMm,
    hand: this.spec().hand,
    edgeLengthMm: this.spec().edgeLengthMm,
    widths: this.widths(),
  }));

  protected readonly box = computed(() => {
    const width = this.lengthMm() + 2 * MARGIN_MM;
    const height = this.spec().newWidthMm + 2 * LABEL_MM;
    return `${-width / 2} ${-height / 2} ${width} ${height}`;
  });
  protected readonly outline = computed(() => path(bladeOutline(this.shape()), true));

  /** The bar as it was when new, to see what is gone. */
  protected readonly newOutline = computed(() =>
    path(bladeOutline({ ...this.shape(), widths: { A: [], B: [] } }), true),
  );

  protected readonly bevels = computed(() => {
    const { thicknessMm, bevelDeg } = this.spec();
    const run = runFromBevelMm({ thicknessMm, landMm: 0 }, bevelDeg);
    return ENDS.map((end) => {
      const radii = edgeRadiiMm(this.shape(), end);
      const edge = radii.map((radius) => edgePoint(this.shape(), end, radius));
      const inner = radii.map((radius) => edgePoint(this.shape(), end, radius, run)).reverse();
      return { end, face: path([...edge, ...inner], true), edge: path(edge) };
    });
  });

  protected readonly wings = computed(() =>
    ENDS.map((end) => {
      const { newWidthMm, edgeLengthMm } = this.spec();
      const back = (-edgeSide(end, this.spec().hand) * newWidthMm) / 2;
      const tip = (endSide(end) * this.lengthMm()) / 2;
      const root = endSide(end) * (this.lengthMm() / 2 - edgeLengthMm);
      const deep = back * 0.52;
      return path(
        [
          { xMm: tip, yMm: back },
          { xMm: root, yMm: back },
          { xMm: root + endSide(end) * 14, yMm: deep },
          { xMm: tip, yMm: deep },
        ],
        true,
      );
    }),
  );

  protected readonly limits = computed(() => {
    const { limits, stations } = this.spec();
    const least = stations.flatMap(({ key, radiusMm }) => {
      const limit = limits.find(({ kind, stationKey }) => kind === 'width' && stationKey === key);
      return limit ? [{ radiusMm, widthMm: limit.value }] : [];
    });
    if (least.length === 0) return [];
    const shape = { ...this.shape(), widths: { A: least, B: least } };
    return ENDS.map((end) =>
      path(edgeRadiiMm(shape, end).map((radius) => edgePoint(shape, end, radius))),
    );
  });

  protected readonly plannedEdges = computed(() =>
    ENDS.flatMap((end) => {
      const along = this.planned()
        .filter((each) => each.end === end)
        .sort((a, b) => a.radiusMm - b.radiusMm);
      return along.length === 0
        ? []
        : [
            path(
              along.map((each) => edgePoint(this.shape(), end, each.radiusMm, each.recessionMm)),
            ),
          ];
    }),
  );

  protected readonly stations = computed(() =>
    ENDS.flatMap((end) =>
      this.spec().stations.map(({ key, radiusMm }) => {
        const width = this.widths()[end].find((each) => Math.abs(each.radiusMm - radiusMm) < 0.01);
        const edge = edgePoint(this.shape(), end, radiusMm);
        const side = edgeSide(end, this.spec().hand);
        return {
          id: `${end}:${key}`,
          xMm: edge.xMm,
          fromMm: edge.yMm,
          toMm: edge.yMm + side * 6,
          textMm: edge.yMm + side * 6 + (side > 0 ? 8 : -2),
          backMm: (-side * this.spec().newWidthMm) / 2,
          text: width ? this.units.show(width.widthMm, 'mm') : this.plain() ? '' : '?',
        };
      }),
    ),
  );

  protected readonly marks = computed(() =>
    this.damage().map((mark) => {
      const radius = this.lengthMm() / 2 - mark.fromTipMm;
      const side = edgeSide(mark.end, this.spec().hand);
      const edge = edgePoint(this.shape(), mark.end, radius);
      const half = Math.max(2.5, mark.depthMm * 1.5);
      const deep = Math.max(3.5, mark.depthMm);
      return {
        ...mark,
        notch: path(
          [
            { xMm: edge.xMm - half, yMm: edge.yMm + side },
            { xMm: edge.xMm, yMm: edge.yMm - side * deep },
            { xMm: edge.xMm + half, yMm: edge.yMm + side },
          ],
          true,
        ),
        title: `${mark.kind}, end ${mark.end}, ${this.units.show(mark.fromTipMm, 'mm', 0)} from the tip, ${this.units.show(mark.depthMm, 'mm')} deep`,
      };
    }),
  );

  protected letterX(end: End): number {
    return endSide(end) * (this.lengthMm() / 2 - this.spec().edgeLengthMm - 22);
  }
}
