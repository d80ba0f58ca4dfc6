import { DOCUMENT } from '@angular/common';
import { ChangeDetectionStrategy, Component, computed, inject, input, signal } from '@angular/core';
import { MatButtonModule } from '@angular/material/button';
import { MatFormFieldModule } from '@angular/material/form-field';
import { MatSelectModule } from '@angular/material/select';
import { MatTableModule } from '@angular/material/table';
import { MatTabsModule } from '@angular/material/tabs';
import { RouterLink } from '@angular/router';
import { LIST_ROWS_MOST } from '@tally-stone/contract';
import {
  guessColumns,
  guessUnits,
  headRow,
  kindOf,
  LIST_KINDS,
  LISTS,
  namesOf,
  readList as understood,
  unitsOf,
  type Columns,
  type ColumnUnits,
  type ListKind,
  type ListRow,
  type Unit,
  counted,
} from '@tally-stone/core';
import Papa from 'papaparse';
import { Api } from '../data/api';
import { shown } from '../data/shown';
import { submit } from '../data/submit';
import { Units } from '../data/units';
import { actOf, checkedSpecs } from './list-act';
import { readList, type Cells } from './read-file';

const KINDS: Readonly<
  Record<ListKind, { readonly words: string; readonly one: string; readonly many: string }>
> = {
  specs: { words: $localize`Specs`, one: $localize`spec`, many: $localize`specs` },
  mowers: { words: $localize`Mowers`, one: $localize`mower`, many: $localize`mowers` },
  blades: {
    words: $localize`Blades`,
    one: $localize`row of blades`,
    many: $localize`rows of blades`,
  },
  hours: {
    words: $localize`Hour meters`,
    one: $localize`hour meter`,
    many: $localize`hour meters`,
  },
};
/** So many rows are shown; all of them are checked. */
const SHOWN_ROWS = 200;
const KEPT_AS = 'tally-stone.list-columns';

const UNITS_KEPT_AS = 'tally-stone.list-units';

/** What was picked for lists with the same heads. */
const kept = <Picked>(as: string): Record<string, Picked | undefined> => {
  try {
    return JSON.parse(localStorage.getItem(as) ?? '{}') as Record<string, Picked | undefined>;
  } catch {
    return {};
  }
};

/** Brings a list in that the shop has already, in a spreadsheet: specs, mowers, blades or hour meters. */
@Component({
  selector: 'ts-lists-page',
  imports: [
    MatButtonModule,
    MatFormFieldModule,
    MatSelectModule,
    MatTableModule,
    MatTabsModule,
    RouterLink,
  ],
  changeDetection: ChangeDetectionStrategy.OnPush,
  templateUrl: './lists-page.html',
  styleUrl: './lists-page.scss',
})
export class ListsPage {
  private readonly api = inject(Api);
  private readonly document = inject(DOCUMENT);
  protected readonly units = inject(Units);
  /** What the list is of, from the address. */
  readonly of = input<ListKind | undefined>();
  private readonly picked = signal<ListKind | undefined>(undefined);
  protected readonly kinds = LIST_KINDS.map((key) => ({ key, ...KINDS[key] }));
  protected readonly kind = computed<ListKind>(() => this.picked() ?? this.of() ?? 'mowers');
  protected readonly fields = computed(() => LISTS[this.kind()]);

  private readonly shownMowers = shown(() => this.api.mowers(), {
    about: ({ subjectKind }) => subjectKind === 'mower',
  });
  private readonly shownSpecs = shown(() => this.api.specs(), {
    about: ({ subjectKind }) => subjectKind === 'spec',
  });
  private readonly names = computed(() => ({
    mowers: namesOf((this.shownMowers.value() ?? []).map(({ mowerId, name }) => [mowerId, name])),
    specs: namesOf(
      (this.shownSpecs.value() ?? []).map(({ specId, figures }) => [specId, figures.name]),
    ),
  }));

  protected readonly hasRows = computed(() => this.below().length > 0);
  protected readonly fileName = signal('');
  protected readonly cells = signal<Cells>([]);
  private readonly headAt = computed(() => headRow(this.kind(), this.cells()));
  protected readonly heads = computed(() => this.cells()[this.headAt()] ?? []);
  protected readonly unheaded = (nth: number): string => $localize`column ${nth}`;
  private readonly below = computed(() => this.cells().slice(this.headAt() + 1));
  private readonly changed = signal<Columns>({});
  private readonly columnsKey = computed(() => `${this.kind()}: ${this.heads().join('|')}`);
  protected readonly columns = computed<Columns>(() => ({
    ...guessColumns(this.kind(), this.heads()),
    ...kept<Columns>(KEPT_AS)[this.columnsKey()],
    ...this.changed(),
  }));
  private readonly changedUnits = signal<ColumnUnits>({});
  /** What each measured column is in: as its head says, else as it is read here; changeable. */
  protected readonly columnUnits = computed<ColumnUnits>(() => ({
    ...guessUnits(this.kind(), this.heads(), this.columns(), {
      mm: this.units.unitFor('mm'),
      g: this.units.unitFor('g'),
    }),
    ...kept<ColumnUnits>(UNITS_KEPT_AS)[this.columnsKey()],
    ...this.changedUnits(),
  }));
  protected readonly rows = computed(() => {
    const [kind, names] = [this.kind(), this.names()];
    const rows = understood(kind, this.below(), this.columns(), names, {
      units: this.columnUnits(),
      firstLine: this.headAt() + 2,
    });
    return kind === 'specs' ? checkedSpecs(rows) : rows;
  });
  protected readonly good = computed(() =>
    this.rows().filter(({ troubles }) => Object.keys(troubles).length === 0),
  );
  protected readonly bad = computed(() =>
    this.rows().filter(({ troubles }) => Object.keys(troubles).length > 0),
  );
  /** What is to be mended first, then the rest. */
  protected readonly seen = computed(() => [...this.bad(), ...this.good()].slice(0, SHOWN_ROWS));
  protected readonly shownColumns = computed(() => [
    'line',
    ...this.fields().map(({ key }) => key),
  ]);
  protected readonly most = LIST_ROWS_MOST;
  protected readonly tooMany = computed(() => this.good().length > LIST_ROWS_MOST);
  protected readonly ready = computed(() => {
    const { one, many } = KINDS[this.kind()];
    return $localize`Bring in ${counted(this.good().length, { one, many })}`;
  });
  protected readonly left = computed(() => {
    const lines = this.bad().map(({ line }) => line);
    const some = lines.slice(0, 12).join(', ');
    return $localize`${counted(lines.length, { one: $localize`row stays`, many: $localize`rows stay` })} out as ${lines.length === 1 ? $localize`it is` : $localize`they are`}:ph1:: line ${some}${lines.length > 12 ? ' …' : ''}. Mend ${lines.length === 1 ? $localize`it` : $localize`them`} in the list and choose it again, or pick another column above.`;
  });
  protected readonly said = signal('');
  protected readonly write = submit({});

