import { shown } from '../data/shown';
import { ChangeDetectionStrategy, Component, computed, inject, input } from '@angular/core';
import type { SchoolCostRow, ShopRules } from '@tally-stone/contract';
import { max } from 'd3-array';
import { Api } from '../data/api';
import { grindsWords } from '../data/grinds';
import { Region } from '../data/region';
import { Units } from '../data/units';
import { WhichTool } from './which-tool';

/** Money is told for so many mowing hours of one blade: an hour is pence. */
const HOURS = 100;
type Part = 'blade' | 'bench' | 'abrasive';
const PARTS: readonly { readonly key: Part; readonly words: string }[] = [
  { key: 'blade', words: $localize`steel` },
  { key: 'bench', words: $localize`bench` },
  { key: 'abrasive', words: $localize`abrasive` },
];

/** What the schools cost here, on the shop's own grinds and prices, the answer in words first. */
@Component({
  selector: 'ts-school-costs',
  imports: [PageState, WhichTool],
  changeDetection: ChangeDetectionStrategy.OnPush,
  templateUrl: './school-costs.html',
  styleUrl: './school-costs.scss',
})
export class SchoolCosts {
  private readonly api = inject(Api);
  protected readonly units = inject(Units);
  protected readonly region = inject(Region);
  protected readonly parts = PARTS;
  protected readonly hours = HOURS;
  /** Asked for anew when the shop's rules or prices change. */
  readonly rules = input.required<ShopRules>();
  /** Asked anew whenever the rules are others. */
  protected readonly costs = shown(
    () => {
      this.rules();
      return this.api.schoolCosts();
    },
    { about: 'nothing' },
  );
  protected readonly view = this.costs.value;
  protected readonly trouble = this.costs.words;

  protected wordsOf({ nicks, afterGrinds }: SchoolCostRow): string {
    if (nicks?.kind === 'clear-all') return $localize`Clear every nick`;
    if (nicks?.kind === 'leave-all') return $localize`Leave every nick`;
    if (nicks) return $localize`Leave nicks up to ${this.units.show(nicks.depthMm, 'mm')}`;
    return afterGrinds === 'limits'
      ? $localize`Retire by measured limits`
      : $localize`Retire after ${grindsWords(afterGrinds ?? 0)}`;
  }

  private readonly most = computed(
    () => max(this.view()?.rows ?? [], ({ perHour }) => perHour.ground) ?? 1,
  );
  protected share(perHour: number): number {
    return (100 * perHour) / this.most();
  }
  protected money(perHour: number): string {
    return this.region.money(perHour * HOURS, this.view()?.currency ?? '');
  }

  /** Each question's dearest way against what the shop does, in a sentence. */
  protected readonly answers = computed(() => {
    const rows = this.view()?.rows ?? [];
    const about = [rows.filter(({ nicks }) => nicks), rows.filter(({ nicks }) => !nicks)];
    return about.flatMap((question) => {
      const now = question.find(({ current }) => current);
      if (!now) return [];
      const others = question.filter((row) => row !== now);
      const furthest = others.reduce<SchoolCostRow | undefined>(
        (far, row) =>
          !far ||
          Math.abs(row.perHour.ground - now.perHour.ground) >
            Math.abs(far.perHour.ground - now.perHour.ground)
            ? row
            : far,
        undefined,
      );
      if (!furthest) return [];
      const difference = furthest.perHour.ground - now.perHour.ground;
      const how = `${this.money(Math.abs(difference))} ${difference >= 0 ? $localize`more` : $localize`less`}`;
      const what = this.wordsOf(furthest).toLowerCase();
      return [
        $localize`To ${what} would cost ${how} for ${HOURS} hours of a blade: ${this.region.number(furthest.grinds, 1)} grinds a blade instead of ${this.region.number(now.grinds, 1)}.`,
      ];
    });
  });
}
import { PageState } from '../parts/state';
