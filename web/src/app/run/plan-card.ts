import { ChangeDetectionStrategy, Component, computed, inject } from '@angular/core';
import type { PlanView } from '@tally-stone/contract';
import { Units } from '../data/units';
import { Tally } from '../parts/tally';
import { DAMAGE_WORDS } from './step-inspect';
import { RunStore } from './run-store';

type Planned = Extract<PlanView, { kind: 'plan' }>;

/** The plan: how much to take, from which end first, in how many passes, and what is left after. */
@Component({
  selector: 'ts-plan-card',
  imports: [Tally],
  changeDetection: ChangeDetectionStrategy.OnPush,
  templateUrl: './plan-card.html',
  styleUrl: './plan-card.scss',
})
export class PlanCard {
  protected readonly store = inject(RunStore);
  protected readonly units = inject(Units);
  protected readonly plan = this.store.plan;

  protected readonly balance = computed(() => {
    const plan = this.plan();
    if (plan?.kind !== 'plan') return '';
    const { unbalanceAfterGmm: after, permissibleGmm: allowed } = plan;
    if (after === undefined || allowed === undefined) {
      return 'Only the sharpening is planned: hang the blade for its heavy end and the plan balances it too.';
    }
    const size = Math.abs(after).toFixed(0);
    const heavy =
      Math.abs(after) < 1 ? 'level' : `end ${after > 0 ? 'A' : 'B'} heavy by ${size} g·mm`;
    const doubt = plan.uncertaintyExceedsAllowance
      ? ' The balancer is less sure than the whole allowance: hang it again after.'
      : '';
    return `Expected after: ${heavy} of ${allowed.toFixed(0)} allowed.${doubt}`;
  });

  protected narrowest(plan: Planned): string {
    const { end, fromTipMm, roomLeftMm } = plan.narrowest;
    return `${this.units.show(roomLeftMm, 'mm')} left above the width limit at the worst place, end ${end}, ${this.units.show(fromTipMm, 'mm', 0)} from the tip.`;
  }

  /** What turning each nick's switch would cost, with the others as they are. */
  protected nicks(plan: Planned): string[] {
    return plan.nicks.map((nick) => {
      const mark = this.store.view()?.damage.find(({ damageId }) => damageId === nick.damageId);
      const name = mark
        ? `${DAMAGE_WORDS[mark.kind]}, end ${mark.end}, ${this.units.show(mark.fromTipMm, 'mm', 0)} from the tip`
        : 'Nick';
      if (nick.impossible) return `${name}: clearing it whole does not fit inside the limits.`;
      const grams = `${Math.abs(nick.metalG).toFixed(1)} g`;
      return nick.turned === 'clear'
        ? `${name}: clearing it whole would cost ${grams} more, ${Math.max(0, nick.grinds).toFixed(1)} grinds of life.`
        : `${name}: leaving it would save ${grams}, ${Math.max(0, -nick.grinds).toFixed(1)} grinds of life.`;
    });
  }
}
