import { MOST_LABELS, PLACES } from '@tally-stone/core';
import { shown } from '../data/shown';
import { submit } from '../data/submit';
import { CdkDrag, CdkDropList, CdkDropListGroup } from '@angular/cdk/drag-drop';
import { ChangeDetectionStrategy, Component, computed, inject, signal } from '@angular/core';
import { NgTemplateOutlet } from '@angular/common';
import { MatButtonModule } from '@angular/material/button';
import { MatMenuModule } from '@angular/material/menu';
import { Router, RouterLink } from '@angular/router';
import type { BladeRow, BladeState, RackMower, RackView } from '@tally-stone/contract';
import { firstValueFrom } from 'rxjs';
import { Api } from '../data/api';
import { newId } from '../data/commands';
import { grindsWords } from '../data/grinds';
import { troubleFrom } from '../data/problem';
import { Region } from '../data/region';
import { Units } from '../data/units';
import { dueWords } from '../mower/fleet-words';
import { LabelSheet } from '../parts/label-sheet';
import { Tally } from '../parts/tally';
import { cordPx, wallOf, widthPx, type PegDrawn } from './wall';

/** Sizes drawn before anything else of the wall: they fill its first row. */
const SIZES_AT_ONCE = 2;
/** More strokes than this nobody counts: the figure alone stands there. */
const MOST_TALLIED = 50;

type Lane = 'waiting' | 'atBench' | 'ready' | 'hold' | 'retired';

/** What stands or lies below the wall. */
const FLOOR = [
  {
    key: 'waiting',
    state: 'waiting',
    name: $localize`Waiting`,
    heading: $localize`Heap`,
    empty: $localize`Nothing waits.`,
  },
  {
    key: 'atBench',
    state: 'at-bench',
    name: $localize`At the bench`,
    heading: $localize`At the bench`,
    empty: $localize`Nothing in hand.`,
  },
  {
    key: 'hold',
    state: 'hold',
    name: $localize`On hold`,
    heading: $localize`Hold hook`,
    empty: $localize`Nothing on hold.`,
  },
  {
    key: 'retired',
    state: 'retired',
    name: $localize`Retired`,
    heading: $localize`Scrap bin, the last`,
    empty: $localize`None so far.`,
  },
] as const satisfies readonly {
  readonly key: Lane;
  readonly state: BladeState;
  readonly name: string;
  readonly heading: string;
  readonly empty: string;
}[];

/** A blade that lies is drawn so long for its millimetres. */
const LYING_PX_PER_MM = 0.24;
const LEAST_LYING_PX = 136;

/** A blade let go over a place, as the drag and drop package tells it. */
interface Dropped {
  readonly item: { readonly data: { readonly lane: Lane; readonly blade: BladeRow } };
  readonly container: { readonly data: string };
}

/** What a hand may do by moving a blade; the rest only a sign-off or a whole set can. */
type Move = 'take-up' | 'bring-in';
const MAY: Readonly<Record<Lane, readonly { readonly to: Lane; readonly move: Move }[]>> = {
  waiting: [{ to: 'atBench', move: 'take-up' }],
  atBench: [],
  ready: [{ to: 'waiting', move: 'bring-in' }],
  hold: [{ to: 'waiting', move: 'bring-in' }],
  retired: [],
};
const MOVE_WORDS: Readonly<Record<Move, string>> = {
  'take-up': $localize`Start it at the bench`,
  'bring-in': $localize`Back to the waiting heap`,
};

const STAYS_RETIRED = $localize`A retired blade stays retired: nobody fits it again.`;

/** Why what does not hang on the wall cannot go on a mower. */
const whyNotOn = (from: Lane): string =>
  from === 'retired' ? STAYS_RETIRED : $localize`Only what is signed off as ready goes on a mower.`;

function whyNot(from: Lane, to: Lane): string {
  if (from === 'retired') return STAYS_RETIRED;
  if (to === 'ready') return $localize`Only its sign-off at the bench makes a blade ready.`;
  if (to === 'retired' || to === 'hold')
    return $localize`A blade is retired or held at its sign-off, with the reason.`;
  if (from === 'atBench') return $localize`Its cycle is open: sign it off first.`;
  if (to === 'atBench') return $localize`Bring it to the waiting heap first.`;
  return $localize`It cannot go there.`;
}

