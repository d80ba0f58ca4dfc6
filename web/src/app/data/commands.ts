import { computed, DestroyRef, inject, Injectable, signal } from '@angular/core';
import { takeUntilDestroyed } from '@angular/core/rxjs-interop';
import type { AcceptedCommand, CommandInput, CycleAct, ShopAct } from '@tally-stone/contract';
import {
  catchError,
  concatMap,
  defer,
  EMPTY,
  firstValueFrom,
  fromEvent,
  interval,
  map,
  merge,
  Observable,
  race,
  retry,
  Subject,
  throwError,
  timer,
} from 'rxjs';
import { v7 as uuidv7 } from 'uuid';
import { Api } from './api';
import { Outbox, type KeptCommand, type OutboxNews } from './outbox';
import { TroubleError, troubleFrom } from './problem';
import { Who } from './who';

/** New ids are made here, from getRandomValues: plain HTTP on a shop's network has no randomUUID. */
export const newId = (): string => uuidv7();

/** The server is away; the command is kept in this browser and goes out when it is back. */
export interface Waiting {
  readonly waiting: true;
}
export const isWaiting = (answer: AcceptedCommand | Waiting): answer is Waiting =>
  'waiting' in answer;

/** What is told from the field, where there may be no signal. */
export type Report = Extract<
  ShopAct,
  { type: 'report-strike' | 'report-cut' | 'read-hours' | 'look-at-grass' }
>;

/** A write of the shop is not kept for later: who made it is told, and makes it again. */
const SHOP_TRIES = 3;
const SHOP_WAIT_MS = 700;
/** While the server is away it is tried so often. */
const RETRY_MS = 2500;
/** What is kept for longer than this waits, whichever window made it; before, it is on its way. */
const WAITS_AFTER_MS = 3000;

/** Who made a command in this window and still listens. */
interface Listener {
  revision?: (() => number) | undefined;
  readonly onAnswer: (answer: AcceptedCommand | Waiting) => void;
  readonly failed: (error: unknown) => void;
  toldWaiting: boolean;
}

const idOf = (command: CommandInput): string => command.id;
const cycleOf = ({ command }: Pick<KeptCommand, 'command'>): string | undefined =>
  'cycleId' in command ? command.cycleId : undefined;

/** Why the outbox is looked at: something was just made, it is time again, or the network came back. */
type Occasion = 'made' | 'time' | 'online';

/**
 * Sends commands: a write of the shop at once, entries of a cycle and reports from the field through the browser's
 * outbox, one after the other in the order they were made, each with an id of its own, until it is answered. While
 * the server is away they wait; a refused one that has nobody to tell is parked and holds up its own cycle only.
 */
@Injectable({ providedIn: 'root' })
export class Commands {
  private readonly api = inject(Api);
  private readonly who = inject(Who);
  private readonly outbox = inject(Outbox);
  private readonly listeners = new Map<string, Listener>();
  private readonly made$ = new Subject<void>();
  private readonly now = signal(Date.now());
  private lastTried = 0;
  private stopped = false;

  /** The last try, of any window, found nobody. */
  private readonly away = signal(false);
  /** What waits in this browser because the server does not answer, oldest first. */
  private readonly waitingCommands = computed(() => {
    const [away, since] = [this.away(), this.now() - WAITS_AFTER_MS];
    return this.outbox
      .kept()
      .filter(({ refused, keptAt }) => refused === undefined && (away || keptAt < since));
  });
  readonly waiting = computed(() => this.waitingCommands().length);
  /** Refused when nobody was there to hear it. */
  readonly parked = computed(() =>
    this.outbox
      .kept()
      .flatMap(({ seq, command, refused }) =>
        refused === undefined ? [] : [{ seq, command, words: refused }],
      ),
  );

