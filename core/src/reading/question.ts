import { COVERAGE_K, expanded, risesBeyondDoubt, rss, type Measured } from './uncertainty.js';
import { said, type Base } from '../units/said.js';
import { QUANTITIES, type BenchQuantity, type MostFall } from '../vocabulary/quantities.js';

const shown = (value: number, unit: Base): string => said(value, unit);

/** What a reading is held against. Values in the reading's unit. */
export interface Comparison {
  readonly quantity: BenchQuantity;
  readonly unit: Base;
  readonly reading: Measured;
  /** Read once more since it was doubted, and it came out the same. */
  readonly confirmed?: boolean | undefined;
  /** Before the grind, for a reading after it. */
  readonly before?: Measured | undefined;
  /** What the counted passes should have left of it. */
  readonly expected?: Measured | undefined;
  /** After the last cycle, and how many grinds have gone by since without it. */
  readonly last?: (Measured & { readonly grindsSince?: number | undefined }) | undefined;
  /** What it is compared with at the other end: a reading that is right there and not here was swapped. */
  readonly otherEnd?: Measured | undefined;
  /** The same at the other stations of its end, by their names. */
  readonly neighbours?: readonly (Measured & { readonly name: string })[];
  readonly asNew?: number | undefined;
  /** The blade came in used, or was ground without being measured here. */
  readonly knownWorn?: boolean;
  /** Allowed spread of new blades about the spec's figure, same unit. */
  readonly newTolerance: number;
}

/** Why a reading cannot be believed as it stands. */
export interface Doubt {
  readonly words: string;
  /** What was probably meant, in the reading's unit, where the slip is one of unit or decimal place. */
  readonly meant?: number;
}

/** A blade nobody has measured before has kept this share of new at least, or it is another one. Common practice, no source. */
const LEAST_OF_NEW = { worn: 0.5, new: 0.7 } as const;

const within = ({ least, share }: MostFall, of: number): number => Math.max(least, share * of);

/** Slips of unit and decimal place, each with the factor it asks for. */
const SLIPS: readonly {
  readonly factor: number;
  readonly words: string;
  readonly unit?: Base;
}[] = [
  {
    factor: 25.4,
    get words() {
      return $localize`read in inches`;
    },
    unit: 'mm',
  },
  {
    factor: 28.349523125,
    get words() {
      return $localize`read in ounces`;
    },
    unit: 'g',
  },
  {
    factor: 1000,
    get words() {
      return $localize`read in kilograms`;
    },
    unit: 'g',
  },
  {
    factor: 10,
    get words() {
      return $localize`a decimal place too far`;
    },
  },
  {
    factor: 0.1,
    get words() {
      return $localize`a decimal place too few`;
    },
  },
  {
    factor: 100,
    get words() {
      return $localize`two decimal places too far`;
    },
  },
  {
    factor: 0.01,
    get words() {
      return $localize`two decimal places too few`;
    },
  },
];

interface Reference extends Measured {
  readonly what: string;
  /** It can have fallen so far since; nothing where only a rise is doubted. */
  readonly mostFall: number;
  /** It can have risen so far, where it can rise. */
  readonly mostRise?: number;
}

/** What the reading follows on, and how far it can have fallen since. */
function referenceOf(from: Comparison): Reference | undefined {
  const { quantity, before, expected, last, asNew, knownWorn, newTolerance } = from;
  const { mostFall } = QUANTITIES[quantity];
  if (before) {
    const taken = expected ? 2 * Math.max(0, before.value - expected.value) : 0;
    const most = mostFall ? Math.max(within(mostFall.ground, before.value), taken) : Infinity;
    return { ...before, what: $localize`before the grind`, mostFall: most };
  }
  if (last) {
    const grinds = last.grindsSince ?? 0;
    const most = mostFall
      ? within(mostFall.mown, last.value) * (1 + grinds) +
        within(mostFall.ground, last.value) * grinds
      : Infinity;
    return { ...last, what: $localize`after the last cycle`, mostFall: most };
  }
  if (asNew === undefined) return undefined;
  const kept = LEAST_OF_NEW[knownWorn ? 'worn' : 'new'];
  const most = mostFall ? (1 - kept) * asNew : Infinity;
  return {
    value: asNew,
    u: newTolerance / COVERAGE_K,
    what: $localize`of a new blade`,
    mostFall: most,
  };
}