  protected pickKind(kind: ListKind): void {
    this.picked.set(kind);
    this.changed.set({});
    this.changedUnits.set({});
    this.said.set('');
  }

  protected async choose(field: HTMLInputElement): Promise<void> {
    const [file] = field.files ?? [];
    field.value = '';
    if (!file) return;
    this.said.set('');
    this.write.say('');
    this.changed.set({});
    this.changedUnits.set({});
    this.fileName.set(file.name);
    try {
      this.cells.set(await readList(file));
      if (this.below().length === 0)
        this.write.say($localize`The list holds no rows below its heads.`);
    } catch (error) {
      this.cells.set([]);
      this.write.say((error as Error).message);
    }
  }

  /** Remembered for the next list with the same heads. */
  protected pick(key: string, at: number | undefined): void {
    this.changed.update((columns) => ({ ...columns, [key]: at }));
    this.remember(KEPT_AS, this.columns());
  }

  protected unitsOf(base: Unit): Unit[] {
    return unitsOf(kindOf(base));
  }

  protected pickUnit(key: string, unit: Unit): void {
    this.changedUnits.update((units) => ({ ...units, [key]: unit }));
    this.remember(UNITS_KEPT_AS, this.columnUnits());
  }

  private remember(as: string, picked: Columns | ColumnUnits): void {
    localStorage.setItem(as, JSON.stringify({ ...kept(as), [this.columnsKey()]: picked }));
  }

  protected shownValue({ values }: ListRow, key: string, base?: 'mm' | 'g'): string {
    const value = values[key];
    if (base && typeof value === 'number') return this.units.show(value, base);
    if (key === 'mowerId' || key === 'specId') return this.typedIn(key, values);
    if (Array.isArray(value)) return value.join(', ');
    if (typeof value === 'boolean') return value ? 'used' : 'new';
    return String(value ?? '');
  }

  /** What is known by an id here is shown by its name. */
  private typedIn(key: string, values: ListRow['values']): string {
    const id = values[key];
    return (
      this.shownMowers.value()?.find(({ mowerId }) => mowerId === id)?.name ??
      this.shownSpecs.value()?.find(({ specId }) => specId === id)?.figures.name ??
      ''
    );
  }

  protected async bring(): Promise<void> {
    const rows = this.good();
    const { one, many } = KINDS[this.kind()];
    const answer = await this.write.send(actOf(this.kind(), rows));
    if (!answer) return;
    const words = $localize`${counted(rows.length, { one, many })} brought in.`;
    this.said.set(words);
    this.cells.set([]);
    this.lastList.set(answer.commandId);
  }

  protected readonly lastList = signal('');

  protected async takeBack(listId: string): Promise<void> {
    if (!(await this.write.send({ type: 'undo-list', listId }))) return;
    this.said.set($localize`The list was taken back: the shop is as it was before.`);
    this.lastList.set('');
  }

  /** An empty list with the heads that are found by themselves, and a row to show what goes where. */
  protected template(): void {
    const heads = this.fields().map(({ called }) => called[0] ?? '');
    const example = EXAMPLES[this.kind()];
    const url = URL.createObjectURL(
      new Blob([`\uFEFF${Papa.unparse([heads, example])}\r\n`], { type: 'text/csv' }),
    );
    const link = this.document.createElement('a');
    link.href = url;
    link.download = `${this.kind()}.csv`;
    link.click();
    URL.revokeObjectURL(url);
  }
}

const EXAMPLES: Readonly<Record<ListKind, readonly (string | number)[]>> = {
  specs: [
    'High-lift 533',
    533,
    63.5,
    6.35,
    16,
    1560,
    'round',
    'high-lift',
    'right',
    100,
    30,
    2900,
    51,
  ],
  // eslint-disable-next-line no-restricted-syntax -- an example of what somebody types
  mowers: ['Kestrel', 'diesel', 'North round', 3, 2900, 412.5],
  blades: ['High-lift 533', 12, 'no'],
  hours: ['Kestrel', 430],
};
