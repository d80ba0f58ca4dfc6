import { childTriggers, FINITE, MOMENT } from './0001-first-shapes.js';

/** A table made anew with wider CHECKs: copy, drop (its triggers go with it), rename, triggers again. */
export const rebuilt = (
  table: string,
  columns: string,
  kept: string,
  index: string,
): readonly string[] => [
  `CREATE TABLE ${table}Wider (${columns})`,
  `INSERT INTO ${table}Wider (${kept}) SELECT ${kept} FROM ${table}`,
  `DROP TABLE ${table}`,
  `ALTER TABLE ${table}Wider RENAME TO ${table}`,
  index,
  ...childTriggers(table),
];

const READING_KEPT = `id, cycleId, phase, quantity, "end", stationKey, radiusMm, value, u, resolution,
  enteredText, enteredUnit, calibration, source, takenAt`;
const READING = `
  id TEXT PRIMARY KEY, cycleId TEXT NOT NULL REFERENCES cycle(id),
  phase TEXT NOT NULL CHECK (phase IN ('before', 'after')),
  quantity TEXT NOT NULL CHECK (quantity IN
    ('mass','length','thickness','width','bevel','face','land','wing','hole-wear','tip-height',
     'straightedge-gap')),
  "end" TEXT CHECK ("end" IN ('A', 'B')), stationKey TEXT,
  radiusMm REAL CHECK (radiusMm IS NULL OR radiusMm >= 0),
  value REAL NOT NULL CHECK (${FINITE('value', 0, 20000)}),
  u REAL NOT NULL CHECK (${FINITE('u', 0, 20000)}),
  resolution REAL NOT NULL CHECK (resolution > 0),
  enteredText TEXT NOT NULL, enteredUnit TEXT NOT NULL, calibration TEXT, instrumentKey TEXT,
  source TEXT NOT NULL CHECK (source IN ('typed', 'instrument', 'carried')),
  takenAt TEXT NOT NULL CHECK (${MOMENT('takenAt')}),
  CHECK ((source = 'instrument') = (instrumentKey IS NOT NULL)),
  CHECK (quantity <> 'bevel' OR value BETWEEN 10 AND 60),
  CHECK (quantity NOT IN ('mass', 'length', 'thickness', 'width', 'face') OR value > 0)`;

const DAMAGE_KEPT = 'id, cycleId, kind, "end", fromTipMm, radiusMm, depthMm';
const DAMAGE = `
  id TEXT PRIMARY KEY, cycleId TEXT NOT NULL REFERENCES cycle(id),
  kind TEXT NOT NULL CHECK (kind IN
    ('nick','chip','roll','crack','rounded-tip','thin-wing','burnt','worn-hole')),
  "end" TEXT NOT NULL CHECK ("end" IN ('A', 'B')),
  fromTipMm REAL NOT NULL CHECK (${FINITE('fromTipMm', 0, 1000)}),
  radiusMm REAL NOT NULL CHECK (radiusMm >= 0),
  depthMm REAL NOT NULL CHECK (depthMm > 0 AND depthMm <= 200),
  lengthMm REAL CHECK (lengthMm IS NULL OR lengthMm > 0)`;

/** Grinders with what is on them and their daily checks; passes know their tool; more kinds of damage. */
export const grindersAndMarks = {
  name: '0002-grinders-and-marks',
  up: [
    ...rebuilt(
      'reading',
      READING,
      READING_KEPT,
      'CREATE INDEX readingByCycle ON reading (cycleId)',
    ),
    ...rebuilt('damage', DAMAGE, DAMAGE_KEPT, 'CREATE INDEX damageByCycle ON damage (cycleId)'),
    `CREATE TABLE grinder (
      id TEXT PRIMARY KEY, abrasiveId TEXT NOT NULL, figures TEXT NOT NULL CHECK (json_valid(figures)))`,
    `CREATE TABLE grinderCheck (
      id TEXT PRIMARY KEY, grinderId TEXT NOT NULL REFERENCES grinder(id), abrasiveId TEXT NOT NULL,
      day TEXT NOT NULL CHECK (day GLOB '????-??-??'), checked TEXT NOT NULL CHECK (json_valid(checked)),
      personId TEXT NOT NULL REFERENCES person(id), at TEXT NOT NULL CHECK (${MOMENT('at')}))`,
    'CREATE INDEX checkByGrinder ON grinderCheck (grinderId, day)',
    'ALTER TABLE pass ADD COLUMN grinderId TEXT REFERENCES grinder(id)',
    'ALTER TABLE pass ADD COLUMN abrasiveId TEXT',
  ],
};
