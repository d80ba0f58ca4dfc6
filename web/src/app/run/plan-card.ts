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
import type { AskedPlan, Schools } from '@tally-stone/contract';
import {
  grindsAfter,
  fromTipMm,
  permissibleGmm,
  type Choice,
  type NickChoice,
  type End,
  type NickCost,
  DAMAGE,
  ENDS,
  TOOL_CHANGE_MINUTES,
  WORTH_CHANGING_G,
  COUNT_WORDS,
} from '@tally-stone/core';
import { Units } from '../data/units';
import { Tally } from '../parts/tally';
import {
  choiceCost,
  choiceWords,
  narrowest,
  passesInPlan,
  passesOf,
  toolWords,
  zoneWords,
  type ZonePasses,
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
      percent === 0
        ? $localize`as much as`
        : $localize`${Math.abs(percent)} % ${percent > 0 ? $localize`more` : $localize`less`} than`;
    return $localize`; in this hand, ${hand.grinds} grinds, ${how} the tool’s usual`;
  });
  protected readonly choices = computed(() => this.asked()?.answer.choices ?? []);
  /** A nick goes so deep that the edge may be dressed square first. */
  protected readonly squareFirst = computed(() => this.asked()?.answer.squareFirst);
  /** Schools that say nothing to this blade. */
  protected readonly withoutSchools = computed((): (keyof Schools)[] => {
    const situation = this.asked()?.situation;
    return [
      ...(situation?.nicks.length ? [] : ['squareFirst' as const]),
      ...(situation?.byTable ? [] : ['secondTable' as const]),
    ];
  });
  /** A finer tool that is worth changing to for the finish. */
  protected readonly finishOn = computed(() => this.asked()?.answer.finishOn);
  protected readonly total = computed(() => {
    const plan = this.plan();
    return plan ? passesInPlan(plan) : 0;
  });

  protected readonly ends = computed(() => {
    const asked = this.asked();
    const plan = this.plan();
    if (!asked || !plan) return [];
    return plan.order
      .map((end) => ({
        end,
        zones: passesOf(asked, plan, end).map((each) => ({
          ...each,
          what: toolWords(asked, each.tool).counts.many,
          where: this.whereWords(asked, each),
        })),
      }))
      .filter(({ zones }) => zones.length > 0);
  });

  protected readonly balance = computed(() => {
    const plan = this.plan();
    const after = plan?.forward.unbalanceGmm;
    const allowed = this.asked() && this.allowedGmm();
    if (!plan || after === undefined || !allowed) {
      return $localize`Only the sharpening is planned: hang the blade for its heavy end and the plan balances it too.`;
    }
    const size = this.units.show(Math.abs(after), 'g·mm', 0);
    const u = this.asked()?.situation.balance?.uGmm ?? 0;
    const heavy =
      Math.abs(after) < 1
        ? $localize`level`
        : $localize`end ${after > 0 ? 'A' : 'B'} heavy by ${size}`;
    const doubt = plan.uncertaintyExceedsAllowance
      ? $localize` The balancer is less sure than the whole allowance: hang it again after.`
      : '';
    const gap =
      plan.gapG > 0
        ? $localize` The search was cut off: another plan may take up to ${this.units.show(plan.gapG, 'g')} less.`
        : '';
    return $localize`Expected after: ${heavy} ± ${this.units.figure(2 * u, 'g·mm', 0)}, of ${this.units.figure(allowed, 'g·mm', 0)} allowed.${doubt}${gap}`;
  });

  protected beyond(damageId: string): string {
    return $localize`${this.nickName(damageId)} lies where no zone reaches: this plan leaves it as it is.`;
  }

  protected readonly left = computed(() => {
    const plan = this.plan();
    const asked = this.asked();
    const worst = plan && narrowest(plan);
    if (!plan || !asked || !worst) return '';
    const { tipRadiusMm } = asked.situation;
    const grinds = grindsAfter(asked.situation, plan.forward);
    const life =
      grinds === undefined
        ? ''
        : $localize` About ${this.units.number(grinds)} more grinds after this one.`;
    return $localize`${this.units.show(worst.roomLeftMm, 'mm')} left above the width limit at the worst place, end ${worst.end}, ${this.units.show(fromTipMm(2 * tipRadiusMm, worst.radiusMm), 'mm', 0)} from the tip.${life}`;
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

  /** Where passes go, and on what where the blade is ground on more than one tool. */
  private whereWords(asked: AskedPlan, { zone, tool, made }: ZonePasses): string {
    const { name, counts } = toolWords(asked, tool);
    const where = this.units.resay(zoneWords(asked, zone));
    const what = counts === COUNT_WORDS.pass ? where : `${counts.many}, ${where}`;
    const several = new Set(ENDS.flatMap((end) => this.toolsAt(asked, end))).size > 1;
    return several ? $localize`${what}, ${made ? $localize`made ` : ''}on the ${name}` : what;
  }
  private toolsAt(asked: AskedPlan, end: End): string[] {
    const plan = this.plan();
    return plan ? passesOf(asked, plan, end).map(({ tool }) => tool) : [];
  }

  protected words(choice: Choice): string {
    return choiceWords(
      choice,
      (id) => this.nickName(id),
      (tool) => this.toolName(tool),
    );
  }

  /** What changing the tool for the finish brings against the plan as it is, and what it costs. */
  protected finishWords(choice: Choice): string {
    const { metalG = 0, unbalanceGmm = 0 } = this.plan()?.forward ?? {};
    const { show } = this.units;
    const saved = metalG - choice.metalG;
    const surer = choice.unbalanceAfterGmm ?? 0;
    const brings =
      saved >= WORTH_CHANGING_G
        ? $localize`takes ${show(saved, 'g')} less`
        : $localize`leaves ${show(Math.abs(surer), 'g·mm', 0)} instead of ${show(Math.abs(unbalanceGmm), 'g·mm', 0)}:ph1:: a surer balance`;
    return $localize`${brings}; about ${TOOL_CHANGE_MINUTES} minutes to change over`;
  }

  protected toolName(tool: string): string {
    const asked = this.asked();
    return asked ? toolWords(asked, tool).name : '';
  }

  /** It is ground on one tool after all. */
  protected async oneTool(): Promise<void> {
    const trouble = await this.store.act({ type: 'finish-on' });
    if (trouble) this.store.trouble.set(trouble);
  }

  /** What dressing the edge first costs against the plan as it is. */
  protected squareWords({ metalG, grindsAfter: left }: Choice): string {
    const more = metalG - (this.plan()?.forward.metalG ?? 0);
    const metal =
      more > 0.05 ? $localize`${this.units.show(more, 'g')} more` : $localize`no more metal`;
    const grinds =
      left === undefined ? '' : $localize`, about ${this.units.number(left, 1)} grinds left after`;
    return $localize`down to the nick with the tool upright, then the bevel back: ${metal}${grinds}; blunt until the bevel is back`;
  }

  private async finishOnTool(tool: string | undefined): Promise<void> {
    const grinderId = this.asked()?.tools[tool ?? '']?.grinderId;
    const trouble = grinderId && (await this.store.act({ type: 'finish-on', grinderId }));
    if (trouble) this.store.trouble.set(trouble);
  }

  protected readonly cost = (choice: Choice): string => choiceCost(choice, this.units);

  /** Taking a choice: its nicks are left, its grade or its step in the edge is this blade's. */
  protected async take({ kind, nickIds, grade, stepMm, tool }: Choice): Promise<void> {
    if (kind === 'finish-on') await this.finishOnTool(tool);
    if (kind === 'square-first') await this.store.choose({ schools: { squareFirst: true } });
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
      kind === 'finish-on' ||
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
    if (!mark) return $localize`Nick`;
    return $localize`${DAMAGE[mark.kind].words}, end ${mark.end}, ${this.units.show(mark.fromTipMm, 'mm', 0)} from the tip, ${this.units.show(mark.depthMm, 'mm')} deep`;
  }

  private costWords(cost: NickCost | undefined): string {
    if (!cost) return '';
    if (cost.impossible) return $localize`Clearing it whole does not fit inside the limits.`;
    const more = cost.metalG >= 0;
    const grams = this.units.show(Math.abs(cost.metalG), 'g');
    const life =
      cost.grinds === undefined
        ? ''
        : $localize`, ${this.units.number(Math.abs(cost.grinds), 1)} grinds of life`;
    return more
      ? $localize`Clearing it whole costs ${grams}${life}, with the others as they are.`
      : $localize`Leaving it saves ${grams}${life}, with the others as they are.`;
  }
}
