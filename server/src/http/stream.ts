import type { StreamEvent } from '@tally-stone/contract';
import { Refusal } from '@tally-stone/cycle';
import type { Request, Response } from 'express';
import { Op } from 'sequelize';
import type { CommandService } from '../commands/service.js';
import type { Database } from '../database.js';
import type { SimulatedBench } from '../instrument/bench.js';

const HEARTBEAT_MS = 15_000;
/** Streams cost a write each for every event: enough for a shop, not for a flood. */
const MOST_STREAMS = 200;
const MOST_STREAMS_OF_ADDRESS = 60;
/** A screen that was away longer than this asks for everything again anyway. */
const MOST_REPLAYED = 500;

const asText = (event: StreamEvent): string =>
  `id: ${event.sequence}\nevent: change\ndata: ${JSON.stringify(event)}\n\n`;

/**
 * The event stream: one a tab, every topic on it, the journal's sequence as event id so that a tab that
 * was away resumes where it stopped.
 */
export class EventStream {
  /** Every open stream, and the address it goes to. */
  private readonly open = new Map<Response, string>();
  private closing = false;

  constructor(
    private readonly database: Database,
    private readonly commands: CommandService,
    private readonly bench: SimulatedBench,
  ) {}

  async serve(request: Request, response: Response): Promise<void> {
    if (this.closing) {
      response.set('Connection', 'close').status(503).end();
      return;
    }
    const from = request.socket.remoteAddress ?? '';
    const ofAddress = [...this.open.values()].filter((address) => address === from).length;
    if (ofAddress >= MOST_STREAMS_OF_ADDRESS || this.open.size >= MOST_STREAMS) {
      response.set('Retry-After', '10');
      throw new Refusal(
        'tooMany',
        $localize`Too many windows follow the bench at once: close some.`,
      );
    }
    response.writeHead(200, {
      'Content-Type': 'text/event-stream',
      'Cache-Control': 'no-store, no-transform',
      'X-Accel-Buffering': 'no',
    });
    this.open.set(response, from);
    // A stream that was cut or ended takes no more; what is written to it must end nothing else.
    response.on('error', () => this.open.delete(response));
    const write = (text: string): void => {
      if (!response.writableEnded && !response.destroyed) response.write(text);
    };
    const waiting: StreamEvent[] = [];
    let live = false;
    const send = (event: StreamEvent): void => {
      if (live) write(asText(event));
      else waiting.push(event);
    };
    const stop = this.commands.listen(send);
    // Samples are of the moment: no id, so none is ever sent again.
    const quiet = this.bench.listen((line) =>
      write(`event: sample\ndata: ${line.replace(/[\r\n]+/g, ' ')}\n\n`),
    );
    const heartbeat = setInterval(() => write(': still here\n\n'), HEARTBEAT_MS);
    request.on('close', () => {
      stop();
      quiet();
      clearInterval(heartbeat);
      this.open.delete(response);
    });
    write('retry: 2000\n\n');
    const since = Number(request.headers['last-event-id']);
    const missed = Number.isSafeInteger(since) && since >= 0 ? await this.missedSince(since) : [];
    for (const event of missed) write(asText(event));
    const newest = missed.at(-1)?.sequence ?? 0;
    live = true;
    for (const event of waiting) if (event.sequence > newest) send(event);
  }

  /** Ends every stream, so that the server can stop; a tab that asks again is turned away. */
  close(): void {
    this.closing = true;
    for (const response of this.open.keys()) response.end();
    this.open.clear();
  }

  private async missedSince(sequence: number): Promise<StreamEvent[]> {
    const rows = await this.database.models.journal.findAll({
      where: { sequence: { [Op.gt]: sequence } },
      order: [['sequence', 'ASC']],
      limit: MOST_REPLAYED,
    });
    return rows.map(({ sequence: at, what, subjectKind, subjectId }) => ({
      sequence: at,
      what,
      subjectKind,
      subjectId,
    }));
  }
}
