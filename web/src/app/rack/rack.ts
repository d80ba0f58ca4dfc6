import { shown } from '../data/shown';
import { submit } from '../data/submit';
import { CdkDrag, CdkDropList, CdkDropListGroup, type CdkDragDrop } from '@angular/cdk/drag-drop';
import { ChangeDetectionStrategy, Component, computed, inject, signal } from '@angular/core';
import { MatButtonModule } from '@angular/material/button';
import { MatMenuModule } from '@angular/material/menu';
import { Router, RouterLink } from '@angular/router';
import type { BladeRow, FleetMower, RackView } from '@tally-stone/contract';
import { Api } from '../data/api';
import { newId } from '../data/commands';
import { Units } from '../data/units';
import { DeckDrawing } from '../mower/deck-drawing';
import { Tally } from '../parts/tally';

type Lane = 'waiting' | 'atBench' | 'ready' | 'hold' | 'retired';
interface LaneWords {
  readonly key: Lane;
  readonly name: string;
  readonly empty: string;
}

/** In working order: from the heap over the bench to the rack, and what is out of it. */
const LANES: readonly LaneWords[] = [
  { key: 'waiting', name: 'Waiting', empty: 'Nothing waits.' },
  { key: 'atBench', name: 'At the bench', empty: 'Nothing in hand.' },
  { key: 'ready', name: 'Ready', empty: 'No other blade is ready.' },
  { key: 'hold', name: 'On hold', empty: 'Nothing on hold.' },
  { key: 'retired', name: 'Retired', empty: 'None so far.' },
];

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
  'take-up': 'Start it at the bench',
  'bring-in': 'Back to the waiting heap',
};

function whyNot(from: Lane, to: Lane): string {
  if (from === 'retired') return 'A retired blade stays retired: nobody fits it again.';
  if (to === 'ready') return 'Only its sign-off at the bench makes a blade ready.';
  if (to === 'retired' || to === 'hold')
    return 'A blade is retired or held at its sign-off, with the reason.';
  if (from === 'atBench') return 'Its cycle is open: sign it off first.';
  if (to === 'atBench') return 'Bring it to the waiting heap first.';
  return 'It cannot go there.';
}

/** Where every blade is, and the sets that stand ready. Blades are moved by hand or by keyboard. */
@Component({
  selector: 'ts-rack',
  imports: [
    CdkDrag,
    CdkDropList,
    CdkDropListGroup,
    DeckDrawing,
    MatButtonModule,
    MatMenuModule,
    RouterLink,
    Tally,
  ],
  changeDetection: ChangeDetectionStrategy.OnPush,
  templateUrl: './rack.html',
  styleUrl: './rack.scss',
})
export class Rack {
  private readonly api = inject(Api);
  private readonly router = inject(Router);
  private readonly units = inject(Units);
  private readonly shownRack = shown(() => this.api.rack());
  protected readonly rack = this.shownRack.value;
  /** A move that was refused; else what is wrong with the rack itself. */
  private readonly write = submit();
  /** The code of the blade that was moved last. */
  private readonly moving = signal('');
  protected readonly trouble = computed(() => {
    const refused = this.write.words();
    return refused ? `${this.moving()}: ${refused}` : this.shownRack.words();
  });
  protected readonly notice = signal('');
  protected readonly lanes = LANES;
  protected readonly moveWords = MOVE_WORDS;

  protected readonly headline = computed(() => {
    const rack = this.rack();
    if (!rack) return '';
    const whole = rack.sets.filter(({ blades, refused }) => blades.length > 0 && !refused);
    const short = rack.sets.filter(({ blades }) => blades.length === 0);
    const list = (sets: RackView['sets']): string =>
      sets.map(({ mowerName }) => mowerName).join(', ');
    const every = whole.length === rack.sets.length && whole.length > 3;
    const ready =
      whole.length === 0
        ? 'No set stands ready'
        : `A set stands ready for ${every ? 'every mower' : list(whole)}`;
    return short.length === 0 ? ready : `${ready}; none for ${list(short)}`;
  });

  /** Ready blades that are in no set. */
  protected readonly loose = computed(() => {
    const promised = new Set(
      this.rack()?.sets.flatMap(({ blades }) => blades.map((each) => each.bladeId)),
    );
    return (this.rack()?.ready ?? []).filter(({ bladeId }) => !promised.has(bladeId));
  });

  protected codesOn({ deck }: FleetMower): string {
    const codes = deck.spindles.flatMap(({ blade }) => blade?.code ?? []);
    return codes.length === 0 ? 'no set on' : codes.join(' · ');
  }

  protected bladesIn(lane: Lane): readonly BladeRow[] {
    return lane === 'ready' ? this.loose() : (this.rack()?.[lane] ?? []);
  }

  protected readonly moves = (lane: Lane) => MAY[lane];

  protected setWords(set: RackView['sets'][number]): string {
    if (set.refused) return set.refused;
    if (!set.spread || set.blades.length < 2) return 'one blade, nothing to match';
    const { lengthMm, widthMm, massG } = set.spread;
    const apart = `${this.units.show(lengthMm, 'mm')} in length, ${this.units.show(widthMm, 'mm')} in width, ${this.units.show(massG, 'g', 0)} in mass`;
    const odd = set.oddCode ? `; ${set.oddCode} is the odd one` : '';
    return set.over.length === 0
      ? `alike: apart by ${apart}`
      : `not alike: apart by ${apart}${odd}`;
  }

  protected dropped(event: CdkDragDrop<Lane, Lane, { lane: Lane; blade: BladeRow }>): void {
    const { lane, blade } = event.item.data;
    const to = event.container.data;
    if (to === lane) return;
    const allowed = MAY[lane].find((each) => each.to === to);
    if (allowed) void this.move(blade, allowed.move);
    else {
      this.moving.set(blade.code);
      this.write.say(whyNot(lane, to));
    }
  }

  protected async move({ bladeId, code, cycleId }: BladeRow, move: Move): Promise<void> {
    this.write.say('');
    this.notice.set('');
    this.moving.set(code);
    if (move === 'bring-in') {
      const act = { type: 'bring-in' as const, bladeId, place: 'Waiting heap' };
      if (!(await this.write.send(act))) return;
      this.notice.set(`${code} waits for the bench.`);
      void this.shownRack.again();
      return;
    }
    const id = cycleId ?? newId();
    if (!cycleId && !(await this.write.send({ type: 'open-cycle', cycleId: id, bladeId }))) return;
    await this.router.navigate(['/run', id]);
  }
}
