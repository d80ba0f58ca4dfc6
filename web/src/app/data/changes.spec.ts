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

  const turn = (to: DocumentVisibilityState): void => {
    visibility = to;
    document.dispatchEvent(new Event('visibilitychange'));
  };

  it('are one stream a tab, however many listen', () => {
    const changes = TestBed.inject(Changes);
    const first = changes.all$.subscribe();
    const second = changes.all$.subscribe();
    expect(FakeSource.open.map(({ url }) => url)).toEqual(['/api/events']);
    first.unsubscribe();
    expect(FakeSource.open[0]?.closed).toBeFalse();
    second.unsubscribe();
    expect(FakeSource.open[0]?.closed).toBeTrue();
  });

  it('stop while the tab is hidden and start again when it is back', () => {
    const listening = TestBed.inject(Changes).all$.subscribe();
    turn('hidden');
    expect(FakeSource.open[0]?.closed).toBeTrue();
    turn('visible');
    expect(FakeSource.open).toHaveSize(2);
    listening.unsubscribe();
  });

  it('pass on what parses and say when the line is back', () => {
    const seen: (StreamEvent | 'resumed')[] = [];
    const listening = TestBed.inject(Changes).all$.subscribe((event) => seen.push(event));
    const [source] = FakeSource.open;
    source?.dispatchEvent(new Event('open'));
    const event = { sequence: 3, what: 'cleaned', subjectKind: 'cycle', subjectId: 'c' };
    source?.dispatchEvent(new MessageEvent('change', { data: JSON.stringify(event) }));
    source?.dispatchEvent(new MessageEvent('change', { data: '{"odd":1}' }));
    expect(seen).toEqual(['resumed', event as StreamEvent]);
    listening.unsubscribe();
  });
});
