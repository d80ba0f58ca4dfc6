import { ChangeDetectionStrategy, Component, computed, inject, input, signal } from '@angular/core';
import { MatButtonToggleModule } from '@angular/material/button-toggle';
import { NoteUpkeep, type UpkeepView } from '@tally-stone/contract';
import type { FormControl } from '@angular/forms';
import { newId } from '../data/commands';
import { Days } from '../data/days';
import { passes, refuse, text } from '../data/fields';
import { Fleet } from '../data/fleet';
import { showsFirstWrong, submit } from '../data/submit';
import { Units } from '../data/units';
import { TextField } from '../parts/form/text-field';
import { UPKEEP_FOUND_WORDS, UPKEEP_WORDS } from './fleet-words';

type Kind = UpkeepView['kind'];
type Found = keyof typeof UPKEEP_FOUND_WORDS;
const NOTE = NoteUpkeep.shape.looked.element.shape.note;

/** What is looked at while the blades are off: a short list, what is due first, and what was found last. */
@Component({
  selector: 'ts-upkeep',
  imports: [MatButtonToggleModule, TextField],
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    @for (each of upkeep(); track each.kind) {
      <div class="row" [class.due]="each.due" [class.wants]="each.last?.found === 'wants-work'">
        <span>
          <strong>{{ words[each.kind].what }}</strong>
          <span class="quiet">{{ lastWords(each) }}</span>
        </span>
        <mat-button-toggle-group
          [value]="found()[each.kind] ?? ''"
          [attr.aria-label]="words[each.kind].what"
          hideSingleSelectionIndicator
          (change)="say(each.kind, $event.value)"
        >
          @for (option of options; track option) {
            <mat-button-toggle [value]="option">{{
              option === 'done' ? words[each.kind].done : foundWords[option]
            }}</mat-button-toggle>
          }
        </mat-button-toggle-group>
        @if (found()[each.kind] === 'wants-work') {
          <ts-text class="note" [control]="noteOf(each.kind)" label="What it wants" i18n-label />
        }
      </div>
    }
    @if (error()) {
      <p class="bad" role="alert">{{ error() }}</p>
    }
  `,
  styles: `
    .row {
      display: grid;
      grid-template-columns: minmax(13.75rem, 1fr) auto;
      gap: 6px 24px;
      align-items: center;
      padding: 8px 0 8px 12px;
      border-bottom: 1px solid var(--rule);
      border-left: 4px solid transparent;
    }
    .row.due {
      border-left-color: var(--steel);
    }
    .row.wants {
      border-left-color: var(--spark);
    }
    .row .quiet {
      display: block;
    }
    .note {
      grid-column: 1 / -1;
    }
    @media (max-width: 43.75em) {
      .row {
        grid-template-columns: 1fr;
      }
    }
  `,
})
export class UpkeepList {
  private readonly fleet = inject(Fleet);
  private readonly days = inject(Days);
  private readonly units = inject(Units);
  private readonly showFirstWrong = showsFirstWrong();
  readonly mowerId = input.required<string>();
  readonly upkeep = input.required<readonly UpkeepView[]>();
  protected readonly words = UPKEEP_WORDS;
  protected readonly foundWords = UPKEEP_FOUND_WORDS;
  protected readonly options = Object.keys(UPKEEP_FOUND_WORDS) as Found[];
  protected readonly found = signal<Readonly<Partial<Record<Kind, Found>>>>({});
  private readonly notes = new Map<Kind, FormControl<string>>();
  private readonly write = submit({ kept: () => this.fleet.refresh() });
  protected readonly error = this.write.words;
  /** Something was looked at and is not kept yet. */
  readonly looked = computed(() => Object.keys(this.found()).length > 0);

  protected noteOf(kind: Kind): FormControl<string> {
    const known = this.notes.get(kind);
    if (known) return known;
    const control = text('', NOTE);
    this.notes.set(kind, control);
    return control;
  }

  protected say(kind: Kind, found: Found): void {
    this.found.update((all) => ({ ...all, [kind]: found }));
  }

  protected lastWords({ due, last }: UpkeepView): string {
    if (!last) return $localize`not looked at yet`;
    const when = $localize`${this.days.short(last.at)} at ${this.units.number(last.hoursH, 0)} h, ${last.by}`;
    if (last.found === 'wants-work') return $localize`wants work: ${last.note ?? ''} (${when})`;
    return due ? $localize`due; last ${when}` : $localize`last ${when}`;
  }

  /** Keeps what was looked at. True where it was kept, and where nothing was. */
  async keep(): Promise<boolean> {
    const said = Object.entries(this.found()) as [Kind, Found][];
    if (said.length === 0) return true;
    const wanting = said.filter(([, found]) => found === 'wants-work').map(([kind]) => kind);
    const bare = wanting.find((kind) => !this.noteOf(kind).value.trim());
    if (bare) refuse(this.noteOf(bare), $localize`is empty: say what it wants`);
    if (bare || !wanting.every((kind) => passes(this.noteOf(kind)))) {
      this.showFirstWrong();
      return false;
    }
    const kept = await this.write.send({
      type: 'note-upkeep',
      mowerId: this.mowerId(),
      looked: said.map(([kind, found]) => ({
        upkeepId: newId(),
        kind,
        found,
        ...(found === 'wants-work' ? { note: this.noteOf(kind).value } : {}),
      })),
    });
    if (kept) this.found.set({});
    return kept !== undefined;
  }
}
