import { handle } from './handlers.js';
import type { Command, CommandAnswer, StreamEvent } from '@tally-stone/contract';
import { UniqueConstraintError } from 'sequelize';
import { forgetInHand } from '../cycle/signed.js';
import type { WriteScope } from '../db/connection.js';
import type { Database } from '../db/database.js';
import { Refusal, wrongField } from '@tally-stone/cycle';
import { withoutPins } from '../people/pins.js';
import { photoFolder } from '../photo/photos.js';
import type { Done, WriteContext } from '../db/write-context.js';

/** The first person of an empty shop adds themselves; everybody else must be known. */
async function checkPerson(command: Command, { tables, scope }: WriteContext): Promise<void> {
  if (await tables.person.one({ id: command.personId }, scope)) return;
  const firstOfAll =
    command.type === 'add-person' &&
    command.newPersonId === command.personId &&
    (await tables.person.count({}, scope)) === 0;
  if (!firstOfAll) throw wrongField('personId', 'is nobody of this shop: pick who is at the bench');
}

async function newestSequence({ tables, scope }: WriteContext): Promise<number> {
  const [newest] = await tables.journal.pick(['sequence'], {}, scope, {
    order: [['sequence', 'DESC']],
    limit: 1,
  });
  return newest?.sequence ?? 0;
}

async function record(
  command: Command,
  done: Done,
  first: number,
  { tables, scope, receivedAt }: WriteContext,
): Promise<{ answer: CommandAnswer; told: StreamEvent[] }> {
  const answer: CommandAnswer = { commandId: command.id, sequence: first, ...done.answer };
  await tables.command.insert(
    {
      id: command.id,
      sequence: first,
      type: command.type,
      cycleId: done.answer?.cycleId ?? null,
      revision: done.answer?.revision ?? null,
      personId: command.personId,
      occurredAt: command.occurredAt,
      receivedAt,
      body: withoutPins(command),
      event: done.event ?? null,
      answer,
    },
    scope,
  );
  const told: StreamEvent[] = [];
  for (const [i, change] of done.changes.entries()) {
    await tables.journal.insert(
      {
        sequence: first + i,
        at: receivedAt,
        personId: command.personId,
        commandId: command.id,
        ...change,
      },
      scope,
    );
    const { what, subjectKind, subjectId } = change;
    told.push({ sequence: first + i, what, subjectKind, subjectId });
  }
  return { answer, told };
}

/** Same id, same body: the first answer again. Same id, other body: refused. */
async function answeredBefore(
  command: Command,
  database: Database,
  scope: WriteScope,
): Promise<CommandAnswer | undefined> {
  const earlier = await database.tables.command.one({ id: command.id }, scope);
  if (!earlier) return undefined;
  if (JSON.stringify(earlier.body) === JSON.stringify(withoutPins(command))) return earlier.answer;
  throw new Refusal(
    'commandReused',
    'This command id came before with another body: make a new id.',
    [{ field: 'id', message: 'was used for another command' }],
  );
}

/** Sequelize calls every refusal of SQLite a unique constraint, a trigger's too: SQLite's words tell. */
function refusedByStorage(error: UniqueConstraintError): Refusal {
  const words = error.parent.message.replace(/^SQLITE_CONSTRAINT: /, '');
  return words.startsWith('UNIQUE')
    ? new Refusal('refused', 'An id in this command is taken already: make a new one.')
    : new Refusal('refused', `The record does not allow this: ${words}.`);
}

/** Accepts commands, each as one transaction that also appends to the journal, and tells listeners. */
export class CommandService {
  private readonly listeners = new Set<(event: StreamEvent) => void>();
  /** The journal's newest number, as long as nothing was rolled back since it was written. */
  private newest: number | undefined;

  constructor(
    private readonly database: Database,
    private readonly now: () => string = () => new Date().toISOString(),
  ) {}

  async accept(command: Command): Promise<CommandAnswer> {
    try {
      const { answer, told } = await this.database.connection.write(async (scope) => {
        // A batch makes its ids itself, a moment ago; the primary key refuses one that comes twice.
        const repeated = scope.gathered
          ? undefined
          : await answeredBefore(command, this.database, scope);
        if (repeated) return { answer: repeated, told: [] };
        const context = {
          tables: this.database.tables,
          scope,
          receivedAt: this.now(),
          photos: photoFolder(this.database.connection.file),
        };
        await checkPerson(command, context);
        const done = await handle(command, context);
        const before = this.newest ?? (await newestSequence(context));
        this.newest = undefined;
        const recorded = await record(command, done, before + 1, context);
        this.newest = before + done.changes.length;
        return recorded;
      });
      for (const event of told) for (const listener of this.listeners) listener(event);
      return answer;
    } catch (error) {
      this.newest = undefined;
      forgetInHand(this.database.tables);
      if (error instanceof UniqueConstraintError) {
        throw refusedByStorage(error);
      }
      throw error;
    }
  }

  /** Calls back for everything written from now on. Returns how to stop listening. */
  listen(listener: (event: StreamEvent) => void): () => void {
    this.listeners.add(listener);
    return () => this.listeners.delete(listener);
  }
}
