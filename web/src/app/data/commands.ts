import { DestroyRef, inject, Injectable, signal } from '@angular/core';
import type { CommandAnswer, CommandInput, CycleAct, ShopAct } from '@tally-stone/contract';
import { firstValueFrom, fromEvent, Observable, race, timer } from 'rxjs';
import { v7 as uuidv7 } from 'uuid';
import { Api } from './api';
import { Outbox } from './outbox';
import { troubleFrom, type Trouble } from './problem';
import { Who } from './who';

/** New ids are made here, from getRandomValues: plain HTTP on a shop's network has no randomUUID. */
export const newId = (): string => uuidv7();

/** The server is away; the command is kept in this browser and goes out when it is back. */
export interface Waiting {
  readonly waiting: true;
}
export const isWaiting = (heard: CommandAnswer | Waiting): heard is Waiting => 'waiting' in heard;

/** A command that was refused when nobody was there to hear it. */
export interface Parked {
  readonly seq: number;
  readonly command: CommandInput;
  readonly words: string;
}

/** What is told from the field, where there may be no signal. */
export type Report = Extract<ShopAct, { type: 'report-strike' | 'report-cut' | 'read-hours' }>;

/** A write of the shop is not kept for later: who made it is told, and makes it again. */
const SHOP_TRIES = 3;
const WAIT_MS = 700;
const AWAY_MS = 2500;

interface Job {
  readonly seq: Promise<number>;
  readonly keeps: boolean;
  command: CommandInput;
  /** Still to be sent before it. */
  file?: Blob | undefined;
  /** Asks for the revision when its turn comes; gone once the command has been sent. */
  revision: (() => number) | undefined;
  tries: number;
  told: boolean;
  heard?: ((heard: CommandAnswer | Waiting) => void) | undefined;
  failed?: ((error: unknown) => void) | undefined;
}

const cycleOf = ({ command }: Pick<Job, 'command'>): string | undefined =>
  'cycleId' in command && command.type !== 'open-cycle' ? command.cycleId : undefined;

/**
 * Sends commands one after the other, in the order they were made, each with an id of its own, and each kept
 * in the browser until it is answered. While the server is away cycle commands and reports from the field wait; a refused one that has
 * nobody to tell is parked and holds up its own cycle only.
 */
@Injectable({ providedIn: 'root' })
export class Commands {
  private readonly api = inject(Api);
  private readonly who = inject(Who);
  private readonly outbox = inject(Outbox);
  private readonly jobs: Job[] = [];
  private sending = false;
  private stopped = false;
  /** The last try found nobody: what is made now need not wait for the next try to be told so. */
  private nobodyThere = false;

  /** Commands kept here because the server does not answer. */
  readonly waiting = signal(0);
  readonly parked = signal<readonly Parked[]>([]);

  constructor() {
    inject(DestroyRef).onDestroy(() => (this.stopped = true));
    void this.outbox.leftBehind().then((left) => {
      for (const { seq, command, tried, file } of left) {
        const cycleId = 'cycleId' in command ? command.cycleId : undefined;
        this.jobs.push({
          seq: Promise.resolve(seq),
          keeps: true,
          command,
          file: tried ? undefined : file,
          revision: undefined,
          tries: tried || !cycleId ? 1 : 0,
          told: true,
        });
      }
      this.count();
      void this.send();
    });
  }

  /** A write of the shop: registering, fitting, bringing in, taking up. */
  shop(act: ShopAct): Observable<CommandAnswer> {
    return this.enqueue<CommandAnswer>({ ...act, ...this.envelope() } as CommandInput, false);
  }

  /**
   * What a crew saw in the field: nothing in its answer is needed there and then, so it is kept like an entry of
   * the bench while the server is away. Says `waiting` once if it is, and its answer later.
   */
  report(act: Report): Observable<CommandAnswer | Waiting> {
    return this.enqueue({ ...act, ...this.envelope() } as CommandInput, true);
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
  ): Observable<CommandAnswer | Waiting> {
    const command = {
      ...act,
      ...this.envelope(),
      cycleId,
      expectedRevision: revision(),
    } as CommandInput;
    return this.enqueue(command, true, revision, file);
  }

  /** Gives a parked command up. */
  async giveUp({ seq }: Parked): Promise<void> {
    await this.outbox.drop(seq);
    this.parked.update((parked) => parked.filter((each) => each.seq !== seq));
    void this.send();
  }

  private envelope(): Pick<CommandInput, 'id' | 'personId' | 'occurredAt'> {
    return {
      id: newId(),
      personId: this.who.personId() ?? '',
      occurredAt: new Date().toISOString(),
    };
  }

