import { ChangeDetectionStrategy, Component, inject, signal } from '@angular/core';
import { FormControl, FormGroup, ReactiveFormsModule } from '@angular/forms';
import { MatButtonModule } from '@angular/material/button';
import { RouterLink } from '@angular/router';
import type { CommandAnswer } from '@tally-stone/contract';
import { Api } from '../data/api';
import { shown } from '../data/shown';
import { submit } from '../data/submit';
import { Units } from '../data/units';
import { PegTags } from '../intake/peg-tags';

const FIELD_WORDS: Readonly<Record<string, string>> = {
  specId: 'Which spec',
  count: 'How many',
  place: 'Where they lie',
  personId: 'Who',
};

/** New blades, several at once from one spec, with the codes to stamp in order. */
@Component({
  selector: 'ts-new-blades',
  imports: [MatButtonModule, PegTags, ReactiveFormsModule, RouterLink],
  changeDetection: ChangeDetectionStrategy.OnPush,
  templateUrl: './new-blades.html',
  styleUrl: './new-blades.scss',
})
export class NewBlades {
  private readonly api = inject(Api);
  protected readonly units = inject(Units);
  protected readonly write = submit({ names: FIELD_WORDS });
  protected readonly specs = shown(() => this.api.specs(), {
    about: 'nothing',
    then: ([first]) => {
      this.form.controls.specId.setValue(first?.specId ?? '');
    },
  });
  protected readonly given = signal<NonNullable<CommandAnswer['blades']>>([]);
  protected readonly givenOf = signal('');
  protected readonly form = new FormGroup({
    specId: new FormControl('', { nonNullable: true }),
    count: new FormControl('3', { nonNullable: true }),
    place: new FormControl('New on the shelf', { nonNullable: true }),
  });

  protected async register(): Promise<void> {
    const { specId, count, place } = this.form.getRawValue();
    const act = { type: 'register-blades' as const, specId, count: Number(count), place };
    const answer = await this.write.send(act);
    if (!answer) return;
    this.given.set(answer.blades ?? []);
    this.givenOf.set(
      this.specs.value()?.find((spec) => spec.specId === specId)?.figures.name ?? '',
    );
  }

  protected print(): void {
    window.print();
  }
}
