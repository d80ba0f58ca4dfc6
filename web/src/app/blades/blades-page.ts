import { shown } from '../data/shown';
import { BLADE_STATES, BLADE_STATE_KEYS, placeSaid } from '@tally-stone/core';
import { CdkVirtualScrollViewport, ScrollingModule } from '@angular/cdk/scrolling';
import {
  ChangeDetectionStrategy,
  Component,
  computed,
  type ElementRef,
  inject,
  signal,
  viewChild,
} from '@angular/core';
import { takeUntilDestroyed } from '@angular/core/rxjs-interop';
import { MatButtonModule } from '@angular/material/button';
import { MatFormFieldModule } from '@angular/material/form-field';
import { MatInputModule } from '@angular/material/input';
import { MatMenuModule } from '@angular/material/menu';
import { MatSelectModule } from '@angular/material/select';
import { MatTooltipModule } from '@angular/material/tooltip';
import { ActivatedRoute, RouterLink } from '@angular/router';
import type { BladeState, LifeLeftRow, RegisterRow } from '@tally-stone/contract';
import {
  auditTime,
  catchError,
  debounceTime,
  firstValueFrom,
  of,
  startWith,
  Subject,
  switchMap,
} from 'rxjs';
import { Api } from '../data/api';
import { Changes } from '../data/changes';
import { Days } from '../data/days';
import { Keys } from '../data/keys';
import { Region } from '../data/region';
import { troubleAsking } from '../data/problem';
import { Units } from '../data/units';
import { TakeAway } from '../parts/take-away';
import { Tally } from '../parts/tally';
import { COLUMNS, KEPT, keptColumns, type Key, type Sort } from './columns';

const PAGE = 100;
/** A row that is not there after so many frames is not asked for yet: then nothing is focused. */
const MOST_FRAMES = 30;
const ROW_PX = 48;
/** So many rows are on the screen before the list has been measured. */
const LEAST_DRAWN = 16;
/** Typing settles for so long before the server is asked, ms. */
const SETTLED_MS = 150;

const stateAsked = ({ snapshot }: ActivatedRoute): BladeState | undefined =>
  BLADE_STATE_KEYS.find((state) => state === snapshot.queryParamMap.get('state'));

/** Every blade of the shop in one table: found by any word its row shows, sorted, whole by keyboard. */
@Component({
  selector: 'ts-blades-page',
  imports: [
    PageState,
    MatButtonModule,
    MatFormFieldModule,
    MatInputModule,
    MatMenuModule,
    MatSelectModule,
    RouterLink,
    MatTooltipModule,
    ScrollingModule,
    Tally,
    TakeAway,
  ],
  changeDetection: ChangeDetectionStrategy.OnPush,
  templateUrl: './blades-page.html',
  styleUrl: './blades-page.scss',
})
export class BladesPage {
  private readonly api = inject(Api);
  protected readonly days = inject(Days);
  private readonly region = inject(Region);
  protected readonly units = inject(Units);
  private readonly viewport = viewChild(CdkVirtualScrollViewport);
  private readonly search = viewChild.required<ElementRef<HTMLInputElement>>('search');

  private readonly chosen = signal(keptColumns());
  /** Every column but the code, which names the row. */
  protected readonly choices = COLUMNS.slice(1);
  protected readonly columns = computed(() => COLUMNS.filter(({ key }) => this.chosen().has(key)));
  protected readonly tracks = computed(() =>
    this.columns()
      .map(({ track }) => track)
      .join(' '),
  );
  /** What is left of blades, as far as it was asked; nothing of one that has no forecast. */
  protected readonly lives = signal<ReadonlyMap<string, LifeLeftRow | undefined>>(new Map());
  protected readonly states = BLADE_STATES;
  protected readonly stateKeys = BLADE_STATE_KEYS;
  protected readonly rowPx = ROW_PX;
  /** Without them the table still stands; its own question says what is wrong. */
  private readonly shownSpecs = shown(() => this.api.specs(), { about: 'nothing' });
  protected readonly specs = computed(() => this.shownSpecs.value() ?? []);
  protected readonly text = signal('');
  /** A link may ask for one state. */
  protected readonly state = signal(stateAsked(inject(ActivatedRoute)));
  protected readonly specId = signal('');
  protected readonly sort = signal<Sort>('code');
  protected readonly down = signal(false);
  protected readonly counts = signal<Readonly<Partial<Record<BladeState, number>>>>({});
  /** As many as were found; those not asked for yet are empty. */
  protected readonly rows = signal<readonly (RegisterRow | undefined)[] | undefined>(undefined);
  protected readonly active = signal(0);
  protected readonly trouble = signal('');
  private readonly asked = new Set<number>();
  private readonly livesAsked = new Set<string>();
  private question = 0;
  private readonly anew$ = new Subject<void>();

