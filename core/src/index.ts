export * from './language.js';
export * from './errors.js';
export * from './units/units.js';
export * from './units/said.js';
export * from './units/written.js';
export * from './units/day.js';
export * from './units/angles.js';
export * from './reading/uncertainty.js';
export * from './bevel/bevel.js';
export * from './metal/section.js';
export * from './metal/edge.js';
export * from './metal/recession.js';
export * from './metal/witness.js';
export * from './balance/unbalance.js';
export * from './code/blade-code.js';
export * from './code/label-sheet.js';
export * from './blade/shape.js';
export * from './blade/trim.js';
export * from './blade/outline.js';
export * from './vocabulary/keys.js';
export * from './vocabulary/named.js';
export * from './vocabulary/quantities.js';
export * from './vocabulary/damage.js';
export * from './vocabulary/limits.js';
export * from './vocabulary/retire-reasons.js';
export * from './vocabulary/blade-states.js';
export * from './vocabulary/correction-reasons.js';
export * from './vocabulary/strikes.js';
export * from './verdict/finding.js';
export type * from './verdict/judged.js';
export * from './verdict/against-limit.js';
export * from './verdict/words.js';
export { isAboutEdge } from './verdict/judges/edge.js';
export { widthLimitMm, widthRoomMm } from './verdict/judges/width.js';
export * from './verdict/judge.js';
export * from './verdict/retire-by.js';
export * from './verdict/return.js';
export * from './reading/typical.js';
export * from './reading/question.js';
export * from './reading/worth.js';
export * from './reading/drift.js';
export * from './life/recession.js';
export * from './blade/usual-spec.js';
export * from './math/integrate.js';
export * from './math/median.js';
export * from './math/least-squares.js';
export * from './math/logistic.js';
export * from './balance/drop.js';
export * from './balance/calibration.js';
export * from './balance/tilt.js';
export * from './balance/between-hangings.js';
export * from './balance/search.js';
export * from './balance/swing.js';
export * from './deck/fit.js';
export * from './deck/upkeep.js';
export * from './grass/torn.js';
export * from './rotation/batch.js';
export * from './rotation/match.js';
export * from './rotation/due.js';
export * from './grinder/wheel.js';
export * from './grinder/power.js';
export * from './grinder/tools.js';
export * from './reading/steady.js';
export * from './instrument/line.js';
export * from './plan/problem.js';
export * from './plan/straightness.js';
export * from './plan/search.js';
export * from './plan/relief.js';
export * from './plan/obstacles.js';
export * from './plan/forward.js';
export * from './plan/plan.js';
export * from './plan/choices.js';
export * from './plan/schools.js';
export * from './plan/zones.js';
export * from './plan/two-tools.js';
export * from './plan/square-first.js';
export * from './plan/looks.js';
export * from './plan/ask.js';
export * from './plan/remember-answers.js';
export * from './removal/zones.js';
export * from './removal/hand.js';
export * from './removal/usual.js';
export * from './math/beta.js';
export { rateAt, wearPlace, type BladeWear, type WearKind, type WearStep } from './life/wear.js';
export { specWear, type FleetWear } from './life/fleet-wear.js';
export {
  bladeFutures,
  COUNT_LIMIT,
  lossAhead,
  type Futures,
  type LifeQuestion,
  type Room,
} from './life/paths.js';
export { sinceFirstGrind, type BladeLife } from './life/past-forecasts.js';
export {
  learnLives,
  LEAST_JUDGED,
  type LearnedLives,
  type LifeGuard,
  type PastCount,
} from './life/guard.js';
export {
  intervalScore,
  lifeLeft,
  lifeSpans,
  type LifeLeft,
  type LifeSpan,
} from './life/forecast.js';
export * from './life/ahead.js';
export * from './life/cost.js';
export * from './life/school-cost.js';
export * from './life/which-tool.js';
export * from './intake/guess-spec.js';
export {
  LIST_KINDS,
  listNumber,
  LISTS,
  namesOf,
  type KnownNames,
  type ListKind,
} from './intake/list-fields.js';
export * from './intake/list.js';
export * from './math/chance.js';
export * from './season/rain.js';
export {
  seasonMonths,
  type Season,
  type SeasonMower,
  type SeasonOutcome,
  type SeasonSpan,
} from './season/shape.js';
export * from './season/season.js';
export * from './season/summary.js';
export * from './photo/limits.js';
export * from './photo/mat.js';
export type { Picture, PicturePoint } from './photo/picture.js';
export * from './photo/kept-edge.js';
export type { PhotoRefused, PhotoTrouble } from './photo/photo-trouble.js';
export * from './photo/read-edge.js';
export type { ProfilePlace } from './photo/profile.js';
export type { SeenMarker } from './photo/seen-mat.js';
export type { SeenDamage, SeenTip } from './photo/features.js';
export * from './instrument/photo-stand.js';
export * from './photo/proposed.js';
export * from './photo/recession.js';