/** The shop's wall: blades on their pegs by size and mower, the decks under them, heap, bench, hook and bin. */
@Component({
  selector: 'ts-rack',
  imports: [
    PlacePipe,
    Named,
    PageState,
    CdkDrag,
    CdkDropList,
    CdkDropListGroup,
    LabelSheet,
    MatButtonModule,
    MatMenuModule,
    NgTemplateOutlet,
    RouterLink,
    Tally,
  ],
  changeDetection: ChangeDetectionStrategy.OnPush,
  templateUrl: './rack.html',
  styleUrl: './rack.scss',
  host: { '(keydown)': 'walk($event)' },
})
export class Rack {
  protected readonly grindsWords = grindsWords;
  private readonly api = inject(Api);
  private readonly router = inject(Router);
  protected readonly units = inject(Units);
  protected readonly region = inject(Region);
  protected readonly shownRack = shown(() => this.api.rack());
  protected readonly rack = this.shownRack.value;
  /** A move that was refused. */
  private readonly write = submit();
  /** The code of the blade that was moved last. */
  private readonly moving = signal('');
  protected readonly trouble = computed(() => {
    const refused = this.write.words();
    return refused ? `${this.moving()}: ${refused}` : '';
  });
  protected readonly notice = signal('');
  protected readonly floor = FLOOR;
  protected readonly mostTallied = MOST_TALLIED;
  protected readonly sizesAtOnce = SIZES_AT_ONCE;
  protected readonly wall = computed(() => {
    const rack = this.rack();
    return rack ? wallOf(rack) : [];
  });
  protected readonly bladeWidth = widthPx;
  protected readonly cord = cordPx;
  protected readonly lengthPx = ({ lengthMm }: BladeRow): number =>
    Math.max(LEAST_LYING_PX, lengthMm * LYING_PX_PER_MM);
  protected readonly moveWords = MOVE_WORDS;

  private readonly short = computed(() =>
    (this.rack()?.sets ?? []).filter(({ blades, refused }) => blades.length === 0 || refused),
  );
  protected readonly headline = computed(() => {
    const rack = this.rack();
    if (!rack) return $localize`The rack`;
    const short = this.short().map(({ mowerName }) => mowerName);
    if (rack.sets.length === 0) return $localize`No mower lists which blades it takes`;
    if (short.length === 0) return $localize`A set hangs ready for every mower`;
    const some = short.slice(0, 3).join(', ');
    return $localize`Nothing whole hangs ready for ${some}${short.length > 3 ? $localize` and ${short.length - 3} more` : ''}`;
  });
  /** What hangs ready, for labels that say which mower each fits. */
  protected readonly spares = computed(
    () =>
      this.rack()
        ?.ready.map(({ code }) => code)
        .slice(0, MOST_LABELS) ?? [],
  );
  protected readonly summary = computed(() => {
    const rack = this.rack();
    if (!rack) return '';
    const pegs = rack.sizes
      .flatMap(({ pegs }) => pegs)
      .filter(({ bladeIds }) => bladeIds.length > 0);
    const { ready, waiting, hold } = rack.counts;
    // On how many pegs is known where all of them are here.
    return ready === rack.ready.length
      ? $localize`${ready} ready on ${pegs.length} pegs, ${waiting} in the heap, ${hold} on the hook.`
      : $localize`${this.region.number(ready)} ready, ${this.region.number(waiting)} in the heap, ${this.region.number(hold)} on the hook.`;
  });
  /** The one thing to do from here: grind for who lacks a set, or change a set that is due and hangs ready. */
  protected readonly next = computed(() => {
    const rack = this.rack();
    const [lacks] = this.short();
    if (lacks) return { words: $localize`Grind for ${lacks.mowerName}`, link: ['/batch'] };
    const due = rack?.mowers.find(({ deck }) => deck.due?.state === 'now');
    return (
      due && {
        words: $localize`Change the set of ${due.name}`,
        link: ['/mower', due.mowerId, 'change'],
      }
    );
  });

  protected codesOn({ deck }: RackMower): string {
    const codes = deck.spindles.flatMap(({ blade }) => blade?.code ?? []);
    return codes.length === 0 ? $localize`no set on` : codes.join(' · ');
  }