  /** The list that is taken away is the one on the screen. */
  protected readonly looksFor = computed(() => ({
    text: this.text(),
    state: this.state(),
    specId: this.specId(),
    sort: this.sort(),
    down: this.down() ? 'true' : '',
    columns: this.columns()
      .map(({ key }) => key)
      .filter((key) => key !== 'code')
      .join(),
  }));
  protected readonly headline = computed(() => {
    const rows = this.rows();
    if (!rows) return $localize`Blades`;
    const count = this.region.number(rows.length);
    return rows.length === 1 ? $localize`1 blade` : $localize`${count} blades`;
  });

  protected askAnew(): void {
    this.anew$.next();
  }

  constructor() {
    this.anew$
      .pipe(
        debounceTime(SETTLED_MS),
        // The page itself need not settle.
        startWith(undefined),
        switchMap(() => this.ask(0).pipe(catchError((error: unknown) => this.failed(error)))),
        takeUntilDestroyed(),
      )
      .subscribe((view) => {
        if (!view) return;
        this.question += 1;
        this.asked.clear();
        this.asked.add(0);
        this.trouble.set('');
        this.counts.set(view.states);
        this.rows.set([
          ...view.blades,
          ...Array.from({ length: view.total - view.blades.length }, () => undefined),
        ]);
        this.active.update((now) => Math.min(now, Math.max(0, view.total - 1)));
        // What is known of their lives stands until it is known anew.
        this.livesAsked.clear();
        this.seen();
      });
    inject(Changes)
      .all$.pipe(auditTime(1000), takeUntilDestroyed())
      .subscribe(() => {
        this.anew$.next();
      });
    inject(Keys).use([
      {
        key: '/',
        does: $localize`Look for a blade`,
        run: () => this.search().nativeElement.focus(),
      },
    ]);
  }

  protected look(text: string): void {
    this.text.set(text);
    this.fromTheTop();
  }

  protected pickState(state: BladeState): void {
    this.state.update((now) => (now === state ? undefined : state));
    this.fromTheTop();
  }

  protected pickSpec(specId: string): void {
    this.specId.set(specId);
    this.fromTheTop();
  }

  protected sortBy(key: Sort): void {
    this.down.set(this.sort() === key && !this.down());
    this.sort.set(key);
    this.fromTheTop();
  }

  protected shows(key: Key): boolean {
    return this.chosen().has(key);
  }

  protected choose(key: Key): void {
    const chosen = new Set(this.chosen());
    if (!chosen.delete(key)) chosen.add(key);
    this.chosen.set(chosen);
    localStorage.setItem(KEPT, [...chosen].join());
    // What it was sorted by is gone from the screen.
    if (!chosen.has(this.sort() as Key)) this.sortBy('code');
    else this.anew$.next();
  }

  protected isSort(key: Key): key is Key & Sort {
    return key !== 'first';
  }

  protected lifeOf({ bladeId, state }: RegisterRow): LifeLeftRow | undefined {
    return state === 'retired' ? undefined : this.lives().get(bladeId);
  }

  /** The middle, and the range where it is more than one figure. */
  protected leftWords({ grinds: { median, low, high } }: LifeLeftRow): string {
    const whole = (grinds: number): string => this.region.number(grinds);
    return whole(low) === whole(high)
      ? whole(median)
      : `${whole(median)} (${whole(low)}–${whole(high)})`;
  }

  protected firstWords({ first, roomMm }: LifeLeftRow): string {
    return roomMm === undefined ? first : `${this.units.show(roomMm, 'mm')}: ${first}`;
  }

  protected sorted(key: Key): 'ascending' | 'descending' | 'none' {
    return this.sort() === key ? (this.down() ? 'descending' : 'ascending') : 'none';
  }

