import { TestbedHarnessEnvironment } from '@angular/cdk/testing/testbed';
import { provideHttpClient } from '@angular/common/http';
import { HttpTestingController, provideHttpClientTesting } from '@angular/common/http/testing';
import { provideZonelessChangeDetection, signal, type Type } from '@angular/core';
import { TestBed, type ComponentFixture } from '@angular/core/testing';
import { MatCheckboxHarness } from '@angular/material/checkbox/testing';
import { MatExpansionPanelHarness } from '@angular/material/expansion/testing';
import { MatFormFieldHarness } from '@angular/material/form-field/testing';
import { MatInputHarness } from '@angular/material/input/testing';
import { MatSelectHarness } from '@angular/material/select/testing';
import { provideRouter } from '@angular/router';
import type { CommandInput } from '@tally-stone/contract';
import { EMPTY, Subject } from 'rxjs';
import { Changes } from '../app/data/changes';
import { Fleet } from '../app/data/fleet';
import { Frame } from '../app/data/frame';
import { Icons } from '../app/data/icons';
import { Outbox, type KeptCommand, type OutboxNews } from '../app/data/outbox';

// What a test kept on the device is gone with it: they run in any order.
afterEach(() => localStorage.clear());

/** What a browser would keep, in memory: windows opened over one shelf share it, as they do in a browser. */
export class ShelfForTests {
  readonly kept = signal<readonly KeptCommand[]>([]);
  readonly windows = new Set<Subject<OutboxNews>>();
  sender: object | undefined;
  nextSeq = 1;
}

/** The browser's outbox as one window of a test has it. */
export class OutboxForTests implements Pick<
  Outbox,
  'kept' | 'full' | 'news$' | 'keep' | 'trying' | 'park' | 'drop' | 'tell' | 'claim' | 'release'
> {
  readonly full = signal(false);
  private readonly newsSubject = new Subject<OutboxNews>();
  readonly news$ = this.newsSubject;
  readonly kept: Outbox['kept'];

  constructor(private readonly shelf = new ShelfForTests()) {
    this.kept = shelf.kept;
    shelf.windows.add(this.newsSubject);
  }
  keep(command: CommandInput, file?: Blob): Promise<void> {
    const seq = this.shelf.nextSeq++;
    const kept = { seq, command, tried: false, keptAt: Date.now(), ...(file ? { file } : {}) };
    this.shelf.kept.update((all) => [...all, kept]);
    return Promise.resolve();
  }
  trying({ seq }: KeptCommand, command: CommandInput): Promise<void> {
    this.change(seq, ({ keptAt }) => ({ seq, keptAt, command, tried: true }));
    return Promise.resolve();
  }
  park({ seq }: KeptCommand, refused: string): Promise<void> {
    this.change(seq, (kept) => ({ ...kept, refused }));
    return Promise.resolve();
  }
  drop({ seq }: Pick<KeptCommand, 'seq'>): Promise<void> {
    this.shelf.kept.update((all) => all.filter((each) => each.seq !== seq));
    return Promise.resolve();
  }
  tell(news: OutboxNews): void {
    for (const window of this.shelf.windows) window.next(news);
  }
  claim(): Promise<boolean> {
    this.shelf.sender ??= this;
    return Promise.resolve(this.shelf.sender === this);
  }
  release(): Promise<void> {
    if (this.shelf.sender === this) this.shelf.sender = undefined;
    return Promise.resolve();
  }
  /** The window is closed; its lease runs out. */
  close(): void {
    this.shelf.windows.delete(this.newsSubject);
    void this.release();
  }
  private change(seq: number, by: (kept: KeptCommand) => KeptCommand): void {
    this.shelf.kept.update((all) => all.map((each) => (each.seq === seq ? by(each) : each)));
  }
}

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
        // A part finds it on its screen.
        Fleet,
        provideHttpClient(),
        provideHttpClientTesting(),
        provideRouter([{ path: '**', children: [] }]),
        { provide: Changes, useValue: { all$: EMPTY, lines$: lines } },
        { provide: Outbox, useFactory: () => new OutboxForTests() },
        { provide: Frame, useValue: { afterPaint: (work: () => void) => setTimeout(work) } },
      ],
    });
    TestBed.inject(Icons);
    const fixture = TestBed.createComponent(component);
    for (const [name, value] of Object.entries(inputs)) fixture.componentRef.setInput(name, value);
    const served = new Served(fixture, TestBed.inject(HttpTestingController), answers, lines);
    await served.settle();
    // What a screen draws once the browser has nothing else to do.
    await new Promise((idle) => requestIdleCallback(idle));
    await fixture.whenStable();
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

  /** Whether what opens (the first on the page) is open. */
  async isUnfolded(): Promise<boolean> {
    const loader = TestbedHarnessEnvironment.loader(this.fixture);
    return (await loader.getHarness(MatExpansionPanelHarness)).isExpanded();
  }

  /** The Material field with this label. */
  private async fieldOf(label: string): Promise<MatFormFieldHarness> {
    return TestbedHarnessEnvironment.loader(this.fixture).getHarness(
      MatFormFieldHarness.with({ floatingLabelText: label }),
    );
  }

  async enter(label: string, text: string): Promise<void> {
    const input = await (await this.fieldOf(label)).getControl(MatInputHarness);
    await input?.setValue(text);
    await this.settle();
  }

  async valueOf(label: string): Promise<string | undefined> {
    return (await (await this.fieldOf(label)).getControl(MatInputHarness))?.getValue();
  }

  async pick(label: string, option: string | RegExp): Promise<void> {
    const select = await (await this.fieldOf(label)).getControl(MatSelectHarness);
    await select?.clickOptions({ text: option });
    await this.settle();
  }

  async optionsOf(label: string): Promise<string[]> {
    const select = await (await this.fieldOf(label)).getControl(MatSelectHarness);
    await select?.open();
    const words = await Promise.all(
      ((await select?.getOptions()) ?? []).map((each) => each.getText()),
    );
    await select?.close();
    return words;
  }

  /** What is said to be wrong with the field of this label. */
  async wrongAt(label: string): Promise<string> {
    return (await (await this.fieldOf(label)).getTextErrors()).join(' ');
  }

  async tick(label: string | RegExp): Promise<void> {
    const box = await TestbedHarnessEnvironment.loader(this.fixture).getHarness(
      MatCheckboxHarness.with({ label }),
    );
    await box.toggle();
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
            : request.urlWithParams;
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
        } else if (answer === undefined && key === '/api/v1/instruments') {
          flush({ instruments: [] });
        } else if (answer === undefined)
          flush('', { status: 500, statusText: `no answer for ${key}` });
        else flush(answer as object);
      }
    }
    await this.fixture.whenStable();
  }

  /** Waits for what is fetched only when it is wanted. */
  async until(selector: string): Promise<void> {
    for (let round = 0; round < 100 && !this.element.querySelector(selector); round++) {
      await new Promise((later) => setTimeout(later, 20));
      await this.settle();
    }
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
