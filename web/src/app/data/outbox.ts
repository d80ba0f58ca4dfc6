import { Injectable, signal } from '@angular/core';
import type { AcceptedCommand, CommandInput } from '@tally-stone/contract';
import { openDB, type DBSchema, type IDBPDatabase } from 'idb';
import { Subject, type Observable } from 'rxjs';
import type { Trouble } from './problem';

/** A command made and not yet answered, as this browser keeps it. */
export interface KeptCommand {
  /** Its place in the order; below zero where the browser could not store it. */
  readonly seq: number;
  /** As it will be sent; of one never tried only the revision may still change. */
  readonly command: CommandInput;
  /** Sent at least once: the server may have it, so it is only ever sent again as it is. */
  readonly tried: boolean;
  readonly keptAt: number;
  /** A photo that goes before the command and gives it its file name. */
  readonly file?: Blob;
  /** Refused by the server, in these words: it waits for somebody to give it up. */
  readonly refused?: string;
}

/** What every window of this browser hears of a command, whichever of them sent it. */
export type OutboxNews =
  | { readonly kind: 'answered'; readonly id: string; readonly answer: AcceptedCommand }
  | { readonly kind: 'refused'; readonly id: string; readonly trouble: Trouble }
  | { readonly kind: 'away'; readonly away: boolean };

interface Lease {
  readonly holder: string;
  readonly until: number;
}
interface Shelf extends DBSchema {
  waiting: { key: number; value: Omit<KeptCommand, 'seq'> & { seq?: number } };
  sender: { key: string; value: Lease };
}

const NAME = 'tally-stone';
const CHANNEL = 'tally-stone.outbox';
/** A window that sends says so again before each command; silent for longer it is taken for closed. */
const LEASE_MS = 5000;
const THE_SENDER = 'sender';

const uniqueName = (): string =>
  `${Date.now().toString(36)}-${Math.random().toString(36).slice(2, 12)}`;

/**
 * Commands on their way, kept in IndexedDB until the server has answered. They belong to the browser, not to a
 * window: whichever is open sends them, one at a time under a lease, and all of them know what waits. A closed
 * window, a power cut or a server away loses none, and their ids make sending one twice harmless.
 */
@Injectable({ providedIn: 'root' })
export class Outbox {
  private readonly me = uniqueName();
  private readonly shelf: Promise<IDBPDatabase<Shelf> | undefined>;
  private readonly channel = new BroadcastChannel(CHANNEL);
  private readonly newsSubject = new Subject<OutboxNews>();
  /** What the browser refused to store: sent like the rest, but this window alone has it. */
  private loose: readonly KeptCommand[] = [];

  /** Everything not yet answered, oldest first, whichever window made it. */
  readonly kept = signal<readonly KeptCommand[]>([]);
  /** The browser refuses to keep anything: what is made is sent, but a closed window would lose it. */
  readonly full = signal(false);
  readonly news$: Observable<OutboxNews> = this.newsSubject;

  constructor() {
    this.shelf = openDB<Shelf>(NAME, 2, {
      upgrade: (database, from) => {
        if (from < 1) {
          database.createObjectStore('waiting', { keyPath: 'seq', autoIncrement: true });
        }
        if (from < 2) database.createObjectStore('sender');
      },
    }).catch(() => {
      this.full.set(true);
      return undefined;
    });
    this.channel.onmessage = ({ data }: MessageEvent<OutboxNews | 'changed'>) => {
      void this.look().then(() => {
        if (data !== 'changed') this.newsSubject.next(data);
      });
    };
    void this.look();
  }

  /** Keeps a command until it is dropped. */
  async keep(command: CommandInput, file?: Blob): Promise<void> {
    const kept = { command, tried: false, keptAt: Date.now(), ...(file ? { file } : {}) };
    try {
      const shelf = await this.shelf;
      if (!shelf) throw new Error('no shelf');
      await shelf.add('waiting', kept);
      this.full.set(false);
    } catch {
      this.full.set(true);
      this.loose = [...this.loose, { ...kept, seq: (this.loose.at(-1)?.seq ?? 0) - 1 }];
    }
    await this.changed();
  }

  /** Marks a command as being sent, with the body it is sent with from now on. */
  trying({ seq, keptAt }: KeptCommand, command: CommandInput): Promise<void> {
    return this.replace({ seq, keptAt, command, tried: true });
  }

  /** Marks a command as refused: it stays for all to see, and holds up its own cycle. */
  park(kept: KeptCommand, words: string): Promise<void> {
    return this.replace({ ...kept, refused: words });
  }

  async drop({ seq }: Pick<KeptCommand, 'seq'>): Promise<void> {
    if (seq < 0) this.loose = this.loose.filter((each) => each.seq !== seq);
    else await (await this.shelf)?.delete('waiting', seq).catch(() => undefined);
    await this.changed();
  }

  /** Tells every window, this one too. */
  tell(news: OutboxNews): void {
    this.newsSubject.next(news);
    this.channel.postMessage(news);
  }

  /** Takes or renews the right to send; false while another window has it. */
  async claim(): Promise<boolean> {
    const shelf = await this.shelf;
    if (!shelf) return true;
    try {
      const turn = shelf.transaction('sender', 'readwrite');
      const lease = await turn.store.get(THE_SENDER);
      const free = !lease || lease.holder === this.me || lease.until < Date.now();
      if (free) await turn.store.put({ holder: this.me, until: Date.now() + LEASE_MS }, THE_SENDER);
      await turn.done;
      return free;
    } catch {
      // No room even for the lease: better sent twice, which the server takes once, than not at all.
      return true;
    }
  }

  /** Gives the right to send back, so that another window need not wait for it to run out. */
  async release(): Promise<void> {
    try {
      const turn = (await this.shelf)?.transaction('sender', 'readwrite');
      const lease = await turn?.store.get(THE_SENDER);
      if (lease?.holder === this.me) await turn?.store.delete(THE_SENDER);
    } catch {
      // It runs out by itself.
    }
  }

  close(): void {
    this.channel.close();
    void this.shelf.then((shelf) => shelf?.close());
  }

  private async replace(kept: KeptCommand): Promise<void> {
    if (kept.seq < 0) {
      this.loose = this.loose.map((each) => (each.seq === kept.seq ? kept : each));
    } else {
      try {
        await (await this.shelf)?.put('waiting', kept);
      } catch {
        this.full.set(true);
      }
    }
    await this.changed();
  }

  private async changed(): Promise<void> {
    await this.look();
    this.channel.postMessage('changed');
  }

  private async look(): Promise<void> {
    const all = (await (await this.shelf)?.getAll('waiting').catch(() => [])) ?? [];
    const stored = all.flatMap(({ seq, ...kept }) => (seq === undefined ? [] : [{ ...kept, seq }]));
    this.kept.set([...stored, ...this.loose]);
  }
}
