import { ChangeDetectionStrategy, Component, model } from '@angular/core';
import { MatSidenavModule } from '@angular/material/sidenav';
import { RouterLink, RouterLinkActive } from '@angular/router';
import { SCREENS } from '../data/screens';
import { OwnChoices } from './own-choices';

/** On a phone: every screen, large, and what is set by the person rather than the shop. */
@Component({
  selector: 'ts-screens-drawer',
  imports: [MatSidenavModule, OwnChoices, RouterLink, RouterLinkActive],
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    <mat-sidenav-container [hasBackdrop]="true">
      <mat-sidenav mode="over" [opened]="open()" (openedChange)="open.set($event)">
        <nav aria-label="Screens" i18n-aria-label>
          @for (each of screens; track each.link) {
            <a
              [routerLink]="each.link"
              routerLinkActive="here"
              ariaCurrentWhenActive="page"
              [routerLinkActiveOptions]="{ exact: each.link === '/' }"
              (click)="open.set(false)"
              >{{ each.words }}</a
            >
          }
        </nav>
        <ts-own-choices />
      </mat-sidenav>
    </mat-sidenav-container>
  `,
  styles: `
    /* Over the screen, and out of its way while it is shut. */
    mat-sidenav-container {
      position: fixed;
      inset: 0;
      z-index: 30;
      background: transparent;
    }
    :host(.shut) mat-sidenav-container {
      pointer-events: none;
    }
    mat-sidenav {
      width: min(18.75rem, 84vw);
      padding: 12px 0;
    }
    a {
      display: flex;
      align-items: center;
      min-height: 56px;
      padding: 0 24px;
      font-size: 1.25rem;
      color: var(--ink);
      text-decoration: none;
      border-left: 6px solid transparent;
    }
    .here {
      font-weight: 600;
      border-left-color: var(--ink);
    }
    ts-own-choices {
      margin: 12px 20px;
    }
  `,
  host: { '[class.shut]': '!open()' },
})
export class ScreensDrawer {
  protected readonly screens = SCREENS;
  readonly open = model(false);
}
