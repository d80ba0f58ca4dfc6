import type { Command, ShopCommand } from '@tally-stone/contract';
import { closeBatch, makeBatch } from '../batch/commands.js';
import { bringIn, fitBlade, registerBlades } from '../blade/commands.js';
import { takeBackTrim, trimBlade } from '../blade/trim.js';
import { actOnCycle, takeOver } from '../cycle/commands.js';
import { openCycle } from '../cycle/open-cycle.js';
import { correctCrack, correctReading, takeBack } from '../cycle/corrections.js';
import {
  clearStrike,
  fitSet,
  pullSet,
  readMeter,
  reportCut,
  reportStrike,
  setDeck,
} from '../fleet/commands.js';
import { lookAtGrass, takeBackLook } from '../fleet/grass.js';
import { noteUpkeep } from '../fleet/upkeep.js';
import { addMower } from '../fleet/mowers.js';
import { firstReadings, foundOnMower } from '../intake/commands.js';
import { addPerson, pickLanguage, setPin } from '../people/people.js';
import { measureMat } from '../photo/mats.js';
import { addBalancer, calibrateBalancer } from '../shop/balancers.js';
import { readCheckBlade } from '../shop/check-blade.js';
import { nameShop, setRules } from '../shop/commands.js';
import { addGrinder, changeGrinder, checkGrinder } from '../shop/grinders.js';
import { changeLimits, changeSpec } from '../spec/limits.js';
import { addSpec } from '../spec/specs.js';
import { bringList, undoList } from './lists.js';
import type { Done, WriteContext } from '../write-context.js';

type Handler<C extends Command> = (command: C, context: WriteContext) => Promise<Done>;

/** Who does what a command asks for: one handler a type, each in its own resource. */
const HANDLERS: {
  readonly [Type in ShopCommand['type']]: Handler<Extract<ShopCommand, { type: Type }>>;
} = {
  'name-shop': nameShop,
  'add-person': addPerson,
  'set-pin': setPin,
  'pick-language': pickLanguage,
  'add-spec': addSpec,
  'change-limits': changeLimits,
  'change-spec': changeSpec,
  'add-mower': addMower,
  'register-blades': registerBlades,
  'first-readings': firstReadings,
  'found-on-mower': foundOnMower,
  'note-upkeep': noteUpkeep,
  'trim-blade': trimBlade,
  'take-back-trim': takeBackTrim,
  'fit-blade': fitBlade,
  'bring-in': bringIn,
  'set-deck': setDeck,
  'read-hours': readMeter,
  'report-strike': reportStrike,
  'clear-strike': clearStrike,
  'report-cut': reportCut,
  'look-at-grass': lookAtGrass,
  'take-back-look': takeBackLook,
  'pull-set': pullSet,
  'fit-set': fitSet,
  'open-cycle': openCycle,
  'set-rules': setRules,
  'add-grinder': addGrinder,
  'change-grinder': changeGrinder,
  'check-grinder': checkGrinder,
  'add-balancer': addBalancer,
  'calibrate-balancer': calibrateBalancer,
  'measure-mat': measureMat,
  'correct-reading': correctReading,
  'make-batch': makeBatch,
  'close-batch': closeBatch,
  'read-check-blade': readCheckBlade,
  'take-over': takeOver,
  'correct-crack': correctCrack,
  'take-back': takeBack,
  'bring-list': bringList,
  'undo-list': undoList,
};

/** What is not of the shop is of a cycle. */
const isOfTheShop = (command: Command): command is ShopCommand => command.type in HANDLERS;

/** Does what a command asks for, inside its transaction. */
export const handle = (command: Command, context: WriteContext): Promise<Done> =>
  isOfTheShop(command)
    ? (HANDLERS[command.type] as Handler<ShopCommand>)(command, context)
    : actOnCycle(command, context);