  /** What is on the screen now is asked for, a page at a time. */
  protected seen(): void {
    const rows = this.rows();
    if (!rows || rows.length === 0) return;
    // An answer asked for early is there before the list is drawn.
    const { start, end } = this.viewport()?.getRenderedRange() ?? { start: 0, end: 0 };
    for (let page = Math.floor(start / PAGE); page * PAGE < Math.max(end, 1); page++) {
      if (!this.asked.has(page) && page * PAGE < rows.length) void this.fetch(page);
    }
    void this.askLives(rows.slice(start, Math.max(end, LEAST_DRAWN)));
  }

  protected press(event: KeyboardEvent): void {
    const last = (this.rows()?.length ?? 0) - 1;
    const step = Math.max(1, Math.floor((this.viewport()?.getViewportSize() ?? 0) / ROW_PX) - 1);
    const to: Partial<Record<string, number>> = {
      ArrowDown: this.active() + 1,
      ArrowUp: this.active() - 1,
      PageDown: this.active() + step,
      PageUp: this.active() - step,
      Home: 0,
      End: last,
    };
    const target = to[event.key];
    if (target !== undefined && last >= 0) {
      event.preventDefault();
      this.goTo(Math.min(last, Math.max(0, target)));
    }
  }

  /** From the search field straight into the rows. */
  protected intoRows(event: Event): void {
    event.preventDefault();
    this.goTo(0);
  }

  protected where({ state, place, mowerName, position }: RegisterRow): string {
    if (state === 'on-mower') return `${mowerName ?? ''}, ${position ?? ''}`;
    const where = placeSaid(place);
    return mowerName ? $localize`${where}, off ${mowerName}` : where;
  }

  private goTo(index: number): void {
    this.active.set(index);
    const list = this.viewport();
    if (!list) return;
    const top = list.measureScrollOffset();
    const size = list.getViewportSize();
    if (index * ROW_PX < top) list.scrollToOffset(index * ROW_PX);
    else if ((index + 1) * ROW_PX > top + size) list.scrollToOffset((index + 1) * ROW_PX - size);
    this.focusRow(index, MOST_FRAMES);
  }

  /** The row is there once it has been scrolled to and drawn. */
  private focusRow(index: number, frames: number): void {
    const link = this.viewport()?.elementRef.nativeElement.querySelector<HTMLElement>(
      `#row-${index} a`,
    );
    if (link) link.focus({ preventScroll: true });
    else if (frames > 0) setTimeout(() => this.focusRow(index, frames - 1), 16);
  }

  private fromTheTop(): void {
    this.active.set(0);
    this.viewport()?.scrollToOffset(0);
    this.anew$.next();
  }

  private ask(page: number) {
    return this.api.register({
      text: this.text(),
      ...(this.state() ? { state: this.state() ?? '' } : {}),
      ...(this.specId() ? { specId: this.specId() } : {}),
      sort: this.sort(),
      down: String(this.down()),
      offset: String(page * PAGE),
      limit: String(PAGE),
    });
  }

  private async fetch(page: number): Promise<void> {
    this.asked.add(page);
    const { question } = this;
    try {
      const { blades } = await firstValueFrom(this.ask(page));
      if (question !== this.question) return;
      this.rows.update((rows) => rows?.map((row, i) => blades[i - page * PAGE] ?? row));
      this.seen();
    } catch (error) {
      this.asked.delete(page);
      this.trouble.set(troubleAsking(error).words);
    }
  }

  /** What is left of those on the screen is told once their rows stand: nobody waits for it. */
  private async askLives(blades: readonly (RegisterRow | undefined)[]): Promise<void> {
    if (!this.shows('left') && !this.shows('first')) return;
    const { question } = this;
    const ids = blades.flatMap((blade) =>
      blade && blade.state !== 'retired' && blade.grinds > 0 && !this.livesAsked.has(blade.bladeId)
        ? [blade.bladeId]
        : [],
    );
    if (ids.length === 0) return;
    for (const id of ids) this.livesAsked.add(id);
    try {
      const { lives } = await firstValueFrom(this.api.livesLeft(ids));
      if (question !== this.question) return;
      const found = new Map(lives.map(({ bladeId, ...left }) => [bladeId, left]));
      this.lives.update(
        (known) => new Map([...known, ...ids.map((id) => [id, found.get(id)] as const)]),
      );
    } catch (error) {
      this.trouble.set(troubleAsking(error).words);
    }
  }

  private failed(error: unknown) {
    this.trouble.set(troubleAsking(error).words);
    return of(undefined);
  }
}
import { PageState } from '../parts/state';
