import {
  booleanAttribute,
  ChangeDetectionStrategy,
  Component,
  computed,
  inject,
  input,
  output,
  signal,
  viewChild,
  type ElementRef,
} from '@angular/core';
import type { CycleView, SpecFigures } from '@tally-stone/contract';
import {
  bladeOutline,
  DAMAGE,
  edgePoint,
  edgeRadiiMm,
  edgeSide,
  ENDS,
  endSide,
  runFromBevelMm,
  type DamageKind,
  type End,
  type OutlineInput,
  type OutlinePoint,
  type WidthAt,
} from '@tally-stone/core';
import { Named } from './named';
import { Units } from '../data/units';
import { markShape } from './mark-shapes';

const MARGIN_MM = 14;
const LABEL_MM = 17;

export interface DrawnMark {
  readonly damageId: string;
  readonly kind: DamageKind;
  readonly end: End;
  readonly fromTipMm: number;
  readonly depthMm: number;
  readonly lengthMm?: number | undefined;
  /** What grinding has left of its depth. */
  readonly left?: { readonly value: number } | undefined;
}

/** A place on a cutting edge. */
export interface MarkPlace {
  readonly end: End;
  readonly fromTipMm: number;
}

const path = (points: readonly OutlinePoint[], close = false): string =>
  points
    .map(({ xMm, yMm }, i) => `${i === 0 ? 'M' : 'L'}${xMm.toFixed(2)} ${yMm.toFixed(2)}`)
    .join(' ') + (close ? ' Z' : '');

/** Bowed between its points by so much, mm: at the points themselves it is to scale. */
const BOW_MM = 1.8;

const curvedThrough = (points: readonly OutlinePoint[]): string =>
  points
    .map(({ xMm, yMm }, i) => {
      const before = points[i - 1];
      if (!before) return `M${xMm.toFixed(2)} ${yMm.toFixed(2)}`;
      const bow = (i % 2 === 0 ? 2 : -2) * BOW_MM;
      const [x, y] = [(before.xMm + xMm) / 2, (before.yMm + yMm) / 2 + bow];
      return `Q${x.toFixed(2)} ${y.toFixed(2)} ${xMm.toFixed(2)} ${yMm.toFixed(2)}`;
    })
    .join(' ');

/**
 * The blade across the page, to scale from its own measurements: end A left, end B right, top side up.
 * Shows the edges with their bevels, the wear limit, the stations with their widths, damage where it is on
 * the steel, and which end hangs low.
 */
@Component({
  selector: 'ts-blade-drawing',
  imports: [Named],
  changeDetection: ChangeDetectionStrategy.OnPush,
  templateUrl: './blade-drawing.html',
  styleUrl: './blade-drawing.scss',
})
export class BladeDrawing {
  protected readonly asEarlier = (mark: string): string => $localize`Earlier: ${mark}:mark:`;
  protected readonly howToMove = (mark: string): string =>
    $localize`${mark}:mark:: arrows move it, Delete takes it off`;
  protected readonly units = inject(Units);
  private readonly svg = viewChild.required<ElementRef<SVGSVGElement>>('svg');
  readonly spec = input.required<SpecFigures>();
  readonly lengthMm = input.required<number>();
  readonly widths = input.required<CycleView['widths']>();
  /** Ends whose whole edge is known, place by place: drawn as it is. */
  readonly edges = input<Readonly<Partial<Record<End, readonly WidthAt[]>>>>({});
  readonly damage = input<readonly DrawnMark[]>([]);
  readonly code = input('');
  readonly heavyEnd = input<End | 'level' | undefined>(undefined);
  /** The station the caliper goes to next, as `A:tip`. */
  readonly here = input('');

  /** Where the plan takes the edge to, place by place. */
  readonly planned = input<readonly { end: End; radiusMm: number; recessionMm: number }[]>([]);
  /** Damage of earlier cycles, faint: a nick that comes back is seen. */
  readonly earlier = input<readonly DrawnMark[]>([]);
  /** Damage can be put on the steel, moved and taken off, by pointer, touch and keyboard. */
  readonly editable = input(false, { transform: booleanAttribute });
  readonly placed = output<MarkPlace>();
  readonly moved = output<MarkPlace & { readonly damageId: string }>();
  readonly erased = output<string>();

  /** A spec rather than a blade: no widths to ask for. */
  readonly plain = input(false, { transform: booleanAttribute });

