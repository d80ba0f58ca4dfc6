import {
  computed,
  DOCUMENT,
  ErrorHandler,
  inject,
  Injectable,
  Injector,
  signal,
} from '@angular/core';
import { NavigationEnd, Router, type NavigationError } from '@angular/router';
import { pathOf } from '@tally-stone/contract';
import { filter } from 'rxjs';

/** Code of a deferred block whose parts did not come (Angular, NG0750). */
const DEFERRED_PART = -750;

/** A part of the app that did not come, as browsers word it; what else goes wrong is no business of this. */
function isMissingPart(error: unknown): boolean {
  if (error instanceof TypeError)
    return /dynamically imported module|module script/i.test(error.message);
  return (error as { code?: unknown } | null)?.code === DEFERRED_PART;
}

/**
 * Parts of the app come when they are first needed. One can be missing: the server is away, or was renewed since this page
 * was opened. Then the page is loaded anew, which brings what belongs together.
 */
@Injectable({ providedIn: 'root' })
export class MissingPart {
  private readonly document = inject(DOCUMENT);
  private readonly router = inject(Router);
  /** A part of a screen is missing: it stays so until the page is loaded anew. */
  private readonly within = signal(false);
  /** The screen that somebody wanted to go to and that did not come. */
  private readonly wanted = signal<string | undefined>(undefined);
  readonly any = computed(() => this.within() || this.wanted() !== undefined);

  constructor() {
    this.router.events
      .pipe(filter((event) => event instanceof NavigationEnd))
      .subscribe(() => this.wanted.set(undefined));
  }

  /** A part of what stands here is missing. */
  here(): void {
    this.within.set(true);
  }

  /** Somebody goes to a screen that did not come: where the server answers, it is there at once. */
  async onTheWayTo(url: string): Promise<void> {
    this.wanted.set(url);
    // What could not be opened cold would not come by loading it again and again.
    if (!this.router.navigated) return;
    const answered = await fetch(pathOf('health'))
      .then(({ ok }) => ok)
      .catch(() => false);
    if (answered && this.wanted() === url) this.loadAnew();
  }

  loadAnew(): void {
    this.document.location.assign(this.wanted() ?? this.router.url);
  }
}

/** What nobody caught is told to whoever looks into the page; a missing part to whoever works with it. */
@Injectable()
export class NoticesMissingParts extends ErrorHandler {
  // The router that it knows of may want to tell an error itself while it is made.
  private readonly injector = inject(Injector);

  override handleError(error: unknown): void {
    if (isMissingPart(error)) this.injector.get(MissingPart).here();
    else super.handleError(error);
  }
}

/** For the router: a screen that did not come. */
export function failedOnTheWay({ error, url }: NavigationError): void {
  if (isMissingPart(error)) void inject(MissingPart).onTheWayTo(url);
  else inject(ErrorHandler).handleError(error);
}
