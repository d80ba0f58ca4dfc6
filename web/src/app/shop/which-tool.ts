import { ChangeDetectionStrategy, Component, computed, inject, input } from '@angular/core';
import { toSignal } from '@angular/core/rxjs-interop';
import { FormGroup, ReactiveFormsModule } from '@angular/forms';
import { PaidOffYears, ShopRules } from '@tally-stone/contract';
import { breakEven, yearlyCost, type ToolCost } from '@tally-stone/core';
import { max } from 'd3-array';
import { scaleLinear } from 'd3-scale';
import { area, line } from 'd3-shape';
import { QuantityControl } from '../data/fields';
import { Region } from '../data/region';
import { Units } from '../data/units';
import { QuantityField } from '../parts/form/quantity-field';
import { tickWords } from '../parts/tick-words';

const PRICES = ShopRules.shape.prices.shape;
const WIDTH = 560;
const HEIGHT = 220;
const EDGE = { left: 10, right: 10, top: 12, bottom: 30 };
const POINTS = 24;
/** Minutes and abrasive are known to so much, relative, standard. Common practice, no source. */
const RELATIVE_U = 0.1;

interface ToolForm {
  readonly name: string;
  readonly form: FormGroup<Record<'price' | 'minutes' | 'abrasive', QuantityControl>>;
}

/** A jig and hand grinder against a machine, at this shop's blades a year: from how many the dearer one pays. */
@Component({
  selector: 'ts-which-tool',
  imports: [QuantityField, ReactiveFormsModule],
  changeDetection: ChangeDetectionStrategy.OnPush,
  templateUrl: './which-tool.html',
  styleUrl: './which-tool.scss',
})
export class WhichTool {
  private readonly units = inject(Units);
  protected readonly region = inject(Region);
  readonly bladesAYear = input.required<number>();
  readonly currency = input.required<string>();
  readonly benchHour = input.required<number>();

  protected readonly tools = [
    this.tool($localize`Jig and hand grinder`, 150, 12, 0.6),
    this.tool($localize`Belt or wheel machine`, 2400, 5, 0.5),
  ] as const;
  protected readonly years = new QuantityControl('', PaidOffYears, this.units, { start: 5 });
  private readonly whole = new FormGroup({
    cheap: this.tools[0].form,
    dear: this.tools[1].form,
    years: this.years,
  });
  private readonly typed = toSignal(this.whole.valueChanges);

  private tool(name: string, price: number, minutes: number, abrasive: number): ToolForm {
    return {
      name,
      form: new FormGroup({
        price: new QuantityControl('', PRICES.blade, this.units, { start: price }),
        minutes: new QuantityControl('', PRICES.minutesPerBlade, this.units, { start: minutes }),
        abrasive: new QuantityControl('', PRICES.abrasivePerGrind, this.units, { start: abrasive }),
      }),
    };
  }

  private costOf({ form }: ToolForm): ToolCost | undefined {
    const { price, minutes, abrasive } = form.controls;
    const [a, b, c] = [price.quantity, minutes.quantity, abrasive.quantity];
    if (a === undefined || b === undefined || c === undefined) return undefined;
    const about = (value: number) => ({ value, u: RELATIVE_U * value });
    return { price: a, minutesPerBlade: about(b), abrasivePerBlade: about(c) };
  }

  /** Both tools with how they are paid off; nothing while a field holds no number. */
  private readonly asked = computed(() => {
    this.typed();
    const [cheap, dear] = this.tools.map((tool) => this.costOf(tool));
    const years = this.years.quantity;
    if (!cheap || !dear || !years || !this.whole.valid) return undefined;
    return { cheap, dear, payOff: { benchHour: this.benchHour(), years } };
  });

  protected readonly found = computed(() => {
    const asked = this.asked();
    if (!asked) return undefined;
    const { cheap, dear, payOff } = asked;
    const even = breakEven(cheap, dear, payOff);
    const costs = [cheap, dear].map((tool) => yearlyCost(tool, payOff, this.bladesAYear()));
    return { even, costs };
  });

  protected readonly answer = computed(() => {
    const found = this.found();
    if (!found) return '';
    const { even, costs } = found;
    const [cheap, dear] = costs.map(({ value }) => value) as [number, number];
    const [less, more] = cheap <= dear ? this.tools : [this.tools[1], this.tools[0]];
    const money = this.region.money(Math.abs(dear - cheap), this.currency(), 0);
    const now = $localize`At your ${this.bladesAYear()} blades a year the ${less.name.toLowerCase()} costs ${money} a year less than the ${more.name.toLowerCase()}.`;
    if (even.bladesAYear === undefined)
      return $localize`${now} The dearer one saves nothing a blade: it never pays.`;
    const range =
      even.to === undefined
        ? $localize`${this.region.number(even.from ?? 0)} or more, or never`
        : $localize`${this.region.number(even.from ?? 0)} to ${this.region.number(even.to)}`;
    return $localize`${now} The ${this.tools[1].name.toLowerCase()} pays from about ${this.region.number(even.bladesAYear)} blades a year on (${range}).`;
  });

  private readonly scales = computed(() => {
    const asked = this.asked();
    if (!asked) return undefined;
    const { cheap, dear, payOff } = asked;
    const { bladesAYear = 0 } = breakEven(cheap, dear, payOff);
    const mostBlades = Math.max(20, 1.6 * this.bladesAYear(), Math.min(2 * bladesAYear, 5000));
    const most = max([cheap, dear], (tool) => yearlyCost(tool, payOff, mostBlades).value) ?? 1;
    const x = scaleLinear([0, mostBlades], [EDGE.left, WIDTH - EDGE.right]);
    const y = scaleLinear([0, most * 1.05], [HEIGHT - EDGE.bottom, EDGE.top]);
    return { x, y, asked, mostBlades };
  });

  protected readonly drawing = computed(() => {
    const scales = this.scales();
    if (!scales) return undefined;
    const { x, y, asked, mostBlades } = scales;
    const blades = Array.from({ length: POINTS + 1 }, (_, i) => (i * mostBlades) / POINTS);
    const lines = [asked.cheap, asked.dear].map((tool, i) => {
      const at = (n: number) => yearlyCost(tool, asked.payOff, n);
      const path = line<number>(x, (n) => y(at(n).value));
      const band = area<number>(
        x,
        (n) => y(at(n).value - 2 * at(n).u),
        (n) => y(at(n).value + 2 * at(n).u),
      );
      const end = at(mostBlades * 0.97).value;
      const which = i === 0 ? ('cheap' as const) : ('dear' as const);
      return {
        which,
        path: path(blades) ?? '',
        band: band(blades) ?? '',
        name: this.tools[i]?.name ?? '',
        x: x(mostBlades * 0.97),
        y: y(end) - 8,
      };
    });
    const words = tickWords(x, 6, this.region);
    const even = breakEven(asked.cheap, asked.dear, asked.payOff).bladesAYear;
    return {
      lines,
      now: x(this.bladesAYear()),
      even: even === undefined || even > mostBlades ? undefined : x(even),
      foot: HEIGHT - EDGE.bottom,
      ticks: x.ticks(6).map((n) => ({ x: x(n), words: words(n) })),
    };
  });
  protected readonly box = `0 0 ${WIDTH} ${HEIGHT}`;
}
