import { ChangeDetectionStrategy, Component, computed, inject, output } from '@angular/core';
import { MatButtonModule } from '@angular/material/button';
import { ENDS, counted, listed } from '@tally-stone/core';
import { Units } from '../data/units';
import { passesOf, toolWords, zoneWords, type ZonePasses } from './plan-words';
import { RunStore } from './run-store';

/** What a blade got on tools that are laid down, and what it is to get on the one it is finished on. */
@Component({
  selector: 'ts-other-tools',
  imports: [MatButtonModule],
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    @for (tool of laidDown(); track tool.key) {
      <p i18n class="quiet">On the {{ tool.name }} before: {{ tool.words }}.</p>
    }
    @if (then(); as next) {
      <p class="then">
        <span
          ><strong i18n>Then on the {{ next.name }}:</strong> {{ next.words }}.</span
        >
        <button i18n mat-stroked-button class="big" (click)="changed.emit()">
          Change to the {{ next.name }}
        </button>
      </p>
    }
  `,
  styles: `
    .then {
      display: flex;
      flex-wrap: wrap;
      align-items: center;
      gap: 6px 18px;
      margin: 10px 0 0;
      padding: 8px 16px;
      border-left: 6px solid var(--steel);
    }
  `,
})
export class OtherTools {
  private readonly store = inject(RunStore);
  private readonly units = inject(Units);
  /** The tool is to be changed. */
  readonly changed = output();

  private readonly asked = computed(() => {
    const plan = this.store.plan();
    return plan?.kind === 'asked' && plan.answer.plan.kind === 'plan'
      ? { asked: plan, plan: plan.answer.plan }
      : undefined;
  });

  /** What a tool has to do or has done at each end, in words. */
  private wordsOf(keep: (each: ZonePasses) => boolean): string {
    const found = this.asked();
    if (!found) return '';
    return ENDS.flatMap((end) => {
      const zones = passesOf(found.asked, found.plan, end)
        .filter(keep)
        .map(
          ({ count, zone, tool }) =>
            $localize`${counted(count, toolWords(found.asked, tool).counts)} on the ${this.units.resay(zoneWords(found.asked, zone))}`,
        );
      return zones.length > 0 ? [$localize`end ${end} ${listed(zones)}`] : [];
    }).join('; ');
  }

  protected readonly laidDown = computed(() => {
    const found = this.asked();
    if (!found) return [];
    const keys = new Set(
      ENDS.flatMap((end) =>
        passesOf(found.asked, found.plan, end).flatMap(({ made, tool }) => (made ? [tool] : [])),
      ),
    );
    return [...keys].map((key) => ({
      key,
      name: toolWords(found.asked, key).name,
      words: this.wordsOf(({ tool, made }) => made && tool === key),
    }));
  });

  protected readonly then = computed(() => {
    const found = this.asked();
    const tool = found?.asked.situation.then?.tool;
    return found && tool
      ? {
          name: toolWords(found.asked, tool).name,
          words: this.wordsOf((each) => each.tool === tool),
        }
      : undefined;
  });
}
