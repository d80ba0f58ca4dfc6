import { handle } from './handlers.js';
import type { Command, CommandAnswer, ShopCommand, StreamEvent } from '@tally-stone/contract';
import { hashOf, headOf } from '../record/chain.js';
import { changedMeanwhile } from '../cycle/commands.js';
import type { Database } from '../database.js';
import { rawInsert, wordsOfRefusal } from '../db/raw-insert.js';
import type { CommandRow } from './command.model.js';
import type { JournalRow } from './journal.model.js';
import { Refusal, wrongField } from '@tally-stone/cycle';
import { listPeople } from '../people/people.js';
import { samePins, settlePin, withoutPins } from '../people/pins.js';
import { photoFolder } from '../photo/photos.js';
import type { Done, WriteContext } from '../write-context.js';

/** The first person of an empty shop adds themselves; everybody else must be known. */
async function checkPerson(command: Command, { models, atBench }: WriteContext): Promise<void> {
  const people = await listPeople({ models, atBench });
  if (people.some(({ personId }) => personId === command.personId)) return;
  const firstOfAll =
    command.type === 'add-person' &&
    command.newPersonId === command.personId &&
    people.length === 0;
  if (!firstOfAll)
    throw wrongField(
      'personId',
      $localize`is not one of this shop’s people: pick who is at the bench`,
    );
}

interface Written {
  readonly answer: CommandAnswer;
  readonly events: StreamEvent[];
  /** The newest hash of the journal's chain. */
  readonly head: string;
}

/** A clock that is ahead by more than this spoils what is reckoned by time, for good. */
const MOST_AHEAD_MS = 10 * 60_000;
/** No shop has entries from before it kept any. */
const EARLIEST = '2000-01-01';

function checkClock({ occurredAt }: Command, receivedAt: string): void {
  if (Date.parse(occurredAt) > Date.parse(receivedAt) + MOST_AHEAD_MS) {
    throw wrongField('occurredAt', $localize`lies in the future: set the clock of this device`);
  }
  if (occurredAt < EARLIEST) {
    throw wrongField('occurredAt', $localize`lies too far back: set the clock of this device`);
  }
}

/** The journal numbers what happened; a command's number is that of its first entry. */
async function record(
  command: Command,
  done: Done,
  { models, receivedAt }: WriteContext,
  chained: string,
): Promise<Written> {
  const events: StreamEvent[] = [];
  let head = chained;
  for (const change of done.changes) {
    const entry = {
      at: receivedAt,
      personId: command.personId,
      commandId: command.id,
      ...change,
    };
    head = hashOf(head, JSON.parse(JSON.stringify(entry)) as typeof entry);
    const sequence = await rawInsert<Omit<JournalRow, 'sequence'>>(models.journal, {
      ...entry,
      hash: head,
    });
    const { what, subjectKind, subjectId } = change;
    events.push({ sequence, what, subjectKind, subjectId });
  }
  const sequence = events[0]?.sequence ?? 0;
  const answer: CommandAnswer = { commandId: command.id, sequence, ...done.answer };
  await rawInsert<CommandRow>(models.command, {
    id: command.id,
    sequence,
    type: command.type,
    cycleId: done.answer?.cycleId ?? null,
    revision: done.answer?.revision ?? null,
    personId: command.personId,
    occurredAt: command.occurredAt,
    receivedAt,
    body: withoutPins(command),
    event: done.event ?? null,
    answer,
  });
  return { answer, events, head };
}

/** Same id, same body: the first answer again. Same id, other body: refused. */
async function answeredBefore(
  command: Command,
  database: Database,
): Promise<CommandAnswer | undefined> {
  const earlier = await database.models.command.findByPk(command.id);
  if (!earlier) return undefined;
  const same = JSON.stringify(earlier.body) === JSON.stringify(withoutPins(command));
  if (same && (await samePins(command, database))) return earlier.answer;
  throw new Refusal(
    'commandReused',
    $localize`This command id came before with another body: make a new id.`,
    [{ field: 'id', message: $localize`was used for another command` }],
  );
}

/** A refusal by the tables' own rules, in words for who asked. */
function refusedByStorage(words: string): Refusal {
  // Two commands decided on the same state of a cycle: the table takes one of them.
  if (words.includes('command.cycleId, command.revision')) {
    return changedMeanwhile($localize`is that of a command before this one`);
  }
  return words.startsWith('UNIQUE')
    ? new Refusal('refused', $localize`An id in this command is taken already: make a new one.`)
    : new Refusal(
        'refused',
        words.startsWith('CHECK') || words.startsWith('FOREIGN') || words.startsWith('NOT NULL')
          ? $localize`The record does not allow this: a figure or a date in it cannot be. Nothing was stored.`
          : $localize`The record does not allow this: ${words}.`,
      );
}

