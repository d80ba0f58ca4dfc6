import type { CheckQuantity, InstrumentView } from '@tally-stone/contract';

export type Instrument = Omit<InstrumentView, 'plugged'>;

/** The instruments that ship as simulations. Figures are those of ordinary bench tools, invented. */
export const INSTRUMENTS: readonly Instrument[] = [
  {
    key: 'scale',
    name: 'Bench scale',
    reads: ['mass'],
    unit: 'g',
    resolution: 0.1,
    u: 0.06,
    tolerance: 0.4,
    windowS: 0.8,
  },
  {
    key: 'caliper',
    name: 'Caliper',
    reads: [
      'width',
      'thickness',
      'wing',
      'length',
      'hole-wear',
      'face',
      'land',
      'straightedge-gap',
    ],
    unit: 'mm',
    resolution: 0.01,
    u: 0.02,
    tolerance: 0.1,
    windowS: 0.5,
  },
  {
    key: 'angle-gauge',
    name: 'Angle gauge',
    reads: ['bevel'],
    unit: 'deg',
    resolution: 0.1,
    u: 0.15,
    tolerance: 0.7,
    windowS: 0.5,
  },
  {
    key: 'tip-gauge',
    name: 'Tip gauge',
    reads: ['tip-height'],
    unit: 'mm',
    resolution: 0.1,
    u: 0.08,
    tolerance: 0.4,
    windowS: 0.5,
  },
  {
    key: 'balancer',
    name: 'Bearing shaft',
    reads: [],
    unit: 'deg',
    resolution: 0.1,
    u: 0.1,
    tolerance: 0.5,
    windowS: 2,
  },
  {
    key: 'scanner',
    name: 'Code scanner',
    reads: [],
    unit: 'mm',
    resolution: 1,
    u: 0,
    tolerance: 0,
    windowS: 0,
  },
];

export const instrumentByKey = (key: string): Instrument | undefined =>
  INSTRUMENTS.find((each) => each.key === key);

/** The check blade is weighed and measured; what levels it is a coin on the balancer, and typed. */
export const readsCheckBlade = ({ reads }: Instrument, quantity: CheckQuantity): boolean =>
  quantity !== 'level' && reads.includes(quantity);
