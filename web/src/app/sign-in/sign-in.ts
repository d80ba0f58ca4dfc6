import { ChangeDetectionStrategy, Component, computed, inject, signal } from '@angular/core';
import { FormGroup, ReactiveFormsModule } from '@angular/forms';
import { MatButtonModule } from '@angular/material/button';
import { MatButtonToggleModule } from '@angular/material/button-toggle';
import { Router } from '@angular/router';
import { FirstStart as FirstStartShape, Secret, type SessionView } from '@tally-stone/contract';
import type { Observable } from 'rxjs';
import { NamedPipe } from '../parts/named.pipe';
import { passes, refuse, text } from '../data/fields';
import { troubleFrom } from '../data/problem';
import { Session } from '../data/session';
import { inForm, showsFirstWrong } from '../data/submit';
import { Who } from '../data/who';
import { TextField } from '../parts/form/text-field';

/** One tap for the name, then the PIN; a phone by its link; on the first start, the manager by the server's code. */
@Component({
  selector: 'ts-sign-in',
  imports: [NamedPipe, MatButtonModule, MatButtonToggleModule, ReactiveFormsModule, TextField],
  changeDetection: ChangeDetectionStrategy.OnPush,
  templateUrl: './sign-in.html',
  styleUrl: './sign-in.scss',
})
export class SignIn {
  protected readonly words = {
    yourPinOrPassword: $localize`Your PIN or password`,
    yourPin: $localize`Your PIN`,
    pinOrPassword: $localize`PIN or password`,
    pin: $localize`PIN`,
    digitsOrCharacters: $localize`Four to eight digits, or ten characters`,
    digits: $localize`Four to eight digits`,
  };
  private readonly router = inject(Router);
  protected readonly session = inject(Session);
  private readonly who = inject(Who);
  private readonly showFirstWrong = showsFirstWrong();
  protected readonly people = computed(() => this.who.people() ?? []);
  protected readonly trouble = signal('');
  /** Over HTTPS a password may stand in for the PIN, and its letters want a whole keyboard. */
  protected readonly secure = computed(() => this.session.view()?.secure ?? false);
  protected readonly form = new FormGroup({ personId: text(), pin: text('', Secret) });
  protected readonly first = new FormGroup({
    code: text('', FirstStartShape.shape.code),
    name: text('', FirstStartShape.shape.name),
    pin: text('', Secret),
  });

  constructor() {
    const last = this.who.personId();
    if (last) this.form.controls.personId.setValue(last);
  }

  protected enter(): void {
    const { personId, pin } = this.form.getRawValue();
    if (personId === '') {
      this.trouble.set($localize`Tap your name first.`);
      return;
    }
    if (!passes(this.form)) {
      this.showFirstWrong();
      return;
    }
    this.go(this.session.signIn(personId, pin), this.form);
  }

  protected begin(): void {
    if (passes(this.first)) this.go(this.session.firstStart(this.first.getRawValue()), this.first);
    else this.showFirstWrong();
  }

  protected join(): void {
    this.go(this.session.join(), this.form);
  }

  /** Signs in, and says at its field what stands in the way. A PIN never stays in the page. */
  private go(signedIn: Observable<SessionView>, form: typeof this.form | typeof this.first): void {
    this.trouble.set('');
    signedIn.subscribe({
      next: ({ personId, role }) => {
        form.controls.pin.reset();
        if (personId) this.who.pick(personId);
        this.who.load().subscribe();
        if (role === 'crew') void this.router.navigateByUrl('/crew');
      },
      error: (error: unknown) => {
        const { fields, words } = troubleFrom(error);
        form.controls.pin.reset();
        const placed = Object.entries(fields).map(([field, message]) => {
          const control = inForm(() => form as FormGroup)(field);
          if (control) refuse(control, message);
          return control;
        });
        if (placed.some(Boolean)) this.showFirstWrong();
        else this.trouble.set(words);
      },
    });
  }
}
