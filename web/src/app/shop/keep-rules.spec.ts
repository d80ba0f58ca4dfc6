import { signal } from '@angular/core';
import { TestBed } from '@angular/core/testing';
import { provideHttpClient } from '@angular/common/http';
import { HttpTestingController, provideHttpClientTesting } from '@angular/common/http/testing';
import { DEFAULT_RULES, type ShopView } from '@tally-stone/contract';
import { Shop } from '../data/shop';
import { Who } from '../data/who';
import { keepRules } from './keep-rules';

describe('rules that one page changes', () => {
  it('are changed also where that was pressed before they had come, and as they stand then', async () => {
    let come: () => void = () => undefined;
    const coming = new Promise<void>((done) => (come = done));
    const view = signal<ShopView | undefined>(undefined);
    TestBed.configureTestingModule({
      providers: [
        provideHttpClient(),
        provideHttpClientTesting(),
        { provide: Shop, useValue: { view, trouble: signal(''), refresh: () => coming } },
        { provide: Who, useValue: { personId: () => 'p1', people: () => [] } },
      ],
    });
    const rules = TestBed.runInInjectionContext(() => keepRules());
    const kept = rules.change((all) => ({ ...all, standIns: ['scale'] }));
    const http = TestBed.inject(HttpTestingController);
    http.expectNone(() => true);
    view.set({ rules: { ...DEFAULT_RULES, dullLandMm: 0.3 } } as ShopView);
    come();
    await new Promise((next) => setTimeout(next));
    const [sent] = http.match(({ url }) => url.endsWith('/commands'));
    expect(sent?.request.body).toEqual(
      jasmine.objectContaining({
        type: 'set-rules',
        rules: jasmine.objectContaining({ dullLandMm: 0.3, standIns: ['scale'] }),
      }),
    );
    sent?.flush({ commandId: 'c', sequence: 1 });
    expect(await kept).toBeTrue();
  });
});
