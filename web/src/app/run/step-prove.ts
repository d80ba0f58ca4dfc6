import { ChangeDetectionStrategy, Component, computed, inject } from '@angular/core';
import { MatButtonModule } from '@angular/material/button';
import { edgesOf } from '@tally-stone/cycle';
import { ENDS, type End, type Witness } from '@tally-stone/core';
import { Named } from '../parts/named';
import { Units } from '../data/units';
import { EdgeStory } from '../photo/edge-story';
import { toolWords } from './agreement-words';
import { Deburr } from './deburr';
import { RunStore } from './run-store';
import { StepMeasure } from './step-measure';

/** What to read again for each witness. */
const WITNESS_READINGS = {
  scale: $localize`weigh it again with the scale zeroed`,
  caliper: $localize`measure the tip station and the land again`,
  photo: $localize`take the picture after again, deburred and wiped`,
  passes: $localize`look whether all of it was counted, and once`,
} as const satisfies Record<Witness, string>;

/** The proof: readings after, the light test, and what the witnesses say was taken off. */
@Component({
  selector: 'ts-step-prove',
  imports: [Deburr, Named, EdgeStory, MatButtonModule, StepMeasure],
  changeDetection: ChangeDetectionStrategy.OnPush,
  templateUrl: './step-prove.html',
  styleUrl: './step-prove.scss',
})
export class StepProve {
  private readonly store = inject(RunStore);
  private readonly units = inject(Units);
  protected readonly ends = ENDS;
  protected readonly ground = computed(() => (this.store.view()?.passes.length ?? 0) > 0);
  /** Only where something was photographed after: before alone proves nothing. */
  protected readonly edges = computed(() => {
    const state = this.store.view()?.bench?.state;
    const edges = state ? edgesOf(state) : [];
    return edges.some(({ phase }) => phase === 'after')
      ? [...edges].sort((a, b) => (a.at < b.at ? -1 : 1))
      : [];
  });
  protected readonly edgeLengthMm = computed(
    () => this.store.view()?.spec.figures.edgeLengthMm ?? 0,
  );
  protected readonly seen = computed(() => this.store.view()?.witnesses);
  protected readonly witnesses = computed(() => {
    const { said, caliperAbstains } = this.seen() ?? {};
    const again = this.store.view()?.corrected?.witnesses.said;
    const shown = (witness: Witness, silent: string): string => {
      const signed = said?.[witness];
      const corrected = again?.[witness];
      const words = signed ? this.units.plusMinus(signed, 'g') : silent;
      const moved = corrected && (corrected.value !== signed?.value || corrected.u !== signed.u);
      return moved ? $localize`${words}, corrected ${this.units.plusMinus(corrected, 'g')}` : words;
    };
    return [
      { name: $localize`By the scale`, said: shown('scale', $localize`no mass before and after`) },
      // Where the photos gave the widths, the caliper has nothing of its own to say.
      ...(said?.photo && !said.caliper
        ? []
        : [
            {
              name: $localize`By the caliper`,
              said: shown(
                'caliper',
                $localize`no answer: ${caliperAbstains ?? $localize`not read yet`}`,
              ),
            },
          ]),
      ...(said?.photo ? [{ name: $localize`By the photos`, said: shown('photo', '') }] : []),
      { name: $localize`By the count`, said: shown('passes', $localize`none counted`) },
    ];
  });
  protected readonly agreement = computed(() => {
    const { pairs = [], agree, repeat } = this.seen() ?? {};
    if (pairs.length === 0) return '';
    const worst = this.units.number(Math.max(...pairs.map(({ en }) => en)), 1);
    if (agree || !repeat) return $localize`They agree, apart by ${worst} of what their ± allows.`;
    const reading = WITNESS_READINGS[repeat.witness];
    return repeat.sure
      ? $localize`The ${repeat.witness === 'passes' ? $localize`count` : repeat.witness} stands apart by ${worst} times what their ± allows: ${reading}. Usual cause: ${repeat.cause}.`
      : $localize`They disagree by ${worst} times what their ± allows, and two cannot name the culprit. Quickest first: ${reading}. Usual cause: ${repeat.cause}.`;
  });

  protected readonly toolWords = computed(() =>
    toolWords(this.store.view()?.agreement, this.units.show),
  );

  /** Neither end was held to the light yet: both are answered at once where both are sharp. */
  protected readonly untested = computed(() => ENDS.every((end) => this.test(end) === undefined));

  protected async sharpBothEnds(): Promise<void> {
    for (const end of ENDS) {
      if (await this.store.act({ type: 'light-test', end, brightLine: false })) return;
    }
    this.store.focusNext$.next();
  }

  protected test(end: End): boolean | undefined {
    return this.store.view()?.lightTest[end];
  }

  protected async light(end: End, brightLine: boolean): Promise<void> {
    const trouble = await this.store.act({ type: 'light-test', end, brightLine });
    if (!trouble) this.store.focusNext$.next();
  }
}