/** The slip that would explain it: another place, another unit, another decimal place. */
function slipOf(
  { reading, unit, quantity, otherEnd, neighbours = [] }: Comparison,
  reference: Reference,
): Doubt | undefined {
  const is = (other: Measured): boolean =>
    Math.abs(reading.value - other.value) <= expanded(rss(reading.u, other.u));
  if (otherEnd && is(otherEnd)) return { words: $localize`as the other end was: ends swapped` };
  const neighbour = neighbours.find(is);
  if (neighbour) return { words: $localize`as the station ${neighbour.name} was: another station` };
  const slip = SLIPS.find(({ factor, unit: of = unit }) => {
    const meant = reading.value * factor;
    return (
      of === unit &&
      reference.value - meant <= reference.mostFall + expanded(reference.u) &&
      meant - reference.value <= (reference.mostRise ?? 0) + expanded(rss(reading.u, reference.u))
    );
  });
  if (slip) return { words: slip.words, meant: reading.value * slip.factor };
  if (quantity === 'mass' && reading.value < reference.value / 3)
    return { words: $localize`zeroed with something on the scale` };
  return undefined;
}

/**
 * Why a reading cannot be believed as it stands, or `undefined`. It is kept either way; a questioned one stands for
 * nothing and blocks sign-off until it is read again. Compared within the combined uncertainty, k = 2: above what it
 * was before the grind, after the last cycle or when new; or further below that than mowing and grinding take. A fall
 * that was read twice is believed, a rise never: steel does not grow.
 * @example questionReading({ quantity: 'mass', unit: 'g', reading: { value: 812.1, u: 0.3 }, before: { value: 812, u: 0.3 }, newTolerance: 10 }) // undefined
 */
export function questionReading(from: Comparison): Doubt | undefined {
  const { quantity, unit, reading, confirmed, last, before, asNew, newTolerance } = from;
  const { shrinksUnless, mostRise } = QUANTITIES[quantity];
  if (shrinksUnless === undefined) {
    return mostRise === undefined || confirmed ? undefined : farFrom(from, mostRise);
  }
  const reference = referenceOf(from);
  const doubt = (words: string, against: Reference, usual: string): Doubt => {
    const slip = slipOf(from, against);
    return { ...slip, words: $localize`${words}:ph0:: ${slip?.words ?? usual}? Read it again` };
  };
  const above = (against: Reference): Doubt =>
    doubt(
      $localize`${shown(reading.value, unit)} is ${shown(reading.value - against.value, unit)} more than the ${shown(against.value, unit)} ${against.what} (the readings allow ${shown(expanded(rss(reading.u, against.u)), unit)})`,
      against,
      shrinksUnless,
    );
  if (reference && (before ?? last) && risesBeyondDoubt(reference, reading))
    return above(reference);
  if (asNew !== undefined && reading.value - newTolerance - asNew > expanded(reading.u)) {
    return above({ value: asNew, u: 0, what: $localize`of a new blade`, mostFall: Infinity });
  }
  if (!reference || confirmed) return undefined;
  const fall = reference.value - reading.value;
  if (fall <= reference.mostFall + expanded(rss(reading.u, reference.u))) return undefined;
  return doubt(
    $localize`${shown(reading.value, unit)} is ${shown(fall, unit)} less than the ${shown(reference.value, unit)} ${reference.what} (at most ${shown(reference.mostFall, unit)} can have gone)`,
    reference,
    $localize`misread, or another blade`,
  );
}

/** What can go both ways: further from the last one, or from new, than one cycle moves it. */
function farFrom(
  { quantity, unit, reading, last, asNew }: Comparison,
  most: number,
): Doubt | undefined {
  const fresh = QUANTITIES[quantity].whenNew;
  const against = last ?? (asNew === undefined ? fresh : { value: asNew, u: fresh?.u ?? 0 });
  if (!against) return undefined;
  const apart = reading.value - against.value;
  if (Math.abs(apart) <= most + expanded(rss(reading.u, against.u))) return undefined;
  const reference = { ...against, what: '', mostFall: most, mostRise: most };
  const slip = slipOf({ quantity, unit, reading, newTolerance: 0 }, reference);
  return {
    ...slip,
    words: $localize`${shown(reading.value, unit)} is ${shown(Math.abs(apart), unit)} ${apart > 0 ? $localize`more` : $localize`less`} than the ${shown(against.value, unit)} ${last ? $localize`after the last cycle` : $localize`of a new blade`} (a cycle moves it by ${shown(most, unit)} at most): ${slip?.words ?? $localize`misread`}? Read it again`,
  };
}
