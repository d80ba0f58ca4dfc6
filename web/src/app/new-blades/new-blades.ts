import { ChangeDetectionStrategy, Component, inject, signal } from '@angular/core';
import { FormControl, FormGroup, ReactiveFormsModule } from '@angular/forms';
import { MatButtonModule } from '@angular/material/button';
import { RouterLink } from '@angular/router';
import type { CommandAnswer, SpecRevision } from '@tally-stone/contract';
import { firstValueFrom } from 'rxjs';
import { Api } from '../data/api';
import { Commands } from '../data/commands';
import { troubleFrom } from '../data/problem';
import { Units } from '../data/units';
import { PegTags } from '../intake/peg-tags';

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
  private readonly commands = inject(Commands);
  protected readonly units = inject(Units);
  protected readonly specs = signal<readonly SpecRevision[] | undefined>(undefined);
  protected readonly given = signal<NonNullable<CommandAnswer['blades']>>([]);
  protected readonly givenOf = signal('');
  protected readonly errors = signal<Readonly<Record<string, string>>>({});
  protected readonly form = new FormGroup({
    specId: new FormControl('', { nonNullable: true }),
    count: new FormControl('3', { nonNullable: true }),
    place: new FormControl('New on the shelf', { nonNullable: true }),
  });

  constructor() {
    void this.load();
  }

  protected async register(): Promise<void> {
    const { specId, count, place } = this.form.getRawValue();
    try {
      const answer = await firstValueFrom(
        this.commands.shop({ type: 'register-blades', specId, count: Number(count), place }),
      );
      this.given.set(answer.blades ?? []);
      this.givenOf.set(this.specs()?.find((spec) => spec.specId === specId)?.figures.name ?? '');
      this.errors.set({});
    } catch (error) {
      const { words, fields } = troubleFrom(error);
      this.errors.set(Object.keys(fields).length > 0 ? fields : { all: words });
    }
  }

  protected print(): void {
    window.print();
  }

  private async load(): Promise<void> {
    try {
      const specs = await firstValueFrom(this.api.specs());
      this.specs.set(specs);
      this.form.controls.specId.setValue(specs[0]?.specId ?? '');
    } catch (error) {
      this.specs.set([]);
      this.errors.set({ all: troubleFrom(error).words });
    }
  }
}
