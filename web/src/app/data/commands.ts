import { inject, Injectable } from '@angular/core';
import type { CommandAnswer, CommandInput, CycleAct, ShopAct } from '@tally-stone/contract';
import { concatMap, defer, Observable, retry, Subject, timer } from 'rxjs';
import { v7 as uuidv7 } from 'uuid';
import { Api } from './api';
import { troubleFrom } from './problem';
import { Who } from './who';

/** New ids are made here, from getRandomValues: plain HTTP on a shop's network has no randomUUID. */
export const newId = (): string => uuidv7();

/** Sending again after a lost connection is harmless: the command keeps its id. */
const TRIES = 3;
const WAIT_MS = 700;

interface Job {
  readonly make: () => CommandInput;
  readonly answered: (answer: CommandAnswer) => void;
  readonly failed: (error: unknown) => void;
}

/** Sends commands one after the other, in the order they were made, each with an id of its own. */
@Injectable({ providedIn: 'root' })
export class Commands {
  private readonly api = inject(Api);
  private readonly who = inject(Who);
  private readonly jobs = new Subject<Job>();

  constructor() {
    this.jobs.pipe(concatMap((job) => this.run(job))).subscribe();
  }

  /** A write of the shop: registering, fitting, bringing in, taking up. */
  shop(act: ShopAct): Observable<CommandAnswer> {
    return this.enqueue(() => ({ ...act, ...this.envelope() }) as CommandInput);
  }

  /** A write of one cycle. The revision is asked for when its turn comes. */
  cycle(cycleId: string, revision: () => number, act: CycleAct): Observable<CommandAnswer> {
    return this.enqueue(
      () => ({ ...act, ...this.envelope(), cycleId, expectedRevision: revision() }) as CommandInput,
    );
  }

  private envelope(): Pick<CommandInput, 'id' | 'personId' | 'occurredAt'> {
    return {
      id: newId(),
      personId: this.who.personId() ?? '',
      occurredAt: new Date().toISOString(),
    };
  }

  private enqueue(make: () => CommandInput): Observable<CommandAnswer> {
    return new Observable((subscriber) => {
      this.jobs.next({
        make,
        answered: (answer) => {
          subscriber.next(answer);
          subscriber.complete();
        },
        failed: (error) => {
          subscriber.error(error);
        },
      });
    });
  }

  private run(job: Job): Observable<never> {
    return new Observable((done) => {
      const command = job.make();
      const sending = defer(() => this.api.command(command)).pipe(
        retry({
          count: TRIES,
          delay: (error: unknown, tried) => {
            if (troubleFrom(error).kind !== 'offline') throw error;
            return timer(WAIT_MS * tried);
          },
        }),
      );
      const subscription = sending.subscribe({
        next: (answer) => {
          job.answered(answer);
          done.complete();
        },
        error: (error: unknown) => {
          job.failed(error);
          done.complete();
        },
      });
      return () => {
        subscription.unsubscribe();
      };
    });
  }
}