  private enqueue<Heard extends CommandAnswer | Waiting>(
    command: CommandInput,
    keeps: boolean,
    revision?: () => number,
    file?: Blob,
  ): Observable<Heard> {
    return new Observable((subscriber) => {
      const job: Job = {
        seq: keeps ? this.outbox.keep(command, file) : Promise.resolve(-1),
        keeps,
        command,
        file,
        revision,
        tries: 0,
        told: false,
        heard: (heard) => {
          subscriber.next(heard as Heard);
          if (!isWaiting(heard)) subscriber.complete();
        },
        failed: (error) => {
          subscriber.error(error);
        },
      };
      this.jobs.push(job);
      if (this.nobodyThere && keeps) this.tellWaiting();
      void this.send();
      // Nobody listens any more: a refusal is then parked for all to see instead of being lost.
      return () => {
        job.heard = undefined;
        job.failed = undefined;
      };
    });
  }

  /** The next command whose cycle is not held up by a parked one. */
  private next(): Job | undefined {
    const held = new Set(this.parked().map((parked) => cycleOf(parked)));
    return this.jobs.find((job) => {
      const cycleId = cycleOf(job);
      return cycleId === undefined || !held.has(cycleId);
    });
  }

  private async send(): Promise<void> {
    if (this.sending) return;
    this.sending = true;
    try {
      for (let job = this.next(); job && !this.stopped; job = this.next()) {
        await this.attempt(job);
      }
    } finally {
      this.sending = false;
      this.count();
    }
  }

  private async attempt(job: Job): Promise<void> {
    const seq = await job.seq;
    if (this.stopped) return;
    if (job.tries === 0 && 'expectedRevision' in job.command) {
      job.command = { ...job.command, expectedRevision: await this.revisionFor(job) };
    }
    job.revision = undefined;
    try {
      await this.sendFile(job);
    } catch (error) {
      const trouble = troubleFrom(error);
      if (trouble.kind === 'offline') await this.away(job, seq, error);
      else await this.refused(job, seq, error, trouble);
      return;
    }
    job.tries += 1;
    await this.outbox.trying(seq, job.command);
    if (this.stopped) return;
    try {
      const answer = await firstValueFrom(this.api.command(job.command));
      this.nobodyThere = false;
      await this.done(job, seq);
      job.heard?.(answer);
    } catch (error) {
      const trouble = troubleFrom(error);
      if (trouble.kind === 'offline') await this.away(job, seq, error);
      else await this.refused(job, seq, error, trouble);
    }
  }

  /** A photo goes first; the name it is kept under is part of the command from then on. */
  private async sendFile(job: Job): Promise<void> {
    if (!job.file || job.command.type !== 'attach-photo') return;
    const { file } = await firstValueFrom(this.api.photo(job.file));
    job.command = { ...job.command, file };
    job.file = undefined;
  }

  /** What the cycle stands at: as its screen knows, or, after a reload, as the server says. */
  private async revisionFor(job: Job): Promise<number> {
    if (job.revision) return job.revision();
    const cycleId = cycleOf(job);
    const known = 'expectedRevision' in job.command ? job.command.expectedRevision : 0;
    if (!cycleId) return known;
    return firstValueFrom(this.api.cycle(cycleId)).then(
      ({ revision }) => revision,
      () => known,
    );
  }

  private async away(job: Job, seq: number, error: unknown): Promise<void> {
    if (!job.keeps && job.tries >= SHOP_TRIES) {
      await this.done(job, seq);
      job.failed?.(error);
      return;
    }
    this.nobodyThere = true;
    this.tellWaiting();
    const wait = job.keeps ? AWAY_MS : WAIT_MS * job.tries;
    await firstValueFrom(race(timer(wait), fromEvent(window, 'online')));
  }

  private tellWaiting(): void {
    for (const each of this.jobs) {
      if (each.told || !each.keeps) continue;
      each.told = true;
      each.heard?.({ waiting: true });
    }
    this.count();
  }

  private async refused(job: Job, seq: number, error: unknown, { words }: Trouble): Promise<void> {
    this.nobodyThere = false;
    if (job.failed) {
      await this.done(job, seq);
      job.failed(error);
      return;
    }
    this.jobs.splice(this.jobs.indexOf(job), 1);
    this.parked.update((parked) => [...parked, { seq, command: job.command, words }]);
  }

  private async done(job: Job, seq: number): Promise<void> {
    this.jobs.splice(this.jobs.indexOf(job), 1);
    await this.outbox.drop(seq);
    this.count();
  }

  private count(): void {
    this.waiting.set(this.jobs.filter(({ keeps, told }) => keeps && told).length);
  }
}
