import type {
  BladeState,
  CommandAnswer,
  CutSign,
  CycleEvent,
  CycleFigures,
  DeckFigures,
  Entered,
  Outcome,
  Phase,
  Quantity,
  GrinderFigures,
  RetireReason,
  ShopRules,
  SpecFigures,
  StrikeView,
  StreamEvent,
} from '@tally-stone/contract';
import type {
  BalanceDevice,
  DamageKind,
  End,
  HeavyEnd,
  KnownWeightDrops,
  ZoneKey,
} from '@tally-stone/core';

/** Rows as stored, one interface a table. Times are UTC ISO 8601, lengths mm, masses g, angles degrees. */
export interface ShopRow {
  id: string;
  name: string;
  timeZone: string;
  /** As stored: a rule added later is not there yet and counts as its default. */
  rules: Partial<ShopRules>;
}
export interface PersonRow {
  id: string;
  name: string;
  role: string;
  pinHash: string | null;
}
export interface SpecRow {
  id: string;
  name: string;
}
export interface SpecRevisionRow {
  id: string;
  specId: string;
  revision: number;
  figures: SpecFigures;
  createdAt: string;
}
export interface BladeRowStored {
  id: string;
  specId: string;
  state: BladeState;
  place: string;
  grinds: number;
  createdAt: string;
  waitingSince: string | null;
  /** The last length a signed-off cycle read, mm; null while none has. */
  lastLengthMm: number | null;
  /** From new, or used when it came into the book: then its history before is unknown. */
  knownFrom: 'new' | 'used';
  /** The heap it came in with, where it came in used. */
  intakeId: string | null;
}
export interface IntakeReadingRow {
  id: string;
  intakeId: string;
  bladeId: string;
  quantity: Quantity;
  end: End | null;
  stationKey: string | null;
  radiusMm: number | null;
  value: number;
  u: number;
  resolution: number;
  enteredText: string;
  enteredUnit: string;
  takenAt: string;
  takenBy: string;
}
export interface BladeCodeRow {
  code: string;
  serial: number;
  bladeId: string;
  from: string;
  to: string | null;
}
export interface CycleRow {
  id: string;
  bladeId: string;
  specRevisionId: string;
  revision: number;
  openedAt: string;
  openedBy: string;
  signedAt: string | null;
  signedBy: string | null;
  outcome: Outcome | null;
  retireReason: RetireReason | null;
  /** Verdict and figures as they stood at sign-off. */
  frozen: CycleFigures | null;
}
export interface ReadingRow {
  id: string;
  cycleId: string;
  phase: Phase;
  quantity: Quantity;
  end: End | null;
  stationKey: string | null;
  radiusMm: number | null;
  value: number;
  u: number;
  resolution: number;
  enteredText: string;
  enteredUnit: Entered['unit'];
  instrumentKey: string | null;
  source: 'typed' | 'instrument' | 'carried';
  takenAt: string;
}
export interface DamageRow {
  id: string;
  cycleId: string;
  kind: DamageKind;
  end: End;
  fromTipMm: number;
  radiusMm: number;
  depthMm: number;
  lengthMm: number | null;
  instrument: string | null;
}
export interface PassRow {
  id: string;
  cycleId: string;
  end: End;
  zone: ZoneKey;
  count: number;
  countedAt: string;
  grinderId: string | null;
  abrasiveId: string | null;
  /** Whose hand; unknown for passes counted before this was kept. */
  personId: string | null;
}
export interface BalanceRoundRow {
  id: string;
  cycleId: string;
  phase: Phase;
  device: BalanceDevice;
  heavyEnd: HeavyEnd;
  unbalanceGmm: number;
  u: number;
  weightG: number | null;
  radiusMm: number | null;
  takenAt: string;
  /** 1 where only the heavy end is known. */
  endOnly: number;
  balancerId: string | null;
  /** The round before the blade was turned half way round on its adapter. */
  halfTurnOf: string | null;
}
export interface BalancerRow {
  id: string;
  name: string;
  device: BalanceDevice;
}
/** What a calibration with known weights found of a balancer. */
export interface BalancerCalibrationRow {
  id: string;
  balancerId: string;
  frictionGmm: number;
  frictionU: number;
  /** Inertia with the shaft over that of a bar of the blade's size. */
  inertiaFactor: number;
  centringMm: number | null;
  misfit: number;
  drops: readonly KnownWeightDrops[];
  madeBy: string;
  madeAt: string;
}
/** A photo of a blade at the bench; `file` names it in the folder beside the database. */
export interface PhotoRow {
  id: string;
  cycleId: string;
  damageId: string | null;
  file: string;
  takenAt: string;
  takenBy: string;
}
export interface GrinderRow {
  id: string;
  /** What is on it now: a new wheel or belt has a new id. */
  abrasiveId: string;
  figures: GrinderFigures;
}
export interface GrinderCheckRow {
  id: string;
  grinderId: string;
  abrasiveId: string;
  /** The shop's own day, `2026-04-01`. */
  day: string;
  checked: string[];
  personId: string;
  at: string;
}
export interface CorrectionRow {
  id: string;
  cycleId: string;
  correctsKind: 'reading' | 'crack' | 'retirement';
  correctsId: string;
  value: unknown;
  reason: string;
  personId: string;
  secondPersonId: string | null;
  madeAt: string;
  /** The cycle's figures worked out again with it; nothing where it moves none. */
  figures: CycleFigures | null;
}
export interface InstrumentCheckRow {
  id: string;
  quantity: 'mass' | 'width' | 'level';
  value: number;
  u: number;
  resolution: number | null;
  /** The instrument it came from; null where it was typed. */
  instrumentKey: string | null;
  readBy: string;
  readAt: string;
}
export interface BatchRow {
  id: string;
  madeAt: string;
  madeBy: string;
  bladeIds: string[];
  closedAt: string | null;
}
export interface MowerRow {
  id: string;
  name: string;
  energy: string;
  site: string;
}
export interface DeckRow {
  id: string;
  mowerId: string;
  bladeSpeedRpm: number;
  /** Null until somebody has measured the deck. */
  figures: DeckFigures | null;
}
export interface DeckDueRow {
  deckId: string;
  mowerId: string;
  bladesOn: number;
  fittedAt: string | null;
  fittedAtH: number | null;
  /** All hours the mower has run, over every meter it had. */
  hoursH: number;
  readAt: string;
  hoursPerDay: number;
  struck: boolean;
  complaints: number;
}
export interface StrikeRow {
  id: string;
  mowerId: string;
  what: StrikeView['what'];
  hard: StrikeView['hard'];
  vibration: boolean;
  at: string;
  personId: string;
  clearedAt: string | null;
  clearedBy: string | null;
}
export interface CutReportRow {
  id: string;
  mowerId: string;
  signs: CutSign[];
  at: string;
  personId: string;
}
export interface SpindleRow {
  id: string;
  deckId: string;
  position: string;
  ordinal: number;
}
export interface HourMeterSegmentRow {
  id: string;
  mowerId: string;
  from: string;
  to: string | null;
  startReadingH: number;
  lastReadingH: number;
  /** Hours run on meters before this one. */
  carriedH: number;
}
export interface FitRow {
  id: string;
  bladeId: string;
  spindleId: string;
  from: string;
  to: string | null;
  fromHoursH: number;
  toHoursH: number | null;
}
export interface CommandRow {
  id: string;
  sequence: number;
  type: string;
  cycleId: string | null;
  revision: number | null;
  personId: string;
  occurredAt: string;
  receivedAt: string;
  body: unknown;
  event: CycleEvent | null;
  answer: CommandAnswer;
}
export interface JournalRow {
  sequence: number;
  at: string;
  personId: string;
  commandId: string;
  what: string;
  subjectKind: StreamEvent['subjectKind'];
  subjectId: string;
  before: unknown;
  after: unknown;
}
