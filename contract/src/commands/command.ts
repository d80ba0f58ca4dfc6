import { Id } from '../basics.js';
import * as z from 'zod';
import '../zod.js';
import {
  AskFullLook,
  AttachPhoto,
  BalanceRound,
  ChooseNick,
  ChooseSchools,
  Clean,
  CorrectCrack,
  CorrectReading,
  CountPasses,
  Deburr,
  EraseDamage,
  FinishOn,
  JudgeCrack,
  LeaveOutReading,
  LightTest,
  MarkDamage,
  OpenCycle,
  ReadEdge,
  RemovePhoto,
  SetUp,
  SignOff,
  TakeBack,
  TakeOver,
  TakeReading,
  UndoPasses,
  UndoRetirement,
} from './cycle.js';
import {
  AddMower,
  BringIn,
  ClearStrike,
  FirstReadings,
  FitBlade,
  FitSet,
  FoundOnMower,
  LookAtGrass,
  NoteUpkeep,
  PullSet,
  ReadHours,
  RegisterBlades,
  ReportCut,
  ReportStrike,
  SetDeck,
  TakeBackLook,
  TakeBackTrim,
  TrimBlade,
} from './fleet.js';
import { BringList, UndoList } from './lists.js';
import {
  AddBalancer,
  AddGrinder,
  AddPerson,
  AddSpec,
  CalibrateBalancer,
  ChangeGrinder,
  ChangeLimits,
  ChangeSpec,
  CheckGrinder,
  CloseBatch,
  MakeBatch,
  MeasureMat,
  NameShop,
  ReadCheckBlade,
  PickLanguage,
  SetPin,
  SetRules,
} from './shop.js';

export const CycleCommand = z.discriminatedUnion('type', [
  Clean,
  JudgeCrack,
  TakeReading,
  LeaveOutReading,
  MarkDamage,
  EraseDamage,
  AttachPhoto,
  ReadEdge,
  RemovePhoto,
  CountPasses,
  UndoPasses,
  BalanceRound,
  Deburr,
  SetUp,
  FinishOn,
  ChooseSchools,
  ChooseNick,
  AskFullLook,
  LightTest,
  SignOff,
  UndoRetirement,
]);
export type CycleCommand = z.infer<typeof CycleCommand>;

export const ShopCommand = z.discriminatedUnion('type', [
  NameShop,
  AddPerson,
  SetPin,
  PickLanguage,
  AddSpec,
  ChangeLimits,
  ChangeSpec,
  AddMower,
  RegisterBlades,
  FirstReadings,
  FoundOnMower,
  NoteUpkeep,
  TrimBlade,
  TakeBackTrim,
  FitBlade,
  BringIn,
  SetDeck,
  ReadHours,
  ReportStrike,
  ClearStrike,
  ReportCut,
  LookAtGrass,
  TakeBackLook,
  PullSet,
  FitSet,
  OpenCycle,
  SetRules,
  AddGrinder,
  ChangeGrinder,
  CheckGrinder,
  AddBalancer,
  CalibrateBalancer,
  MeasureMat,
  CorrectReading,
  CorrectCrack,
  TakeBack,
  TakeOver,
  ReadCheckBlade,
  MakeBatch,
  CloseBatch,
  BringList,
  UndoList,
]);
export type ShopCommand = z.infer<typeof ShopCommand>;

export const Command = z.discriminatedUnion('type', [
  ...ShopCommand.options,
  ...CycleCommand.options,
]);
export type Command = z.infer<typeof Command>;
export type CommandInput = z.input<typeof Command>;

/** What a client writes for one cycle; the envelope is added by whoever sends it. */
type WithoutEnvelope<T> = T extends unknown
  ? Omit<T, 'id' | 'personId' | 'occurredAt' | 'cycleId' | 'expectedRevision'>
  : never;

export type CycleAct = WithoutEnvelope<z.input<typeof CycleCommand>>;
type WithoutShopEnvelope<T> = T extends unknown ? Omit<T, 'id' | 'personId' | 'occurredAt'> : never;
export type ShopAct = WithoutShopEnvelope<z.input<typeof ShopCommand>>;

/** The answer to an accepted command; the same again when the command is repeated. */
export const CommandAnswer = z.object({
  commandId: Id,
  /** The server's order of all writes. */
  sequence: z.int(),
  cycleId: Id.optional(),
  revision: z.int().optional(),
  blades: z.array(z.object({ bladeId: Id, code: z.string() })).optional(),
});
export type CommandAnswer = z.infer<typeof CommandAnswer>;
