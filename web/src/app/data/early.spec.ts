import { HttpRequest, HttpResponse, type HttpEvent } from '@angular/common/http';
import { TestBed } from '@angular/core/testing';
import { pathOf } from '@tally-stone/contract';
import { firstValueFrom, of } from 'rxjs';
import { answeredEarly } from './answered-early';
import { askedFirst, askEarly } from './early';

describe('what is asked early', () => {
  const ID = '018f0000-0000-7000-8000-000000000001';

  it('is what the screen at an address asks first, besides what every screen asks', () => {
    const own = (path: string): string[] => askedFirst(path).slice(3);
    expect(askedFirst('/nowhere')).toEqual(['/api/v1/people', '/api/v1/session', '/api/v1/health']);
    expect(own('/')).toEqual(['/api/v1/bench']);
    expect(own(`/run/${ID}`)[0]).toBe(`/api/v1/cycles/${ID}`);
    expect(own(`/blade/${ID}`)[0]).toBe(`/api/v1/blades/${ID}`);
    expect(own(`/mower/${ID}/change`)).toEqual(['/api/v1/fleet']);
    expect(own('/shop/grinders')).toEqual(['/api/v1/shop']);
    expect(own('/shop/lists')).toEqual([]);
  });

  describe('once it has come', () => {
    const sent: string[] = [];
    const ask = (method: 'GET' | 'POST', address: string): Promise<unknown> =>
      TestBed.runInInjectionContext(async () => {
        const next = (request: HttpRequest<unknown>) => {
          sent.push(`${request.method} ${request.url}`);
          return of<HttpEvent<unknown>>(new HttpResponse({ body: 'asked anew' }));
        };
        const request = new HttpRequest<unknown>(method, address, null);
        return ((await firstValueFrom(answeredEarly(request, next))) as HttpResponse<unknown>).body;
      });
    const early = (answers: (address: string) => Response | Promise<never>) => {
      sent.length = 0;
      spyOn(window, 'fetch').and.callFake((address) => Promise.resolve(answers(String(address))));
      askEarly('/');
    };

    it('was asked for as JSON, which is what the device keeps for when the server is away', () => {
      early(() => new Response('1'));
      for (const [address, init] of (window.fetch as jasmine.Spy<typeof fetch>).calls.allArgs())
        expect(new Request(address, init).headers.get('accept')).toBe('application/json');
      expect(window.fetch).toHaveBeenCalled();
    });

    it('answers the first question, and only that one', async () => {
      early((address) => new Response(JSON.stringify({ from: address })));
      expect(await ask('GET', pathOf('bench'))).toEqual({ from: '/api/v1/bench' });
      expect(sent).toEqual([]);
      expect(await ask('GET', pathOf('bench'))).toBe('asked anew');
      expect(await ask('GET', pathOf('rack'))).toBe('asked anew');
    });

    it('is asked again where it was refused or did not arrive', async () => {
      early((address) =>
        address.endsWith('bench') ? new Response('', { status: 401 }) : Promise.reject(new Error()),
      );
      expect(await ask('GET', pathOf('bench'))).toBe('asked anew');
      expect(await ask('GET', pathOf('session'))).toBe('asked anew');
    });

    it('tells nothing any more once something was changed', async () => {
      early(() => new Response('"before"'));
      await ask('POST', pathOf('command'));
      expect(await ask('GET', pathOf('bench'))).toBe('asked anew');
    });
  });
});
