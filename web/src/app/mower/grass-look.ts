import {
  ChangeDetectionStrategy,
  Component,
  computed,
  inject,
  input,
  output,
  signal,
} from '@angular/core';
import { toSignal } from '@angular/core/rxjs-interop';
import { FormGroup, ReactiveFormsModule } from '@angular/forms';
import { MatButtonModule } from '@angular/material/button';
import { MatButtonToggleModule } from '@angular/material/button-toggle';
import { type GrassTip, MeterHours, SeenTips } from '@tally-stone/contract';
import { tornShare } from '@tally-stone/core';
import { isWaiting, newId } from '../data/commands';
import { passes, QuantityControl, refuse } from '../data/fields';
import { inForm, submit } from '../data/submit';
import { Units } from '../data/units';
import { QuantityField } from '../parts/form/quantity-field';
import { GrassPicture } from './grass-picture';
import { tornWords } from './grass-words';

/** A wider range than this each way tells two edges apart poorly. Common practice, no source. */
const WIDE = 0.15;

/** Cut tips of grass, looked at close: one picture, the torn ones touched, then the clean ones; or counted without one. */
@Component({
  selector: 'ts-grass-look',
  imports: [
    GrassPicture,
    MatButtonModule,
    MatButtonToggleModule,
    QuantityField,
    ReactiveFormsModule,
  ],
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    <p i18n>
      Pick twenty or so cut tips from where it mowed last, lay them side by side on something dark,
      and go close. A clean tip is cut straight across; a torn one is frayed or drawn out.
    </p>
    <p class="row">
      <button i18n mat-stroked-button class="big" type="button" (click)="file.click()">
        @if (picture()) {
          Another picture
        } @else {
          Take the picture
        }
      </button>
      <input
        #file
        hidden
        type="file"
        accept="image/*"
        capture="environment"
        aria-label="Picture of the tips"
        i18n-aria-label
        (change)="take(file)"
      />
      <span i18n class="quiet">Mower off and away before anybody bends down.</span>
    </p>
    @if (trouble()) {
      <p class="bad" role="alert">{{ trouble() }}</p>
    }
    @if (picture(); as picture) {
      <mat-button-toggle-group
        [value]="torn()"
        (change)="torn.set($event.value)"
        aria-label="What is touched"
        i18n-aria-label
        hideSingleSelectionIndicator
      >
        <mat-button-toggle i18n [value]="true">Touch the torn ones</mat-button-toggle>
        <mat-button-toggle i18n [value]="false">Touch the clean ones</mat-button-toggle>
      </mat-button-toggle-group>
      <ts-grass-picture
        [picture]="picture"
        (failed)="notAPicture()"
        [tips]="tips()"
        touchable
        (touched)="touch($event)"
        (dropped)="drop($event)"
      />
    }
    <form [formGroup]="form" (ngSubmit)="keep()">
      <ts-quantity [control]="form.controls.torn" label="Torn tips" i18n-label after="tips" />
      <ts-quantity [control]="form.controls.clean" label="Clean tips" i18n-label after="tips" />
      <ts-quantity
        [control]="form.controls.hoursH"
        label="Hour meter"
        i18n-label
        usual="as it was"
        i18n-usual
      />
      <p class="share" aria-live="polite">{{ share() }}</p>
      @if (error()) {
        <p class="bad" role="alert">{{ error() }}</p>
      }
      <button i18n mat-flat-button class="next-thing">Keep what the grass shows</button>
    </form>
  `,
  styles: `
    :host {
      display: grid;
      gap: 12px;
      justify-items: start;
    }
    form {
      width: 100%;
    }
    .row,
    form {
      display: flex;
      flex-wrap: wrap;
      gap: 12px 20px;
      align-items: center;
    }
    p {
      margin: 0;
    }
    .share {
      flex-basis: 100%;
      min-height: 1.4em;
      font-weight: 600;
    }
  `,
})
export class GrassLookForm {
  private readonly units = inject(Units);
  readonly mowerId = input.required<string>();
  /** Kept, in words: at once, or when there is a signal again. */
  readonly kept = output<string>();
  protected readonly tips = signal<readonly GrassTip[]>([]);
  protected readonly torn = signal(true);
  protected readonly picture = signal<Blob | undefined>(undefined);
  protected readonly trouble = signal('');
  private readonly count = (key: 'torn' | 'clean'): QuantityControl =>
    new QuantityControl('', SeenTips.shape[key], this.units);
  protected readonly form = new FormGroup({
    torn: this.count('torn'),
    clean: this.count('clean'),
    hoursH: new QuantityControl('h', MeterHours, this.units, { optional: true }),
  });
  private readonly typed = toSignal(this.form.valueChanges);
  private readonly write = submit({ at: inForm(() => this.form) });
  protected readonly error = this.write.words;

  protected take(field: HTMLInputElement): void {
    const file = field.files?.[0];
    field.value = '';
    if (!file) return;
    this.trouble.set('');
    this.picture.set(file);
    this.put([]);
  }

  protected notAPicture(): void {
    this.picture.set(undefined);
    this.trouble.set(
      $localize`This is not a picture that can be shown here: take a JPEG, PNG or WebP.`,
    );
  }

  /** What was touched is what was counted. */
  private put(tips: readonly GrassTip[]): void {
    this.tips.set(tips);
    const torn = tips.filter((tip) => tip.torn).length;
    this.form.controls.torn.put(tips.length > 0 ? torn : undefined);
    this.form.controls.clean.put(tips.length > 0 ? tips.length - torn : undefined);
  }

  protected touch(at: { readonly x: number; readonly y: number }): void {
    this.put([...this.tips(), { ...at, torn: this.torn() }]);
  }

  protected drop(index: number): void {
    this.put(this.tips().filter((_, i) => i !== index));
  }

  /** The counts and, where they are those of the touches, the touches. */
  private readonly seen = computed((): SeenTips | undefined => {
    this.typed();
    const [torn, clean] = [this.form.controls.torn.quantity, this.form.controls.clean.quantity];
    if (torn === undefined || clean === undefined) return undefined;
    const tips = this.tips();
    const touched = tips.filter((tip) => tip.torn).length;
    const same = touched === torn && tips.length - touched === clean;
    return { tips: same ? [...tips] : [], torn, clean };
  });

  protected readonly share = computed(() => {
    const seen = this.seen();
    if (!seen || !SeenTips.safeParse(seen).success) return '';
    const found = tornShare(seen.torn, seen.clean);
    const wide = found.high - found.low > 2 * WIDE;
    return $localize`${tornWords(found)} of ${seen.torn + seen.clean} tips${wide ? $localize`\: the more tips, the narrower` : ''}.`;
  });

  protected async keep(): Promise<void> {
    const fine = passes(this.form);
    const seen = this.seen();
    const issue = seen && SeenTips.safeParse(seen).error?.issues[0];
    if (issue)
      refuse(this.form.controls[issue.path[0] === 'torn' ? 'torn' : 'clean'], issue.message);
    if (!fine || !seen || issue) {
      this.write.showFirstWrong();
      return;
    }
    const hoursH = this.form.controls.hoursH.quantity;
    const answer = await this.write.report(
      {
        type: 'look-at-grass',
        lookId: newId(),
        mowerId: this.mowerId(),
        seen,
        file: '',
        ...(hoursH === undefined ? {} : { hoursH }),
      },
      this.picture(),
    );
    if (!answer) return;
    this.picture.set(undefined);
    this.put([]);
    this.form.reset();
    this.kept.emit(
      isWaiting(answer)
        ? $localize`No signal: kept on this phone, and sent by itself when there is one.`
        : $localize`Kept.`,
    );
  }
}
