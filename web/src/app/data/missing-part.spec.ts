import { ErrorHandler, provideZonelessChangeDetection } from '@angular/core';
import { TestBed } from '@angular/core/testing';
import {
  provideRouter,
  Router,
  withNavigationErrorHandler,
  withRouterConfig,
  type Route,
} from '@angular/router';
import { RouterTestingHarness } from '@angular/router/testing';
import { of, throwError } from 'rxjs';
import { failedOnTheWay, MissingPart, NoticesMissingParts } from './missing-part';
import { PreloadLater } from './preload-later';

const notLoaded = (): TypeError =>
  new TypeError('Failed to fetch dynamically imported module: http://x/chunk-A.js');

describe('a part of the app that does not come', () => {
  let assigned: string[];
  let answers: boolean;

  beforeEach(() => {
    assigned = [];
    answers = true;
    spyOn(globalThis, 'fetch').and.callFake(() =>
      answers ? Promise.resolve(new Response('{}')) : Promise.reject(notLoaded()),
    );
    TestBed.configureTestingModule({
      providers: [
        provideZonelessChangeDetection(),
        { provide: ErrorHandler, useClass: NoticesMissingParts },
        provideRouter(
          [
            { path: '', children: [] },
            { path: 'mowers', children: [] },
            { path: 'rack', loadComponent: () => Promise.reject(notLoaded()) },
          ],
          withNavigationErrorHandler(failedOnTheWay),
          withRouterConfig({ resolveNavigationPromiseOnError: true }),
        ),
      ],
    });
    // A browser lets nobody stand in for its own.
    const location = { assign: (url: string) => void assigned.push(url) };
    const missing = TestBed.inject(MissingPart) as unknown as Record<string, unknown>;
    missing['document'] = { location };
  });

  it('takes somebody who goes there by a new load where the server answers', async () => {
    await RouterTestingHarness.create('/');
    await TestBed.inject(Router).navigateByUrl('/rack');
    await new Promise((next) => setTimeout(next));
    expect(assigned).toEqual(['/rack']);
  });

  it('is told where the server is away, and loaded when that is pressed', async () => {
    answers = false;
    await RouterTestingHarness.create('/');
    await TestBed.inject(Router).navigateByUrl('/rack');
    await new Promise((next) => setTimeout(next));
    const missing = TestBed.inject(MissingPart);
    expect(assigned).toEqual([]);
    expect(missing.any()).toBeTrue();
    missing.loadAnew();
    expect(assigned).toEqual(['/rack']);
    // Gone on elsewhere, nobody is told of it any more.
    await TestBed.inject(Router).navigateByUrl('/mowers');
    expect(missing.any()).toBeFalse();
  });

  it('is not loaded again and again where it is missing from the first', async () => {
    await TestBed.inject(Router).navigateByUrl('/rack');
    await new Promise((next) => setTimeout(next));
    expect(assigned).toEqual([]);
    expect(TestBed.inject(MissingPart).any()).toBeTrue();
  });

  it('is noticed within a screen too, and nothing else is taken for it', () => {
    const logged = spyOn(console, 'error');
    const handler = TestBed.inject(ErrorHandler);
    handler.handleError(new TypeError("cannot read 'module' of undefined"));
    expect(TestBed.inject(MissingPart).any()).toBeFalse();
    expect(logged).toHaveBeenCalledTimes(1);
    handler.handleError(Object.assign(new Error('NG0750'), { code: -750 }));
    expect(TestBed.inject(MissingPart).any()).toBeTrue();
    expect(logged).toHaveBeenCalledTimes(1);
  });

  it('does not keep the other screens from being fetched early', () => {
    jasmine.clock().install();
    const fetched: string[] = [];
    const screen = (name: string, fails: number) => () => {
      fetched.push(name);
      return fetched.filter((each) => each === name).length <= fails
        ? throwError(notLoaded)
        : of(name);
    };
    const preload = TestBed.inject(PreloadLater);
    const route: Route = {};
    preload.preload(route, screen('never', 99)).subscribe();
    preload.preload(route, screen('second time', 1)).subscribe();
    preload.preload(route, screen('there', 0)).subscribe();
    jasmine.clock().tick(60_000);
    jasmine.clock().uninstall();
    const times = (name: string): number => fetched.filter((each) => each === name).length;
    expect([times('never'), times('second time'), times('there')]).toEqual([4, 2, 1]);
  });
});
