import type { Sequelize } from 'sequelize';
import { defineShop } from './shop/shop.model.js';
import { definePerson } from './people/person.model.js';
import { defineJoinLink } from './people/join-link.model.js';
import { defineSession } from './people/session.model.js';
import { defineWrongPin } from './people/wrong-pin.model.js';
import { defineSpec } from './spec/spec.model.js';
import { defineSpecRevision } from './spec/spec-revision.model.js';
import { defineBlade } from './blade/blade.model.js';
import { defineIntakeReading } from './intake/intake-reading.model.js';
import { defineBladeCode } from './blade/blade-code.model.js';
import { defineErasedCode } from './blade/erased-code.model.js';
import { defineCycle } from './cycle/cycle.model.js';
import { defineReading } from './cycle/reading.model.js';
import { defineSignedCycle } from './cycle/signed-cycle.model.js';
import { defineStandingReading } from './cycle/standing-reading.model.js';
import { defineDamage } from './cycle/damage.model.js';
import { definePass } from './cycle/pass.model.js';
import { defineBalanceRound } from './cycle/balance-round.model.js';
import { defineBalancer } from './shop/balancer.model.js';
import { defineBalancerCalibration } from './shop/balancer-calibration.model.js';
import { definePhoto } from './photo/photo.model.js';
import { definePhotoMat } from './photo/photo-mat.model.js';
import { defineEdgePhoto } from './photo/edge-photo.model.js';
import { defineCalendarAddress } from './shop/calendar-address.model.js';
import { defineInstrumentCheck } from './shop/instrument-check.model.js';
import { defineBatch } from './batch/batch.model.js';
import { defineGrinder } from './shop/grinder.model.js';
import { defineGrinderCheck } from './shop/grinder-check.model.js';
import { defineCorrection } from './cycle/correction.model.js';
import { defineMower } from './fleet/mower.model.js';
import { defineDeck } from './fleet/deck.model.js';
import { defineDeckDue } from './fleet/deck-due.model.js';
import { defineStrike } from './fleet/strike.model.js';
import { defineGrassLook } from './fleet/grass-look.model.js';
import { defineUpkeep } from './fleet/upkeep.model.js';
import { defineTrimming } from './blade/trimming.model.js';
import { defineCutReport } from './fleet/cut-report.model.js';
import { defineSpindle } from './fleet/spindle.model.js';
import { defineHourMeterSegment } from './fleet/hour-meter-segment.model.js';
import { defineFit } from './fleet/fit.model.js';
import { defineMachineToken } from './people/machine-token.model.js';
import { defineCommand } from './commands/command.model.js';
import { defineJournal } from './commands/journal.model.js';

/** Every table of a shop as its model. Table and column names are the migrations'. */
const define = (sequelize: Sequelize) => ({
  shop: defineShop(sequelize),
  person: definePerson(sequelize),
  session: defineSession(sequelize),
  joinLink: defineJoinLink(sequelize),
  wrongPin: defineWrongPin(sequelize),
  spec: defineSpec(sequelize),
  specRevision: defineSpecRevision(sequelize),
  blade: defineBlade(sequelize),
  intakeReading: defineIntakeReading(sequelize),
  bladeCode: defineBladeCode(sequelize),
  erasedCode: defineErasedCode(sequelize),
  cycle: defineCycle(sequelize),
  reading: defineReading(sequelize),
  signedCycle: defineSignedCycle(sequelize),
  standingReading: defineStandingReading(sequelize),
  damage: defineDamage(sequelize),
  pass: definePass(sequelize),
  balanceRound: defineBalanceRound(sequelize),
  balancer: defineBalancer(sequelize),
  balancerCalibration: defineBalancerCalibration(sequelize),
  photo: definePhoto(sequelize),
  photoMat: definePhotoMat(sequelize),
  edgePhoto: defineEdgePhoto(sequelize),
  instrumentCheck: defineInstrumentCheck(sequelize),
  calendarAddress: defineCalendarAddress(sequelize),
  machineToken: defineMachineToken(sequelize),
  batch: defineBatch(sequelize),
  grinder: defineGrinder(sequelize),
  grinderCheck: defineGrinderCheck(sequelize),
  correction: defineCorrection(sequelize),
  mower: defineMower(sequelize),
  deck: defineDeck(sequelize),
  deckDue: defineDeckDue(sequelize),
  strike: defineStrike(sequelize),
  upkeep: defineUpkeep(sequelize),
  trimming: defineTrimming(sequelize),
  cutReport: defineCutReport(sequelize),
  grassLook: defineGrassLook(sequelize),
  spindle: defineSpindle(sequelize),
  hourMeterSegment: defineHourMeterSegment(sequelize),
  fit: defineFit(sequelize),
  command: defineCommand(sequelize),
  journal: defineJournal(sequelize),
});

