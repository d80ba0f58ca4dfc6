import { provideHttpClient } from '@angular/common/http';
import { HttpTestingController, provideHttpClientTesting } from '@angular/common/http/testing';
import { provideZonelessChangeDetection, signal, type Type } from '@angular/core';
import { TestBed, type ComponentFixture } from '@angular/core/testing';
import { provideRouter } from '@angular/router';
import { EMPTY, Subject } from 'rxjs';
import { Changes } from '../app/data/changes';
import { Frame } from '../app/data/frame';
import { Icons } from '../app/data/icons';
import { Outbox } from '../app/data/outbox';

/** An outbox that keeps nothing from one test to the next. */
export const forgetfulOutbox = (): Partial<Outbox> => ({
  keep: () => Promise.resolve(-1),
  trying: () => Promise.resolve(),
  drop: () => Promise.resolve(),
  leftBehind: () => Promise.resolve([]),
  full: signal(false),
});

/** A command by its type, a hand at an instrument by what it does. */
const nameOf = (body: unknown): string => {
  const { type, act } = body as { type?: string; act?: string };
  return type ?? act ?? '';
};

type Answers = Record<string, unknown>;
/** For an answer: the server cannot be reached. */
export const AWAY = 'away';
export interface Refused {
  readonly status: number;
  readonly body: unknown;
}

const isRefused = (answer: unknown): answer is Refused =>
  typeof answer === 'object' && answer !== null && 'status' in answer && 'body' in answer;

/** A screen under test with a pretended server: answers by address, commands kept for looking at. */
export class Served<T> {
  readonly commands: Record<string, unknown>[] = [];
  /** Addresses read, in order. */
  readonly read: string[] = [];
  /** What the bench instruments say, line by line. */
  readonly lines: Subject<string>;

  private constructor(
    readonly fixture: ComponentFixture<T>,
    private readonly http: HttpTestingController,
    private readonly answers: Answers,
    lines: Subject<string>,
  ) {
    this.lines = lines;
  }

  static async open<T>(
    component: Type<T>,
    answers: Answers,
    inputs: Record<string, unknown> = {},
  ): Promise<Served<T>> {
    localStorage.clear();
    const lines = new Subject<string>();
    TestBed.configureTestingModule({
      providers: [
        provideZonelessChangeDetection(),
        provideHttpClient(),
        provideHttpClientTesting(),
        provideRouter([{ path: '**', children: [] }]),
        { provide: Changes, useValue: { all$: EMPTY, lines$: lines } },
        { provide: Outbox, useFactory: forgetfulOutbox },
        { provide: Frame, useValue: { afterPaint: (work: () => void) => setTimeout(work) } },
      ],
    });
    TestBed.inject(Icons);
    const fixture = TestBed.createComponent(component);
    for (const [name, value] of Object.entries(inputs)) fixture.componentRef.setInput(name, value);
    const served = new Served(fixture, TestBed.inject(HttpTestingController), answers, lines);
    await served.settle();
    return served;
  }

  get element(): HTMLElement {
    return this.fixture.nativeElement as HTMLElement;
  }

  /** The screen's text, white space folded. */
  get text(): string {
    return (this.element.textContent ?? '').replace(/\s+/g, ' ').trim();
  }

  find<E extends HTMLElement = HTMLElement>(selector: string): E {
    const found = this.element.querySelector<E>(selector);
    if (!found) throw new Error(`nothing matches ${selector}`);
    return found;
  }

  button(words: string): HTMLButtonElement {
    const found = [...this.element.querySelectorAll('button')].find((each) =>
      each.textContent?.replace(/\s+/g, ' ').includes(words),
    );
    if (!found) throw new Error(`no button says ${words}`);
    return found;
  }

  async type(selector: string, text: string): Promise<void> {
    const field = this.find<HTMLInputElement>(selector);
    field.value = text;
    field.dispatchEvent(new Event('input'));
    await this.settle();
  }

  async click(words: string): Promise<void> {
    this.button(words).click();
    await this.settle();
  }

  /** Answers whatever was asked until nothing more is, and lets the screen draw itself. */
  async settle(): Promise<void> {
    for (let round = 0; round < 8; round++) {
      await new Promise((next) => setTimeout(next));
      for (const { request, flush, lose } of this.http
        .match(() => true)
        .map((each) => ({
          request: each.request,
          flush: each.flush.bind(each),
          lose: () => {
            each.error(new ProgressEvent('error'));
          },
        }))) {
        if (request.method === 'POST') this.commands.push(request.body as Record<string, unknown>);
        else this.read.push(request.url);
        const key =
          request.method === 'POST'
            ? `POST ${request.body instanceof FormData ? request.url : nameOf(request.body)}`
            : request.url;
        const answer = this.answers[key] ?? this.answers[key.split('?')[0] ?? ''];
        if (answer === AWAY) lose();
        else if (isRefused(answer))
          flush(answer.body as object, { status: answer.status, statusText: 'refused' });
        else if (answer === undefined && request.method === 'POST') {
          // A problem, not silence: silence is tried again later, when the test is long over.
          flush(problem('/problems/not-found', `no answer for ${key}`).body as object, {
            status: 404,
            statusText: 'none',
          });
        } else if (answer === undefined && key === '/api/instruments') {
          flush({ instruments: [] });
        } else if (answer === undefined)
          flush('', { status: 500, statusText: `no answer for ${key}` });
        else flush(answer as object);
      }
    }
    await this.fixture.whenStable();
  }
}

export const problem = (type: string, detail: string, field?: string): Refused => ({
  status: 422,
  body: {
    type,
    title: '',
    status: 422,
    detail,
    ...(field ? { errors: [{ field, message: detail }] } : {}),
  },
});
