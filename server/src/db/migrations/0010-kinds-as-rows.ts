import { FINITE, MOMENT } from './0001-first-shapes.js';
import { rebuilt } from './0002-grinders-and-marks.js';

const QUANTITIES = [
  'mass',
  'length',
  'thickness',
  'width',
  'bevel',
  'face',
  'land',
  'wing',
  'hole-wear',
  'tip-height',
  'straightedge-gap',
];
const DAMAGE_KINDS = [
  'nick',
  'chip',
  'roll',
  'crack',
  'rounded-tip',
  'thin-wing',
  'burnt',
  'worn-hole',
];

/** A table of the keys that a column may hold: a new kind is a row, not a table made anew. */
const keys = (table: string, rows: readonly string[]): readonly string[] => [
  `CREATE TABLE ${table} (key TEXT PRIMARY KEY NOT NULL)`,
  `INSERT INTO ${table} (key) VALUES ${rows.map((key) => `('${key}')`).join(', ')}`,
];

const READING_KEPT = `id, cycleId, phase, quantity, "end", stationKey, radiusMm, value, u, resolution,
  enteredText, enteredUnit, instrumentKey, source, takenAt`;
const READING = `
  id TEXT PRIMARY KEY, cycleId TEXT NOT NULL REFERENCES cycle(id),
  phase TEXT NOT NULL CHECK (phase IN ('before', 'after')),
  quantity TEXT NOT NULL REFERENCES quantity(key),
  "end" TEXT CHECK ("end" IN ('A', 'B')), stationKey TEXT,
  radiusMm REAL CHECK (radiusMm IS NULL OR radiusMm >= 0),
  value REAL NOT NULL CHECK (${FINITE('value', 0, 20000)}),
  u REAL NOT NULL CHECK (${FINITE('u', 0, 20000)}),
  resolution REAL NOT NULL CHECK (resolution > 0),
  enteredText TEXT NOT NULL, enteredUnit TEXT NOT NULL, instrumentKey TEXT,
  source TEXT NOT NULL CHECK (source IN ('typed', 'instrument', 'carried')),
  takenAt TEXT NOT NULL CHECK (${MOMENT('takenAt')}),
  CHECK ((source = 'instrument') = (instrumentKey IS NOT NULL)),
  CHECK (quantity <> 'bevel' OR value BETWEEN 10 AND 60),
  CHECK (quantity NOT IN ('mass', 'length', 'thickness', 'width', 'face') OR value > 0)`;

const DAMAGE_KEPT = 'id, cycleId, kind, "end", fromTipMm, radiusMm, depthMm, lengthMm, instrument';
const DAMAGE = `
  id TEXT PRIMARY KEY, cycleId TEXT NOT NULL REFERENCES cycle(id),
  kind TEXT NOT NULL REFERENCES damageKind(key),
  "end" TEXT NOT NULL CHECK ("end" IN ('A', 'B')),
  fromTipMm REAL NOT NULL CHECK (${FINITE('fromTipMm', 0, 1000)}),
  radiusMm REAL NOT NULL CHECK (radiusMm >= 0),
  depthMm REAL NOT NULL CHECK (depthMm > 0 AND depthMm <= 200),
  lengthMm REAL CHECK (lengthMm IS NULL OR lengthMm > 0), instrument TEXT`;

/**
 * Kinds of damage and quantities become rows that other rows point at, so that adding one is one INSERT. What nobody
 * ever wrote goes: the calibration of a reading, and the table of set memberships.
 */
export const kindsAsRows = {
  name: '0010-kinds-as-rows',
  up: [
    ...keys('quantity', QUANTITIES),
    ...keys('damageKind', DAMAGE_KINDS),
    ...rebuilt(
      'reading',
      READING,
      READING_KEPT,
      'CREATE INDEX readingByCycle ON reading (cycleId)',
    ),
    ...rebuilt('damage', DAMAGE, DAMAGE_KEPT, 'CREATE INDEX damageByCycle ON damage (cycleId)'),
    'DROP TABLE setMembership',
  ],
};
