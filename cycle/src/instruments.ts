import type { CheckQuantity, InstrumentView } from '@tally-stone/contract';
import { QUANTITIES, QUANTITY_KEYS } from '@tally-stone/core';

export type Instrument = Omit<InstrumentView, 'plugged' | 'by'>;

/** The instruments that ship as simulations. Figures are those of ordinary bench tools, invented. */
const FIGURES: readonly Omit<Instrument, 'reads'>[] = [
  {
    key: 'scale',
    get name() {
      return $localize`Bench scale`;
    },
    unit: 'g',
    resolution: 0.1,
    u: 0.06,
    tolerance: 0.4,
    windowS: 0.8,
  },
  {
    key: 'caliper',
    get name() {
      return $localize`Caliper`;
    },
    unit: 'mm',
    resolution: 0.01,
    u: 0.02,
    tolerance: 0.1,
    windowS: 0.5,
  },
  {
    key: 'angle-gauge',
    get name() {
      return $localize`Angle gauge`;
    },
    unit: 'deg',
    resolution: 0.1,
    u: 0.15,
    tolerance: 0.7,
    windowS: 0.5,
  },
  {
    key: 'tip-gauge',
    get name() {
      return $localize`Tip gauge`;
    },
    unit: 'mm',
    resolution: 0.1,
    u: 0.08,
    tolerance: 0.4,
    windowS: 0.5,
  },
  {
    key: 'balancer',
    get name() {
      return $localize`Bearing shaft`;
    },
    unit: 'deg',
    resolution: 0.1,
    u: 0.1,
    tolerance: 0.5,
    windowS: 2,
  },
  {
    key: 'scanner',
    get name() {
      return $localize`Code scanner`;
    },
    unit: 'mm',
    resolution: 1,
    u: 0,
    tolerance: 0,
    windowS: 0,
  },
];

/** What reads an edge from a picture: it speaks no lines, so it is none of the above. */
export const PHOTO_MAT = 'photo-mat';

/** Each with the quantities it reads, as the vocabulary says. */
export const INSTRUMENTS: readonly Instrument[] = FIGURES.map((figures) => ({
  ...figures,
  // Said when it is asked for, in the language of whoever asks.
  get name() {
    return figures.name;
  },
  reads: QUANTITY_KEYS.filter((quantity) => QUANTITIES[quantity].instrument === figures.key),
}));

export const instrumentByKey = (key: string): Instrument | undefined =>
  INSTRUMENTS.find((each) => each.key === key);

/** The check blade is weighed and measured; what levels it is a coin on the balancer, and typed. */
export const readsCheckBlade = ({ reads }: Instrument, quantity: CheckQuantity): boolean =>
  quantity !== 'level' && reads.includes(quantity);
