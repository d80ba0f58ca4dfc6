import { ChangeDetectionStrategy, Component, computed, inject, signal } from '@angular/core';
import { MatButtonModule } from '@angular/material/button';
import { RouterLink } from '@angular/router';
import type { CutSign, MeterReason, StrikeView } from '@tally-stone/contract';
import { firstValueFrom } from 'rxjs';
import { Commands, isWaiting, newId, type Report } from '../data/commands';
import { Fleet } from '../data/fleet';
import { troubleFrom } from '../data/problem';
import { dueWords, HARD_WORDS, SIGN_WORDS, STRIKE_WORDS } from './fleet-words';

type About = 'strike' | 'cut' | 'hours';
const MINE = 'tally-stone.mower';

const METER_WORDS: Readonly<Record<MeterReason, string>> = {
  'new-meter': 'New meter',
  'meter-reset': 'Meter was reset',
  'misread-before': 'Misread last time',
};

const keysOf = <Key extends string>(words: Readonly<Record<Key, string>>): readonly Key[] =>
  Object.keys(words) as Key[];

/** For a phone in the field: what it hit, what the grass shows, the hours, and which set is on. */
@Component({
  selector: 'ts-crew',
  imports: [MatButtonModule, RouterLink],
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    <label class="pick"
      >Which mower
      <select [value]="mowerId()" (change)="pick($any($event.target).value)">
        @for (each of fleet.view()?.mowers ?? []; track each.mowerId) {
          <option [value]="each.mowerId" [selected]="each.mowerId === mowerId()">
            {{ each.name }}, {{ each.site }}
          </option>
        }
      </select></label
    >
    @if (fleet.trouble()) {
      <p class="bad" role="alert">{{ fleet.trouble() }}</p>
    }
    @if (mower(); as mower) {
      @if (mower.deck.strike?.stopUse) {
        <p class="stop" role="alert">
          <strong>Do not run {{ mower.name }}.</strong> It struck something and nobody has looked at
          blades, spindle and mount yet.
        </p>
      }
      <h1>{{ mower.name }}</h1>
      <p class="on">
        @if (mower.deck.fittedAt) {
          On it: {{ codes() }}. {{ mower.deck.hoursOnEdge.toFixed(1) }} h on the edge, {{ due() }}.
        } @else {
          No set on it.
        }
        {{ ready() }}
      </p>
      <div class="asks">
        @for (ask of asks; track ask.key) {
          <button
            mat-stroked-button
            class="big"
            [class.chosen]="about() === ask.key"
            [attr.aria-pressed]="about() === ask.key"
            (click)="askAbout(ask.key)"
          >
            {{ ask.words }}
          </button>
        }
      </div>
      @switch (about()) {
        @case ('strike') {
          <h2>What did it hit?</h2>
          <div class="choices">
            @for (each of whats; track each) {
              <button
                mat-stroked-button
                class="big"
                [class.chosen]="what() === each"
                [attr.aria-pressed]="what() === each"
                (click)="what.set(each)"
              >
                {{ strikeWords[each] }}
              </button>
            }
          </div>
          <h2>How hard?</h2>
          <div class="choices">
            @for (each of hards; track each) {
              <button
                mat-stroked-button
                class="big"
                [class.chosen]="hard() === each"
                [attr.aria-pressed]="hard() === each"
                (click)="hard.set(each)"
              >
                {{ hardWords[each] }}
              </button>
            }
          </div>
          <label class="tick"
            ><input type="checkbox" [checked]="shakes()" (change)="shakes.set(!shakes())" />
            <span>It shakes: hands or deck</span></label
          >
          <button mat-flat-button class="next-thing" [disabled]="!hard()" (click)="strike()">
            Report the strike
          </button>
        }
        @case ('cut') {
          <h2>What does the grass show?</h2>
          <div class="choices">
            @for (each of signs; track each) {
              <button
                mat-stroked-button
                class="big"
                [class.chosen]="shown().includes(each)"
                [attr.aria-pressed]="shown().includes(each)"
                (click)="show(each)"
              >
                {{ signWords[each] }}
              </button>
            }
          </div>
          <button
            mat-flat-button
            class="next-thing"
            [disabled]="shown().length === 0"
            (click)="cut()"
          >
            Report the cut
          </button>
        }
        @case ('hours') {
          <form (submit)="read($event)">
            <label class="pick"
              >The meter shows, h
              <input
                #meter
                inputmode="decimal"
                autocomplete="off"
                [value]="hours()"
                (input)="hours.set(meter.value)"
            /></label>
            <p class="quiet">Last read {{ mower.hoursH.toFixed(1) }} h.</p>
            @if (backward()) {
              <h2>That is less than last time. Why?</h2>
              <div class="choices">
                @for (each of reasons; track each) {
                  <button
                    mat-stroked-button
                    class="big"
                    type="button"
                    [class.chosen]="because() === each"
                    [attr.aria-pressed]="because() === each"
                    (click)="because.set(each)"
                  >
                    {{ meterWords[each] }}
                  </button>
                }
              </div>
            }
            <button mat-flat-button class="next-thing" type="submit">Keep the hours</button>
          </form>
        }
      }
      @if (error()) {
        <p class="bad" role="alert">{{ error() }}</p>
      }
      @if (said()) {
        <p class="said" role="status">{{ said() }}</p>
      }
      <p><a [routerLink]="['/mower', mower.mowerId]">Its deck and what its manual says</a></p>
    } @else if (fleet.view()) {
      <p class="quiet">No mower is known yet.</p>
    }
  `,
  styles: `
    :host {
      display: block;
      max-width: 560px;
      padding: 12px 16px 32px;
    }
    .pick {
      display: grid;
      gap: 4px;
      font-weight: 500;
    }
    select,
    .pick input {
      min-height: 56px;
      width: 100%;
      padding: 0 10px;
      font-size: 20px;
      background: var(--slab);
    }
    h1 {
      margin: 16px 0 0;
      font-size: 28px;
    }
    h2 {
      margin: 18px 0 6px;
      font-size: 20px;
    }
    .on {
      margin: 4px 0 12px;
    }
    .asks,
    .choices {
      display: grid;
      grid-template-columns: repeat(auto-fit, minmax(150px, 1fr));
      gap: 8px;
    }
    .asks .big,
    .choices .big {
      min-height: 64px;
      white-space: normal;
      line-height: 1.2;
    }
    .chosen.mat-mdc-button-base {
      background: var(--ink);
      color: var(--chalk);
    }
    .tick {
      display: flex;
      align-items: center;
      gap: 14px;
      min-height: 64px;
      margin-top: 12px;
      font-size: 19px;
    }
    .tick input {
      width: 32px;
      height: 32px;
      accent-color: var(--ink);
    }
    .stop {
      padding: 12px 16px;
      background: var(--bad-wash);
      border-left: 6px solid var(--bad);
    }
    .said {
      padding: 12px 16px;
      font-weight: 600;
      background: var(--slab);
      border-left: 6px solid var(--good);
    }
    .next-thing {
      width: 100%;
      margin-top: 16px;
    }
  `,
})
export class Crew {
  protected readonly fleet = inject(Fleet);
  private readonly commands = inject(Commands);
  protected readonly strikeWords = STRIKE_WORDS;
  protected readonly hardWords = HARD_WORDS;
  protected readonly signWords = SIGN_WORDS;
  protected readonly meterWords = METER_WORDS;
  protected readonly whats = keysOf(STRIKE_WORDS);
  protected readonly hards = keysOf(HARD_WORDS);
  protected readonly signs = keysOf(SIGN_WORDS);
  protected readonly reasons = keysOf(METER_WORDS);
  protected readonly asks: readonly { readonly key: About; readonly words: string }[] = [
    { key: 'strike', words: 'It struck something' },
    { key: 'cut', words: 'The cut is poor' },
    { key: 'hours', words: 'Say the hours' },
  ];

  private readonly picked = signal(localStorage.getItem(MINE) ?? '');
  protected readonly about = signal<About | undefined>(undefined);
  protected readonly what = signal<StrikeView['what']>('something');
  protected readonly hard = signal<StrikeView['hard'] | undefined>(undefined);
  protected readonly shakes = signal(false);
  protected readonly shown = signal<readonly CutSign[]>([]);
  protected readonly hours = signal('');
  protected readonly because = signal<MeterReason | undefined>(undefined);
  protected readonly error = signal('');
  protected readonly said = signal('');

  protected readonly mower = computed(() => {
    const mowers = this.fleet.view()?.mowers ?? [];
    return mowers.find(({ mowerId }) => mowerId === this.picked()) ?? mowers[0];
  });
  protected readonly mowerId = computed(() => this.mower()?.mowerId ?? '');
  protected readonly due = computed(() => dueWords(this.mower()?.deck.due, true));
  protected readonly codes = computed(() =>
    (this.mower()?.deck.spindles ?? [])
      .flatMap(({ position, blade }) => (blade ? [`${position} ${blade.code}`] : []))
      .join(', '),
  );
  protected readonly ready = computed(() => {
    const deck = this.mower()?.deck;
    if (!deck?.figures?.specId) return '';
    const sets = Math.floor(deck.readyBlades / deck.spindles.length);
    if (sets === 0) return 'No whole set of its blades is ready in the rack.';
    return sets === 1 ? 'One set is ready in the rack.' : `${sets} sets are ready in the rack.`;
  });
  protected readonly backward = computed(() => {
    const typed = Number(this.hours().replace(',', '.'));
    return this.hours().trim() !== '' && typed < (this.mower()?.hoursH ?? 0);
  });

  constructor() {
    void this.fleet.refresh();
  }

  protected pick(mowerId: string): void {
    this.picked.set(mowerId);
    localStorage.setItem(MINE, mowerId);
    this.said.set('');
    this.error.set('');
  }

  protected askAbout(about: About): void {
    this.about.update((now) => (now === about ? undefined : about));
    this.said.set('');
    this.error.set('');
  }

  protected show(sign: CutSign): void {
    this.shown.update((all) =>
      all.includes(sign) ? all.filter((each) => each !== sign) : [...all, sign],
    );
  }

  private async send(act: Report, done: string, then = ''): Promise<void> {
    try {
      const heard = await firstValueFrom(this.commands.report(act));
      this.error.set('');
      const kept = 'No signal: kept on this phone, and sent by itself when there is one.';
      this.said.set(`${isWaiting(heard) ? kept : done} ${then}`.trim());
      this.about.set(undefined);
      this.hard.set(undefined);
      this.shakes.set(false);
      this.shown.set([]);
      this.hours.set('');
      this.because.set(undefined);
      if (!isWaiting(heard)) await this.fleet.refresh();
    } catch (error) {
      const { words, fields } = troubleFrom(error);
      const [named] = Object.values(fields);
      this.error.set(named ? `The reading ${named}.` : words);
    }
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
      'Reported.',
      stop
        ? 'Stop: do not run it before blades, spindle and mount are looked at.'
        : 'Its blades are due now.',
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
      'Reported.',
      'Its blades are due now.',
    );
  }

  protected async read(event: Event): Promise<void> {
    event.preventDefault();
    const hoursH = Number(this.hours().replace(',', '.'));
    if (this.hours().trim() === '' || !Number.isFinite(hoursH)) {
      this.error.set('The reading is not a number: type what the meter shows.');
      return;
    }
    const because = this.because();
    await this.send(
      {
        type: 'read-hours',
        mowerId: this.mowerId(),
        hoursH,
        ...(because && this.backward() ? { because } : {}),
      },
      'The hours are kept.',
    );
  }
}
