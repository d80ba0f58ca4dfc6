import { ChangeDetectionStrategy, Component, computed, inject, input, signal } from '@angular/core';
import { MatButtonModule } from '@angular/material/button';
import { RouterLink } from '@angular/router';
import { SET_REPORT_PATH, SITE_REPORT_PATH } from '@tally-stone/contract';
import { TIP_SPEED_LIMIT_M_PER_S, torqueIn, named, STRUCK, STRUCK_HOW } from '@tally-stone/core';
import { NamedPipe } from '../parts/named.pipe';
import { PageState } from '../parts/state';
import { Days } from '../data/days';
import { Fleet } from '../data/fleet';
import { submit } from '../data/submit';
import { Source } from '../parts/source';
import { Units } from '../data/units';
import { DeckDrawing } from './deck-drawing';
import { DeckForm } from './deck-form';
import { Grass } from './grass';
import { Replacement } from './replacement';
import { UpkeepList } from './upkeep';
import { dueWords, heldWords, RAISING_WORDS } from './fleet-words';

/** One mower: its deck from above, what its manual says, what it struck, what is next. */
@Component({
  selector: 'ts-mower-page',
  imports: [
    NamedPipe,
    PageState,
    DeckDrawing,
    DeckForm,
    Grass,
    MatButtonModule,
    Replacement,
    RouterLink,
    Source,
    UpkeepList,
  ],
  providers: [Fleet],
  changeDetection: ChangeDetectionStrategy.OnPush,
  templateUrl: './mower-page.html',
  styleUrl: './mower-page.scss',
})
export class MowerPage {
  protected readonly fleet = inject(Fleet);
  protected readonly days = inject(Days);
  protected readonly units = inject(Units);
  protected readonly report = computed(
    () => `${SET_REPORT_PATH.replace(':id', this.mowerId())}?units=${this.units.system()}`,
  );
  protected readonly siteReport = computed(() => {
    const query = new URLSearchParams({
      site: this.mower()?.site ?? '',
      units: this.units.system(),
    });
    return `${SITE_REPORT_PATH}?${query.toString()}`;
  });
  readonly mowerId = input.required<string>();
  protected readonly heldWords = heldWords;
  protected readonly struck = STRUCK;
  protected readonly struckHow = STRUCK_HOW;
  protected readonly measuring = signal(false);
  private readonly write = submit({ kept: () => this.fleet.refresh() });
  protected readonly error = this.write.words;
  /** Some spindles have their blade and some have none. */
  protected readonly broken = computed(() => {
    const spindles = this.mower()?.deck.spindles ?? [];
    const on = spindles.filter(({ blade }) => blade !== undefined).length;
    return on > 0 && on < spindles.length;
  });
  protected readonly mower = computed(() => this.fleet.mower(this.mowerId()));

  protected readonly due = computed(() => {
    const deck = this.mower()?.deck;
    if (!deck) return '';
    const edge = deck.fittedAt
      ? $localize`${this.units.number(deck.hoursOnEdge, 1)} h on the edge since ${this.days.short(deck.fittedAt)}`
      : '';
    const bench = deck.due?.benchOn
      ? $localize`bench day ${this.days.short(deck.due.benchOn)}`
      : '';
    const words = dueWords(deck.due, deck.fittedAt !== undefined);
    return [words, edge, bench].filter(Boolean).join(' · ');
  });

  protected readonly facts = computed(() => {
    const deck = this.mower()?.deck;
    if (!deck) return [];
    const { figures, torqueNm, tipSpeedMPerS, tooFast, bladeSpeedRpm, specName } = deck;
    const torque = torqueNm === undefined ? undefined : torqueIn(torqueNm);
    const facts: { name: string; words: string; note?: string; source?: string; bad?: boolean }[] =
      [
        { name: $localize`Blades`, words: specName ?? $localize`not said` },
        { name: $localize`Blade speed`, words: $localize`${bladeSpeedRpm} rpm` },
      ];
    if (tipSpeedMPerS !== undefined) {
      facts.push({
        name: $localize`Tip speed`,
        words: this.units.speed(tipSpeedMPerS, 1),
        note: $localize`at most ${this.units.speed(TIP_SPEED_LIMIT_M_PER_S, 1)}`,
        source: $localize`ANSI/OPEI B71.1, from memory. The mower’s manual comes before it.`,
        bad: tooFast,
      });
    }
    if (torque && figures?.boltTorque) {
      const { text, unit } = figures.boltTorque;
      const others = (Object.entries(torque) as [string, number][])
        .filter(([each]) => each !== unit)
        .map(([each, value]) => `${this.units.number(value, each === 'lbf·in' ? 0 : 1)} ${each}`);
      facts.push({
        name: $localize`Bolt torque`,
        words: $localize`${text} ${unit}, the manual's`,
        note: others.join(' · '),
      });
    }
    if (figures) {
      const { stack, raising, timed, leastClearanceMm, leastOverlapMm, duty } = figures;
      facts.push(
        {
          name: $localize`On the bolt, from the spindle out`,
          words: stack.join(', ') || 'nothing',
        },
        { name: $localize`To get at the blades`, words: RAISING_WORDS[raising] },
        {
          name: $localize`Between blades`,
          words: $localize`${this.units.show(leastClearanceMm, 'mm', 0)} clear, ${this.units.show(leastOverlapMm, 'mm', 0)} overlap at least`,
          ...(timed
            ? { source: $localize`geared together: they may reach into each other’s circles` }
            : {}),
        },
        {
          name: $localize`Ground`,
          words: $localize`${named(duty.turf)} turf, ${named(duty.soil)} soil`,
        },
      );
    }
    return facts;
  });

  protected async clear(strikeId: string, sound: boolean): Promise<void> {
    const act = {
      type: 'clear-strike' as const,
      strikeId,
      spindleSound: sound,
      mountSound: sound,
    };
    if ((await this.write.send(act)) || sound) return;
    this.write.say(
      $localize`Then it stays out of use: tag it, and mend spindle or mount by the manual first.`,
    );
  }
}
