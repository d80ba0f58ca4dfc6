import { STRUCK_HOW_KEYS, STRUCK_KEYS, UPKEEP } from '@tally-stone/core/basics';
import * as z from 'zod';
import './zod.js';
import { Entered, Id, Instant } from './basics.js';
import { between, wholeBetween } from './numbers.js';

/** Mowers with their decks: geometry, what is on them, what they hit, when they are due. Lengths mm, hours h. */
export const Turf = z.enum(['soft', 'mixed', 'coarse']);
export const Soil = z.enum(['loam', 'sandy', 'stony']);
export const Duty = z.object({ turf: Turf, soil: Soil });
export type Duty = z.infer<typeof Duty>;

/** Which way the mower is brought up to get at its blades. */
export const Raising = z.enum(['front-up', 'rear-up', 'left-up', 'right-up', 'deck-off', 'ramp']);
export type Raising = z.infer<typeof Raising>;

const mm = (most: number) => between(0, most, 'mm');
const place = z
  .number({ error: () => $localize`must be a number` })
  .min(-3000, { error: () => $localize`is further out than any deck` })
  .max(3000, { error: () => $localize`is further out than any deck` });

/** A deck in plan view and what the mower's manual says of its blades. */
export const DeckFigures = z
  .object({
    specId: Id.optional(),
    spindles: z
      .array(z.object({ spindleId: Id, acrossMm: place, aheadMm: place }))
      .min(1, { error: () => $localize`needs at least one spindle` })
      .max(11, { error: () => $localize`has more spindles than any deck` }),
    leastClearanceMm: mm(200),
    leastOverlapMm: mm(200),
    /** Blades geared together may reach into each other's circles. */
    timed: z.boolean(),
    /** As the manual gives it, in its own unit. */
    boltTorque: Entered.optional(),
    /** Washers and spacers, from the spindle outward to the bolt head. */
    stack: z
      .array(
        z
          .string()
          .trim()
          .min(1, { error: () => $localize`is empty` })
          .max(40),
      )
      .max(8, { error: () => $localize`are more than eight parts` }),
    raising: Raising,
    duty: Duty,
  })
  .superRefine(({ spindles }, context) => {
    spindles.forEach(({ acrossMm }, i) => {
      if (spindles.findIndex((other) => other.acrossMm === acrossMm) < i) {
        context.addIssue({
          code: 'custom',
          path: ['spindles', i, 'acrossMm'],
          message: $localize`is where another spindle is: the spacing must be above zero`,
        });
      }
    });
  });
export type DeckFigures = z.infer<typeof DeckFigures>;

/** What must be true before a hand goes near a blade; which of them by the mower's energy. */
export const MAKE_SAFE = [
  'engine-off',
  'lead-off',
  'battery-out',
  'brake-and-chocks',
  'on-stands',
  'fuel-safe',
  'gloves-and-block',
] as const;
export const MakeSafe = z.enum(MAKE_SAFE);
export type MakeSafe = z.infer<typeof MakeSafe>;

export const Energy = z.enum(['petrol', 'diesel', 'battery']);
export type Energy = z.infer<typeof Energy>;

/** The make-safe list of an energy source; shown in this order, all of it asked for. */
export const makeSafeFor = (energy: Energy): readonly MakeSafe[] =>
  MAKE_SAFE.filter((each) =>
    energy === 'battery'
      ? each !== 'lead-off' && each !== 'fuel-safe'
      : energy === 'diesel'
        ? each !== 'lead-off' && each !== 'battery-out'
        : each !== 'battery-out',
  );

export const StrikeWhat = z.enum(STRUCK_KEYS);
export const StrikeHard = z.enum(STRUCK_HOW_KEYS);
export const CutSign = z.enum(['torn-tips', 'stragglers', 'steps', 'haze', 'labouring']);
export type CutSign = z.infer<typeof CutSign>;
export const MeterReason = z.enum(['new-meter', 'meter-reset', 'misread-before']);
export type MeterReason = z.infer<typeof MeterReason>;
export const Condition = z.enum(['sound', 'worn', 'replaced']);

export const UpkeepKind = z.enum(UPKEEP);
/** Looked at and in order; done there and then; or left for somebody to see to. */
export const UpkeepFound = z.enum(['in-order', 'done', 'wants-work']);
/** What is looked at while the blades are off, and what was found last. */
export const UpkeepView = z.object({
  kind: UpkeepKind,
  due: z.boolean(),
  last: z
    .object({
      found: UpkeepFound,
      note: z.string().optional(),
      at: Instant,
      by: z.string(),
      hoursH: z.number(),
    })
    .optional(),
});
export type UpkeepView = z.infer<typeof UpkeepView>;

/** A cut tip of grass on a picture: where it stands, as a share of its width and height, and whether it is torn. */
export const GrassTip = z.object({ x: between(0, 1), y: between(0, 1), torn: z.boolean() });
export type GrassTip = z.infer<typeof GrassTip>;
/** Fewer tips than this tell nothing; nobody touches more. */
const LEAST_TIPS = 5;
const MOST_TIPS = 300;
/** The tips that were looked at: touched on the picture, or counted under the glass. */
export const SeenTips = z
  .object({
    tips: z.array(GrassTip).max(MOST_TIPS, {
      error: () => $localize`are more than ${MOST_TIPS}:ph0:: fewer are enough`,
    }),
    torn: wholeBetween(
      0,
      MOST_TIPS,
      () => $localize`is more than ${MOST_TIPS}:ph0:: fewer are enough`,
    ),
    clean: wholeBetween(
      0,
      MOST_TIPS,
      () => $localize`is more than ${MOST_TIPS}:ph0:: fewer are enough`,
    ),
  })
  .superRefine(({ tips, torn, clean }, context) => {
    if (torn + clean < LEAST_TIPS)
      context.addIssue({
        code: 'custom',
        path: ['clean'],
        message: $localize`and torn are too few together: look at ${LEAST_TIPS} tips at least`,
      });
    if (tips.length > 0 && tips.filter((tip) => tip.torn).length !== torn)
      context.addIssue({
        code: 'custom',
        path: ['torn'],
        message: $localize`is not what was touched`,
      });
  });
