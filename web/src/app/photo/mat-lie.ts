import { ChangeDetectionStrategy, Component, computed, input } from '@angular/core';
import {
  BED_MM,
  edgeSide,
  MARKER_MM,
  MAT_SIZE_MM,
  matMarkers,
  TIP_MARK_MM,
  type End,
} from '@tally-stone/core';
import { Named } from '../parts/named';

const MARKERS = matMarkers(1).map(({ corners: [corner] }) => corner);
const MARGIN_MM = 10;

/** The mat as it lies on the bench with one end of the blade on it: where the tip goes and to which side the edge. */
@Component({
  selector: 'ts-mat-lie',
  imports: [Named],
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    <svg
      [attr.viewBox]="box"
      role="img"
      tsName="End {{ end() }} on the mat, its tip at the line to the {{
        end() === 'A' ? 'left' : 'right'
      }}"
      i18n-tsName
    >
      <rect
        class="paper"
        [attr.x]="-margin"
        [attr.y]="-margin"
        [attr.width]="size.width + 2 * margin"
        [attr.height]="size.height + 2 * margin"
      />
      @for (marker of markers; track $index) {
        <rect
          class="marker"
          [attr.x]="marker.xMm"
          [attr.y]="marker.yMm"
          [attr.width]="markerMm"
          [attr.height]="markerMm"
        />
      }
      <line
        class="tip"
        [attr.x1]="tipMm()"
        [attr.x2]="tipMm()"
        [attr.y1]="bed.top - 6"
        [attr.y2]="bed.bottom + 6"
      />
      <polygon class="steel" [attr.points]="steel()" />
      <line
        class="edge"
        [attr.x1]="tipMm()"
        [attr.x2]="edgeToMm()"
        [attr.y1]="edgeY()"
        [attr.y2]="edgeY()"
      />
      <text [attr.x]="middleMm()" [attr.y]="(bed.top + bed.bottom) / 2 + 12" text-anchor="middle">
        {{ end() }}
      </text>
    </svg>
  `,
  styles: `
    svg {
      display: block;
      height: 150px;
    }
    .paper {
      fill: #fff;
      stroke: var(--rule);
      stroke-width: 2;
    }
    .marker {
      fill: #222;
    }
    .steel {
      fill: var(--steel-light);
    }
    .edge {
      stroke: #222;
      stroke-width: 4;
    }
    .tip {
      stroke: #222;
      stroke-width: 2;
      stroke-dasharray: 6 5;
    }
    text {
      font-size: 36px;
      font-weight: 600;
      fill: #222;
    }
  `,
})
export class MatLie {
  readonly end = input.required<End>();
  readonly hand = input.required<'right' | 'left'>();
  readonly widthMm = input.required<number>();
  readonly edgeLengthMm = input.required<number>();
  protected readonly markers = MARKERS;
  protected readonly margin = MARGIN_MM;
  protected readonly markerMm = MARKER_MM;
  protected readonly bed = BED_MM;
  protected readonly size = MAT_SIZE_MM;
  protected readonly box = `${-MARGIN_MM - 1} ${-MARGIN_MM - 1} ${MAT_SIZE_MM.width + 2 * MARGIN_MM + 2} ${MAT_SIZE_MM.height + 2 * MARGIN_MM + 2}`;
  protected readonly tipMm = computed(() => TIP_MARK_MM[this.end()]);
  private readonly inward = computed(() => (this.end() === 'A' ? 1 : -1));
  private readonly toEdge = computed(() => edgeSide(this.end(), this.hand()));
  private readonly farMm = computed(() =>
    this.end() === 'A' ? MAT_SIZE_MM.width + MARGIN_MM : -MARGIN_MM,
  );
  protected readonly edgeToMm = computed(() => {
    const to = this.tipMm() + this.inward() * this.edgeLengthMm();
    return Math.min(MAT_SIZE_MM.width + MARGIN_MM, Math.max(-MARGIN_MM, to));
  });
  protected readonly edgeY = computed(
    () => MAT_SIZE_MM.height / 2 + (this.toEdge() * this.widthMm()) / 2,
  );
  protected readonly middleMm = computed(() => (this.tipMm() + this.farMm()) / 2);
  protected readonly steel = computed(() => {
    const [near, far] = [this.edgeY(), MAT_SIZE_MM.height - this.edgeY()];
    const [tip, end] = [this.tipMm(), this.farMm()];
    return `${tip},${near} ${end},${near} ${end},${far} ${tip},${far}`;
  });
}
