import { provideHttpClient } from '@angular/common/http';
import {
  HttpTestingController,
  provideHttpClientTesting,
  type TestRequest,
} from '@angular/common/http/testing';
import { provideZonelessChangeDetection } from '@angular/core';
import { TestBed } from '@angular/core/testing';
import type { CommandInput } from '@tally-stone/contract';
import { Commands, isWaiting, newId } from './commands';
import { Outbox, type KeptCommand } from './outbox';
import { troubleFrom, type Trouble } from './problem';

const REFUSED = {
  type: '/problems/invalid-input',
  title: 't',
  status: 422,
  detail: 'count: must be at least 1',
  errors: [{ field: 'count', message: 'must be at least 1' }],
};
const pass = (count = 1) => ({ type: 'count-passes', passId: newId(), end: 'A', count }) as const;

/** An outbox that keeps in memory what a browser would keep on its shelf. */
class ShelfForTests implements Pick<Outbox, 'keep' | 'trying' | 'drop' | 'leftBehind'> {
  readonly shelf = new Map<number, KeptCommand>();
  private next = 1;
  keep(command: CommandInput, file?: Blob): Promise<number> {
    const seq = this.next++;
    this.shelf.set(seq, { seq, tab: 't', command, tried: false, ...(file ? { file } : {}) });
    return Promise.resolve(seq);
  }
  trying(seq: number, command: CommandInput): Promise<void> {
    if (this.shelf.has(seq)) this.shelf.set(seq, { seq, tab: 't', command, tried: true });
    return Promise.resolve();
  }
  drop(seq: number): Promise<void> {
    this.shelf.delete(seq);
    return Promise.resolve();
  }
  leftBehind(): Promise<KeptCommand[]> {
    return Promise.resolve([...this.shelf.values()]);
  }
}

