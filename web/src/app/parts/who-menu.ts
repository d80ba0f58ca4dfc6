import {
  afterNextRender,
  ChangeDetectionStrategy,
  Component,
  inject,
  input,
  viewChild,
} from '@angular/core';
import { MatButtonModule } from '@angular/material/button';
import { MatDividerModule } from '@angular/material/divider';
import { MatIconModule } from '@angular/material/icon';
import { MatMenuModule, MatMenuTrigger } from '@angular/material/menu';
import { LANGUAGES, type Language } from '@tally-stone/contract';
import { NamedPipe } from './named.pipe';
import { pickLanguage, spokenHere } from '../data/language';
import { GoesOn } from '../data/goes-on';
import { Session } from '../data/session';
import { submit } from '../data/submit';
import { Who } from '../data/who';

/** Who is at the bench: picked, where nobody signs in; signed out, where somebody has to. */
@Component({
  selector: 'ts-who-menu',
  imports: [NamedPipe, MatButtonModule, MatDividerModule, MatIconModule, MatMenuModule],
  changeDetection: ChangeDetectionStrategy.OnPush,
  templateUrl: './who-menu.html',
  styles: `
    .here {
      box-shadow: inset 5px 0 0 var(--spark);
    }
  `,
})
export class WhoMenu {
  /** It was pressed before it was there: it opens as it comes. */
  readonly asked = input(false);
  private readonly trigger = viewChild.required(MatMenuTrigger);
  protected readonly who = inject(Who);
  protected readonly session = inject(Session);
  protected readonly goesOn = inject(GoesOn);
  protected readonly languages = Object.entries(LANGUAGES).map(([language, words]) => ({
    language: language as Language,
    words,
  }));
  protected readonly spoken = spokenHere();
  private readonly write = submit();

  constructor() {
    afterNextRender(() => {
      if (this.asked()) this.trigger().openMenu();
    });
  }

  /** Kept with whoever works here, so that it goes with them; on this device alone where nobody does. */
  protected async pick(language: Language): Promise<void> {
    const known = this.who.people() && this.who.personId() && !this.session.missing();
    if (known && (await this.write.send({ type: 'pick-language', language })))
      this.who.load().subscribe();
    else pickLanguage(language);
  }

  protected signOut(everywhere: boolean): void {
    this.session.signOut(everywhere).subscribe();
  }
}
