import { ChangeDetectionStrategy, Component, computed, inject, signal } from '@angular/core';
import { FormControl, FormGroup, ReactiveFormsModule, Validators } from '@angular/forms';
import { MatButtonModule } from '@angular/material/button';
import { MatButtonToggleModule } from '@angular/material/button-toggle';
import { MatFormFieldModule } from '@angular/material/form-field';
import { MatInputModule } from '@angular/material/input';
import { troubleFrom } from '../data/problem';
import { Session } from '../data/session';
import { Who } from '../data/who';

/** One tap for the name, then the PIN. */
@Component({
  selector: 'ts-sign-in',
  imports: [
    MatButtonModule,
    MatButtonToggleModule,
    MatFormFieldModule,
    MatInputModule,
    ReactiveFormsModule,
  ],
  changeDetection: ChangeDetectionStrategy.OnPush,
  templateUrl: './sign-in.html',
  styleUrl: './sign-in.scss',
})
export class SignIn {
  private readonly session = inject(Session);
  private readonly who = inject(Who);
  protected readonly people = computed(() => this.who.people() ?? []);
  protected readonly trouble = signal('');
  protected readonly form = new FormGroup({
    personId: new FormControl('', { nonNullable: true, validators: [Validators.required] }),
    pin: new FormControl('', {
      nonNullable: true,
      validators: [Validators.required, Validators.pattern(/^\d{4,8}$/)],
    }),
  });

  constructor() {
    const last = this.who.personId();
    if (last) this.form.controls.personId.setValue(last);
  }

  protected enter(): void {
    const { personId, pin } = this.form.getRawValue();
    if (personId === '') {
      this.trouble.set('Tap your name first.');
      return;
    }
    if (this.form.controls.pin.invalid) {
      this.trouble.set('A PIN is four to eight digits.');
      return;
    }
    this.session.signIn(personId, pin).subscribe({
      next: () => {
        this.who.pick(personId);
        this.form.controls.pin.reset();
      },
      error: (error: unknown) => {
        this.trouble.set(troubleFrom(error).words);
        this.form.controls.pin.reset();
      },
    });
  }
}
