import { ChangeDetectionStrategy, Component, computed, inject, input, signal } from '@angular/core';
import { MatButtonModule } from '@angular/material/button';
import { RouterLink } from '@angular/router';
import { TIP_SPEED_LIMIT_M_PER_S, torqueIn } from '@tally-stone/core';
import { firstValueFrom } from 'rxjs';
import { Commands } from '../data/commands';
import { Days } from '../data/days';
import { Fleet } from '../data/fleet';
import { troubleFrom } from '../data/problem';
import { Units } from '../data/units';
import { DeckDrawing } from './deck-drawing';
import { DeckForm } from './deck-form';
import { Replacement } from './replacement';
import { dueWords, HARD_WORDS, RAISING_WORDS, STRIKE_WORDS } from './fleet-words';

/** One mower: its deck from above, what its manual says, what it struck, what is next. */
@Component({
  selector: 'ts-mower-page',
  imports: [DeckDrawing, DeckForm, MatButtonModule, Replacement, RouterLink],
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    <p><a routerLink="/mowers">All mowers</a></p>
    @if (fleet.trouble()) {
      <p class="bad" role="alert">{{ fleet.trouble() }}</p>
    }
    @if (mower(); as mower) {
      <div class="head">
        <div>
          <h1>{{ mower.name }}</h1>
          <p class="quiet">
            {{ mower.site }}, {{ mower.energy }}, meter {{ mower.hoursH.toFixed(1) }} h
          </p>
          <p class="due" [class.now]="mower.deck.due?.state === 'now'">{{ due() }}</p>
        </div>
        <a mat-flat-button class="next-thing" [routerLink]="['/mower', mower.mowerId, 'change']">{{
          mower.deck.fittedAt ? 'Change the set' : 'Fit a set'
        }}</a>
      </div>
      @if (mower.deck.strike; as strike) {
        <section class="strike" role="status">
          <strong>
            It struck {{ strikeWords[strike.what] }}, {{ days.full(strike.at) }}.
            {{ hardWords[strike.hard] }}{{ strike.vibration ? ', and it shakes' : '' }}.
          </strong>
          <p>
            {{
              strike.stopUse
                ? 'Nobody runs it before blades, spindle and mount are looked at.'
                : 'Look at blades, spindle and mount when the set is changed.'
            }}
          </p>
          <button mat-stroked-button class="big" (click)="clear(strike.strikeId, true)">
            Spindle runs true, mount sound
          </button>
          <button mat-button class="big" (click)="clear(strike.strikeId, false)">Not sound</button>
        </section>
      }
      @if (error()) {
        <p class="bad" role="alert">{{ error() }}</p>
      }
      @if (broken()) {
        <ts-replacement [mower]="mower" />
      }
      <section aria-label="Deck">
        <ts-deck-drawing [deck]="mower.deck" />
        @for (fault of mower.deck.faults; track fault) {
          <p class="bad">{{ fault }}</p>
        }
        @if (!mower.deck.figures) {
          <p class="quiet">Nobody has measured this deck: drawn as usual, nothing is checked.</p>
        }
        <dl>
          @for (fact of facts(); track fact.name) {
            <div>
              <dt>{{ fact.name }}</dt>
              <dd [class.bad]="fact.bad">{{ fact.words }}</dd>
              @if (fact.source) {
                <dd class="quiet source">{{ fact.source }}</dd>
              }
            </div>
          }
        </dl>
        <button
          mat-stroked-button
          class="big"
          [attr.aria-expanded]="measuring()"
          (click)="measuring.set(!measuring())"
        >
          {{ mower.deck.figures ? 'Measure the deck again' : 'Measure the deck' }}
        </button>
        @if (measuring()) {
          <ts-deck-form [deck]="mower.deck" (kept)="measuring.set(false)" />
        }
      </section>
    }
  `,
  styles: `
    :host {
      display: block;
      padding: 12px 24px 24px;
    }
    .head {
      display: flex;
      flex-wrap: wrap;
      justify-content: space-between;
      align-items: flex-start;
      gap: 12px;
    }
    h1 {
      margin: 0;
      font-size: 32px;
    }
    p {
      margin: 4px 0 8px;
    }
    .due {
      font-size: 20px;
      font-weight: 600;
    }
    .due.now {
      color: var(--spark);
    }
    section {
      margin-top: 12px;
      padding: 16px 20px;
      background: var(--slab);
    }
    .strike {
      border-left: 6px solid var(--bad);
    }
    dl {
      display: grid;
      grid-template-columns: repeat(auto-fill, minmax(230px, 1fr));
      gap: 8px 24px;
      margin: 16px 0;
    }
    dt {
      color: var(--steel);
    }
    dd {
      margin: 0;
      font-size: 20px;
      font-weight: 600;
    }
    .source {
      font-size: 15px;
      font-weight: 400;
    }
  `,
})
export class MowerPage {
  protected readonly fleet = inject(Fleet);
  protected readonly days = inject(Days);
  private readonly units = inject(Units);
  private readonly commands = inject(Commands);
  readonly mowerId = input.required<string>();
  protected readonly strikeWords = STRIKE_WORDS;
  protected readonly hardWords = HARD_WORDS;
  protected readonly measuring = signal(false);
  protected readonly error = signal('');
  /** Some spindles have their blade and some have none. */
  protected readonly broken = computed(() => {
    const spindles = this.mower()?.deck.spindles ?? [];
    const on = spindles.filter(({ blade }) => blade !== undefined).length;
    return on > 0 && on < spindles.length;
  });
  protected readonly mower = computed(() => this.fleet.mower(this.mowerId()));

  constructor() {
    void this.fleet.refresh();
  }

  protected readonly due = computed(() => {
    const deck = this.mower()?.deck;
    if (!deck) return '';
    const edge = deck.fittedAt
      ? `${deck.hoursOnEdge.toFixed(1)} h on the edge since ${this.days.short(deck.fittedAt)}`
      : '';
    const bench = deck.due?.benchOn ? `bench day ${this.days.short(deck.due.benchOn)}` : '';
    const words = dueWords(deck.due, deck.fittedAt !== undefined);
    return [words, edge, bench].filter(Boolean).join(' · ');
  });

  protected readonly facts = computed(() => {
    const deck = this.mower()?.deck;
    if (!deck) return [];
    const { figures, torqueNm, tipSpeedMPerS, tooFast, bladeSpeedRpm, specName } = deck;
    const torque = torqueNm === undefined ? undefined : torqueIn(torqueNm);
    const facts: { name: string; words: string; source?: string; bad?: boolean }[] = [
      { name: 'Blades', words: specName ?? 'not said' },
      { name: 'Blade speed', words: `${bladeSpeedRpm} rpm` },
    ];
    if (tipSpeedMPerS !== undefined) {
      facts.push({
        name: 'Tip speed',
        words: `${tipSpeedMPerS.toFixed(1)} m/s`,
        source: `at most ${TIP_SPEED_LIMIT_M_PER_S} m/s (ANSI/OPEI B71.1, from memory)`,
        bad: tooFast,
      });
    }
    if (torque && figures?.boltTorque) {
      const { text, unit } = figures.boltTorque;
      const others = (Object.entries(torque) as [string, number][])
        .filter(([each]) => each !== unit)
        .map(([each, value]) => `${value.toFixed(each === 'lbf·in' ? 0 : 1)} ${each}`);
      facts.push({
        name: 'Bolt torque',
        words: `${text} ${unit}, the manual's`,
        source: others.join(' · '),
      });
    }
    if (figures) {
      const { stack, raising, timed, leastClearanceMm, leastOverlapMm, duty } = figures;
      facts.push(
        { name: 'On the bolt, from the spindle out', words: stack.join(', ') || 'nothing' },
        { name: 'To get at the blades', words: RAISING_WORDS[raising] },
        {
          name: 'Between blades',
          words: `${this.units.show(leastClearanceMm, 'mm', 0)} clear, ${this.units.show(leastOverlapMm, 'mm', 0)} overlap at least`,
          ...(timed ? { source: 'geared together: they may reach into each other’s circles' } : {}),
        },
        { name: 'Ground', words: `${duty.turf} turf, ${duty.soil} soil` },
      );
    }
    return facts;
  });

  protected async clear(strikeId: string, sound: boolean): Promise<void> {
    try {
      await firstValueFrom(
        this.commands.shop({
          type: 'clear-strike',
          strikeId,
          spindleSound: sound,
          mountSound: sound,
        }),
      );
      this.error.set('');
      await this.fleet.refresh();
    } catch (error) {
      this.error.set(
        sound
          ? troubleFrom(error).words
          : 'Then it stays out of use: tag it, and mend spindle or mount by the manual first.',
      );
    }
  }
}