  constructor() {
    inject(DestroyRef).onDestroy(() => (this.stopped = true));
    this.outbox.news$.pipe(takeUntilDestroyed()).subscribe((news) => {
      this.hear(news);
    });
    const time$ = interval(RETRY_MS);
    time$.pipe(takeUntilDestroyed()).subscribe(() => {
      this.now.set(Date.now());
    });
    merge(
      this.made$.pipe(map((): Occasion => 'made')),
      timer(0).pipe(map((): Occasion => 'online')),
      fromEvent(window, 'online').pipe(map((): Occasion => 'online')),
      time$.pipe(map((): Occasion => 'time')),
    )
      .pipe(
        concatMap((occasion) => this.sendAll(occasion)),
        takeUntilDestroyed(),
      )
      .subscribe();
  }

  /** A write of the shop: registering, fitting, bringing in, taking up. */
  shop(act: ShopAct): Observable<AcceptedCommand> {
    const command = { ...act, ...this.envelope() } as CommandInput;
    return this.api.command(command).pipe(
      retry({
        count: SHOP_TRIES - 1,
        delay: (error: unknown, nth) =>
          troubleFrom(error).kind === 'offline'
            ? race(timer(SHOP_WAIT_MS * nth), fromEvent(window, 'online'))
            : throwError(() => error),
      }),
    );
  }

  /**
   * What a crew saw in the field: nothing in its answer is needed there and then, so it is kept like an entry of
   * the bench while the server is away. Says `waiting` once if it is, and its answer later.
   */
  report(act: Report, file?: Blob): Observable<AcceptedCommand | Waiting> {
    return this.kept({ ...act, ...this.envelope() } as CommandInput, undefined, file);
  }

  /**
   * A write of one cycle. The revision is asked for when its turn comes. Says `waiting` once if the server is
   * away, and its answer later.
   */
  cycle(
    cycleId: string,
    revision: () => number,
    act: CycleAct,
    file?: Blob,
  ): Observable<AcceptedCommand | Waiting> {
    const command = {
      ...act,
      ...this.envelope(),
      cycleId,
      expectedRevision: revision(),
    } as CommandInput;
    return this.kept(command, revision, file);
  }

  /** What waits of one cycle, oldest first, whichever window it was made in. */
  waitingOf(cycleId: string): readonly CommandInput[] {
    return this.waitingCommands().flatMap((kept) =>
      cycleOf(kept) === cycleId ? [kept.command] : [],
    );
  }

  /** Gives a parked command up. */
  async giveUp(parked: Pick<KeptCommand, 'seq'>): Promise<void> {
    await this.outbox.drop(parked);
    this.made$.next();
  }

  private envelope(): Pick<CommandInput, 'id' | 'personId' | 'occurredAt'> {
    return {
      id: newId(),
      personId: this.who.personId() ?? '',
      occurredAt: new Date().toISOString(),
    };
  }

  private kept(
    command: CommandInput,
    revision?: () => number,
    file?: Blob,
  ): Observable<AcceptedCommand | Waiting> {
    return new Observable((subscriber) => {
      const id = idOf(command);
      this.listeners.set(id, {
        revision,
        onAnswer: (answer) => {
          subscriber.next(answer);
          if (!isWaiting(answer)) subscriber.complete();
        },
        failed: (error) => {
          subscriber.error(error);
        },
        toldWaiting: false,
      });
      void this.outbox.keep(command, file).then(() => {
        if (this.away()) this.tellWaiting();
        this.made$.next();
      });
      // Nobody listens any more: a refusal is then parked for all to see instead of being lost.
      return () => this.listeners.delete(id);
    });
  }

  /** The oldest command whose cycle is not held up by a parked one. */
  private next(): KeptCommand | undefined {
    const kept = this.outbox.kept();
    const held = new Set(kept.filter(({ refused }) => refused !== undefined).map(cycleOf));
    return kept.find((each) => {
      const cycleId = cycleOf(each);
      return each.refused === undefined && (cycleId === undefined || !held.has(cycleId));
    });
  }

