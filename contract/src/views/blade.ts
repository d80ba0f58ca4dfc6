import { BladeState, Id, Instant } from '../basics.js';
import { DeckBlade, DeckView, FleetMower, SetOffer } from '../fleet.js';
import * as z from 'zod';
import '../zod.js';

export const BladeRow = z.object({
  bladeId: Id,
  code: z.string(),
  specName: z.string(),
  lengthMm: z.number(),
  widthMm: z.number(),
  state: BladeState,
  place: z.string(),
  mowerName: z.string().optional(),
  position: z.string().optional(),
  grinds: z.int(),
  cycleId: Id.optional(),
  waitingSince: Instant.optional(),
  /** Came into the book used: its grinds before are not known. */
  usedSince: Instant.optional(),
});
export type BladeRow = z.infer<typeof BladeRow>;

export const BenchView = z.object({
  atBench: z.array(BladeRow),
  waiting: z.array(BladeRow),
  onHold: z.array(BladeRow),
  /** How many there are; the lists hold the first of them. Those that wait are new ones too. */
  counts: z.object({
    waiting: z.int(),
    onHold: z.int(),
    ready: z.int(),
    onMower: z.int(),
    retired: z.int(),
    all: z.int(),
  }),
  /** What a new shop still has none of, in the order it is needed. */
  missing: z.array(z.enum(['people', 'spec', 'grinder', 'mower', 'blades'])),
});
export type BenchView = z.infer<typeof BenchView>;
export const BladeList = z.object({ blades: z.array(BladeRow), total: z.int() });
export type BladeList = z.infer<typeof BladeList>;

/** The register: every blade, found by any word its row shows, a page at a time. */
export const RegisterQuery = z.object({
  text: z
    .string()
    .max(80, { error: () => $localize`is too long to look for` })
    .default(''),
  state: BladeState.optional(),
  specId: Id.optional(),
  sort: z
    .enum(['code', 'spec', 'state', 'place', 'grinds', 'waiting', 'left', 'last-grind'])
    .default('code'),
  down: z.stringbool().default(false),
  offset: z.coerce
    .number()
    .int()
    .min(0, { error: () => $localize`must not be negative` })
    .default(0),
  limit: z.coerce
    .number()
    .int()
    .min(1, { error: () => $localize`must be at least 1` })
    .max(500, { error: () => $localize`is more than 500 rows at once` })
    .default(100),
});
export type RegisterQuery = z.infer<typeof RegisterQuery>;

/** What is left of a blade until its first limit. */
export const LifeLeftRow = z.object({
  /** Grinds: the middle, and the ends of a range that is meant to hold four times in five. */
  grinds: z.object({ median: z.number(), low: z.number(), high: z.number() }),
  /** The limit that likely comes first, in words, and what may still go there. */
  first: z.string(),
  roomMm: z.number().optional(),
});
export type LifeLeftRow = z.infer<typeof LifeLeftRow>;

/** Blades by their ids, with commas between; what is told of each is told of these alone. */
export const LivesQuery = z.object({
  ids: z
    .string()
    .transform((ids) => ids.split(','))
    .pipe(
      z
        .array(Id)
        .min(1, { error: () => $localize`names no blade` })
        .max(100, { error: () => $localize`are more than 100 at once` }),
    ),
});
export type LivesQuery = z.infer<typeof LivesQuery>;

/** Of each blade that has limits and was read: what is left of it. */
export const LivesView = z.object({
  lives: z.array(LifeLeftRow.extend({ bladeId: Id })),
});
export type LivesView = z.infer<typeof LivesView>;

/** What the register tells of a blade beside its code, each once and in this order. */
export const REGISTER_COLUMNS = [
  'spec',
  'state',
  'place',
  'grinds',
  'left',
  'first',
  'last-grind',
  'waiting',
] as const;
export type RegisterColumn = (typeof REGISTER_COLUMNS)[number];

/** The register as a sheet: what is looked for, and which columns are shown, with commas between; all where it is not said. */
export const RegisterSheetQuery = RegisterQuery.extend({
  columns: z
    .string()
    .transform((columns) => columns.split(','))
    .pipe(z.array(z.enum(REGISTER_COLUMNS)))
    .optional(),
});

/** A blade in the register, with when it was ground last. */
export const RegisterRow = BladeRow.extend({ lastGroundAt: Instant.optional() });
export type RegisterRow = z.infer<typeof RegisterRow>;

export const RegisterView = z.object({
  blades: z.array(RegisterRow),
  /** All that were found, not only this page's. */
  total: z.int(),
  states: z.partialRecord(BladeState, z.int()),
});
export type RegisterView = z.infer<typeof RegisterView>;

export const BladeQuery = z.object({
  mowerId: Id.optional(),
  place: z.string().trim().max(40).optional(),
  lengthMm: z.coerce
    .number()
    .positive({ error: () => $localize`must be above zero` })
    .max(2000)
    .optional(),
  state: BladeState.optional(),
});
export type BladeQuery = z.infer<typeof BladeQuery>;

/** A peg of the wall: a mower's, by number, or one for the loose blades of a spec, by letter. */
export const Peg = z.object({
  name: z.string(),
  specId: Id,
  mowerId: Id.optional(),
  mowerName: z.string().optional(),
});
export type Peg = z.infer<typeof Peg>;

/** What the rack shows of a mower: what is on it, and how soon it wants another set. */
export const RackMower = FleetMower.pick({ mowerId: true, name: true }).extend({
  deck: DeckView.pick({ deckId: true, fittedAt: true, due: true, readyBlades: true }).extend({
    spindles: z.array(
      z.object({ spindleId: Id, blade: DeckBlade.pick({ code: true }).optional() }),
    ),
  }),
});
export type RackMower = z.infer<typeof RackMower>;

/** Where blades are: of a large shop the first of each place, and the last that were retired. */
export const RackView = z.object({
  /** The sizes the wall is hung by, longest first, each with its pegs and what hangs on them. */
  sizes: z.array(
    z.object({
      specId: Id,
      name: z.string(),
      lengthMm: z.number(),
      widthMm: z.number(),
      pegs: z.array(Peg.extend({ bladeIds: z.array(Id) })),
    }),
  ),
  waiting: z.array(BladeRow),
  atBench: z.array(BladeRow),
  ready: z.array(BladeRow),
  hold: z.array(BladeRow),
  retired: z.array(BladeRow),
  /** How many there are of each; those that wait are new ones too. */
  counts: z.object({
    waiting: z.int(),
    atBench: z.int(),
    ready: z.int(),
    hold: z.int(),
    retired: z.int(),
  }),
  /**
   * The most alike of the ready blades for each measured deck, soonest due first; none is promised twice. Of a large shop
   * the sets that hang on the wall, and of the other decks those that too few blades are left for.
   */
  sets: z.array(SetOffer.extend({ mowerId: Id, mowerName: z.string() })),
  mowers: z.array(RackMower),
});
export type RackView = z.infer<typeof RackView>;
export const CodeAnswer = z.object({ blade: BladeRow });
export type CodeAnswer = z.infer<typeof CodeAnswer>;
