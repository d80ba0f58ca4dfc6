import { ChangeDetectionStrategy, Component, computed, input } from '@angular/core';

/** How a part is drawn, by its name: how thick, how wide, and whether it is dished. */
interface Drawn {
  readonly thick: number;
  readonly wide: number;
  readonly dished: boolean;
}
const drawnAs = (name: string): Drawn => {
  const says = (word: string): boolean => name.toLowerCase().includes(word);
  if (says('spacer')) return { thick: 22, wide: 30, dished: false };
  if (says('cup') || says('wave') || says('spring')) return { thick: 8, wide: 46, dished: true };
  return { thick: 7, wide: 42, dished: false };
};

const SPINDLE = 46;
const BLADE = 12;
const HEAD = 20;
const GAP = 5;

/** What lies on a blade bolt, drawn from its parts' names: spindle on the left, the bolt's head on the right. */
@Component({
  selector: 'ts-bolt-drawing',
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    <svg
      [attr.viewBox]="'0 0 ' + plan().width + ' 60'"
      [style.width.px]="plan().width * 1.6"
      role="img"
      [attr.aria-label]="said()"
    >
      <rect class="spindle" x="0" y="8" [attr.width]="spindle" height="44" />
      <rect
        class="bolt"
        [attr.x]="spindle"
        y="24"
        [attr.width]="plan().width - spindle - 12"
        height="12"
      />
      @for (part of plan().parts; track $index) {
        @if (part.dished) {
          <path class="part" [attr.d]="dish(part)" />
        } @else {
          <rect
            class="part"
            [attr.x]="part.x"
            [attr.y]="30 - part.wide / 2"
            [attr.width]="part.thick"
            [attr.height]="part.wide"
          />
        }
      }
      <rect class="blade" [attr.x]="plan().bladeAt" y="0" [attr.width]="blade" height="60" />
      <path
        class="head"
        [attr.d]="'M' + (plan().bladeAt + blade + 3) + ' 12h14l6 8v20l-6 8h-14z'"
      />
    </svg>
  `,
  styles: `
    svg {
      display: block;
      max-width: 100%;
    }
    .spindle,
    .head {
      fill: var(--steel-dark);
    }
    .bolt {
      fill: var(--rule);
    }
    .part {
      fill: var(--steel-face);
      stroke: var(--steel);
    }
    .blade {
      fill: var(--steel-light);
      stroke: var(--steel);
    }
  `,
})
export class BoltDrawing {
  readonly names = input.required<readonly string[]>();
  protected readonly spindle = SPINDLE;
  protected readonly blade = BLADE;

  protected readonly plan = computed(() => {
    let x = SPINDLE + GAP;
    const parts = this.names().map((name) => {
      const part = { ...drawnAs(name), x };
      x += part.thick + GAP;
      return part;
    });
    return { parts, bladeAt: x, width: x + BLADE + 3 + HEAD + 4 };
  });
  protected readonly said = computed(() =>
    [$localize`Spindle`, ...this.names(), 'blade', 'bolt'].filter(Boolean).join(', '),
  );

  protected readonly dish = ({ x, thick, wide }: Drawn & { readonly x: number }): string =>
    `M${x} ${30 - wide / 2}q${thick} ${wide / 2} 0 ${wide}h${thick / 2}q${thick} ${-wide / 2} 0 ${-wide}z`;
}