  private sendAll(occasion: Occasion): Observable<void> {
    const tooSoon = occasion === 'time' && Date.now() - this.lastTried < RETRY_MS / 2;
    if (tooSoon || (occasion === 'made' && this.away())) return EMPTY;
    return defer(async () => {
      if (!this.next() || !(await this.outbox.claim())) return;
      try {
        for (let kept = this.next(); kept && !this.stopped; kept = this.next()) {
          if (!(await this.outbox.claim()) || !(await this.send(kept))) break;
        }
      } finally {
        await this.outbox.release();
      }
    }).pipe(
      catchError((error: unknown) => {
        // A fault of ours: said in the console, tried again with the next occasion.
        reportError(error);
        return EMPTY;
      }),
    );
  }

  /** Sends one command; false when there is no use in sending the next. */
  private async send(kept: KeptCommand): Promise<boolean> {
    this.lastTried = Date.now();
    try {
      const command = kept.tried ? kept.command : await this.ready(kept);
      await this.outbox.trying(kept, command);
      if (this.stopped) return false;
      const answer = await firstValueFrom(this.api.command(command));
      this.tellAway(false);
      // Told first: a screen that shows it as waiting takes it over as done before it is gone from here.
      this.outbox.tell({ kind: 'answered', id: idOf(command), answer });
      await this.outbox.drop(kept);
      return true;
    } catch (error) {
      const trouble = troubleFrom(error);
      if (trouble.kind === 'offline') {
        this.tellAway(true);
        return false;
      }
      this.tellAway(false);
      const id = idOf(kept.command);
      // Whoever made it and is still there is told; otherwise it waits in sight.
      if (this.listeners.has(id)) await this.outbox.drop(kept);
      else await this.outbox.park(kept, trouble.words);
      this.outbox.tell({ kind: 'refused', id, trouble });
      return true;
    }
  }

  /** As it is sent from now on: a photo goes first and gives it its file, and the revision is that of now. */
  private async ready(kept: KeptCommand): Promise<CommandInput> {
    const { command, file } = kept;
    const withRevision =
      'expectedRevision' in command
        ? { ...command, expectedRevision: await this.revisionFor(kept) }
        : command;
    if (!file || !('file' in withRevision)) return withRevision;
    return { ...withRevision, file: (await firstValueFrom(this.api.photo(file))).file };
  }

  /** What the cycle stands at: as its screen knows, or, made elsewhere, as the server says. */
  private async revisionFor(kept: KeptCommand): Promise<number> {
    const here = this.listeners.get(idOf(kept.command))?.revision;
    if (here) return here();
    const known = 'expectedRevision' in kept.command ? kept.command.expectedRevision : 0;
    const cycleId = cycleOf(kept);
    if (!cycleId) return known;
    return firstValueFrom(this.api.cycle(cycleId)).then(
      ({ revision }) => revision,
      () => known,
    );
  }

  private hear(news: OutboxNews): void {
    if (news.kind === 'away') {
      this.away.set(news.away);
      if (news.away) this.tellWaiting();
      return;
    }
    const listener = this.listeners.get(news.id);
    if (!listener) return;
    this.listeners.delete(news.id);
    if (news.kind === 'answered') {
      listener.onAnswer(news.answer);
      return;
    }
    // Another window sent it and could not know that somebody here is waiting to be told.
    const parked = this.outbox.kept().find(({ command }) => idOf(command) === news.id);
    if (parked) void this.outbox.drop(parked);
    listener.failed(new TroubleError(news.trouble));
  }

  private tellAway(away: boolean): void {
    if (away !== this.away()) this.outbox.tell({ kind: 'away', away });
  }

  private tellWaiting(): void {
    for (const listener of this.listeners.values()) {
      if (listener.toldWaiting) continue;
      listener.toldWaiting = true;
      listener.onAnswer({ waiting: true });
    }
  }
}
