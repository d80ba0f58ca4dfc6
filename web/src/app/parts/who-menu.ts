import { ChangeDetectionStrategy, Component, inject } from '@angular/core';
import { MatButtonModule } from '@angular/material/button';
import { MatIconModule } from '@angular/material/icon';
import { MatMenuModule } from '@angular/material/menu';
import { Session } from '../data/session';
import { Who } from '../data/who';

/** Who is at the bench: picked, where nobody signs in; signed out, where somebody has to. */
@Component({
  selector: 'ts-who-menu',
  imports: [MatButtonModule, MatIconModule, MatMenuModule],
  changeDetection: ChangeDetectionStrategy.OnPush,
  templateUrl: './who-menu.html',
})
export class WhoMenu {
  protected readonly who = inject(Who);
  protected readonly session = inject(Session);

  protected signOut(everywhere: boolean): void {
    this.session.signOut(everywhere).subscribe();
  }
}
