import { provideHttpClient, withInterceptors } from '@angular/common/http';
import { HttpTestingController, provideHttpClientTesting } from '@angular/common/http/testing';
import { TestBed } from '@angular/core/testing';
import { HttpClient } from '@angular/common/http';
import { provideRouter } from '@angular/router';
import { noticeSignedOut, Session } from '../data/session';
import { Who } from '../data/who';
import { SignIn } from './sign-in';

const ASH = {
  personId: '01900000-0000-7000-8000-000000000001',
  name: 'Ash',
  role: 'technician',
  hasPin: true,
};

describe('signing in', () => {
  let http: HttpTestingController;
  beforeEach(() => {
    localStorage.removeItem('tally-stone.person');
    TestBed.configureTestingModule({
      providers: [
        provideHttpClient(withInterceptors([noticeSignedOut])),
        provideHttpClientTesting(),
        provideRouter([{ path: '**', children: [] }]),
      ],
    });
    http = TestBed.inject(HttpTestingController);
    TestBed.inject(Who).people.set([ASH]);
  });
  afterEach(() => http.verify());

  async function open() {
    const fixture = TestBed.createComponent(SignIn);
    await fixture.whenStable();
    const page = fixture.nativeElement as HTMLElement;
    const pin = page.querySelector('input');
    const send = async (typed: string): Promise<void> => {
      if (pin) pin.value = typed;
      pin?.dispatchEvent(new Event('input'));
      page.querySelector('form')?.dispatchEvent(new Event('submit'));
      await fixture.whenStable();
    };
    return { page, pin, send, settle: () => fixture.whenStable() };
  }

  it('asks for the name first, hides the PIN, and keeps no wrong one', async () => {
    const { page, pin, send, settle } = await open();
    expect(pin?.type).toBe('password');
    await send('1234');
    expect(page.querySelector('[role=alert]')?.textContent).toContain('Tap your name');
    page.querySelector<HTMLElement>('mat-button-toggle button')?.click();
    await send('12');
    expect(page.querySelector('mat-error')?.textContent).toContain('four to eight digits');
    await send('9999');
    http.expectOne('/api/v1/sign-in').flush(
      {
        type: '/problems/invalid-input',
        title: 'A field needs another look',
        status: 422,
        detail: 'pin: is not their PIN',
        errors: [{ field: 'pin', message: 'is not their PIN' }],
      },
      { status: 422, statusText: 'no' },
    );
    await settle();
    expect(page.querySelector('mat-error')?.textContent).toContain('not their PIN');
    expect(pin?.value).toBe('');
  });

  it('goes on as whoever signed in', async () => {
    const { page, send } = await open();
    page.querySelector<HTMLElement>('mat-button-toggle button')?.click();
    await send('2222');
    const asked = http.expectOne('/api/v1/sign-in');
    expect(asked.request.body).toEqual({ personId: ASH.personId, pin: '2222' });
    asked.flush({ locked: true, ...ASH });
    http.expectOne('/api/v1/people').flush([ASH]);
    expect(TestBed.inject(Session).missing()).toBeFalse();
    expect(TestBed.inject(Who).personId()).toBe(ASH.personId);
  });

  it('is asked for again when a session has ended', () => {
    const session = TestBed.inject(Session);
    session.view.set({ locked: true, ...ASH, role: 'technician' });
    TestBed.inject(HttpClient)
      .get('/api/v1/bench')
      .subscribe({ error: () => undefined });
    http.expectOne('/api/v1/bench').flush({}, { status: 401, statusText: 'no' });
    http.expectOne('/api/v1/session').flush({ locked: true });
    expect(session.missing()).toBeTrue();
  });

  it('is not asked for by a server that is away', () => {
    const session = TestBed.inject(Session);
    session.load().subscribe();
    http.expectOne('/api/v1/session').error(new ProgressEvent('away'));
    expect(session.missing()).toBeFalse();
  });

  it('lets a phone in by the link it was opened with', async () => {
    const session = TestBed.inject(Session);
    session.joinToken.set('k3y');
    const { page, settle } = await open();
    page.querySelector<HTMLButtonElement>('.next-thing')?.click();
    const asked = http.expectOne('/api/v1/join');
    expect(asked.request.body).toEqual({ token: 'k3y' });
    const crew = { ...ASH, role: 'crew' };
    asked.flush({ locked: true, ...crew });
    http.expectOne('/api/v1/people').flush([crew]);
    await settle();
    expect(session.joinToken()).toBe('');
    expect(session.missing()).toBeFalse();
  });

  it('says that a link is used up, and offers the PIN', async () => {
    const session = TestBed.inject(Session);
    session.joinToken.set('old');
    const { page, settle } = await open();
    page.querySelector<HTMLButtonElement>('.next-thing')?.click();
    http.expectOne('/api/v1/join').flush(
      {
        type: '/problems/invalid-input',
        title: '',
        status: 422,
        detail: 'token: was used already or is too old: ask the manager for a new link',
        errors: [{ field: 'token', message: 'is used up or too old' }],
      },
      { status: 422, statusText: 'no' },
    );
    await settle();
    expect(page.querySelector('[role=alert]')?.textContent).toContain('ask the manager');
    page.querySelectorAll<HTMLButtonElement>('button')[1]?.click();
    await settle();
    expect(page.querySelector('h1')?.textContent).toBe('Who is here?');
  });

  it('makes the first manager by the code the server printed', async () => {
    const session = TestBed.inject(Session);
    session.view.set({ locked: true, first: true });
    const { page, settle } = await open();
    const [code, name, pin] = page.querySelectorAll('input');
    const type = (field: HTMLInputElement | undefined, text: string): void => {
      if (field) field.value = text;
      field?.dispatchEvent(new Event('input'));
    };
    type(code, 'AB2CD3EF');
    type(name, 'Rowan');
    type(pin, '4711');
    page.querySelector('form')?.dispatchEvent(new Event('submit'));
    const asked = http.expectOne('/api/v1/first-start');
    expect(asked.request.body).toEqual({ code: 'AB2CD3EF', name: 'Rowan', pin: '4711' });
    asked.flush({ locked: true, ...ASH, role: 'manager' });
    http.expectOne('/api/v1/people').flush([ASH]);
    await settle();
    expect(session.first()).toBeFalse();
  });
});
