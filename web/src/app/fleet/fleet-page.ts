import { ChangeDetectionStrategy, Component, computed, inject } from '@angular/core';
import { MatButtonModule } from '@angular/material/button';
import { RouterLink } from '@angular/router';
import { CALENDAR_PATH, type FleetMower } from '@tally-stone/contract';
import { Days } from '../data/days';
import { Fleet } from '../data/fleet';
import { DeckDrawing } from './deck-drawing';
import { dueWords, fleetHeadline, STRIKE_WORDS } from './fleet-words';

/** Every mower with what is on it, soonest due first, and the bench days its sets go to. */
@Component({
  selector: 'ts-fleet-page',
  imports: [DeckDrawing, MatButtonModule, RouterLink],
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    @if (fleet.trouble()) {
      <p class="bad" role="alert">{{ fleet.trouble() }}</p>
    }
    @if (fleet.view(); as view) {
      @if (view.mowers.length === 0) {
        <h1>No mower yet</h1>
        <p>
          <a routerLink="/shop">Add the first mower</a> with its spindles, then measure its deck.
        </p>
      } @else {
        <h1>{{ headline() }}</h1>
        <p class="crew">
          <a mat-stroked-button class="big" routerLink="/crew">From the crew: strike, cut, hours</a>
          <a mat-stroked-button class="big" [href]="calendar" download>Calendar file</a>
          <button mat-stroked-button class="big" (click)="print()">Print</button>
        </p>
        <ol>
          @for (mower of view.mowers; track mower.mowerId) {
            <li [class.now]="mower.deck.due?.state === 'now'">
              <a class="card" [routerLink]="['/mower', mower.mowerId]">
                <ts-deck-drawing [deck]="mower.deck" [labels]="false" />
                <span class="what">
                  <strong>{{ mower.name }}</strong>
                  <span class="quiet">{{ mower.site }}</span>
                </span>
                <span class="when">
                  <span class="why">{{ words(mower) }}</span>
                  @if (mower.deck.due?.used; as used) {
                    <span class="bar" aria-hidden="true">
                      <span class="used" [style.width.%]="share(used)"></span>
                    </span>
                  }
                  <span class="quiet">{{ edgeWords(mower) }}</span>
                  @if (mower.deck.faults.length > 0) {
                    <span class="bad">{{ mower.deck.faults[0] }}</span>
                  }
                </span>
              </a>
              <a
                mat-stroked-button
                class="big"
                [routerLink]="['/mower', mower.mowerId, 'change']"
                [attr.aria-label]="'Change the set of ' + mower.name"
                >Change the set</a
              >
            </li>
          }
        </ol>
        <section aria-label="Bench days">
          <h2>Bench days</h2>
          <ol class="days">
            @for (day of view.benchDays; track day.day) {
              <li [class.full]="day.blades >= day.capacity">
                <strong>{{ days.short(day.day) }}</strong>
                <span>{{ day.blades }} of {{ day.capacity }} blades</span>
                <span class="quiet">{{ day.mowers.join(', ') || 'free' }}</span>
              </li>
            }
          </ol>
        </section>
      }
    } @else if (!fleet.trouble()) {
      <p class="quiet">Asking for the mowers …</p>
    }
  `,
  styles: `
    :host {
      display: block;
      padding: 20px 24px;
    }
    h1 {
      margin: 0 0 8px;
      font-size: 26px;
      line-height: 1.25;
    }
    ol {
      list-style: none;
      margin: 12px 0 0;
      padding: 0;
      display: grid;
      gap: 6px;
    }
    ol > li {
      display: flex;
      align-items: center;
      gap: 16px;
      padding: 8px 16px;
      background: var(--chalk);
      border-left: 6px solid var(--rule);
    }
    ol > li.now {
      border-left-color: var(--spark);
    }
    .card {
      flex: 1;
      display: grid;
      grid-template-columns: 190px minmax(160px, 1fr) minmax(220px, 2fr);
      align-items: center;
      gap: 20px;
      min-height: 64px;
      text-decoration: none;
    }
    .card ts-deck-drawing {
      --deck-height: 84px;
    }
    .what strong {
      display: block;
      font-size: 22px;
    }
    .when > * {
      display: block;
    }
    .why {
      font-weight: 600;
    }
    .now .why {
      color: var(--spark);
    }
    .bar {
      height: 8px;
      max-width: 320px;
      margin: 4px 0;
      background: var(--slab);
      border: 1px solid var(--steel);
    }
    .used {
      display: block;
      height: 100%;
      background: var(--steel);
    }
    .now .used {
      background: var(--spark);
    }
    section {
      margin-top: 24px;
    }
    .days {
      grid-template-columns: repeat(auto-fill, minmax(180px, 1fr));
    }
    .days li {
      flex-direction: column;
      align-items: flex-start;
      gap: 2px;
    }
    .days li.full {
      border-left-color: var(--steel);
    }
    .crew {
      display: flex;
      flex-wrap: wrap;
      gap: 8px;
    }
    @media print {
      .crew,
      li > .big {
        display: none;
      }
    }
    @media (max-width: 760px) {
      :host {
        padding: 12px;
      }
      ol > li {
        flex-direction: column;
        align-items: stretch;
      }
      .card {
        grid-template-columns: 1fr;
        gap: 6px;
      }
    }
  `,
})
export class FleetPage {
  protected readonly fleet = inject(Fleet);
  protected readonly days = inject(Days);
  protected readonly headline = computed(() => fleetHeadline(this.fleet.view()?.mowers ?? []));

  constructor() {
    void this.fleet.refresh();
  }

  protected readonly calendar = CALENDAR_PATH;

  protected print(): void {
    window.print();
  }

  protected readonly share = (used: number): number => Math.min(100, 100 * used);

  protected words({ deck }: FleetMower): string {
    const stopped = deck.strike?.stopUse
      ? `out of use, it struck ${STRIKE_WORDS[deck.strike.what]}; `
      : '';
    return stopped + dueWords(deck.due, deck.fittedAt !== undefined);
  }

  protected edgeWords({ deck }: FleetMower): string {
    const bench = deck.due?.benchOn ? `bench ${this.days.short(deck.due.benchOn)}` : '';
    const late = deck.due?.late ? 'after it is due' : '';
    const edge = deck.fittedAt ? `${deck.hoursOnEdge.toFixed(1)} h on the edge` : '';
    const ready = deck.figures?.specId
      ? `${deck.readyBlades} of its blades ready in the rack`
      : 'deck not measured yet';
    return [edge, [bench, late].filter(Boolean).join(', '), ready].filter(Boolean).join(' · ');
  }
}
