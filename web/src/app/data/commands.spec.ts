import { provideHttpClient } from '@angular/common/http';
import {
  HttpTestingController,
  provideHttpClientTesting,
  type TestRequest,
} from '@angular/common/http/testing';
import { EnvironmentInjector, Injector, provideZonelessChangeDetection } from '@angular/core';
import { TestBed } from '@angular/core/testing';
import type { AcceptedCommand } from '@tally-stone/contract';
import { Commands, isWaiting, newId, type Waiting } from './commands';
import { OutboxForTests, ShelfForTests } from '../../testing/served';
import { Outbox } from './outbox';
import { troubleFrom, type Trouble } from './problem';

const REFUSED = {
  type: '/problems/invalid-input',
  title: 't',
  status: 422,
  detail: 'count: must be at least 1',
  errors: [{ field: 'count', message: 'must be at least 1' }],
};
const pass = (count = 1) => ({ type: 'count-passes', passId: newId(), end: 'A', count }) as const;

describe('Commands', () => {
  let shelf: ShelfForTests;
  let here: OutboxForTests;
  let http: HttpTestingController;

  /** A window of the browser; the one before it is closed. */
  function openTab(): Commands {
    here?.close();
    TestBed.resetTestingModule();
    here = new OutboxForTests(shelf);
    TestBed.configureTestingModule({
      providers: [
        provideZonelessChangeDetection(),
        provideHttpClient(),
        provideHttpClientTesting(),
        { provide: Outbox, useValue: here },
      ],
    });
    http = TestBed.inject(HttpTestingController);
    return TestBed.inject(Commands);
  }
  /** A second window beside the first. */
  function openBeside(): Commands {
    const injector = Injector.create({
      parent: TestBed.inject(EnvironmentInjector),
      providers: [
        { provide: Commands, useClass: Commands },
        { provide: Outbox, useFactory: () => new OutboxForTests(shelf) },
      ],
    });
    return injector.get(Commands);
  }
  beforeEach(() => {
    shelf = new ShelfForTests();
  });

  const soon = () => new Promise((next) => setTimeout(next, 5));
  const seen: TestRequest[] = [];
  beforeEach(() => seen.splice(0));
  async function posted(): Promise<TestRequest> {
    for (let i = 0; i < 700; i++) {
      seen.push(...http.match('/api/v1/commands'));
      const request = seen.shift();
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
    expect(shelf.kept().length).toBe(0);
  });

  describe('with a photo', () => {
    const attach = { type: 'attach-photo', photoId: newId(), file: '' } as const;
    const photo = new Blob(['picture'], { type: 'image/jpeg' });
    async function sentPhoto(): Promise<TestRequest> {
      for (let i = 0; i < 700; i++) {
        const [request] = http.match('/api/v1/photos');
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
          const [request] = http.match('/api/v1/cycles/c');
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
      expect(http.match('/api/v1/commands')).toEqual([]);
      expect(shelf.kept().length).toBe(0);
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
    expect(shelf.kept().length).toBe(1);
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
    expect(shelf.kept().length).toBe(1);
    window.dispatchEvent(new Event('online'));
    const again = await posted();
    expect(body(again)).toEqual(body(lost));
    again.flush({ commandId: 'x', sequence: 1, revision: 3 });
    await soon();
    expect(heard).toEqual(['waiting', 'answered']);
    expect(commands.waiting()).toBe(0);
    expect(shelf.kept().length).toBe(0);
  });

  it('are sent by the tab opened next, in order, the tried one exactly as it was', async () => {
    const before = openTab();
    before.cycle('c', () => 7, pass(3)).subscribe();
    before.cycle('c', () => 7, pass(4)).subscribe();
    const lost = await posted();
    lost.error(new ProgressEvent('error'));
    await soon();
    expect(shelf.kept().length).toBe(2);

    openTab();
    const first = await posted();
    expect(body(first)).toEqual(body(lost));
    first.flush({ commandId: 'x', sequence: 1, revision: 8 });
    await soon();
    http.expectOne('/api/v1/cycles/c').flush({ revision: 8 });
    const second = await posted();
    expect(body(second)['count']).toBe(4);
    expect(body(second)['expectedRevision']).toBe(8);
    second.flush({ commandId: 'y', sequence: 2, revision: 9 });
    await soon();
    expect(shelf.kept().length).toBe(0);
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
    http.expectOne('/api/v1/cycles/d').flush({ revision: 1 });
    const other = await posted();
    expect(body(other)['cycleId']).toBe('d');
    other.flush({ commandId: 'z', sequence: 3, revision: 2 });
    await soon();
    const [parked] = commands.parked();
    expect(parked?.words).toBe('count: must be at least 1');
    if (!parked) return;
    await commands.giveUp(parked);
    await soon();
    http.expectOne('/api/v1/cycles/c').flush({ revision: 7 });
    (await posted()).flush({ commandId: 'y', sequence: 4, revision: 8 });
    await soon();
    expect(shelf.kept().length).toBe(0);
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
    expect(shelf.kept().length).toBe(0);
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
    expect(shelf.kept().length).toBe(0);
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

  describe('in two windows of one browser', () => {
    it('are sent once each, in the order they were made, and each window hears its own answers', async () => {
      const first = openTab();
      const second = openBeside();
      const heard: string[] = [];
      const note = (window: string) => (answer: AcceptedCommand | Waiting) =>
        heard.push(`${window} ${isWaiting(answer) ? 'waits' : answer.sequence}`);
      first.cycle('c', () => 4, pass(1)).subscribe(note('first'));
      const sent = await posted();
      second.cycle('d', () => 7, pass(2)).subscribe(note('second'));
      first.cycle('c', () => 5, pass(3)).subscribe(note('first'));
      await soon();
      expect(http.match('/api/v1/commands')).toEqual([]);
      sent.flush({ commandId: body(sent)['id'], sequence: 1, revision: 5 });
      const counts: unknown[] = [];
      for (const sequence of [2, 3]) {
        for (const asked of http.match('/api/v1/cycles/d')) asked.flush({ revision: 7 });
        await soon();
        for (const asked of http.match('/api/v1/cycles/d')) asked.flush({ revision: 7 });
        const next = await posted();
        counts.push(body(next)['count']);
        next.flush({ commandId: body(next)['id'], sequence, revision: 8 });
      }
      await soon();
      expect(counts).toEqual([2, 3]);
      expect(heard).toEqual(['first 1', 'second 2', 'first 3']);
      expect(shelf.kept()).toEqual([]);
    });

    it('are counted in both while they wait, and sent by whichever stays open', async () => {
      const first = openTab();
      const second = openBeside();
      first.cycle('c', () => 4, pass(1)).subscribe();
      (await posted()).error(new ProgressEvent('error'));
      await soon();
      expect([first.waiting(), second.waiting()]).toEqual([1, 1]);
      expect(second.waitingOf('c').map(({ type }) => type)).toEqual(['count-passes']);
      here.close();
      window.dispatchEvent(new Event('online'));
      const again = await posted();
      again.flush({ commandId: body(again)['id'], sequence: 1, revision: 5 });
      await soon();
      expect(second.waiting()).toBe(0);
      expect(shelf.kept()).toEqual([]);
    });

    it('refused are told in the window that made them, though another one sent them', async () => {
      openTab();
      const second = openBeside();
      shelf.sender = here;
      const heard: Trouble[] = [];
      second
        .cycle('c', () => 4, pass(0))
        .subscribe({ error: (error: unknown) => heard.push(troubleFrom(error)) });
      await soon();
      // The first window takes it up on its next look.
      window.dispatchEvent(new Event('online'));
      await soon();
      http.expectOne('/api/v1/cycles/c').flush({ revision: 4 });
      (await posted()).flush(REFUSED, { status: 422, statusText: 'no' });
      await soon();
      expect(heard[0]?.fields).toEqual({ count: 'must be at least 1' });
      expect(shelf.kept()).toEqual([]);
      expect(second.parked()).toEqual([]);
    });
  });

  it('make version 7 ids without randomUUID, which plain HTTP on a LAN does not have', () => {
    const { randomUUID } = crypto;
    Object.defineProperty(crypto, 'randomUUID', { value: undefined, configurable: true });
    const id = newId();
    Object.defineProperty(crypto, 'randomUUID', { value: randomUUID, configurable: true });
    expect(id).toMatch(/^[0-9a-f]{8}-[0-9a-f]{4}-7[0-9a-f]{3}-[89ab]/);
  });
});
