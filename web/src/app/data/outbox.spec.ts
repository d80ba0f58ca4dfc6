import type { CommandInput } from '@tally-stone/contract';
import { newId } from './commands';
import { Outbox, type OutboxNews } from './outbox';

const aCommand = (): CommandInput =>
  ({ type: 'clean', id: newId(), cycleId: newId() }) as unknown as CommandInput;
const until = async (holds: () => boolean | undefined): Promise<void> => {
  for (let i = 0; i < 400 && !holds(); i++) await new Promise((next) => setTimeout(next, 5));
};

describe('Outbox', () => {
  const open: Outbox[] = [];
  const openWindow = (): Outbox => {
    const outbox = new Outbox();
    open.push(outbox);
    return outbox;
  };
  afterEach(async () => {
    for (const outbox of open.splice(0)) {
      for (const kept of outbox.kept()) await outbox.drop(kept);
      await outbox.release();
      outbox.close();
    }
  });
  const found = (outbox: Outbox, command: CommandInput) =>
    outbox.kept().find((kept) => kept.command.id === command.id);

  it('shows what one window keeps in every other, until it is dropped', async () => {
    const [one, other] = [openWindow(), openWindow()];
    const command = aCommand();
    await one.keep(command);
    const kept = found(one, command);
    if (!kept) return fail('it was kept');
    await until(() => found(other, command) !== undefined);
    expect(found(other, command)).toEqual(kept);
    await one.trying(kept, command);
    await until(() => found(other, command)?.tried);
    expect(found(other, command)?.tried).toBeTrue();
    await other.drop(kept);
    await until(() => found(one, command) === undefined);
    expect(found(one, command)).toBeUndefined();
  });

  it('lets one window send at a time, and the next as soon as it is done', async () => {
    const [one, other] = [openWindow(), openWindow()];
    expect([await one.claim(), await other.claim()]).toEqual([true, false]);
    expect(await one.claim()).toBeTrue();
    await one.release();
    expect(await other.claim()).toBeTrue();
  });

  it('lets another window send when the sender fell silent', async () => {
    const [one, other] = [openWindow(), openWindow()];
    await one.claim();
    const later = Date.now() + 6000;
    spyOn(Date, 'now').and.callFake(() => later);
    expect(await other.claim()).toBeTrue();
  });

  it('tells every window what became of a command', async () => {
    const [one, other] = [openWindow(), openWindow()];
    const heard: OutboxNews[] = [];
    one.news$.subscribe((news) => heard.push(news));
    other.news$.subscribe((news) => heard.push(news));
    one.tell({ kind: 'away', away: true });
    await until(() => heard.length === 2);
    expect(heard).toEqual([
      { kind: 'away', away: true },
      { kind: 'away', away: true },
    ]);
  });

  it('says so when the browser has no room, and lets the command go on from this window', async () => {
    const add = spyOn(IDBObjectStore.prototype, 'add').and.throwError(
      new DOMException('full', 'QuotaExceededError'),
    );
    const outbox = openWindow();
    const command = aCommand();
    await outbox.keep(command);
    expect(add).toHaveBeenCalled();
    expect(outbox.full()).toBeTrue();
    const kept = found(outbox, command);
    expect(kept?.seq).toBeLessThan(0);
    if (kept) await outbox.drop(kept);
    expect(found(outbox, command)).toBeUndefined();
  });
});
