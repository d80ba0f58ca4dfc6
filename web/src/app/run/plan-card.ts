import {
  ChangeDetectionStrategy,
  Component,
  computed,
  inject,
  output,
  signal,
} from '@angular/core';
import { MatButtonModule } from '@angular/material/button';
import { MatButtonToggleModule } from '@angular/material/button-toggle';
import type { Schools } from '@tally-stone/contract';
import {
  grindsAfter,
  fromTipMm,
  permissibleGmm,
  type Choice,
  type NickChoice,
  type NickCost,
  DAMAGE,
} from '@tally-stone/core';
import { Units } from '../data/units';
import { Tally } from '../parts/tally';
import {
  choiceCost,
  choiceWords,
  narrowest,
  passesInPlan,
  passesOf,
  ZONE_WORDS,
} from './plan-words';
import { Frame } from '../data/frame';
import { RunStore } from './run-store';
import { SchoolsForm } from './schools-form';

/** A step as it is said and kept, in hundredths: never less than it has to be. */
const roundedUp = (mm: number): number => Math.ceil(mm * 100) / 100;

/** The plan: how much to take, from which end first, where, in how many passes, and what is left after. */
@Component({
  selector: 'ts-plan-card',
  imports: [MatButtonModule, MatButtonToggleModule, SchoolsForm, Tally],
  changeDetection: ChangeDetectionStrategy.OnPush,
  templateUrl: './plan-card.html',
  styleUrl: './plan-card.scss',
})
export class PlanCard {
  /** Rather than any way on, the blade is to be retired. */
  readonly retiring = output();
  protected readonly store = inject(RunStore);
  protected readonly units = inject(Units);
  protected readonly zoneWords = ZONE_WORDS;
  private readonly frame = inject(Frame);
  /** Asked to hang the blade first. */
  readonly hang = output();
  /** The heavy end is not known yet: the plan sharpens only. */
  protected readonly unhung = computed(() => {
    const after = this.plan()?.forward.unbalanceGmm;
    return this.plan() !== undefined && (after === undefined || !this.allowedGmm());
  });
  protected readonly choosing = signal(false);
  /** The form of the schools, drawn a frame after its button has answered. */
  protected readonly drawn = signal(false);

  protected showSchools(): void {
    this.choosing.update((open) => !open);
    this.frame.afterPaint(() => {
      this.drawn.set(this.choosing());
    });
  }

  protected readonly asked = computed(() => {
    const view = this.store.plan();
    return view?.kind === 'asked' ? view : undefined;
  });
  protected readonly later = computed(() => {
    const view = this.store.plan();
    return view?.kind === 'not-yet' ? view.words : '';
  });
  protected readonly plan = computed(() => {
    const plan = this.asked()?.answer.plan;
    return plan?.kind === 'plan' ? plan : undefined;
  });
  protected readonly none = computed(() => {
    const plan = this.asked()?.answer.plan;
    return plan?.kind === 'no-plan' ? plan : undefined;
  });
  /** How the technician's own hand is counted in, once it is known. */
  protected readonly handWords = computed(() => {
    const hand = this.asked()?.hand;
    if (!hand) return '';
    const percent = Math.round(100 * (hand.factor - 1));
    const how =
      percent === 0 ? 'as much as' : `${Math.abs(percent)} % ${percent > 0 ? 'more' : 'less'} than`;
    return `; in this hand, ${hand.grinds} grinds, ${how} the tool’s usual`;
  });
  protected readonly choices = computed(() => this.asked()?.answer.choices ?? []);
  protected readonly total = computed(() => {
    const plan = this.plan();
    return plan ? passesInPlan(plan) : 0;
  });

  protected readonly ends = computed(() => {
    const asked = this.asked();
    const plan = this.plan();
    if (!asked || !plan) return [];
    return plan.order
      .map((end) => ({ end, zones: passesOf(asked, plan, end) }))
      .filter(({ zones }) => zones.length > 0);
  });

  protected readonly balance = computed(() => {
    const plan = this.plan();
    const after = plan?.forward.unbalanceGmm;
    const allowed = this.asked() && this.allowedGmm();
    if (!plan || after === undefined || !allowed) {
      return 'Only the sharpening is planned: hang the blade for its heavy end and the plan balances it too.';
    }
    const size = this.units.show(Math.abs(after), 'g·mm', 0);
    const u = this.asked()?.situation.balance?.uGmm ?? 0;
    const heavy = Math.abs(after) < 1 ? 'level' : `end ${after > 0 ? 'A' : 'B'} heavy by ${size}`;
    const doubt = plan.uncertaintyExceedsAllowance
      ? ' The balancer is less sure than the whole allowance: hang it again after.'
      : '';
    const gap =
      plan.gapG > 0
        ? ` The search was cut off: another plan may take up to ${this.units.show(plan.gapG, 'g')} less.`
        : '';
    return `Expected after: ${heavy} ± ${this.units.figure(2 * u, 'g·mm', 0)}, of ${this.units.figure(allowed, 'g·mm', 0)} allowed.${doubt}${gap}`;
  });

