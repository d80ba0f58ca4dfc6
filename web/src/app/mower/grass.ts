import { ChangeDetectionStrategy, Component, computed, inject, input, signal } from '@angular/core';
import { MatButtonModule } from '@angular/material/button';
import { type GrassLookView, PHOTOS_PATH } from '@tally-stone/contract';
import { TORN_SHOWS } from '@tally-stone/core';
import { max } from 'd3-array';
import { scaleLinear } from 'd3-scale';
import { Api } from '../data/api';
import { Days } from '../data/days';
import { Region } from '../data/region';
import { shown } from '../data/shown';
import { submit } from '../data/submit';
import { Units } from '../data/units';
import { tickWords } from '../parts/tick-words';
import { GrassLookForm } from './grass-look';
import { GrassPicture } from './grass-picture';
import { tornWords } from './grass-words';

const FEW = 4;
const WIDTH = 560;
const HEIGHT = 200;
const EDGE = { left: 44, right: 12, top: 10, bottom: 34 };

/** What the grass says of a mower's edges: the last set beside this one, and the share of torn tips by hours mown. */
@Component({
  selector: 'ts-grass',
  imports: [GrassLookForm, GrassPicture, MatButtonModule],
  changeDetection: ChangeDetectionStrategy.OnPush,
  templateUrl: './grass.html',
  styleUrl: './grass.scss',
})
export class Grass {
  private readonly api = inject(Api);
  protected readonly units = inject(Units);
  private readonly region = inject(Region);
  protected readonly days = inject(Days);
  readonly mowerId = input.required<string>();
  /** When the set that is on went on. */
  readonly fittedAt = input<string>();
  protected readonly looking = signal(false);
  protected readonly notice = signal('');
  private readonly grass = shown(() => this.api.grass(this.mowerId()), {
    about: ({ subjectId }) => subjectId === this.mowerId(),
  });
  private readonly write = submit({ kept: () => this.grass.again() });
  protected readonly error = this.write.words;
  protected readonly photoPath = PHOTOS_PATH;
  protected readonly tornWords = tornWords;
  protected readonly looks = computed(() => this.grass.value()?.looks ?? []);

  /** The newest few, until somebody asks for all. */
  protected readonly all = signal(false);
  protected readonly listed = computed(() =>
    this.all() ? this.looks() : this.looks().slice(0, FEW),
  );

  /** The last look of the set before, and the newest of this one: what persuades a crew. */
  protected readonly pair = computed(() => {
    const fittedAt = this.fittedAt();
    const after = this.looks().find((look) => look.fittedAt === fittedAt);
    const before = this.looks().find((look) => look.fittedAt !== fittedAt);
    return after && before
      ? [
          { words: $localize`The set before`, look: before },
          { words: $localize`The set that is on`, look: after },
        ]
      : [];
  });

  protected readonly size = { WIDTH, HEIGHT, EDGE };
  protected readonly chart = computed(() => {
    const looks = this.looks();
    if (looks.length < 2) return undefined;
    const x = scaleLinear()
      .domain([0, max(looks, ({ hoursOnEdge }) => hoursOnEdge) ?? 1])
      .nice()
      .range([EDGE.left, WIDTH - EDGE.right]);
    const y = scaleLinear()
      .domain([0, 1])
      .range([HEIGHT - EDGE.bottom, EDGE.top]);
    const hours = tickWords(x, 6, this.region);
    return {
      hours: x.ticks(6).map((at) => ({ at: x(at), words: hours(at) })),
      shares: [0, 0.5, 1].map((at) => ({ at: y(at), words: `${100 * at} %` })),
      shows: y(TORN_SHOWS),
      dots: [...looks].reverse().map((look) => ({
        id: look.lookId,
        x: x(look.hoursOnEdge),
        y: y(look.share.share),
        low: y(look.share.low),
        high: y(look.share.high),
        now: look.fittedAt === this.fittedAt(),
        words: this.lookWords(look),
      })),
    };
  });

  protected lookWords({ at, hoursOnEdge, share, by }: GrassLookView): string {
    return $localize`${this.days.short(at)}, ${this.units.number(hoursOnEdge, 1)} h on the edge: ${tornWords(share)}, ${by}`;
  }

  protected done(words: string): void {
    this.looking.set(false);
    this.notice.set(words);
    void this.grass.again();
  }

  protected takeBack(lookId: string): Promise<unknown> {
    this.notice.set('');
    return this.write.send({ type: 'take-back-look', lookId });
  }
}