  protected codesOf({ blades }: RackView['sets'][number]): string {
    return blades.map(({ code }) => code).join(' · ');
  }
  /** Where a set hangs that is not on its mower's own peg. */
  protected wherefrom({ name, set }: PegDrawn): string {
    const ids = new Set(set?.blades.map(({ bladeId }) => bladeId));
    const pegs = this.wall()
      .flatMap(({ pegs: all }) => all)
      .filter((peg) => peg.name !== name && peg.blades.some(({ bladeId }) => ids.has(bladeId)));
    return pegs.length === 0 ? '' : $localize`from peg ${pegs.map((peg) => peg.name).join(', ')}. `;
  }
  /** Strokes of a tally by fives. */
  protected fives(count: number): number[] {
    return Array.from({ length: Math.ceil(count / 5) }, (_, i) => Math.min(5, count - 5 * i));
  }
  protected due({ deck }: RackMower): string {
    return dueWords(deck.due, deck.fittedAt !== undefined);
  }

  /** Arrows go from blade to blade, along the wall and over the floor. */
  protected walk(event: KeyboardEvent): void {
    const by = { ArrowRight: 1, ArrowDown: 1, ArrowLeft: -1, ArrowUp: -1 }[event.key];
    if (!by) return;
    const all = [
      ...(event.currentTarget as HTMLElement).querySelectorAll<HTMLElement>('button.blade'),
    ];
    const at = all.indexOf(document.activeElement as HTMLElement);
    if (at < 0) return;
    event.preventDefault();
    all[at + by]?.focus();
  }

  protected readonly moves = (lane: Lane) => MAY[lane];

  protected setWords(set: RackView['sets'][number]): string {
    if (set.refused) return set.refused;
    if (!set.spread || set.blades.length < 2) return $localize`one blade, nothing to match`;
    const { lengthMm, widthMm, massG } = set.spread;
    const apart = $localize`${this.units.show(lengthMm, 'mm')} in length, ${this.units.show(widthMm, 'mm')} in width, ${this.units.show(massG, 'g', 0)} in mass`;
    const odd = set.oddCode ? $localize`; ${set.oddCode} is the odd one` : '';
    return set.over.length === 0
      ? $localize`alike: apart by ${apart}`
      : $localize`not alike: apart by ${apart}${odd}`;
  }

  protected dropped({ item, container }: Dropped): void {
    const { lane, blade } = item.data;
    const to = container.data;
    if (to === lane) return;
    const mower = this.rack()?.mowers.find(({ mowerId }) => to === `mower ${mowerId}`);
    if (mower) {
      if (lane === 'ready') void this.putOn(blade, mower);
      else this.refuse(blade, whyNotOn(lane));
      return;
    }
    const allowed = MAY[lane].find((each) => each.to === to);
    if (allowed) void this.move(blade, allowed.move);
    else this.refuse(blade, whyNot(lane, to as Lane));
  }

  private refuse({ code }: BladeRow, why: string): void {
    this.moving.set(code);
    this.write.say(why);
  }

  /** A blade let go over a deck: its set change opens with it picked, or it is said why it does not belong there. */
  private async putOn(blade: BladeRow, { mowerId, name, deck }: RackMower): Promise<void> {
    try {
      await firstValueFrom(this.api.offer(deck.deckId, [blade.code]));
      await this.router.navigate(['/mower', mowerId, 'change'], {
        queryParams: { with: blade.code },
      });
    } catch (error) {
      const { words, fields } = troubleFrom(error);
      this.refuse(blade, $localize`not for ${name}:ph0:: ${fields['with'] ?? words}`);
    }
  }

  protected async move({ bladeId, code, cycleId }: BladeRow, move: Move): Promise<void> {
    this.write.say('');
    this.notice.set('');
    this.moving.set(code);
    if (move === 'bring-in') {
      const act = { type: 'bring-in' as const, bladeId, place: PLACES.heap };
      if (!(await this.write.send(act))) return;
      this.notice.set($localize`${code} waits for the bench.`);
      void this.shownRack.again();
      return;
    }
    const id = cycleId ?? newId();
    if (!cycleId && !(await this.write.send({ type: 'open-cycle', cycleId: id, bladeId }))) return;
    await this.router.navigate(['/run', id]);
  }
}
import { PageState } from '../parts/state';
import { Named } from '../parts/named';
import { PlacePipe } from '../parts/named.pipe';