  protected readonly ends = ENDS;
  private readonly shape = computed<OutlineInput>(() => ({
    lengthMm: this.lengthMm(),
    newWidthMm: this.spec().newWidthMm,
    hand: this.spec().hand,
    edgeLengthMm: this.spec().edgeLengthMm,
    widths: {
      A: this.edges().A ?? this.widths().A,
      B: this.edges().B ?? this.widths().B,
    },
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
      const curve = this.curved(end) ? curvedThrough : path;
      return {
        end,
        face: `${curve(edge)} ${path(inner).replace('M', 'L')} Z`,
        edge: curve(edge),
      };
    });
  });

  /** A mulching blade's edge is curved; where a photo shows it, it is drawn as it is. */
  private curved(end: End): boolean {
    return this.spec().kind === 'mulching' && !this.edges()[end];
  }

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
          under: side > 0,
          ...(width
            ? this.widthWords(width.widthMm, width.worked ?? false)
            : { text: this.plain() ? '' : '?', unit: '' }),
        };
      }),
    ),
  );

  /** A width nobody read stands without its unit: the three of one end are close to each other. */
  private widthWords(widthMm: number, worked: boolean): { text: string; unit: string } {
    const [text = '', unit = ''] = this.units.show(widthMm, 'mm').split(/\s(?=\S+$)/);
    return worked ? { text: `≈ ${text}`, unit: '' } : { text, unit };
  }

  /** A mark under the finger, and where it is now. */
  private readonly dragged = signal<(MarkPlace & { readonly damageId: string }) | undefined>(
    undefined,
  );

  protected readonly marks = computed(() => this.drawn(this.damage()));
  protected readonly ghosts = computed(() => this.drawn(this.earlier()));

  private drawn(marks: readonly DrawnMark[]) {
    return marks.map((given) => {
      const dragged = this.dragged();
      const mark = dragged?.damageId === given.damageId ? { ...given, ...dragged } : given;
      const radius = this.lengthMm() / 2 - mark.fromTipMm;
      const side = edgeSide(mark.end, this.spec().hand);
      const edge = edgePoint(this.shape(), mark.end, radius);
      const half = Math.max(2.5, (mark.lengthMm ?? mark.depthMm * 3) / 2);
      const deep = Math.max(3.5, mark.depthMm);
      return {
        ...mark,
        xMm: edge.xMm,
        yMm: edge.yMm - (side * deep) / 2,
        ...markShape(mark.kind, {
          xMm: edge.xMm,
          yMm: edge.yMm,
          into: side > 0 ? -1 : 1,
          inward: mark.end === 'A' ? 1 : -1,
          halfMm: half,
          deepMm: deep,
        }),
        gone: mark.left !== undefined && mark.left.value <= 0,
        title: $localize`${DAMAGE[mark.kind].words}, end ${mark.end}, ${this.units.show(mark.fromTipMm, 'mm', 0)} from the tip, ${this.units.show(mark.depthMm, 'mm')} deep`,
      };
    });
  }

  /** Where on the blade a pointer is: its end, and how far in from that tip; nothing beside the edges. */
  private placeAt(event: PointerEvent): MarkPlace | undefined {
    const svg = this.svg().nativeElement;
    const matrix = svg.getScreenCTM();
    if (!matrix) return undefined;
    const { x } = new DOMPoint(event.clientX, event.clientY).matrixTransform(matrix.inverse());
    const end: End = x < 0 ? 'A' : 'B';
    const fromTipMm = Math.round(this.lengthMm() / 2 - Math.abs(x));
    return fromTipMm < 0 || fromTipMm > this.spec().edgeLengthMm ? undefined : { end, fromTipMm };
  }

  protected place(event: PointerEvent): void {
    if (!this.editable() || this.dragged()) return;
    const place = this.placeAt(event);
    if (place) this.placed.emit(place);
  }

  protected grab(event: PointerEvent, mark: DrawnMark): void {
    if (!this.editable()) return;
    event.stopPropagation();
    (event.target as Element).setPointerCapture(event.pointerId);
    this.dragged.set({ damageId: mark.damageId, end: mark.end, fromTipMm: mark.fromTipMm });
  }

  protected drag(event: PointerEvent): void {
    const dragged = this.dragged();
    const place = dragged && this.placeAt(event);
    if (place?.end === dragged?.end && place && dragged)
      this.dragged.set({ ...place, damageId: dragged.damageId });
  }

  protected drop(event: PointerEvent, mark: DrawnMark): void {
    event.stopPropagation();
    const dragged = this.dragged();
    this.dragged.set(undefined);
    const given = this.damage().find(({ damageId }) => damageId === mark.damageId);
    if (dragged && dragged.fromTipMm !== given?.fromTipMm) this.moved.emit(dragged);
  }

  /** A mark with the focus goes along the edge with the arrows, and off with Delete. */
  protected nudge(event: KeyboardEvent, mark: DrawnMark): void {
    if (!this.editable()) return;
    const { damageId, end } = mark;
    if (event.key === 'Delete' || event.key === 'Backspace') {
      event.preventDefault();
      this.erased.emit(damageId);
      return;
    }
    const step = { ArrowLeft: -1, ArrowRight: 1 }[event.key];
    if (step === undefined) return;
    event.preventDefault();
    const inward = end === 'A' ? step : -step;
    const fromTipMm = Math.min(
      this.spec().edgeLengthMm,
      Math.max(0, mark.fromTipMm + inward * (event.shiftKey ? 10 : 1)),
    );
    this.moved.emit({ damageId, end, fromTipMm });
  }

  protected letterX(end: End): number {
    return endSide(end) * (this.lengthMm() / 2 - this.spec().edgeLengthMm - 22);
  }
}