export type SeenTips = z.infer<typeof SeenTips>;

const ShareView = z.object({ share: z.number(), low: z.number(), high: z.number() });
export const GrassLookView = z.object({
  lookId: Id,
  at: Instant,
  by: z.string(),
  /** Of the set that was on. */
  fittedAt: Instant,
  hoursOnEdge: z.number(),
  file: z.string().optional(),
  tips: z.array(GrassTip),
  torn: z.int(),
  clean: z.int(),
  share: ShareView,
});
export type GrassLookView = z.infer<typeof GrassLookView>;
/** What was seen of one mower's cut, newest first. */
export const GrassView = z.object({ looks: z.array(GrassLookView) });
export type GrassView = z.infer<typeof GrassView>;

const EdgeByGrassView = z.object({
  hours: z.number(),
  low: z.number(),
  high: z.number(),
  looks: z.int(),
});
/** How long edges last by what the grass shows: all looks in hours on soft turf and loam, and by ground in hours mown. */
export const EdgesByGrass = z.object({
  looks: z.int(),
  all: EdgeByGrassView.optional(),
  byGround: z.array(EdgeByGrassView.extend(Duty.shape)),
});
export type EdgesByGrass = z.infer<typeof EdgesByGrass>;

export const StrikeView = z.object({
  strikeId: Id,
  what: StrikeWhat,
  hard: StrikeHard,
  vibration: z.boolean(),
  at: Instant,
  by: z.string(),
  /** Nobody runs it before spindle, mount and blades are looked at. */
  stopUse: z.boolean(),
});
export type StrikeView = z.infer<typeof StrikeView>;

export const DueView = z.object({
  state: z.enum(['now', 'soon', 'later', 'unplanned']),
  because: z.enum(['strike', 'complaint', 'hours', 'days', 'nothing']),
  used: z.number().optional(),
  hoursLeft: z.number().optional(),
  daysLeft: z.number().optional(),
  /** The shop day it is due on. */
  dueOn: z.string().optional(),
  /** The bench day it goes to. */
  benchOn: z.string().optional(),
  late: z.boolean(),
  complaints: z.int(),
});
export type DueView = z.infer<typeof DueView>;

export const DeckBlade = z.object({
  bladeId: Id,
  code: z.string(),
  specId: Id,
  lengthMm: z.number(),
  widthMm: z.number(),
  grinds: z.int(),
});
export const DeckView = z.object({
  deckId: Id,
  bladeSpeedRpm: z.number(),
  /** Absent until somebody has measured the deck. */
  figures: DeckFigures.optional(),
  torqueNm: z.number().optional(),
  specName: z.string().optional(),
  spindles: z.array(z.object({ spindleId: Id, position: z.string(), blade: DeckBlade.optional() })),
  /** By the blades on it, else by new blades of its spec. */
  pairs: z.array(
    z.object({
      left: z.int(),
      right: z.int(),
      neighbours: z.boolean(),
      clearanceMm: z.number(),
      overlapMm: z.number(),
    }),
  ),
  faults: z.array(z.string()),
  tipSpeedMPerS: z.number().optional(),
  tooFast: z.boolean(),
  /** Since when this set is on, and its hours on the edge. */
  fittedAt: Instant.optional(),
  /** Codes of blades on it that are held since a reading was corrected: nobody runs it with them. */
  held: z.array(z.string()),
  hoursOnEdge: z.number(),
  due: DueView.optional(),
  strike: StrikeView.optional(),
  readyBlades: z.int(),
});
export type DeckView = z.infer<typeof DeckView>;

export const FleetMower = z.object({
  mowerId: Id,
  name: z.string(),
  energy: Energy,
  site: z.string(),
  /** What the meter shows. */
  hoursH: z.number(),
  deck: DeckView,
});
export type FleetMower = z.infer<typeof FleetMower>;
/** With what is looked at while its blades are off. */
export const KeptMower = FleetMower.extend({ upkeep: z.array(UpkeepView) });
export type KeptMower = z.infer<typeof KeptMower>;
export const FleetView = z.object({
  mowers: z.array(KeptMower),
  today: z.string(),
  /** The coming bench days with their room and what is planned for them. */
  benchDays: z.array(
    z.object({ day: z.string(), capacity: z.int(), blades: z.int(), mowers: z.array(z.string()) }),
  ),
  /** No other plan of the bench days is less late; otherwise it may not be the best. */
  planIsBest: z.boolean(),
});
export type FleetView = z.infer<typeof FleetView>;

/** The ready blades that fit a deck best together; nothing where the rack is short. */
/** Which blades are to be in a set that is put together, by their codes with commas, in the order of the spindles. */
export const OfferQuery = z.object({ with: z.string().max(200).optional() });

export const SetOffer = z.object({
  blades: z.array(DeckBlade),
  worst: z.number(),
  over: z.array(z.enum(['lengthMm', 'widthMm', 'massG'])),
  spread: z.object({ lengthMm: z.number(), widthMm: z.number(), massG: z.number() }).optional(),
  oddCode: z.string().optional(),
  /** They hang together on the mower's own peg. */
  own: z.boolean().optional(),
  faults: z.array(z.string()),
  /** Why there is none, or why it may not go on. */
  refused: z.string().optional(),
});
export type SetOffer = z.infer<typeof SetOffer>;
