/**
 * What every screen and every message between app and server needs: units, the vocabulary, findings in words, an
 * instrument's line. A way into this package of its own, so that the first screen loads no more of it than that.
 */
export * from './language.js';
export * from './errors.js';
export * from './units/units.js';
export * from './units/said.js';
export * from './units/written.js';
export * from './vocabulary/quantities.js';
export * from './vocabulary/damage.js';
export * from './vocabulary/limits.js';
export * from './vocabulary/retire-reasons.js';
export * from './vocabulary/blade-states.js';
export * from './vocabulary/correction-reasons.js';
export * from './vocabulary/strikes.js';
export * from './vocabulary/keys.js';
export * from './vocabulary/named.js';
export * from './verdict/finding.js';
export * from './verdict/words.js';
export * from './reading/typical.js';
export * from './reading/steady.js';
export * from './instrument/line.js';
export * from './deck/upkeep.js';
export * from './photo/limits.js';
