import { DOCUMENT } from '@angular/common';
import { ChangeDetectionStrategy, Component, computed, inject, input, signal } from '@angular/core';
import { MatButtonModule } from '@angular/material/button';
import { MatButtonToggleModule } from '@angular/material/button-toggle';
import { MatFormFieldModule } from '@angular/material/form-field';
import { MatSelectModule } from '@angular/material/select';
import { MatTableModule } from '@angular/material/table';
import { RouterLink } from '@angular/router';
import type { ShopAct } from '@tally-stone/contract';
import {
  guessColumns,
  LIST_KINDS,
  LISTS,
  namesOf,
  readList as understood,
  type Columns,
  type ListKind,
  type ListRow,
} from '@tally-stone/core';
import Papa from 'papaparse';
import { Api } from '../data/api';
import { newId } from '../data/commands';
import { counted } from '../data/count-words';
import { shown } from '../data/shown';
import { submit } from '../data/submit';
import { readList, type Cells } from './read-file';

type BringList = Extract<ShopAct, { type: 'bring-list' }>;

const KINDS: Readonly<
  Record<ListKind, { readonly words: string; readonly one: string; readonly many: string }>
> = {
  mowers: { words: 'Mowers', one: 'mower', many: 'mowers' },
  blades: { words: 'Blades', one: 'row of blades', many: 'rows of blades' },
  hours: { words: 'Hour meters', one: 'hour meter', many: 'hour meters' },
};
/** More than this is brought in in parts. */
const MOST_ROWS = 500;
/** So many rows are shown; all of them are checked. */
const SHOWN_ROWS = 200;
const KEPT_AS = 'tally-stone.list-columns';

const keptColumns = (): Record<string, Columns> => {
  try {
    return JSON.parse(localStorage.getItem(KEPT_AS) ?? '{}') as Record<string, Columns>;
  } catch {
    return {};
  }
};

type MowerRow = NonNullable<BringList['mowers']>[number];
type MeterRow = NonNullable<BringList['hours']>[number];
/** Rows as `LISTS` in the core reads them. */
interface Values {
  readonly mowers: Omit<MowerRow, 'mowerId' | 'spindles'> & {
    readonly spindles: readonly string[];
  };
  readonly blades: { readonly specId: string; readonly count: number; readonly used: boolean };
  readonly hours: MeterRow;
}

/** What the rows ask of the shop, ids made here. */
function actOf(kind: ListKind, rows: readonly ListRow[]): BringList {
  const valuesOf = <Kind extends ListKind>(of: Kind): Values[Kind][] =>
    kind === of ? rows.map(({ values }) => values as unknown as Values[Kind]) : [];
  return {
    type: 'bring-list',
    mowers: valuesOf('mowers').map(({ spindles, ...mower }) => ({
      ...mower,
      mowerId: newId(),
      spindles: spindles.map((position) => ({ spindleId: newId(), position })),
    })),
    blades: valuesOf('blades').map(({ specId, count, used }) => ({
      specId,
      count,
      ...(used && { knownFrom: 'used' as const, place: 'Heap' }),
    })),
    hours: valuesOf('hours'),
  };
}

/** Brings a list in that the shop has already, in a spreadsheet: mowers, blades or hour meters. */
@Component({
  selector: 'ts-lists-page',
  imports: [
    MatButtonModule,
    MatButtonToggleModule,
    MatFormFieldModule,
    MatSelectModule,
    MatTableModule,
    RouterLink,
  ],
  changeDetection: ChangeDetectionStrategy.OnPush,
  templateUrl: './lists-page.html',
  styleUrl: './lists-page.scss',
})
export class ListsPage {
  private readonly api = inject(Api);
  private readonly document = inject(DOCUMENT);
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

  protected readonly fileName = signal('');
  protected readonly cells = signal<Cells>([]);
  protected readonly heads = computed(() => this.cells()[0] ?? []);
  private readonly changed = signal<Columns>({});
  private readonly columnsKey = computed(() => `${this.kind()}: ${this.heads().join('|')}`);
  protected readonly columns = computed<Columns>(() => ({
    ...guessColumns(this.kind(), this.heads()),
    ...keptColumns()[this.columnsKey()],
    ...this.changed(),
  }));
  protected readonly rows = computed(() =>
    this.cells().length > 1
      ? understood(this.kind(), this.cells().slice(1), this.columns(), this.names())
      : [],
  );
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
  protected readonly tooMany = computed(() => this.good().length > MOST_ROWS);
  protected readonly ready = computed(() => {
    const { one, many } = KINDS[this.kind()];
    return `Bring in ${counted(this.good().length, { one, many })}`;
  });
  protected readonly left = computed(() => {
    const lines = this.bad().map(({ line }) => line);
    const some = lines.slice(0, 12).join(', ');
    return `${counted(lines.length, { one: 'row stays', many: 'rows stay' })} out as ${lines.length === 1 ? 'it is' : 'they are'}: line ${some}${lines.length > 12 ? ' …' : ''}. Mend ${lines.length === 1 ? 'it' : 'them'} in the list and choose it again, or pick another column above.`;
  });
  protected readonly said = signal('');
  protected readonly write = submit({});

  protected pickKind(kind: ListKind): void {
    this.picked.set(kind);
    this.changed.set({});
    this.said.set('');
  }

  protected async choose(field: HTMLInputElement): Promise<void> {
    const [file] = field.files ?? [];
    field.value = '';
    if (!file) return;
    this.said.set('');
    this.write.say('');
    this.changed.set({});
    this.fileName.set(file.name);
    try {
      this.cells.set(await readList(file));
      if (this.cells().length < 2) this.write.say('The list holds no rows below its heads.');
    } catch (error) {
      this.cells.set([]);
      this.write.say((error as Error).message);
    }
  }

  /** Remembered for the next list with the same heads. */
  protected pick(key: string, at: number | undefined): void {
    this.changed.update((columns) => ({ ...columns, [key]: at }));
    const kept = { ...keptColumns(), [this.columnsKey()]: this.columns() };
    localStorage.setItem(KEPT_AS, JSON.stringify(kept));
  }

  protected shownValue({ values }: ListRow, key: string): string {
    const value = values[key];
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
    const words = `${counted(rows.length, { one, many })} brought in.`;
    this.said.set(words);
    this.cells.set([]);
    this.lastList.set(answer.commandId);
  }

  protected readonly lastList = signal('');

  protected async takeBack(listId: string): Promise<void> {
    if (!(await this.write.send({ type: 'undo-list', listId }))) return;
    this.said.set('The list was taken back: the shop is as it was before.');
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
  mowers: ['Kestrel', 'diesel', 'North round', 3, 2900, 412.5],
  blades: ['High-lift 533', 12, 'no'],
  hours: ['Kestrel', 430],
};
