import { HttpErrorResponse } from '@angular/common/http';
import { provideZonelessChangeDetection, signal } from '@angular/core';
import { TestBed } from '@angular/core/testing';
import type { StreamEvent } from '@tally-stone/contract';
import { defer, of, Subject, throwError, type Observable } from 'rxjs';
import { Changes } from './changes';
import { Commands } from './commands';
import { shown } from './shown';
import { submit } from './submit';
import { Unanswered } from './unanswered';

const away = new HttpErrorResponse({ status: 0 });
const refusal = (field: string, message: string): HttpErrorResponse =>
  new HttpErrorResponse({
    status: 422,
    error: {
      type: '/problems/invalid-input',
      title: '',
      status: 422,
      detail: `${field} ${message}`,
      errors: [{ field, message }],
    },
  });

describe('what a screen shows', () => {
  const all$ = new Subject<StreamEvent | 'resumed'>();
  let asked: Subject<string>[];
  /** As the HTTP client's: every subscription is a request. */
  const ask = (): Observable<string> =>
    defer(() => {
      const answer = new Subject<string>();
      asked.push(answer);
      return answer;
    });
  const open = <T>(make: () => T): T => {
    asked = [];
    TestBed.configureTestingModule({
      providers: [provideZonelessChangeDetection(), { provide: Changes, useValue: { all$ } }],
    });
    const made = TestBed.runInInjectionContext(make);
    TestBed.tick();
    return made;
  };
  const changed = async (subjectId: string): Promise<void> => {
    all$.next({ sequence: 1, what: 'moved', subjectKind: 'blade', subjectId });
    await new Promise((next) => setTimeout(next, 20));
  };

  it('is asked for once when it opens, and again for what it is about only', async () => {
    const view = open(() => shown(() => ask(), { about: (e) => e.subjectId === 'b', quietMs: 1 }));
    expect(asked).toHaveSize(1);
    asked[0]?.next('first');
    expect(view.value()).toBe('first');
    await changed('another');
    expect(asked).toHaveSize(1);
    await changed('b');
    expect(asked).toHaveSize(2);
    expect(view.value()).toBe('first');
  });

  it('says that nothing answers, and is asked for again by the one button for all of it', () => {
    let first = true;
    const view = open(() =>
      shown(() => defer(() => (first ? throwError(() => away) : of('there'))), {
        about: 'nothing',
      }),
    );
    const unanswered = TestBed.inject(Unanswered);
    expect(view.words()).toBe('The server does not answer: this cannot be shown yet.');
    expect(unanswered.any()).toBeTrue();
    first = false;
    unanswered.askAgain();
    expect(view.value()).toBe('there');
    expect(view.words()).toBe('');
    expect(unanswered.any()).toBeFalse();
  });

  it('is asked for anew when what it asks by changes, and drops the answer that was overtaken', () => {
    const id = signal('a');
    const view = open(() =>
      shown(
        () => {
          id();
          return ask();
        },
        { about: 'nothing' },
      ),
    );
    id.set('b');
    TestBed.tick();
    asked[1]?.next('of b');
    asked[0]?.next('of a, too late');
    expect(view.value()).toBe('of b');
  });

  it('keeps the last answer when the next one fails, says what is wrong, and goes on asking', async () => {
    const view = open(() => shown(() => ask(), { about: 'nothing' }));
    asked[0]?.next('known');
    const again = view.again();
    asked[1]?.error(away);
    await again;
    expect([view.value(), view.trouble()?.kind]).toEqual(['known', 'offline']);
    const later = view.again();
    asked[2]?.next('newer');
    await later;
    expect([view.value(), view.words()]).toEqual(['newer', '']);
  });
});

describe('a write of the shop', () => {
  const open = (answer: Observable<unknown>, options: Parameters<typeof submit>[0] = {}) => {
    TestBed.configureTestingModule({
      providers: [
        provideZonelessChangeDetection(),
        { provide: Commands, useValue: { shop: () => answer } },
      ],
    });
    return TestBed.runInInjectionContext(() => submit(options));
  };
  const act = { type: 'close-batch', batchId: 'b' } as const;

  it('says what is wrong in the screen’s own names, never by the path in the command', async () => {
    const refused = throwError(() => refusal('figures.limits.0.sourceText', 'is empty'));
    const write = open(refused, { names: { sourceText: 'Where the limit comes from' } });
    expect(await write.send(act)).toBeUndefined();
    expect(write.words()).toBe('Where the limit comes from is empty');
    expect(write.fields()).toEqual({ 'figures.limits.0.sourceText': 'is empty' });
  });

  it('asks again for what it changed before whoever sent it goes on', async () => {
    const answers = new Subject<unknown>();
    let kept = false;
    const write = open(answers, { kept: () => Promise.resolve().then(() => (kept = true)) });
    const sent = write.send(act);
    answers.next({ commandId: 'c', sequence: 1 });
    expect((await sent)?.sequence).toBe(1);
    expect([kept, write.words()]).toEqual([true, '']);
  });
});
