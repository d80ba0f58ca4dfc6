import { Injectable, signal } from '@angular/core';
import type { CommandInput } from '@tally-stone/contract';
import { openDB, type DBSchema, type IDBPDatabase } from 'idb';

/** A command made and not yet answered, as this browser keeps it. */
export interface KeptCommand {
  readonly seq: number;
  readonly tab: string;
  /** As it will be sent; of one never tried only the revision may still change. */
  readonly command: CommandInput;
  /** Sent at least once: the server may have it, so it is only ever sent again as it is. */
  readonly tried: boolean;
  /** A photo that goes before the command and gives it its file name. */
  readonly file?: Blob;
}

interface Shelf extends DBSchema {
  waiting: { key: number; value: Omit<KeptCommand, 'seq'> & { seq?: number } };
}

const NAME = 'tally-stone';
const TAB = 'tally-stone.tab';
const ALIVE = 'tally-stone.alive.';
const BEAT_MS = 3000;
const DEAD_MS = 10_000;

/** One name for this tab, kept over a reload, so that it finds its own commands and blades again. */
export function tabName(): string {
  const known = sessionStorage.getItem(TAB);
  const name = known ?? `${Date.now().toString(36)}-${performance.now().toString(36).slice(2)}`;
  sessionStorage.setItem(TAB, name);
  return name;
}

/**
 * Commands on their way, kept in IndexedDB until the server has answered: a closed tab, a power cut or a
 * server away loses none of them, and their ids make sending twice harmless. Each tab sends its own; what a
 * closed tab has left behind is taken over by another.
 */
@Injectable({ providedIn: 'root' })
export class Outbox {
  private readonly tab = tabName();
  private readonly shelf: Promise<IDBPDatabase<Shelf> | undefined>;
  private spare = -1;
  /** The browser refuses to keep anything: what is made is sent, but a closed tab would lose it. */
  readonly full = signal(false);

  constructor() {
    this.shelf = openDB<Shelf>(NAME, 1, {
      upgrade: (database) => {
        database.createObjectStore('waiting', { keyPath: 'seq', autoIncrement: true });
      },
    }).catch(() => {
      this.full.set(true);
      return undefined;
    });
    this.beat();
    setInterval(() => {
      this.beat();
    }, BEAT_MS);
  }

  /** Keeps a command; answers with its place, or a number below zero when it could not be kept. */
  async keep(command: CommandInput, file?: Blob): Promise<number> {
    try {
      const shelf = await this.shelf;
      if (!shelf) return this.spare--;
      const seq = await shelf.add('waiting', {
        tab: this.tab,
        command,
        tried: false,
        ...(file ? { file } : {}),
      });
      this.full.set(false);
      return seq;
    } catch {
      this.full.set(true);
      return this.spare--;
    }
  }

  /** Marks a command as being sent, with the body it is sent with from now on. */
  async trying(seq: number, command: CommandInput): Promise<void> {
    if (seq < 0) return;
    try {
      await (await this.shelf)?.put('waiting', { seq, tab: this.tab, command, tried: true });
    } catch {
      this.full.set(true);
    }
  }

  async drop(seq: number): Promise<void> {
    if (seq >= 0) await (await this.shelf)?.delete('waiting', seq).catch(() => undefined);
  }

  /** What this tab left behind before a reload, and what tabs that are gone left, oldest first. */
  async leftBehind(): Promise<KeptCommand[]> {
    const all = (await (await this.shelf)?.getAll('waiting').catch(() => [])) ?? [];
    return all.flatMap((kept) =>
      kept.seq !== undefined && (kept.tab === this.tab || !alive(kept.tab))
        ? [{ ...kept, seq: kept.seq }]
        : [],
    );
  }

  private beat(): void {
    try {
      localStorage.setItem(ALIVE + this.tab, String(Date.now()));
    } catch {
      this.full.set(true);
    }
  }
}

const alive = (tab: string): boolean =>
  Date.now() - Number(localStorage.getItem(ALIVE + tab) ?? 0) < DEAD_MS;
