import { FINDING_REASONS } from '@tally-stone/core/basics';
import { DamageKind, End, Id, Instant, Quantity, Severity } from '../basics.js';
import { BalancerView, CheckView, GrinderView, Region, ShopRules } from '../shop.js';
import { Language } from '../language.js';
import * as z from 'zod';
import '../zod.js';
import { PhotoMatView } from '../photo.js';

/** What the server answers. Lengths mm, masses g, unbalance g·mm, angles degrees, speeds rpm. */
export const Uncertain = z.object({ value: z.number(), u: z.number() });

export const Person = z.object({
  personId: Id,
  name: z.string(),
  role: z.string(),
  hasPin: z.boolean(),
  /** The language they read; nothing where they never picked one. */
  language: Language.optional(),
});

/** A photo of a blade; its picture is under the photos' path by its file name. */
export const PhotoView = z.object({ photoId: Id, file: z.string(), damageId: Id.optional() });
export type PhotoView = z.infer<typeof PhotoView>;
export type Person = z.infer<typeof Person>;

export const SpindleView = z.object({
  spindleId: Id,
  position: z.string(),
  bladeId: Id.optional(),
  code: z.string().optional(),
});

export const MowerView = z.object({
  mowerId: Id,
  name: z.string(),
  energy: z.string(),
  site: z.string(),
  bladeSpeedRpm: z.number(),
  hoursH: z.number(),
  spindles: z.array(SpindleView),
});
export type MowerView = z.infer<typeof MowerView>;

/** Where the rule of a finding comes from. */
const FindingRule = z.union([
  z.object({ by: z.enum(['maker', 'shop']), text: z.string() }),
  z.object({
    by: z.enum(['safety', 'practice', 'spec', 'working-edge', 'wont-hold', 'seldom-hung']),
  }),
  z.object({ by: z.literal('nick-policy'), leaveToMm: z.number().optional() }),
  z.object({
    by: z.literal('nick-choice'),
    choice: z.enum(['clear', 'leave']),
    damage: DamageKind,
  }),
]);

/** A finding in words, metric, with all it is made of: a screen says it again in its reader's units. */
export const FindingView = z.object({
  id: z.string(),
  severity: Severity,
  about: z.string().optional(),
  words: z.string(),
  end: End.optional(),
  stationKey: z.string().optional(),
  value: z.number().optional(),
  limit: z.number().optional(),
  unit: z.string().optional(),
  margin: z.number().optional(),
  expandedUncertainty: z.number().optional(),
  source: z.string().optional(),
  carried: z.boolean().optional(),
  /** What follows is not known of a finding that was signed by an older version. */
  reason: z.enum(FINDING_REASONS).optional(),
  rule: FindingRule.optional(),
  stationName: z.string().optional(),
  fromTipMm: z.number().optional(),
  where: z.string().optional(),
  damage: DamageKind.optional(),
  quantity: Quantity.optional(),
  tolerance: z.number().optional(),
  roomMm: z.number().optional(),
  usual: z.number().optional(),
  fromSpec: z.boolean().optional(),
  predicted: z.boolean().optional(),
  moreBefore: z.boolean().optional(),
});
export type FindingView = z.infer<typeof FindingView>;
export const JudgementView = z.object({ verdict: Severity, findings: z.array(FindingView) });
export type JudgementView = z.infer<typeof JudgementView>;

/** Width of a blade at a station; worked out, where nobody read it this time. */
export const StationWidth = z.object({
  radiusMm: z.number(),
  widthMm: z.number(),
  worked: z.boolean().optional(),
});

export const Health = z.object({
  status: z.literal('ok'),
  shop: z.string(),
  timeZone: z.string(),
  region: Region,
  blades: z.int(),
});
export type Health = z.infer<typeof Health>;

/** The shop's own page: schools and machines. */
export const ShopView = z.object({
  name: z.string(),
  timeZone: z.string(),
  rules: ShopRules,
  grinders: z.array(GrinderView),
  balancers: z.array(BalancerView),
  mats: z.array(PhotoMatView),
  checks: z.array(CheckView),
});
export type ShopView = z.infer<typeof ShopView>;

/** One line of the event stream: what changed, so that screens ask again. */
export const StreamEvent = z.object({
  sequence: z.int(),
  what: z.string(),
  subjectKind: z.enum(['cycle', 'blade', 'mower', 'spec', 'person', 'shop', 'grinder']),
  subjectId: z.string(),
});
export type StreamEvent = z.infer<typeof StreamEvent>;

/** How the record stands: the newest entry with its hash, to be written down, and the newest backup. */
export const RecordView = z.object({
  head: z.object({ sequence: z.int(), hash: z.string() }),
  /** Where backups are made; absent where none are. */
  folder: z.string().optional(),
  newest: z.object({ at: Instant, file: z.string() }).optional(),
  /** What is left on the server's disk; `low` where it is nearly full. */
  room: z.object({ freeMb: z.int(), low: z.boolean() }),
  /** There is none, or it is older than two days. */
  old: z.boolean(),
});
export type RecordView = z.infer<typeof RecordView>;
