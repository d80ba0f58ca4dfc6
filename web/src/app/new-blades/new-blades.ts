import { ChangeDetectionStrategy, Component, computed, inject, signal } from '@angular/core';
import { FormGroup, ReactiveFormsModule } from '@angular/forms';
import { MatButtonModule } from '@angular/material/button';
import { MatRadioModule } from '@angular/material/radio';
import { RouterLink } from '@angular/router';
import { RegisterBlades, type CommandAnswer } from '@tally-stone/contract';
import { NamedPipe } from '../parts/named.pipe';
import { Api } from '../data/api';
import { passes, QuantityControl, text } from '../data/fields';
import { shown } from '../data/shown';
import { inForm, submit } from '../data/submit';
import { Units } from '../data/units';
import { LabelSheet } from '../parts/label-sheet';
import { QuantityField } from '../parts/form/quantity-field';
import { TextField } from '../parts/form/text-field';
import { PegTags } from '../intake/peg-tags';

const FIELD_WORDS: Readonly<Record<string, string>> = {
  specId: $localize`Which spec`,
  personId: $localize`Who`,
};

/** New blades, several at once from one spec, with the codes to stamp in order. */
@Component({
  selector: 'ts-new-blades',
  imports: [
    NamedPipe,
    LabelSheet,
    MatButtonModule,
    MatRadioModule,
    PegTags,
    QuantityField,
    ReactiveFormsModule,
    RouterLink,
    TextField,
  ],
  changeDetection: ChangeDetectionStrategy.OnPush,
  templateUrl: './new-blades.html',
  styleUrl: './new-blades.scss',
})
export class NewBlades {
  private readonly api = inject(Api);
  protected readonly units = inject(Units);
  protected readonly write = submit({ names: FIELD_WORDS, at: inForm(() => this.form) });
  protected readonly specs = shown(() => this.api.specs(), {
    about: 'nothing',
    then: () => {
      this.form.controls.specId.setValue(this.asMade()?.[0]?.specId ?? '');
    },
  });
  /** A new blade is as its maker made it: nobody has trimmed it yet. */
  protected readonly asMade = computed(() =>
    this.specs.value()?.filter(({ figures }) => !figures.trimmedFrom),
  );
  protected readonly given = signal<NonNullable<CommandAnswer['blades']>>([]);
  protected readonly codes = computed(() => this.given().map(({ code }) => code));
  protected readonly givenOf = signal('');
  protected readonly form = new FormGroup({
    specId: text(),
    count: new QuantityControl('', RegisterBlades.shape.count, this.units, { start: 3 }),
    place: text($localize`New on the shelf`, RegisterBlades.shape.place),
  });

  protected async register(): Promise<void> {
    const count = this.form.controls.count.quantity;
    if (!passes(this.form) || count === undefined) {
      this.write.showFirstWrong();
      return;
    }
    const { specId, place } = this.form.getRawValue();
    const act = { type: 'register-blades' as const, specId, count, place };
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
