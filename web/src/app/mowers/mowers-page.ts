import { ChangeDetectionStrategy, Component, computed, inject } from '@angular/core';
import { MatButtonModule } from '@angular/material/button';
import { RouterLink } from '@angular/router';
import { Named } from '../parts/named';
import { PageState } from '../parts/state';
import { TakeAway } from '../parts/take-away';
import { CALENDAR_PATH, type FleetMower } from '@tally-stone/contract';
import { Units } from '../data/units';
import { Days } from '../data/days';
import { Fleet } from '../data/fleet';
import { DeckDrawing } from '../mower/deck-drawing';
import { STRUCK } from '@tally-stone/core/basics';
import { dueWords, fleetHeadline } from '../mower/fleet-words';

/** Every mower with what is on it, soonest due first, and the bench days its sets go to. */
@Component({
  selector: 'ts-mowers-page',
  imports: [Named, PageState, TakeAway, DeckDrawing, MatButtonModule, RouterLink],
  providers: [Fleet],
  changeDetection: ChangeDetectionStrategy.OnPush,
  templateUrl: './mowers-page.html',
  styleUrl: './mowers-page.scss',
})
export class MowersPage {
  protected readonly fleet = inject(Fleet);
  protected readonly days = inject(Days);
  protected readonly units = inject(Units);
  protected readonly headline = computed(() => fleetHeadline(this.fleet.view()?.mowers ?? []));

  protected readonly calendar = CALENDAR_PATH;

  protected print(): void {
    window.print();
  }

  protected readonly share = (used: number): number => Math.min(100, 100 * used);

  protected words({ deck }: FleetMower): string {
    const stopped = deck.strike?.stopUse
      ? $localize`out of use, it struck ${STRUCK[deck.strike.what]}; `
      : deck.held.length > 0
        ? $localize`out of use, a blade on it is on hold; `
        : '';
    return stopped + dueWords(deck.due, deck.fittedAt !== undefined);
  }

  protected edgeWords({ deck }: FleetMower): string {
    const bench = deck.due?.benchOn ? $localize`bench ${this.days.short(deck.due.benchOn)}` : '';
    const late = deck.due?.late ? $localize`after it is due` : '';
    const edge = deck.fittedAt
      ? $localize`${this.units.number(deck.hoursOnEdge, 1)} h on the edge`
      : '';
    const ready = deck.figures?.specId
      ? $localize`${deck.readyBlades} of its blades ready in the rack`
      : $localize`deck not measured yet`;
    return [edge, [bench, late].filter(Boolean).join(', '), ready].filter(Boolean).join(' · ');
  }
}
