import { provideHttpClient } from '@angular/common/http';
import { HttpTestingController, provideHttpClientTesting } from '@angular/common/http/testing';
import { provideZonelessChangeDetection } from '@angular/core';
import { TestBed } from '@angular/core/testing';
import { Commands, newId } from './commands';
import { troubleFrom, type Trouble } from './problem';

describe('Commands', () => {
  let commands: Commands;
  let http: HttpTestingController;

  beforeEach(() => {
    jasmine.clock().install();
    TestBed.configureTestingModule({
      providers: [
        provideZonelessChangeDetection(),
        provideHttpClient(),
        provideHttpClientTesting(),
      ],
    });
    commands = TestBed.inject(Commands);
    http = TestBed.inject(HttpTestingController);
  });
  afterEach(() => {
    jasmine.clock().uninstall();
    http.verify();
  });

  const posted = () => http.expectOne('/api/commands');
  const body = (request: { request: { body: unknown } }) =>
    request.request.body as Record<string, unknown>;

  it('go out one after the other, each deciding its revision when its turn comes', () => {
    let revision = 4;
    const count = () =>
      commands
        .cycle('c', () => revision, { type: 'count-passes', passId: newId(), end: 'A', count: 1 })
        .subscribe((answer) => (revision = answer.revision ?? revision));
    count();
    count();
    const first = posted();
    expect(body(first)['expectedRevision']).toBe(4);
    first.flush({ commandId: 'x', sequence: 9, revision: 5 });
    const second = posted();
    expect(body(second)['expectedRevision']).toBe(5);
    expect(body(second)['id']).not.toBe(body(first)['id']);
    second.flush({ commandId: 'y', sequence: 10, revision: 6 });
  });

  it('are sent again with the same id when the line drops, so that nothing is done twice', () => {
    let answered = false;
    commands
      .shop({ type: 'register-blades', specId: newId(), count: 1 })
      .subscribe(() => (answered = true));
    const lost = posted();
    const { id } = body(lost);
    lost.error(new ProgressEvent('error'));
    jasmine.clock().tick(1000);
    const again = posted();
    expect(body(again)['id']).toBe(id);
    again.flush({ commandId: id, sequence: 1 });
    expect(answered).toBeTrue();
  });

  it('that are refused are not sent again, and the next one still goes', () => {
    let trouble: Trouble | undefined;
    commands.shop({ type: 'register-blades', specId: newId(), count: 0 }).subscribe({
      error: (error: unknown) => (trouble = troubleFrom(error)),
    });
    commands.shop({ type: 'register-blades', specId: newId(), count: 1 }).subscribe();
    posted().flush(
      {
        type: '/problems/invalid-input',
        title: 't',
        status: 422,
        detail: 'count: must be at least 1',
        errors: [{ field: 'count', message: 'must be at least 1' }],
      },
      { status: 422, statusText: 'no' },
    );
    expect(trouble?.fields).toEqual({ count: 'must be at least 1' });
    posted().flush({ commandId: 'z', sequence: 2 });
  });

  it('make version 7 ids without randomUUID, which plain HTTP on a LAN does not have', () => {
    const { randomUUID } = crypto;
    Object.defineProperty(crypto, 'randomUUID', { value: undefined, configurable: true });
    const id = newId();
    Object.defineProperty(crypto, 'randomUUID', { value: randomUUID, configurable: true });
    expect(id).toMatch(/^[0-9a-f]{8}-[0-9a-f]{4}-7[0-9a-f]{3}-[89ab]/);
  });
});
