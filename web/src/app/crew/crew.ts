import { ChangeDetectionStrategy, Component, computed, inject, signal } from '@angular/core';
import { MatButtonModule } from '@angular/material/button';
import { MatCheckboxModule } from '@angular/material/checkbox';
import { MatFormFieldModule } from '@angular/material/form-field';
import { MatSelectModule } from '@angular/material/select';
import { RouterLink } from '@angular/router';
import type { CutSign, StrikeView } from '@tally-stone/contract';
import { PageState } from '../parts/state';
import { isWaiting, newId, type Report } from '../data/commands';
import { passes } from '../data/fields';
import { Units } from '../data/units';
import { Fleet } from '../data/fleet';
import { submit } from '../data/submit';
import { GrassLookForm } from '../mower/grass-look';
import { MeterReading, MeterReadingField } from '../mower/meter-reading';
import { STRUCK, STRUCK_HOW, STRUCK_HOW_KEYS, STRUCK_KEYS } from '@tally-stone/core/basics';
import { dueToLookAt, dueWords, heldWords, SIGN_WORDS, wantingWork } from '../mower/fleet-words';

type About = 'strike' | 'cut' | 'hours' | 'grass';
const MINE = 'tally-stone.mower';

const keysOf = <Key extends string>(words: Readonly<Record<Key, string>>): readonly Key[] =>
  Object.keys(words) as Key[];

/** For a phone in the field: what it hit, what the grass shows, the hours, and which set is on. */
@Component({
  selector: 'ts-crew',
  imports: [
    PageState,
    GrassLookForm,
    MatButtonModule,
    MatCheckboxModule,
    MatFormFieldModule,
    MatSelectModule,
    MeterReadingField,
    RouterLink,
  ],
  providers: [Fleet],
  changeDetection: ChangeDetectionStrategy.OnPush,
  templateUrl: './crew.html',
  styleUrl: './crew.scss',
})
export class Crew {
  protected readonly fleet = inject(Fleet);
  protected readonly units = inject(Units);
  private readonly write = submit({
    at: (field) => (field === 'hoursH' ? this.meter.hours : undefined),
  });
  protected readonly struck = STRUCK;
  protected readonly struckHow = STRUCK_HOW;
  protected readonly signWords = SIGN_WORDS;
  protected readonly whats = STRUCK_KEYS;
  protected readonly hards = STRUCK_HOW_KEYS;
  protected readonly signs = keysOf(SIGN_WORDS);
  protected readonly asks: readonly { readonly key: About; readonly words: string }[] = [
    { key: 'strike', words: $localize`It struck something` },
    { key: 'cut', words: $localize`The cut is poor` },
    { key: 'hours', words: $localize`Enter the hours` },
    { key: 'grass', words: $localize`Look at the grass` },
  ];

  private readonly picked = signal(localStorage.getItem(MINE) ?? '');
  protected readonly about = signal<About | undefined>(undefined);
  protected readonly what = signal<StrikeView['what']>('something');
  protected readonly hard = signal<StrikeView['hard'] | undefined>(undefined);
  protected readonly shakes = signal(false);
  protected readonly shown = signal<readonly CutSign[]>([]);
  protected readonly meter = new MeterReading(() => this.mower()?.hoursH);
  protected readonly error = this.write.words;
  protected readonly notice = signal('');

  protected readonly mower = computed(() => {
    const mowers = this.fleet.view()?.mowers ?? [];
    return mowers.find(({ mowerId }) => mowerId === this.picked()) ?? mowers[0];
  });
  protected readonly mowerId = computed(() => this.mower()?.mowerId ?? '');
  protected readonly due = computed(() => dueWords(this.mower()?.deck.due, true));
  protected readonly heldWords = heldWords;
  protected readonly wanting = computed(() => wantingWork(this.mower()?.upkeep ?? []));
  protected readonly toLookAt = computed(() => dueToLookAt(this.mower()?.upkeep ?? []).join(', '));
  protected readonly codes = computed(() =>
    (this.mower()?.deck.spindles ?? [])
      .flatMap(({ position, blade }) => (blade ? [`${position} ${blade.code}`] : []))
      .join(', '),
  );
  protected readonly ready = computed(() => {
    const deck = this.mower()?.deck;
    if (!deck?.figures?.specId) return '';
    const sets = Math.floor(deck.readyBlades / deck.spindles.length);
    if (sets === 0) return $localize`No whole set of its blades is ready in the rack.`;
    return sets === 1
      ? $localize`One set is ready in the rack.`
      : $localize`${sets} sets are ready in the rack.`;
  });
  protected pick(mowerId: string): void {
    this.picked.set(mowerId);
    localStorage.setItem(MINE, mowerId);
    this.notice.set('');
    this.write.say('');
  }

  protected askAbout(about: About): void {
    this.about.update((now) => (now === about ? undefined : about));
    this.notice.set('');
    this.write.say('');
  }

  protected show(sign: CutSign): void {
    this.shown.update((all) =>
      all.includes(sign) ? all.filter((each) => each !== sign) : [...all, sign],
    );
  }

  private async send(act: Report, done: string, then = ''): Promise<void> {
    const answer = await this.write.report(act);
    if (!answer) return;
    const kept = $localize`No signal: kept on this phone, and sent by itself when there is one.`;
    this.notice.set(`${isWaiting(answer) ? kept : done} ${then}`.trim());
    this.about.set(undefined);
    this.hard.set(undefined);
    this.shakes.set(false);
    this.shown.set([]);
    this.meter.reset();
    if (!isWaiting(answer)) await this.fleet.refresh();
  }

  protected strike(): Promise<void> {
    const [hard, what] = [this.hard(), this.what()];
    if (!hard) return Promise.resolve();
    const stop = this.shakes() || hard !== 'glanced';
    return this.send(
      {
        type: 'report-strike',
        strikeId: newId(),
        mowerId: this.mowerId(),
        what,
        hard,
        vibration: this.shakes(),
      },
      $localize`Reported.`,
      stop
        ? $localize`Stop: do not run it before blades, spindle and mount are looked at.`
        : $localize`Its blades are due now.`,
    );
  }

  protected cut(): Promise<void> {
    return this.send(
      {
        type: 'report-cut',
        reportId: newId(),
        mowerId: this.mowerId(),
        signs: [...this.shown()],
      },
      $localize`Reported.`,
      $localize`Its blades are due now.`,
    );
  }

  protected async seen(words: string): Promise<void> {
    this.about.set(undefined);
    this.notice.set(words);
    await this.fleet.refresh();
  }

  protected async read(): Promise<void> {
    const { hours } = this.meter;
    const hoursH = hours.quantity;
    if (!passes(hours) || hoursH === undefined) {
      this.write.showFirstWrong();
      return;
    }
    const because = this.meter.because();
    await this.send(
      {
        type: 'read-hours',
        mowerId: this.mowerId(),
        hoursH,
        ...(because && this.meter.backward() ? { because } : {}),
      },
      $localize`The hours are kept.`,
    );
  }
}
