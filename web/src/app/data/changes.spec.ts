import { provideZonelessChangeDetection } from '@angular/core';
import { TestBed } from '@angular/core/testing';
import type { StreamEvent } from '@tally-stone/contract';
import { Changes } from './changes';

class FakeSource extends EventTarget {
  static open: FakeSource[] = [];
  closed = false;
  constructor(readonly url: string) {
    super();
    FakeSource.open.push(this);
  }
  close(): void {
    this.closed = true;
  }
}

describe('Changes', () => {
  const real = globalThis.EventSource;
  let visibility: DocumentVisibilityState;

  beforeEach(() => {
    FakeSource.open = [];
    globalThis.EventSource = FakeSource as unknown as typeof EventSource;
    visibility = 'visible';
    spyOnProperty(document, 'visibilityState').and.callFake(() => visibility);
    TestBed.configureTestingModule({ providers: [provideZonelessChangeDetection()] });
  });
  afterEach(() => {
    globalThis.EventSource = real;
  });

  /** Locks are given a moment later. */
  const aMoment = (): Promise<void> => new Promise((later) => setTimeout(later, 60));
  const turn = (to: DocumentVisibilityState): void => {
    visibility = to;
    document.dispatchEvent(new Event('visibilitychange'));
  };

  it('are one stream a tab, however many listen', async () => {
    const changes = TestBed.inject(Changes);
    const first = changes.all$.subscribe();
    const second = changes.all$.subscribe();
    await aMoment();
    expect(FakeSource.open.map(({ url }) => url)).toEqual(['/api/v1/events']);
    first.unsubscribe();
    expect(FakeSource.open[0]?.closed).toBeFalse();
    second.unsubscribe();
    expect(FakeSource.open[0]?.closed).toBeTrue();
  });

  it('stop while the tab is hidden and start again when it is back', async () => {
    const listening = TestBed.inject(Changes).all$.subscribe();
    await aMoment();
    turn('hidden');
    expect(FakeSource.open[0]?.closed).toBeTrue();
    turn('visible');
    await aMoment();
    expect(FakeSource.open).toHaveSize(2);
    listening.unsubscribe();
  });

  it('pass on what parses and say when the line is back', async () => {
    const seen: (StreamEvent | 'resumed')[] = [];
    const listening = TestBed.inject(Changes).all$.subscribe((event) => seen.push(event));
    await aMoment();
    const [source] = FakeSource.open;
    source?.dispatchEvent(new Event('open'));
    const event = { sequence: 3, what: 'cleaned', subjectKind: 'cycle', subjectId: 'c' };
    source?.dispatchEvent(new MessageEvent('change', { data: JSON.stringify(event) }));
    source?.dispatchEvent(new MessageEvent('change', { data: '{"odd":1}' }));
    expect(seen).toEqual(['resumed', event as StreamEvent]);
    listening.unsubscribe();
  });

  it('are one stream for all windows of a browser: the others hear it from the one that has it', async () => {
    const first = TestBed.inject(Changes).all$.subscribe();
    await aMoment();
    // A second window is a second injector in the same browser.
    const seen: (StreamEvent | 'resumed')[] = [];
    const window = TestBed.runInInjectionContext(() => new Changes());
    const second = window.all$.subscribe((event) => seen.push(event));
    await aMoment();
    expect(FakeSource.open).toHaveSize(1);
    expect(seen).toEqual(['resumed']);
    const event = { sequence: 4, what: 'cleaned', subjectKind: 'cycle', subjectId: 'c' };
    FakeSource.open[0]?.dispatchEvent(new MessageEvent('change', { data: JSON.stringify(event) }));
    await aMoment();
    expect(seen.at(-1)).toEqual(event as StreamEvent);
    // The window that had it goes: the other takes over.
    first.unsubscribe();
    await aMoment();
    expect(FakeSource.open).toHaveSize(2);
    second.unsubscribe();
    await aMoment();
    expect(FakeSource.open[1]?.closed).toBeTrue();
  });
});
