import {
  ChangeDetectionStrategy,
  Component,
  computed,
  inject,
  input,
  linkedSignal,
  output,
  signal,
} from '@angular/core';
import { toSignal } from '@angular/core/rxjs-interop';
import { BreakpointObserver } from '@angular/cdk/layout';
import { MatButtonModule } from '@angular/material/button';
import { MatStepperIntl, MatStepperModule } from '@angular/material/stepper';
import { RouterLink } from '@angular/router';
import type { BenchView } from '@tally-stone/contract';
import type { ListKind } from '@tally-stone/core';
import { map } from 'rxjs';
import { NamedPipe } from '../parts/named.pipe';
import { newId } from '../data/commands';
import { submit } from '../data/submit';
import { Units } from '../data/units';
import { StepperWords } from './stepper-words';
import { BringShop } from './bring-shop';
import { nameOf, specOf, USUAL_SIZES } from './usual-sizes';

type Thing = BenchView['missing'][number];
interface Row {
  readonly key: Thing;
  readonly name: string;
  readonly asks: string;
  readonly why: string;
  readonly link: string;
  readonly does: string;
}

/** What a shop needs before its first blade, in the order it is needed. */
const THINGS: readonly Row[] = [
  {
    key: 'people',
    name: $localize`You`,
    asks: $localize`Who works here?`,
    why: $localize`Every reading and every sign-off carries a name.`,
    link: '/shop/people',
    does: $localize`Add the people`,
  },
  {
    key: 'spec',
    name: $localize`The blade`,
    asks: $localize`Which blade do you grind most?`,
    why: $localize`Lay one along a ruler and take the nearest. Every size and limit can be changed after.`,
    link: '/shop/specs',
    does: $localize`Type its sizes`,
  },
  {
    key: 'grinder',
    name: $localize`The grinder`,
    asks: $localize`What do you grind on?`,
    why: $localize`Each tool learns what one pass of it takes.`,
    link: '/shop/grinders',
    does: $localize`Add the grinder`,
  },
  {
    key: 'mower',
    name: $localize`A mower`,
    asks: $localize`Where do the blades go?`,
    why: $localize`Its hours say when a set is due; its deck says which blades fit.`,
    link: '/shop/mowers',
    does: $localize`Add a mower`,
  },
  {
    key: 'blades',
    name: $localize`First blades`,
    asks: $localize`How many blades lie there?`,
    why: $localize`Each gets a code to stamp, and its peg a tag.`,
    link: '/new-blades',
    does: $localize`Give them codes`,
  },
];
/** What a shop may have in a spreadsheet already. */
const LIST_OF: Readonly<Partial<Record<Thing, ListKind>>> = {
  spec: 'specs',
  mower: 'mowers',
  blades: 'blades',
};
const SKIPPED = 'tally-stone.first-day-skipped';
/** A blade lying in the list is drawn so long for its millimetres. */
const PX_PER_MM = 0.5;

type State = 'there' | 'now' | 'skipped' | 'missing';
const STATE_WORDS: Readonly<Record<State, string>> = {
  there: $localize`there`,
  now: $localize`now`,
  skipped: $localize`skipped`,
  missing: $localize`missing`,
};
/** Five steps side by side need so much; narrower, they stand below each other. */
const NARROW = '(max-width: 760px)';

/** The first day: what a new shop still needs stands in outline, step by step, until it is there. */
@Component({
  selector: 'ts-first-day',
  imports: [NamedPipe, BringShop, MatButtonModule, MatStepperModule, RouterLink],
  providers: [{ provide: MatStepperIntl, useClass: StepperWords }],
  changeDetection: ChangeDetectionStrategy.OnPush,
  templateUrl: './first-day.html',
  styleUrl: './first-day.scss',
})
export class FirstDay {
  protected readonly units = inject(Units);
  readonly missing = input.required<BenchView['missing']>();
  /** Nothing else on the page has its heading. */
  readonly main = input(false);
  /** Something was added here: the bench is asked again. */
  readonly added = output();
  protected readonly write = submit({ kept: () => this.added.emit() });
  protected readonly listOf = LIST_OF;
  protected readonly sizes = USUAL_SIZES;
  protected readonly nameOf = nameOf;
  private readonly skipped = signal<readonly string[]>(
    (localStorage.getItem(SKIPPED) ?? '').split(' ').filter(Boolean),
  );
  protected readonly stateWords = STATE_WORDS;
  protected readonly narrow = toSignal(
    inject(BreakpointObserver)
      .observe(NARROW)
      .pipe(map(({ matches }) => matches)),
    { requireSync: true },
  );
  protected readonly things = computed(() =>
    THINGS.map((thing) => ({ ...thing, state: this.stateOf(thing.key) })),
  );
  /** The first that is missing and was not skipped; when all that is left was skipped, the first of those. */
  private readonly now = computed(() => {
    const left = THINGS.filter(({ key }) => this.missing().includes(key));
    return left.find(({ key }) => !this.skipped().includes(key)) ?? left[0];
  });
  /** The step that is open: what comes next, until another is picked. */
  protected readonly at = linkedSignal(() =>
    Math.max(
      0,
      THINGS.findIndex(({ key }) => key === this.now()?.key),
    ),
  );
  protected readonly done = computed(() => THINGS.length - this.missing().length);

  private stateOf(key: Thing): State {
    if (!this.missing().includes(key)) return 'there';
    if (this.now()?.key === key) return 'now';
    return this.skipped().includes(key) ? 'skipped' : 'missing';
  }

  protected skip(key: Thing): void {
    this.skipped.update((all) => [...all.filter((each) => each !== key), key]);
    localStorage.setItem(SKIPPED, this.skipped().join(' '));
  }

  protected lengthPx(newLengthMm: number): number {
    return newLengthMm * PX_PER_MM;
  }

  protected async take(size: (typeof USUAL_SIZES)[number]): Promise<void> {
    await this.write.send({
      type: 'add-spec',
      specId: newId(),
      specRevisionId: newId(),
      figures: specOf(size),
    });
  }
}