export type Models = ReturnType<typeof define>;

export function modelsOf(sequelize: Sequelize): Models {
  const models = define(sequelize);
  associate(models);
  return models;
}

/** How the tables hang together; what a query names in its `include`. */
function associate({
  person,
  damage,
  photo,
  edgePhoto,
  correction,
  spec,
  specRevision,
  blade,
  bladeCode,
  cycle,
  mower,
  strike,
  deck,
  deckDue,
  spindle,
  fit,
  hourMeterSegment,
  grinder,
  grinderCheck,
  balancer,
  balancerCalibration,
}: Models): void {
  spec.hasMany(specRevision, { as: 'revisions', foreignKey: 'specId' });
  blade.hasMany(bladeCode, { as: 'codes', foreignKey: 'bladeId' });
  blade.hasMany(cycle, { as: 'cycles', foreignKey: 'bladeId' });
  blade.hasMany(fit, { as: 'fits', foreignKey: 'bladeId' });
  cycle.belongsTo(blade, { as: 'blade', foreignKey: 'bladeId' });
  cycle.belongsTo(person, { as: 'opener', foreignKey: 'openedBy' });
  cycle.hasMany(damage, { as: 'damage', foreignKey: 'cycleId' });
  cycle.hasMany(photo, { as: 'photos', foreignKey: 'cycleId' });
  cycle.hasMany(edgePhoto, { as: 'edges', foreignKey: 'cycleId' });
  edgePhoto.belongsTo(cycle, { as: 'cycle', foreignKey: 'cycleId' });
  cycle.hasMany(correction, { as: 'corrections', foreignKey: 'cycleId' });
  damage.belongsTo(cycle, { as: 'cycle', foreignKey: 'cycleId' });
  correction.belongsTo(person, { as: 'person', foreignKey: 'personId' });
  correction.belongsTo(person, { as: 'second', foreignKey: 'secondPersonId' });
  cycle.belongsTo(specRevision, { as: 'specRevision', foreignKey: 'specRevisionId' });
  mower.hasOne(deck, { as: 'deck', foreignKey: 'mowerId' });
  mower.hasMany(hourMeterSegment, { as: 'meters', foreignKey: 'mowerId' });
  mower.hasMany(strike, { as: 'strikes', foreignKey: 'mowerId' });
  deck.belongsTo(mower, { as: 'mower', foreignKey: 'mowerId' });
  deck.hasOne(deckDue, { as: 'standing', foreignKey: 'deckId' });
  deck.hasMany(spindle, { as: 'spindles', foreignKey: 'deckId' });
  spindle.belongsTo(deck, { as: 'deck', foreignKey: 'deckId' });
  spindle.hasMany(fit, { as: 'fits', foreignKey: 'spindleId' });
  fit.belongsTo(spindle, { as: 'spindle', foreignKey: 'spindleId' });
  fit.belongsTo(blade, { as: 'blade', foreignKey: 'bladeId' });
  grinder.hasMany(grinderCheck, { as: 'checks', foreignKey: 'grinderId' });
  balancer.hasMany(balancerCalibration, { as: 'calibrations', foreignKey: 'balancerId' });
}