/** What signed-off cycles say moves with these. */
const MOVES_THE_RECORD: readonly Command['type'][] = [
  'sign-off',
  'undo-retirement',
  'correct-reading',
  'correct-crack',
  'take-back',
  'first-readings',
  'trim-blade',
  'take-back-trim',
  'change-limits',
  'change-spec',
];

/**
 * Does how the shop works move with it? Every command of the shop answers, so that none is forgotten: what is kept of
 * the shop is thrown away with those that do. What happens in a cycle never moves the shop.
 */
const MOVES_THE_SHOP: Readonly<Record<ShopCommand['type'], boolean>> = {
  'name-shop': true,
  'add-person': true,
  'set-pin': true,
  'pick-language': true,
  'add-spec': true,
  'change-limits': true,
  'change-spec': true,
  'add-mower': false,
  'register-blades': false,
  'first-readings': false,
  'found-on-mower': false,
  'note-upkeep': false,
  'trim-blade': true,
  'take-back-trim': false,
  'fit-blade': false,
  'bring-in': false,
  'set-deck': false,
  'read-hours': false,
  'report-strike': false,
  'clear-strike': false,
  'report-cut': false,
  'look-at-grass': false,
  'take-back-look': false,
  'pull-set': false,
  'fit-set': false,
  'open-cycle': false,
  'set-rules': true,
  'add-grinder': true,
  'change-grinder': true,
  'check-grinder': true,
  'add-balancer': true,
  'calibrate-balancer': true,
  'measure-mat': true,
  'correct-reading': false,
  'correct-crack': false,
  'take-back': false,
  'take-over': false,
  'read-check-blade': false,
  'make-batch': false,
  'close-batch': false,
  'bring-list': true,
  'undo-list': true,
};
const movesTheShop = ({ type }: Command): boolean =>
  Object.hasOwn(MOVES_THE_SHOP, type) && MOVES_THE_SHOP[type as ShopCommand['type']];

/** Accepts commands, each as one transaction that also appends to the journal, and tells listeners. */
export class CommandService {
  private readonly listeners = new Set<(event: StreamEvent) => void>();
  /** The newest hash of the journal's chain, once it was looked up. */
  private head: string | undefined;

  constructor(
    private readonly database: Database,
    private readonly now: () => string = () => new Date().toISOString(),
  ) {}

  async accept(command: Command, address = ''): Promise<CommandAnswer> {
    const { signed, atBench } = this.database;
    try {
      const { answer, events } = await settlePin(this.database, address, () =>
        this.changing(command, () =>
          this.database.connection.write(async () => {
            const written = await this.write(command, address);
            this.head = written.head;
            return written;
          }),
        ),
      );
      for (const event of events) for (const listener of this.listeners) listener(event);
      return answer;
    } catch (error) {
      // What was kept of a write that was rolled back never happened.
      this.head = undefined;
      signed.forget();
      atBench.forget();
      // Sent again, a command is refused by what it did the first time: only then it is worth looking for.
      const repeated = await answeredBefore(command, this.database);
      if (repeated) return repeated;
      const words = wordsOfRefusal(error);
      if (words !== undefined) throw refusedByStorage(words);
      throw error;
    }
  }

  /** What a command moves is forgotten; most move one open cycle and nothing else. */
  private changing<Result>(command: Command, work: () => Promise<Result>): Promise<Result> {
    const { signed, atBench } = this.database;
    const inRecord = MOVES_THE_RECORD.includes(command.type)
      ? () => signed.whileChanging(work)
      : work;
    return movesTheShop(command) ? atBench.whileChanging(inRecord) : inRecord();
  }

  private async write(command: Command, address: string): Promise<Written> {
    const context = {
      ...this.database,
      receivedAt: this.now(),
      address,
      photos: photoFolder(this.database.connection.file),
    };
    checkClock(command, context.receivedAt);
    await checkPerson(command, context);
    const done = await handle(command, context);
    this.head ??= (await headOf(this.database.connection)).hash;
    return record(command, done, context, this.head);
  }

  /** Calls back for everything written from now on. Returns how to stop listening. */
  listen(listener: (event: StreamEvent) => void): () => void {
    this.listeners.add(listener);
    return () => this.listeners.delete(listener);
  }
}
