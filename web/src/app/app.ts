import {
  ChangeDetectionStrategy,
  Component,
  effect,
  type ElementRef,
  inject,
  Injector,
  signal,
  viewChild,
} from '@angular/core';
import { takeUntilDestroyed, toSignal } from '@angular/core/rxjs-interop';
import { MatButtonModule } from '@angular/material/button';
import { MatIconModule } from '@angular/material/icon';
import { NavigationEnd, Router, RouterLink, RouterLinkActive, RouterOutlet } from '@angular/router';
import {
  distinctUntilChanged,
  filter,
  map,
  type Observable,
  skip,
  switchMap,
  take,
  timer,
} from 'rxjs';
import { Named } from './parts/named';
import { Api } from './data/api';
import { Commands } from './data/commands';
import { Days } from './data/days';
import { Region } from './data/region';
import { Icons } from './data/icons';
import { followPerson, followShop } from './data/language';
import { Keys } from './data/keys';
import { MissingPart } from './data/missing-part';
import { Outbox } from './data/outbox';
import { screenAt, SCREENS } from './data/screens';
import { Session } from './data/session';
import { Unanswered } from './data/unanswered';
import { Who } from './data/who';
import { OwnChoices } from './parts/own-choices';
import { ScreensDrawer } from './parts/screens-drawer';
import { WhoMenu } from './parts/who-menu';
import { Pocket } from './pocket/pocket';
import { SignIn } from './sign-in/sign-in';
import { Tour } from './tour/tour';
import { TourBar } from './tour/tour-bar';

/** What was told from the field and refused later, by what it was. */
const FROM_THE_FIELD: Readonly<Record<string, string>> = {
  'report-strike': $localize`A strike reported while there was no signal`,
  'report-cut': $localize`A poor cut reported while there was no signal`,
  'read-hours': $localize`Hours entered while there was no signal`,
};

/** A screen has its heading within three seconds, or it goes without the focus. */
const HEADING_EVERY_MS = 60;
const HEADING_TRIES = 50;

/** The frame: where one is, who works, units, light, keys. */
@Component({
  selector: 'ts-app',
  imports: [
    Named,
    MatButtonModule,
    MatIconModule,
    RouterLink,
    RouterLinkActive,
    RouterOutlet,
    OwnChoices,
    ScreensDrawer,
    SignIn,
    TourBar,
    WhoMenu,
  ],
  changeDetection: ChangeDetectionStrategy.OnPush,
  templateUrl: './app.html',
  styleUrl: './app.scss',
  host: { '(document:keydown)': 'onKey($event)', '(document:keyup)': 'onKeyUp($event)' },
})
export class App {
  private readonly main = viewChild.required<ElementRef<HTMLElement>>('main');
  private readonly api = inject(Api);
  private readonly injector = inject(Injector);
  private readonly router = inject(Router);
  protected readonly days = inject(Days);
  protected readonly commands = inject(Commands);
  protected readonly outbox = inject(Outbox);
  protected readonly pocket = inject(Pocket);
  protected readonly keys = inject(Keys);
  protected readonly tour = inject(Tour);
  protected readonly who = inject(Who);
  protected readonly session = inject(Session);
  protected readonly unanswered = inject(Unanswered);
  protected readonly missing = inject(MissingPart);
  private readonly region = inject(Region);
  protected readonly shop = signal('');
  protected readonly screens = SCREENS;
  /** On a phone the screens lie in a drawer. */
  protected readonly drawer = signal(false);
  /** Somebody wanted to see who is at the bench before the menu had come. */
  protected readonly whoAsked = signal(false);
  protected readonly here = toSignal(
    this.router.events.pipe(
      filter((event) => event instanceof NavigationEnd),
      map(({ urlAfterRedirects }) => screenAt(urlAfterRedirects)),
    ),
    { initialValue: '' },
  );
  /** The key that was just taken for something of ours. */
  private taken = '';

  constructor() {
    inject(Icons);
    this.who.load().subscribe();
    this.session.load().subscribe(({ personId }) => {
      if (personId) this.who.pick(personId);
    });
    // Who works here is known once both have been told.
    effect(() => {
      if (this.who.people() && this.session.view())
        followPerson(this.session.missing() ? undefined : this.who.language());
    });
    this.api.health().subscribe({
      next: ({ shop, timeZone, region }) => {
        this.shop.set(shop);
        this.days.zone.set(timeZone);
        this.region.tell(region);
        followShop(region.language);
      },
      error: () => {
        this.shop.set('');
      },
    });
    this.router.events
      .pipe(
        filter((event) => event instanceof NavigationEnd),
        map(({ urlAfterRedirects }) => urlAfterRedirects.split(/[?#]/)[0]),
        distinctUntilChanged(),
        // The first page has the browser's own order.
        skip(1),
        switchMap(() => this.headingOf(this.main().nativeElement)),
        takeUntilDestroyed(),
      )
      .subscribe((heading) => {
        // A screen that has sent the focus to what is to be done keeps it there.
        if (this.main().nativeElement.contains(document.activeElement?.parentElement ?? null))
          return;
        heading.tabIndex = -1;
        heading.focus();
      });
    this.keys.use([
      {
        key: '?',
        does: $localize`Show these keys`,
        inEmptyField: true,
        run: () => void this.showKeys(),
      },
      { key: 'h', does: $localize`To the bench`, run: () => void this.router.navigateByUrl('/') },
      {
        key: 'r',
        does: $localize`Register new blades`,
        inEmptyField: true,
        run: () => void this.router.navigateByUrl('/new-blades'),
      },
    ]);
  }

  protected async showKeys(): Promise<void> {
    const { showKeys } = await import('./parts/keys-help');
    showKeys(this.injector);
  }

  protected toMain(event: Event): void {
    event.preventDefault();
    this.main().nativeElement.focus();
  }

  /** The heading of the screen that is coming, as soon as it is there. */
  private headingOf(within: HTMLElement): Observable<HTMLElement> {
    return timer(0, HEADING_EVERY_MS).pipe(
      take(HEADING_TRIES),
      map(() => within.querySelector<HTMLElement>('h1')),
      filter((heading) => heading !== null),
      take(1),
    );
  }

  protected parkedWords({ command, words }: ReturnType<Commands['parked']>[number]): string {
    const report = FROM_THE_FIELD[command.type];
    return report
      ? $localize`${report}:ph0:: refused. ${words} Report it again correctly, then discard this one.`
      : $localize`An entry kept in this browser was refused: ${words} The rest of that blade waits.`;
  }

  protected onKey(event: KeyboardEvent): void {
    this.taken = this.keys.press(event) ? event.key : '';
    if (this.taken) event.preventDefault();
  }

  /** Some browsers press a button with Space when the key comes up, whatever became of its going down. */
  protected onKeyUp(event: KeyboardEvent): void {
    if (event.key === this.taken) event.preventDefault();
    this.taken = '';
  }
}
