import { NgTemplateOutlet } from '@angular/common';
import {
  ChangeDetectionStrategy,
  Component,
  computed,
  input,
  type TemplateRef,
} from '@angular/core';
import { named, otherEnd, type End } from '@tally-stone/core';

/** What is typed of a check blade and its weights. */
export type ShaftSize = 'mass' | 'length' | 'width' | 'light' | 'heavy' | 'radius';

/** How the blade hangs for the drops in hand. */
export interface Hangs {
  readonly weight: 'light' | 'heavy';
  readonly end: End;
  readonly turned: boolean;
}

/** The bar from end to end, per cent of the drawing's width. */
const FROM = 8;
const SPAN = 84;
/** Drawn until somebody has typed it: the weight so far out, of half the bar. */
const USUAL_OUT = 0.8;

/** A check blade on its shaft with the weight of the drops in hand, each size typed at its dimension. */
@Component({
  selector: 'ts-shaft-sheet',
  imports: [NgTemplateOutlet],
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    <div class="above">
      <span class="line" [class.wrong]="wrong().has('length')"></span>
      <div class="on middle">
        <ng-container *ngTemplateOutlet="field(); context: { $implicit: 'length' }" />
      </div>
    </div>
    <div class="bar">
      <div class="drawn" role="img" [attr.aria-label]="said()">
        <span class="steel"></span>
        <span class="shaft"></span>
        <b class="left">{{ left() }}</b>
        <b class="right">{{ otherEnd(left()) }}</b>
        @if (hangs(); as now) {
          <span class="weight" [class.heavy]="now.weight === 'heavy'" [style.left.%]="at()"></span>
        }
      </div>
      <span class="upright" [class.wrong]="wrong().has('width')"></span>
      <div class="on width">
        <ng-container *ngTemplateOutlet="field(); context: { $implicit: 'width' }" />
      </div>
    </div>
    <div class="below">
      <span
        class="line under"
        [class.wrong]="wrong().has('radius')"
        [style.left.%]="radius().from"
        [style.width.%]="radius().wide"
      ></span>
      <div class="on" [style.left.%]="radius().from + radius().wide / 2">
        <ng-container *ngTemplateOutlet="field(); context: { $implicit: 'radius' }" />
      </div>
    </div>
    <div class="rest">
      @for (size of rest; track size) {
        <ng-container *ngTemplateOutlet="field(); context: { $implicit: size }" />
      }
    </div>
  `,
  styles: `
    :host {
      --field-width: 10.5rem;

      display: block;
      box-sizing: border-box;
      max-width: 73.3125rem;
      padding-right: 12.0625rem;
      container-type: inline-size;
    }
    .above,
    .bar,
    .below {
      position: relative;
    }
    .above {
      height: 84px;
    }
    .bar {
      height: 44px;
    }
    .drawn {
      position: absolute;
      inset: 0 0 auto;
      height: 44px;
    }
    .below {
      height: 92px;
    }
    .line {
      position: absolute;
      top: 26px;
      right: 8%;
      left: 8%;
      height: 58px;
      border: 1.5px solid var(--steel);
      border-bottom: 0;
    }
    .under {
      top: 8px;
      right: auto;
      height: 12px;
      border: 1.5px solid var(--steel);
      border-top: 0;
    }
    .wrong.wrong {
      border-color: var(--bad);
      border-style: dashed;
    }
    .on {
      position: absolute;
      width: 10.5rem;
      background: var(--slab);
      transform: translateX(-50%);
    }
    .middle {
      left: 50%;
    }
    .below .on {
      top: 28px;
    }
    .width {
      top: -6px;
      left: calc(100% + 16px);
      transform: none;
    }
    .upright {
      position: absolute;
      inset: 8px -10px 8px auto;
      width: 12px;
      border: 1.5px solid var(--steel);
      border-left: 0;
    }
    .steel,
    .shaft,
    .weight,
    b {
      position: absolute;
    }
    .steel {
      inset: 8px 8%;
      border: 1px solid var(--steel-dark);
      background: var(--steel-face);
    }
    .shaft {
      top: 12px;
      left: calc(50% - 10px);
      width: 20px;
      height: 20px;
      border-radius: 50%;
      background: var(--ink);
    }
    b {
      top: 10px;
    }
    .left {
      left: calc(8% + 10px);
    }
    .right {
      right: calc(8% + 10px);
    }
    .weight {
      top: 8px;
      width: 12px;
      height: 12px;
      background: var(--spark);
      transform: translate(-50%, -50%);
      &.heavy {
        width: 24px;
        height: 24px;
      }
    }
    .rest {
      display: flex;
      flex-wrap: wrap;
      gap: 10px 16px;
      margin-top: 12px;
    }
    @container (max-width: 41rem) {
      .above,
      .below,
      .on {
        position: static;
        height: auto;
        transform: none;
      }
      .on {
        margin: 8px 0;
      }
      .bar {
        height: auto;
        padding-top: 48px;
      }
      .steel {
        inset: 8px 0 auto;
        height: 28px;
      }
      .left {
        left: 10px;
      }
      .right {
        right: 10px;
      }
      .line,
      .upright {
        display: none;
      }
    }
    @media (max-width: 43.75em) {
      :host {
        padding-right: 0;
      }
    }
  `,
})
export class ShaftSheet {
  readonly field = input.required<TemplateRef<{ $implicit: ShaftSize }>>();
  readonly lengthMm = input<number>();
  readonly radiusMm = input<number>();
  readonly hangs = input<Hangs>();
  /** Sizes that are typed wrong: marked on the drawing too. */
  readonly wrong = input<ReadonlySet<string>>(new Set());
  protected readonly rest: readonly ShaftSize[] = ['mass', 'light', 'heavy'];
  protected readonly otherEnd = otherEnd;

  /** Turned half way round, end B lies on the left. */
  protected readonly left = computed((): End => (this.hangs()?.turned ? 'B' : 'A'));
  private readonly side = computed(() => (this.hangs()?.end === this.left() ? -1 : 1));
  private readonly out = computed(() => {
    const [length = 0, radius = 0] = [this.lengthMm(), this.radiusMm()];
    return length > 0 && radius > 0 ? Math.min(1, (2 * radius) / length) : USUAL_OUT;
  });
  protected readonly at = computed(() => FROM + SPAN / 2 + (this.side() * this.out() * SPAN) / 2);
  /** From the hole's middle to the weight. */
  protected readonly radius = computed(() => ({
    from: Math.min(50, this.at()),
    wide: Math.abs(this.at() - 50),
  }));
  protected readonly said = computed(() => {
    const now = this.hangs();
    if (!now) return $localize`The check blade on its shaft`;
    const turned = now.turned ? $localize`, turned half way round` : '';
    return $localize`The check blade on its shaft${turned}, the ${named(now.weight)} weight at end ${now.end}`;
  });
}