  protected beyond(damageId: string): string {
    return `${this.nickName(damageId)} lies where no zone reaches: this plan leaves it as it is.`;
  }

  protected readonly left = computed(() => {
    const plan = this.plan();
    const asked = this.asked();
    const worst = plan && narrowest(plan);
    if (!plan || !asked || !worst) return '';
    const { tipRadiusMm } = asked.situation;
    const grinds = grindsAfter(asked.situation, plan.forward);
    const life =
      grinds === undefined ? '' : ` About ${this.units.number(grinds)} more grinds after this one.`;
    return `${this.units.show(worst.roomLeftMm, 'mm')} left above the width limit at the worst place, end ${worst.end}, ${this.units.show(fromTipMm(2 * tipRadiusMm, worst.radiusMm), 'mm', 0)} from the tip.${life}`;
  });

  /** Each nick with what it is told to do now, and what turning its switch would cost. */
  protected readonly nicks = computed(() => {
    const asked = this.asked();
    if (!asked) return [];
    return asked.situation.nicks.map(({ id }) => ({
      id,
      name: this.nickName(id),
      choice: asked.nickChoices[id] ?? ('policy' as const),
      cost: this.costWords(asked.answer.nicks.find((each) => each.id === id)),
    }));
  });

  protected readonly ownSchools = computed(() => this.asked()?.schools);

  protected chooseNick(damageId: string, choice: NickChoice | 'policy'): void {
    void this.store.choose({ nick: { damageId, choice } });
  }

  protected chooseSchools(schools: Partial<Schools>): void {
    void this.store.choose({ schools });
  }

  protected words(choice: Choice): string {
    return choiceWords(choice, (id) => this.nickName(id));
  }

  protected readonly cost = (choice: Choice): string => choiceCost(choice, this.units);

  /** Taking a choice: its nicks are left, its grade or its step in the edge is this blade's. */
  protected async take({ kind, nickIds, grade, stepMm }: Choice): Promise<void> {
    if (kind === 'allow-step' && stepMm)
      await this.store.choose({ schools: { stepMm: roundedUp(stepMm) } });
    if (kind === 'grade' && grade)
      await this.store.choose({ schools: { gradeMmPerS: grade.gradeMmPerS } });
    for (const damageId of nickIds)
      await this.store.choose({ nick: { damageId, choice: 'leave' } });
  }

  /** What a blade may choose for itself; a balance beyond every grade is nobody's to choose. */
  protected canTake({ kind, stepMm }: Choice): boolean {
    return (
      kind === 'grade' ||
      kind === 'leave-nick' ||
      kind === 'leave-nicks' ||
      (kind === 'allow-step' && stepMm !== undefined)
    );
  }

  private allowedGmm(): number | undefined {
    const asked = this.asked();
    if (!asked?.situation.balance) return undefined;
    const { massG, speedRpm, specGradeMmPerS } = asked.situation;
    return permissibleGmm(massG, speedRpm, asked.schools.gradeMmPerS ?? specGradeMmPerS);
  }

  private nickName(id: string): string {
    const mark = this.store.view()?.damage.find(({ damageId }) => damageId === id);
    if (!mark) return 'Nick';
    return `${DAMAGE[mark.kind].words}, end ${mark.end}, ${this.units.show(mark.fromTipMm, 'mm', 0)} from the tip, ${this.units.show(mark.depthMm, 'mm')} deep`;
  }

  private costWords(cost: NickCost | undefined): string {
    if (!cost) return '';
    if (cost.impossible) return 'Clearing it whole does not fit inside the limits.';
    const more = cost.metalG >= 0;
    const grams = this.units.show(Math.abs(cost.metalG), 'g');
    const life =
      cost.grinds === undefined
        ? ''
        : `, ${this.units.number(Math.abs(cost.grinds), 1)} grinds of life`;
    return more
      ? `Clearing it whole costs ${grams}${life}, with the others as they are.`
      : `Leaving it saves ${grams}${life}, with the others as they are.`;
  }
}
