import { ChangeDetectionStrategy, Component, computed, inject, input } from '@angular/core';
import type { ShopRules, SpecRevision } from '@tally-stone/contract';
import { NamedPipe } from '../parts/named.pipe';
import { Days } from '../data/days';
import { Region } from '../data/region';
import type { ShopPartPath } from './parts';

const MOST_APRONS = 3;
const MOST_BLADES = 7;
const TALLEST_PX = 108;

/** A part of the shop as it looks there, with what is true of it today on it. For the eye alone. */
@Component({
  selector: 'ts-part-drawing',
  imports: [NamedPipe],
  changeDetection: ChangeDetectionStrategy.OnPush,
  templateUrl: './part-drawing.html',
  styleUrl: './part-drawing.scss',
  host: { 'aria-hidden': 'true' },
})
export class PartDrawing {
  private readonly days = inject(Days);
  protected readonly region = inject(Region);
  readonly of = input.required<ShopPartPath>();
  readonly people = input<readonly string[]>([]);
  readonly rules = input<ShopRules>();
  readonly specs = input<readonly SpecRevision[]>([]);
  readonly shop = input('');

  protected readonly aprons = computed(() => {
    const names = this.people();
    const more = names.length - MOST_APRONS;
    return more <= 0 ? names : [...names.slice(0, MOST_APRONS - 1), `+ ${more + 1}`];
  });
  protected readonly finishes = ['razor', 'working', 'blunt'] as const;
  protected readonly weekdays = computed(() =>
    this.days.weekdays().map(({ day, name }, i) => ({
      name: name.charAt(0),
      x: 18 + i * 27,
      grinds: this.rules()?.benchWeekdays.includes(day) ?? false,
    })),
  );
  /** The shop's own blades side by side, to one scale. */
  protected readonly blades = computed(() => {
    const lengths = this.specs()
      .map(({ figures }) => ({ lengthMm: figures.newLengthMm, widthMm: figures.newWidthMm }))
      .sort((a, b) => a.lengthMm - b.lengthMm)
      .slice(0, MOST_BLADES);
    const longest = lengths.at(-1)?.lengthMm ?? 1;
    return lengths.map(({ lengthMm, widthMm }, i) => ({
      x: 4 + i * 28,
      height: (lengthMm / longest) * TALLEST_PX,
      width: Math.max(7, (widthMm / longest) * TALLEST_PX),
    }));
  });
}