describe('Commands', () => {
  let outbox: ShelfForTests;
  let http: HttpTestingController;

  /** A tab: everything anew over the same shelf. */
  function openTab(): Commands {
    TestBed.resetTestingModule();
    TestBed.configureTestingModule({
      providers: [
        provideZonelessChangeDetection(),
        provideHttpClient(),
        provideHttpClientTesting(),
        { provide: Outbox, useValue: outbox },
      ],
    });
    http = TestBed.inject(HttpTestingController);
    return TestBed.inject(Commands);
  }
  beforeEach(() => {
    outbox = new ShelfForTests();
  });

  const soon = () => new Promise((next) => setTimeout(next, 5));
  async function posted(): Promise<TestRequest> {
    for (let i = 0; i < 700; i++) {
      const [request] = http.match('/api/commands');
      if (request) return request;
      await soon();
    }
    throw new Error('no command was sent');
  }
  const body = ({ request }: TestRequest) => request.body as Record<string, unknown>;

  it('go out one after the other, each deciding its revision when its turn comes', async () => {
    const commands = openTab();
    let revision = 4;
    const count = () =>
      commands
        .cycle('c', () => revision, pass())
        .subscribe((heard) => {
          if (!isWaiting(heard)) revision = heard.revision ?? revision;
        });
    count();
    count();
    const first = await posted();
    expect(body(first)['expectedRevision']).toBe(4);
    first.flush({ commandId: 'x', sequence: 9, revision: 5 });
    const second = await posted();
    expect(body(second)['expectedRevision']).toBe(5);
    expect(body(second)['id']).not.toBe(body(first)['id']);
    second.flush({ commandId: 'y', sequence: 10, revision: 6 });
    await soon();
    expect(outbox.shelf.size).toBe(0);
  });

  describe('with a photo', () => {
    const attach = { type: 'attach-photo', photoId: newId(), file: '' } as const;
    const photo = new Blob(['picture'], { type: 'image/jpeg' });
    async function sentPhoto(): Promise<TestRequest> {
      for (let i = 0; i < 700; i++) {
        const [request] = http.match('/api/photos');
        if (request) return request;
        await soon();
      }
      throw new Error('no photo was sent');
    }

    it('send the picture first and name it in the command', async () => {
      openTab()
        .cycle('c', () => 2, attach, photo)
        .subscribe();
      const upload = await sentPhoto();
      expect((upload.request.body as FormData).get('photo')).toBeInstanceOf(Blob);
      upload.flush({ file: 'abc.jpg' });
      expect(body(await posted())['file']).toBe('abc.jpg');
    });

    it('keep the picture over a closed tab and send it again', async () => {
      openTab()
        .cycle('c', () => 2, attach, photo)
        .subscribe();
      (await sentPhoto()).error(new ProgressEvent('error'));
      await soon();
      openTab();
      const asked = async () => {
        for (let i = 0; i < 700; i++) {
          const [request] = http.match('/api/cycles/c');
          if (request) return request;
          await soon();
        }
        throw new Error('the cycle was not asked for');
      };
      (await asked()).flush({ revision: 7 });
      (await sentPhoto()).flush({ file: 'abc.jpg' });
      const command = body(await posted());
      expect(command['file']).toBe('abc.jpg');
      expect(command['expectedRevision']).toBe(7);
    });

    it('say what is wrong with it and send no command', async () => {
      const heard: Trouble[] = [];
      openTab()
        .cycle('c', () => 2, attach, photo)
        .subscribe({ error: (error: unknown) => heard.push(troubleFrom(error)) });
      (await sentPhoto()).flush(
        { ...REFUSED, errors: [{ field: 'photo', message: 'is not a picture' }] },
        { status: 422, statusText: 'no' },
      );
      await soon();
      expect(heard[0]?.fields['photo']).toBe('is not a picture');
      expect(http.match('/api/commands')).toEqual([]);
      expect(outbox.shelf.size).toBe(0);
    });
  });

  it('whose screen is gone are parked when they are refused, not lost', async () => {
    const commands = openTab();
    const left = commands.cycle('c', () => 2, pass()).subscribe();
    const request = await posted();
    left.unsubscribe();
    request.flush(REFUSED, { status: 422, statusText: 'no' });
    await soon();
    expect(commands.parked().map(({ words }) => words)).toEqual(['count: must be at least 1']);
    expect(outbox.shelf.size).toBe(1);
  });

  it('say that they wait while the server is away, and go out as they were when it is back', async () => {
    const commands = openTab();
    const heard: string[] = [];
    commands
      .cycle('c', () => 2, pass())
      .subscribe((answer) => heard.push(isWaiting(answer) ? 'waiting' : 'answered'));
    const lost = await posted();
    lost.error(new ProgressEvent('error'));
    await soon();
    expect(heard).toEqual(['waiting']);
    expect(commands.waiting()).toBe(1);
    expect(outbox.shelf.size).toBe(1);
    window.dispatchEvent(new Event('online'));
    const again = await posted();
    expect(body(again)).toEqual(body(lost));
    again.flush({ commandId: 'x', sequence: 1, revision: 3 });
    await soon();
    expect(heard).toEqual(['waiting', 'answered']);
    expect(commands.waiting()).toBe(0);
    expect(outbox.shelf.size).toBe(0);
  });

  it('are sent by the tab opened next, in order, the tried one exactly as it was', async () => {
    const before = openTab();
    before.cycle('c', () => 7, pass(3)).subscribe();
    before.cycle('c', () => 7, pass(4)).subscribe();
    const lost = await posted();
    lost.error(new ProgressEvent('error'));
    await soon();
    expect(outbox.shelf.size).toBe(2);

    openTab();
    const first = await posted();
    expect(body(first)).toEqual(body(lost));
    first.flush({ commandId: 'x', sequence: 1, revision: 8 });
    await soon();
    http.expectOne('/api/cycles/c').flush({ revision: 8 });
    const second = await posted();
    expect(body(second)['count']).toBe(4);
    expect(body(second)['expectedRevision']).toBe(8);
    second.flush({ commandId: 'y', sequence: 2, revision: 9 });
    await soon();
    expect(outbox.shelf.size).toBe(0);
  });

  it('park visibly when refused with nobody there, and hold up their own cycle only', async () => {
    const before = openTab();
    before.cycle('c', () => 7, pass(3)).subscribe();
    before.cycle('c', () => 7, pass(4)).subscribe();
    before.cycle('d', () => 1, pass(5)).subscribe();
    (await posted()).error(new ProgressEvent('error'));
    await soon();

    const commands = openTab();
    (await posted()).flush(REFUSED, { status: 422, statusText: 'no' });
    await soon();
    http.expectOne('/api/cycles/d').flush({ revision: 1 });
    const other = await posted();
    expect(body(other)['cycleId']).toBe('d');
    other.flush({ commandId: 'z', sequence: 3, revision: 2 });
    await soon();
    const [parked] = commands.parked();
    expect(parked?.words).toBe('count: must be at least 1');
    if (!parked) return;
    await commands.giveUp(parked);
    await soon();
    http.expectOne('/api/cycles/c').flush({ revision: 7 });
    (await posted()).flush({ commandId: 'y', sequence: 4, revision: 8 });
    await soon();
    expect(outbox.shelf.size).toBe(0);
  });

  it('from the field wait like those of the bench, over a closed tab too, and once', async () => {
    const report = { strikeId: newId(), mowerId: newId(), what: 'stone', hard: 'hard' } as const;
    let waits = false;
    const before = openTab();
    before
      .report({ type: 'report-strike', ...report, vibration: false })
      .subscribe((heard) => (waits = isWaiting(heard)));
    const lost = await posted();
    lost.error(new ProgressEvent('error'));
    await soon();
    expect(waits).toBe(true);
    expect(before.waiting()).toBe(1);

    const commands = openTab();
    const again = await posted();
    expect(body(again)).toEqual(body(lost));
    again.flush({ commandId: 'x', sequence: 1 });
    await soon();
    expect(outbox.shelf.size).toBe(0);
    expect(commands.parked()).toEqual([]);
  });

  it('of the shop are tried again with the same id, and told when the server stays away', async () => {
    const commands = openTab();
    let trouble: Trouble | undefined;
    commands.shop({ type: 'register-blades', specId: newId(), count: 1 }).subscribe({
      error: (error: unknown) => (trouble = troubleFrom(error)),
    });
    const lost = await posted();
    lost.error(new ProgressEvent('error'));
    await soon();
    window.dispatchEvent(new Event('online'));
    const again = await posted();
    expect(body(again)['id']).toBe(body(lost)['id']);
    again.error(new ProgressEvent('error'));
    await soon();
    window.dispatchEvent(new Event('online'));
    (await posted()).error(new ProgressEvent('error'));
    await soon();
    expect(trouble?.kind).toBe('offline');
    expect(outbox.shelf.size).toBe(0);
  });

  it('that are refused are not sent again, and the next one still goes', async () => {
    const commands = openTab();
    let trouble: Trouble | undefined;
    commands.shop({ type: 'register-blades', specId: newId(), count: 0 }).subscribe({
      error: (error: unknown) => (trouble = troubleFrom(error)),
    });
    commands.shop({ type: 'register-blades', specId: newId(), count: 1 }).subscribe();
    (await posted()).flush(REFUSED, { status: 422, statusText: 'no' });
    const next = await posted();
    expect(trouble?.fields).toEqual({ count: 'must be at least 1' });
    next.flush({ commandId: 'z', sequence: 2 });
  });

  it('make version 7 ids without randomUUID, which plain HTTP on a LAN does not have', () => {
    const { randomUUID } = crypto;
    Object.defineProperty(crypto, 'randomUUID', { value: undefined, configurable: true });
    const id = newId();
    Object.defineProperty(crypto, 'randomUUID', { value: randomUUID, configurable: true });
    expect(id).toMatch(/^[0-9a-f]{8}-[0-9a-f]{4}-7[0-9a-f]{3}-[89ab]/);
  });
});

describe('Outbox', () => {
  it('keeps a command in the browser until it is dropped', async () => {
    const outbox = new Outbox();
    const command = { type: 'clean', id: newId(), cycleId: newId() } as unknown as CommandInput;
    const seq = await outbox.keep(command);
    expect(seq).toBeGreaterThan(0);
    await outbox.trying(seq, command);
    const left = (await new Outbox().leftBehind()).find((kept) => kept.seq === seq);
    expect(left).toEqual(jasmine.objectContaining({ command, tried: true }));
    await outbox.drop(seq);
    expect((await outbox.leftBehind()).some((kept) => kept.seq === seq)).toBeFalse();
  });

  it('says so when the browser has no room, and lets the command go on', async () => {
    const add = spyOn(IDBObjectStore.prototype, 'add').and.throwError(
      new DOMException('full', 'QuotaExceededError'),
    );
    const outbox = new Outbox();
    const seq = await outbox.keep({ type: 'clean' } as unknown as CommandInput);
    expect(add).toHaveBeenCalled();
    expect(seq).toBeLessThan(0);
    expect(outbox.full()).toBeTrue();
  });
});
