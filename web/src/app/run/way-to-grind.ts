import { ChangeDetectionStrategy, Component, computed, effect, input, signal } from '@angular/core';
import { MatButtonModule } from '@angular/material/button';
import type { GrinderFigures } from '@tally-stone/contract';
import { grindingPoints, INK_LEFT, inkTells, type InkLeft } from '@tally-stone/core';
import { GRINDING_WORDS, INK_TELLS_WORDS, INK_WORDS } from '../data/grinder-words';
import { Fold } from '../parts/fold';

/** Tools this device has told about already. */
const KEPT_AS = 'tally-stone.told-tools';
const toldBefore = (): readonly string[] => {
  try {
    const kept: unknown = JSON.parse(localStorage.getItem(KEPT_AS) ?? '[]');
    return Array.isArray(kept) ? kept.filter((id): id is string => typeof id === 'string') : [];
  } catch {
    return [];
  }
};

/** The ink that is left, on a face drawn 48 by 20, its edge below. */
const INK_PATHS: Readonly<Record<InkLeft, string>> = {
  nowhere: '',
  'at-the-back': 'M0 0H48V10H0Z',
  'at-the-edge': 'M0 11H48V19H0Z',
  'to-one-side': 'M26 0H48V19H22Z',
  'in-a-strip': 'M16 0H26V19H16Z',
};

/** Which way to grind on the tool in use: told once a tool, before the first pass; afterwards one touch away. */
@Component({
  selector: 'ts-way-to-grind',
  imports: [Fold, MatButtonModule],
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    <ts-fold [open]="open()">
      <span i18n foldHead>How to grind on the {{ figures().name.toLowerCase() }}</span>
      <ul>
        @for (line of lines(); track line) {
          <li>{{ line }}</li>
        }
      </ul>
      <p class="ink">
        <ng-container i18n
          >Ink the face with a marker before the first pass. Where is ink left after
          it?</ng-container
        >&ngsp;
        @for (each of inkLeft; track each) {
          <button
            mat-stroked-button
            class="big"
            type="button"
            [attr.aria-pressed]="ink() === each"
            [class.chosen]="ink() === each"
            (click)="ink.set(each)"
          >
            <svg viewBox="0 0 48 20" width="48" height="20" aria-hidden="true">
              <rect class="face" width="48" height="20" />
              <path class="left" [attr.d]="inkPath[each]" />
              <path class="edge" d="M0 19.5H48" />
            </svg>
            {{ inkWords[each] }}
          </button>
        }
      </p>
      @if (inkSays(); as words) {
        <p role="status">{{ words }}</p>
      }
    </ts-fold>
  `,
  styles: `
    ul {
      display: grid;
      grid-template-columns: repeat(auto-fit, minmax(min(23.75rem, 100%), 1fr));
      gap: 2px 32px;
      margin: 0 0 10px;
      padding-left: 1.2em;
    }
    p {
      margin: 0 0 10px;
    }
    .ink {
      display: flex;
      flex-wrap: wrap;
      gap: 8px;
      align-items: center;
    }
    svg {
      margin-right: 8px;
      vertical-align: middle;
    }
    .face {
      fill: var(--steel-light);
    }
    .left {
      fill: #24507e;
    }
    .edge {
      stroke: #222;
    }
    .chosen.mat-mdc-button-base {
      background: var(--ink);
      color: var(--chalk);
    }
  `,
})
export class WayToGrind {
  readonly grinderId = input.required<string>();
  readonly figures = input.required<Pick<GrinderFigures, 'kind' | 'name'>>();
  /** Passes are counted already. */
  readonly begun = input.required<boolean>();
  private readonly told = signal(toldBefore());
  protected readonly open = computed(
    () => !this.begun() && !this.told().includes(this.grinderId()),
  );
  protected readonly lines = computed(() =>
    grindingPoints(this.figures().kind).map((point) => GRINDING_WORDS[point]),
  );

  protected readonly inkLeft = INK_LEFT;
  protected readonly inkWords = INK_WORDS;
  protected readonly inkPath = INK_PATHS;
  protected readonly ink = signal<InkLeft | undefined>(undefined);
  protected readonly inkSays = computed(() => {
    const left = this.ink();
    return left && INK_TELLS_WORDS[inkTells(left)];
  });

  constructor() {
    // Who has begun has had it before their eyes.
    effect(() => {
      const [id, told] = [this.grinderId(), this.told()];
      if (!this.begun() || told.includes(id)) return;
      this.told.set([...told, id]);
      localStorage.setItem(KEPT_AS, JSON.stringify([...told, id]));
    });
  }
}
